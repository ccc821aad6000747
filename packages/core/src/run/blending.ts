/** Blends: how much each clip of one counts, where each stands, and what they come to together. */
import { MIX_COLOR, MIX_SWITCH, PLAY_ROW, placeInto, sampleAt } from '../anim/index.ts';
import { clamp } from '../base/index.ts';
import type { BlendProgram, ClipProgram, LaneProgram, Program, StateProgram } from './program.ts';
import { FOLLOW_ROW } from './rows.ts';
import type { RunState } from './state.ts';

/** Most clips that one state blends. */
const MOST = 50;
const weights = new Float64Array(MOST);
const place = new Float64Array(1);
const sampled = new Float64Array(3);
const WHOLE = new Float64Array([1]);

/** A number signal over its own range, 0–1. */
export function amountBy(program: Program, s: RunState, signal: number): number {
  const def = program.signals[signal];
  if (def?.type !== 'number') return 0;
  const min = def.min ?? 0;
  const max = def.max ?? 1;
  if (!(max > min)) return 1;
  const k = ((s.signals[signal] as number) - min) / (max - min);
  return k < 0 ? 0 : Math.min(k, 1);
}

/** Works out how much each clip counts; `weights[k]` is valid until the next call. */
function weigh(program: Program, s: RunState, b: BlendProgram): void {
  const n = b.clips.length;
  if (b.at === null) {
    for (let k = 0; k < n; k++) {
      const signal = b.amountSignals[k] as number;
      weights[k] = signal < 0 ? (b.amounts[k] as number) : amountBy(program, s, signal);
    }
    return;
  }
  const follows = b.follow >= 0 && s.follows[b.follow * FOLLOW_ROW] === 1;
  const x = follows
    ? (s.follows[b.follow * FOLLOW_ROW + 1] as number)
    : b.signal < 0
      ? 0
      : (s.signals[b.signal] as number);
  for (let i = 0; i < n; i++) weights[i] = 0;
  // The first that lies beyond; before it is the one that is left.
  let k = 0;
  while (k < n && (b.at[k] as number) <= x) k++;
  if (k === 0 || k === n) {
    weights[k === 0 ? 0 : n - 1] = 1;
    return;
  }
  const [low, high] = [b.at[k - 1] as number, b.at[k] as number];
  const part = (x - low) / (high - low);
  weights[k - 1] = 1 - part;
  weights[k] = part;
}

/** The place in the blend of the clip that counts most; of equals the last. */
export function heaviest(program: Program, s: RunState, b: BlendProgram): number {
  weigh(program, s, b);
  let best = 0;
  for (let k = 1; k < b.clips.length; k++) if ((weights[k] as number) >= (weights[best] as number)) best = k;
  return best;
}

/** How many passes a second a common phase makes: one in the mean of the clips' lengths. */
export function passRate(program: Program, s: RunState, b: BlendProgram): number {
  weigh(program, s, b);
  let length = 0;
  for (let k = 0; k < b.clips.length; k++)
    length += (weights[k] as number) * (program.plain.duration[b.clips[k] as number] as number);
  return length > 0 ? 1 / length : 0;
}

/** What is met in a lane's play: its clip; of a blend the one that counts most. Null where none plays. */
export function metIn(
  program: Program,
  s: RunState,
  i: number,
  state: StateProgram | undefined,
): ClipProgram | null {
  if (!state) return null;
  if (state.blend) return state.blend.met[s.heavy[i] as number] ?? null;
  return program.clips[state.clip] ?? null;
}

/** Where clip `k` of a blend stands in its play, seconds, written to `place[0]`. */
function placeOf(
  program: Program,
  s: RunState,
  b: BlendProgram,
  k: number,
  row: number,
  clock: Float64Array,
): void {
  const clip = b.clips[k] as number;
  const { duration, loop } = program.plain;
  if (b.common) {
    placeInto(s.plays, row * PLAY_ROW, clock, WHOLE, 0, b.once ? 'once' : 'loop', place);
    place[0] = (place[0] as number) * (duration[clip] as number);
  } else placeInto(s.plays, row * PLAY_ROW, clock, duration, clip, loop[clip] as 'once', place);
}

/** Where a clip stands in a blend that it counts in; NaN where it does not. */
export function placeInBlend(
  program: Program,
  s: RunState,
  b: BlendProgram,
  clip: number,
  row: number,
  clock: Float64Array,
): number {
  weigh(program, s, b);
  const k = b.clips.findIndex((c, n) => c === clip && (weights[n] as number) > 0);
  if (k < 0) return Number.NaN;
  placeOf(program, s, b, k, row, clock);
  return place[0] as number;
}

/**
 * Samples a blend into rows of a lane's slots, as weight × value and weight. What a stack adds has no weight: it lies on
 * what is below. Switches, looks and words are those of what counts for a half or more. Rows that count from where a
 * thing is count from its base here. `keyed`: 1 for each slot that some clip of it writes.
 */
export function sampleBlend(
  program: Program,
  s: RunState,
  lane: LaneProgram,
  b: BlendProgram,
  keyed: Uint8Array,
  row: number,
  clock: Float64Array,
  outV: Float64Array,
  outW: Float64Array,
): void {
  for (let slot = 0; slot < keyed.length; slot++) {
    if (keyed[slot] === 0) continue;
    outV[slot] = 0;
    outW[slot] = 0;
  }
  weigh(program, s, b);
  const { tracks } = program.plain;
  for (let k = 0; k < b.clips.length; k++) {
    const w = weights[k] as number;
    if (w === 0) continue;
    const first = program.plain.firstOf[b.clips[k] as number] as number;
    placeOf(program, s, b, k, row, clock);
    const slots = b.slots[k] as Int32Array;
    for (let t = 0; t < slots.length; t++) {
      const slot = slots[t] as number;
      if (slot < 0) continue;
      sampleAt(tracks, first + t, place, sampled, 0);
      const mode = lane.slotMode[slot];
      if (mode === MIX_SWITCH) {
        if (w < 0.5) continue;
        outV[slot] = sampled[0] as number;
        outW[slot] = 1;
        continue;
      }
      const width = mode === MIX_COLOR ? 3 : 1;
      for (let c = 0; c < width; c++) {
        const base = s.base[lane.slots[slot + c] as number] as number;
        const v = (sampled[c] as number) + (tracks.offset[first + t] === 1 ? base : 0);
        outV[slot + c] = (outV[slot + c] as number) + w * (b.at === null ? v - base : v);
        if (b.at !== null) outW[slot + c] = clamp((outW[slot + c] as number) + w, 0, 1);
      }
    }
  }
}
