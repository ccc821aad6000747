/**
 * A clip compiled for sampling: all tracks in one flat array of numbers, all curves in another.
 *
 * Track record in `keys` from `start[i]`: per key [t, easing, v0, v1, v2]; `easing` is −1 for hold, −2 for linear,
 * else the offset of a curve in `curves`. Only colours use v1 and v2.
 */
import type { Clip, Easing, Key, PropertyInfo } from '../model/index.ts';
import { propertyInfo, writeValue } from '../model/index.ts';
import { CURVE, compileCurve, easeInPlace } from './easing.ts';

export const KEY = 5;
const HOLD = -1;
const LINEAR = -2;
/** A position this little before a key counts as at the key: dates are only good to that. */
const AT_KEY = 1e-9;

/** How a track's values mix; the numbers stand in `mode`. What mixes as a switch changes at once. */
export const MIX_NUMBER = 0;
export const MIX_SWITCH = 2;
export const MIX_COLOR = 3;

export interface ClipData {
  readonly duration: number;
  /** Per track: offset of its first key in `keys`, number of keys, way of mixing. */
  readonly start: Int32Array;
  readonly count: Int32Array;
  readonly mode: Uint8Array;
  readonly keys: Float64Array;
  readonly curves: Float64Array;
}

export function mixOf(info: PropertyInfo): number {
  switch (info.kind) {
    case 'switch':
    case 'look':
      return MIX_SWITCH;
    case 'color':
      return MIX_COLOR;
    default:
      return MIX_NUMBER;
  }
}

export function compileClip(clip: Clip): ClipData {
  const tracks = clip.tracks;
  const total = tracks.reduce((n, t) => n + t.keys.length, 0);
  const keys = new Float64Array(total * KEY);
  const start = new Int32Array(tracks.length);
  const count = new Int32Array(tracks.length);
  const mode = new Uint8Array(tracks.length);
  const curves = new CurvePool();
  let at = 0;
  tracks.forEach((track, i) => {
    const info = propertyInfo(track.property) as PropertyInfo;
    start[i] = at;
    count[i] = track.keys.length;
    mode[i] = mixOf(info);
    for (const k of track.keys) {
      writeKey(keys, at, k, curves.offset(k.easing), info);
      at += KEY;
    }
  });
  return { duration: clip.duration, start, count, mode, keys, curves: curves.data() };
}

/** Equal curves are kept once: most clips use a handful. */
class CurvePool {
  private readonly known = new Map<string, number>();
  private readonly list: (readonly [number, number, number, number])[] = [];

  offset(easing: Easing): number {
    if (easing === 'hold') return HOLD;
    if (easing === 'linear') return LINEAR;
    const name = easing.bezier.join();
    let at = this.known.get(name);
    if (at === undefined) {
      at = this.list.length * CURVE;
      this.known.set(name, at);
      this.list.push(easing.bezier);
    }
    return at;
  }

  data(): Float64Array {
    const pool = new Float64Array(this.list.length * CURVE);
    this.list.forEach((b, i) => {
      compileCurve(pool, i * CURVE, ...b);
    });
    return pool;
  }
}

function writeKey(keys: Float64Array, at: number, k: Key, easing: number, info: PropertyInfo): void {
  keys[at] = k.t;
  keys[at + 1] = easing;
  writeValue(info, k.value, keys, at + 2);
}

/**
 * The value of track `i` at `position` seconds (already within the clip), written to `out[at]` (colours to
 * `out[at…at+2]`). Before the first key the first value, after the last the last; at a key, that key's value.
 */
export function sampleTrack(d: ClipData, i: number, position: number, out: Float64Array, at: number): void {
  place[0] = position;
  sampleAt(d, i, place, out, at);
}

const place = new Float64Array(1);
const progress = new Float64Array(1);

/** `sampleTrack` at `position[0]` seconds: a number that is passed in an array costs no memory. */
export function sampleAt(
  d: ClipData,
  i: number,
  position: Float64Array,
  out: Float64Array,
  at: number,
): void {
  const keys = d.keys;
  const first = d.start[i] as number;
  const p = (position[0] as number) + AT_KEY;
  let lo = 0;
  let hi = (d.count[i] as number) - 1;
  // The last key at or before the position (or the first of all).
  while (lo < hi) {
    const mid = (lo + hi + 1) >> 1;
    if ((keys[first + mid * KEY] as number) <= p) lo = mid;
    else hi = mid - 1;
  }
  const k = first + lo * KEY;
  const mode = d.mode[i] as number;
  const wide = mode === MIX_COLOR;
  out[at] = keys[k + 2] as number;
  if (wide) {
    out[at + 1] = keys[k + 3] as number;
    out[at + 2] = keys[k + 4] as number;
  }
  const easing = keys[k + 1] as number;
  if (lo === (d.count[i] as number) - 1 || easing === HOLD || mode === MIX_SWITCH) return;
  const t0 = keys[k] as number;
  progress[0] = ((position[0] as number) - t0) / ((keys[k + KEY] as number) - t0);
  if (!((progress[0] as number) > 0)) return;
  if (easing >= 0) easeInPlace(d.curves, easing, progress);
  let e = progress[0] as number;
  // Overshooting easing extrapolates numbers; colours stop at their ends. Amounts are bounded after all mixing.
  if (wide) e = e < 0 ? 0 : Math.min(e, 1);
  for (let c = 0; c < (wide ? 3 : 1); c++) {
    const v0 = keys[k + 2 + c] as number;
    out[at + c] = v0 + ((keys[k + KEY + 2 + c] as number) - v0) * e;
  }
}
