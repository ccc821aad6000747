/** A blend: how much each clip of it counts, where each stands, and what they come to together. */
import { MIX_COLOR, MIX_SWITCH, PLAY_ROW, placeInto, sampleAt } from '../../anim/index.ts';
import { clamp } from '../../base/index.ts';
import { amountBy } from '../../run/amount.ts';
import type {
  BlendProgram,
  BlendState,
  ClipProgram,
  Driven,
  LaneProgram,
  Program,
} from '../../run/program.ts';

/** Most clips that one state blends. */
const MOST = 50;
const weights = new Float64Array(MOST);
const place = new Float64Array(1);
const sampled = new Float64Array(3);
const WHOLE = new Float64Array([1]);

/** What a blend is made of. */
export interface Made {
  readonly clips: Int32Array;
  /** Of a range the places of its clips on it, rising; null of a stack. */
  readonly at: Float64Array | null;
  /** The number signal of a range, −1 for none, and what gives its number instead. */
  readonly signal: number;
  readonly driven: Driven | null;
  /** Of a stack the amounts, and the number signals that give them instead, −1 for none. */
  readonly amounts: Float64Array;
  readonly amountSignals: Int32Array;
  readonly common: boolean;
  /** By clip, the slot of each of its tracks. */
  readonly slots: readonly Int32Array[];
  readonly met: readonly ClipProgram[];
  readonly once: boolean;
  readonly longest: number;
}

export class Blend implements BlendProgram {
  readonly #of: Made;
  readonly clips: Int32Array;
  readonly signals: readonly number[];
  readonly common: boolean;
  readonly met: readonly ClipProgram[];
  readonly once: boolean;
  readonly longest: number;

  constructor(of: Made) {
    this.#of = of;
    this.clips = of.clips;
    this.signals = [of.signal, ...of.amountSignals];
    this.common = of.common;
    this.met = of.met;
    this.once = of.once;
    this.longest = of.longest;
  }

  /** Works out how much each clip counts; `weights[k]` is valid until the next call. */
  #weigh(program: Program, s: BlendState): void {
    const b = this.#of;
    const n = b.clips.length;
    if (b.at === null) {
      for (let k = 0; k < n; k++) {
        const signal = b.amountSignals[k] as number;
        weights[k] = signal < 0 ? (b.amounts[k] as number) : amountBy(program, s, signal);
      }
      return;
    }
    const given = b.driven ? b.driven.value(s.parts) : Number.NaN;
    const x = Number.isNaN(given) ? (b.signal < 0 ? 0 : (s.signals[b.signal] as number)) : given;
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

  heaviest(program: Program, s: BlendState): number {
    this.#weigh(program, s);
    const n = this.#of.clips.length;
    let best = 0;
    for (let k = 1; k < n; k++) if ((weights[k] as number) >= (weights[best] as number)) best = k;
    return best;
  }

  /** One in the mean of the clips' lengths. */
  passRate(program: Program, s: BlendState): number {
    this.#weigh(program, s);
    const { clips } = this.#of;
    let length = 0;
    for (let k = 0; k < clips.length; k++)
      length += (weights[k] as number) * (program.plain.duration[clips[k] as number] as number);
    return length > 0 ? 1 / length : 0;
  }

  /** Where clip `k` stands in the play, seconds, written to `place[0]`. */
  #place(program: Program, s: BlendState, k: number, row: number, clock: Float64Array): void {
    const clip = this.#of.clips[k] as number;
    const { duration, loop } = program.plain;
    if (this.common) {
      placeInto(s.plays, row * PLAY_ROW, clock, WHOLE, 0, this.once ? 'once' : 'loop', place);
      place[0] = (place[0] as number) * (duration[clip] as number);
    } else placeInto(s.plays, row * PLAY_ROW, clock, duration, clip, loop[clip] as 'once', place);
  }

  placeOf(program: Program, s: BlendState, clip: number, row: number, clock: Float64Array): number {
    this.#weigh(program, s);
    const k = this.#of.clips.findIndex((c, n) => c === clip && (weights[n] as number) > 0);
    if (k < 0) return Number.NaN;
    this.#place(program, s, k, row, clock);
    return place[0] as number;
  }

  /**
   * What a stack adds has no weight: it lies on what is below. Switches, looks and words are those of what counts for a half
   * or more. Rows that count from where a thing is count from its base here.
   */
  sample(
    program: Program,
    s: BlendState,
    lane: LaneProgram,
    keyed: Uint8Array,
    row: number,
    clock: Float64Array,
    outV: Float64Array,
    outW: Float64Array,
  ): void {
    const b = this.#of;
    for (let slot = 0; slot < keyed.length; slot++) {
      if (keyed[slot] === 0) continue;
      outV[slot] = 0;
      outW[slot] = 0;
    }
    this.#weigh(program, s);
    const { tracks } = program.plain;
    for (let k = 0; k < b.clips.length; k++) {
      const w = weights[k] as number;
      if (w === 0) continue;
      const first = program.plain.firstOf[b.clips[k] as number] as number;
      this.#place(program, s, k, row, clock);
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
}
