/** What follows, compiled. */
import { clamp, exp, MAT, TICKS_PER_SECOND, transformPoint } from '../../base/index.ts';
import { mapRange, toNumber } from '../../logic/index.ts';
import {
  CHANNELS,
  canOffset,
  type Follow,
  type SignalValue,
  textNumber,
  type Vec3,
  wordsOf,
} from '../../model/index.ts';
import type { Compiled, Compiling, CompilingPart } from '../../run/compiling.ts';
import type { Names } from '../../run/names.ts';
import type { Driver } from '../../run/program.ts';
import { worldMatrices } from '../../world/index.ts';
import { FOLLOW_ROW } from './rows.ts';

/** What follows, and what it goes after. */
export interface FollowProgram {
  readonly follow: Follow;
  /** Index into the values of the property that follows; −1 where a clip does. */
  readonly at: number;
  /** Its value is words. */
  readonly words: boolean;
  /** Lane and clip whose place follows, or lane alone whose blend does; −1 for none. */
  readonly lane: number;
  readonly clip: number;
  /** Numbers of what the source names: a signal, or objects; −1 for none, and for the pointer. */
  readonly signal: number;
  readonly a: number;
  readonly b: number;
  /** The part of the way that is made up in one tick, 0–1. */
  readonly part: number;
}
export interface FollowsProgram {
  /** In the order of the document. */
  readonly follows: readonly FollowProgram[];
  readonly index: ReadonlyMap<string, number>;
  /** By follow the place of what is spawned in which it lies; −1 for the piece itself. */
  readonly places: readonly number[];
  readonly anyOfDrag: boolean;
}
export function compileFollows(c: Compiling): CompilingPart {
  const records = Object.values(c.piece.follows);
  const follows = records.map((f) => compileFollow(f, c));
  follows.forEach(({ follow: { target } }, k) => {
    if (!('lane' in target)) return;
    c.drive(target.lane, 'clip' in target ? target.clip : null, {
      value: ({ follows: rows }) =>
        rows?.[k * FOLLOW_ROW] === 1 ? (rows[k * FOLLOW_ROW + 1] as number) : Number.NaN,
    });
  });
  return {
    part: (all): FollowsProgram => {
      const ats = follows.flatMap((f) => (f.at < 0 ? [] : [f.at]));
      if (ats.length > 0) all.drives(ats, driverOf(follows, all));
      return {
        follows,
        index: new Map(records.map((f, k) => [f.id, k])),
        places: records.map((f) => c.placeOf(f.id)),
        anyOfDrag: records.some((f) => 'drag' in f.source),
      };
    },
  };
}

/** What follows, by the numbers of what it names. */
function compileFollow(f: Follow, names: Names): FollowProgram {
  const { target, source } = f;
  const object = 'object' in target ? names.object(target.object) : -1;
  const info = 'object' in target ? names.property(target.property) : undefined;
  const isFit = object >= 0 && info !== undefined && (canOffset(info) || info.kind === 'text');
  const end = (x: string | undefined) =>
    x === undefined ? -1 : x === 'visitor' ? names.visitor : names.object(x);
  const [a, b] =
    'distance' in source
      ? source.distance
      : 'drag' in source
        ? [source.drag]
        : 'pointer' in source
          ? [source.object]
          : [];
  return {
    follow: f,
    at: isFit ? object * CHANNELS + info.channel : -1,
    words: info?.kind === 'text',
    lane: 'lane' in target ? names.lane(target.lane) : -1,
    clip: 'clip' in target ? names.clip(target.clip) : -1,
    signal: 'signal' in source ? names.signal(source.signal) : -1,
    a: end(a),
    b: end(b),
    part: f.smooth > 0 ? 1 - exp(-1 / (TICKS_PER_SECOND * f.smooth)) : 1,
  };
}

/** Lays what follows over the lanes. */
function driverOf(follows: readonly FollowProgram[], c: Compiled): Driver {
  // By place of the property the last of those that set it.
  const byAt = new Map(follows.map((f, k) => [f.at, k]));
  const rowAt = (at: number) => (byAt.get(at) ?? 0) * FOLLOW_ROW;
  return {
    pose: (s) => {
      const rows = s.parts.follows as Float64Array;
      for (let k = 0; k < follows.length; k++) {
        const { at } = follows[k] as FollowProgram;
        if (at < 0 || rows[k * FOLLOW_ROW] !== 1) continue;
        s.values[at] = rows[k * FOLLOW_ROW + 1] as number;
        s.setAlone(at);
      }
    },
    sets: (parts, at) => byAt.has(at) && parts.follows?.[rowAt(at)] === 1,
    value: (parts, at) => parts.follows?.[rowAt(at) + 1] as number,
    recordOf: (at) => follows[byAt.get(at) ?? -1]?.follow.id ?? '',
    poseAtRest: (values, signals) => poseFollowed(follows, c.geometry.parent, values, signals),
  };
}

/** The number of a source in the range that it is mapped to; with `stays` it does not leave that. */
export function mapFollowed(
  v: number,
  from: readonly [number, number],
  to: readonly [number, number],
  stays: boolean,
): number {
  const n = mapRange(v, from, to);
  return stays ? clamp(n, Math.min(to[0], to[1]), Math.max(to[0], to[1])) : n;
}

/** Writes what follows signals and distances: nobody points at anything, and what is followed softly has arrived. */
function poseFollowed(
  follows: readonly FollowProgram[],
  parent: Int32Array,
  out: Float64Array,
  signals: readonly SignalValue[],
): void {
  let worlds: Float64Array | null = null;
  const pivotAt = (object: number): Vec3 => {
    if (!worlds) {
      worlds = new Float64Array((out.length / CHANNELS) * MAT);
      worldMatrices(worlds, parent, out);
    }
    const at = object * CHANNELS + 9;
    const [x, y, z] = out.subarray(at, at + 3) as unknown as Vec3;
    transformPoint(pivot, 0, worlds, object * MAT, x, y, z);
    return [...pivot] as unknown as Vec3;
  };
  for (const f of follows) {
    if (f.at < 0) continue;
    const { source, from, to, clamp: stays } = f.follow;
    let value: SignalValue = 0;
    if ('signal' in source) value = signals[f.signal] ?? 0;
    else if ('distance' in source && f.a >= 0 && f.b >= 0) {
      const [a, b] = [pivotAt(f.a), pivotAt(f.b)];
      value = Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);
    }
    const mapped = from && to ? mapFollowed(toNumber(value), from, to, stays) : value;
    out[f.at] = f.words ? textNumber(wordsOf(mapped)) : toNumber(mapped);
  }
}
const pivot = new Float64Array(3);
