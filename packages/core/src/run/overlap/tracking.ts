/**
 * The objects whose places in the newest pose and the one before are compared: owners of colliders, what these notice or
 * stop, and all above either. Shared by zones and blockers, which say whom to track.
 */
import { type ClipData, HOLD, KEY, valueAt } from '../../anim/index.ts';
import { CHANNELS } from '../../model/index.ts';
import type { Compiled, CompilingPart } from '../compiling.ts';
import type { Feature } from '../feature.ts';
import type { Migration } from '../migration.ts';
import { PLACE_CHANNELS } from '../places.ts';
import { type ClipProgram, type LaneProgram, PLAY, type Program } from '../program.ts';
import type { RowMaker } from '../rows.ts';
import { Discontinuities } from './discontinuities.ts';
import { JUMP, NODE_ROW, type Tracked, type TrackedLane, type TrackingRows } from './tracked.ts';

class CompilingTracking implements CompilingPart {
  readonly #objects = new Set<number>();
  #made: Tracked | null = null;

  track(object: number): void {
    this.#objects.add(object);
  }

  /** What came of it, once `part` was asked. */
  get tracked(): Tracked {
    return this.#made as Tracked;
  }

  part(c: Compiled): Tracked {
    const { parent } = c.geometry;
    const all = new Set<number>();
    for (const i of this.#objects) for (let o = i; o >= 0 && !all.has(o); o = parent[o] as number) all.add(o);
    const nodes = Int32Array.from([...all].sort((a, b) => a - b));
    const nodeOf = new Map([...nodes].map((o, k) => [o, k]));
    const isPlace = (at: number) => at % CHANNELS < PLACE_CHANNELS && nodeOf.has(Math.floor(at / CHANNELS));
    const lanes = c.lanes.flatMap((lane, i) => trackedLane(lane, i, c.clips, isPlace));
    c.asks(lanes.flatMap((l) => l.places));
    this.#made = { nodes, above: nodes.map((o) => nodeOf.get(parent[o] as number) ?? -1), nodeOf, lanes };
    return this.#made;
  }
}

declare module '../parts.ts' {
  interface CompilingParts {
    readonly tracking?: CompilingTracking;
  }
}

/** What a lane writes of places; nothing when it writes none. */
function trackedLane(
  lane: LaneProgram,
  number: number,
  clips: readonly ClipProgram[],
  isPlace: (at: number) => boolean,
): TrackedLane[] {
  const places = [...lane.slots].filter(isPlace);
  if (places.length === 0) return [];
  const discontinuities = lane.states.map((s) => {
    const c = clips[s.clip];
    if (s.kind !== PLAY || !c) return [];
    return [...s.trackValues].flatMap((at, k) => (at >= 0 && isPlace(at) ? discontinuitiesOf(c, k, at) : []));
  });
  const blends = lane.states.flatMap((s) => s.blend?.signals ?? []);
  const weighedBy = [lane.amountSignal, ...blends].filter((i) => i >= 0);
  return [
    {
      lane: number,
      places,
      discontinuities: discontinuities.some((x) => x.length > 0) ? discontinuities : null,
      weighedBy,
    },
  ];
}

/** So long before a moment a clip stands before it. */
const BEFORE = 2e-9;

/** Where the value of track k jumps: at keys after one that holds, at steps, and at the turn of a loop (`t` null). */
function discontinuitiesOf(
  { clip, data }: ClipProgram,
  k: number,
  at: number,
): { t: number | null; at: number }[] {
  const out: { t: number | null; at: number }[] = [];
  const first = data.start[k] as number;
  const keyAt = (n: number) => data.keys[first + n * KEY] as number;
  for (let n = 0; n + 1 < (data.count[k] as number); n++) {
    const easing = data.keys[first + n * KEY + 1] as number;
    const [from, to] = [keyAt(n), keyAt(n + 1)];
    const parts = easing === HOLD ? [1] : (stepsOf(clip.tracks[k]?.keys[n]?.easing) ?? []);
    for (const part of parts) {
      const t = from + (to - from) * part;
      if (Math.abs(valueAt(data, k, t) - valueAt(data, k, t - BEFORE)) > 1e-3) out.push({ t, at });
    }
  }
  if (clip.loop === 'loop' && data.offset[k] !== 1 && turns(data, k)) out.push({ t: null, at });
  return out;
}

function turns(data: ClipData, k: number): boolean {
  return Math.abs(valueAt(data, k, data.duration) - valueAt(data, k, 0)) > JUMP;
}

/** The parts of a segment at which its easing may jump. */
function stepsOf(easing: unknown): number[] | null {
  const e = easing as { steps?: number; linear?: readonly unknown[] };
  if (typeof easing !== 'object' || easing === null) return null;
  if (e.steps !== undefined) return Array.from({ length: e.steps + 1 }, (_, i) => i / (e.steps as number));
  return null;
}

function trackingRows({ parts }: Program, make: RowMaker): TrackingRows {
  return {
    nodes: make.floats((parts.tracking?.nodes.length ?? 0) * NODE_ROW),
    previous: make.floats((parts.tracking?.lanes.length ?? 0) * 2),
  };
}

function migrateTracking({ next, old, before, state, objectBefore }: Migration): void {
  const [from, to] = [before.parts.tracking as TrackingRows, state.parts.tracking as TrackingRows];
  next.parts.tracking?.nodes.forEach((object, k) => {
    const j = old.parts.tracking?.nodeOf.get(objectBefore(object));
    if (j !== undefined) to.nodes.set(from.nodes.subarray(j * NODE_ROW, (j + 1) * NODE_ROW), k * NODE_ROW);
  });
}

export const tracking: Feature = {
  name: 'tracking',
  compile: () => new CompilingTracking(),
  rows: trackingRows,
  run: ({ context }) => new Discontinuities(context),
  migrate: migrateTracking,
};
