/**
 * What a lane gives at a date: per slot weight × value and weight. Weight 0 lets through what lies below, so
 * resting, unkeyed properties and crossfades to and from them are one and the same mix.
 */
import {
  CURVE,
  compileCurve,
  evaluateCurve,
  MIX_COLOR,
  MIX_SWITCH,
  type Playhead,
  placeAt,
  sampleTrack,
} from '../anim/index.ts';
import { SAME_DATE } from '../base/index.ts';
import { CH_OPACITY, CHANNELS } from '../model/index.ts';
import {
  type ClipProgram,
  HOLD,
  type LaneProgram,
  PLAY,
  type Program,
  type StateProgram,
} from './compile.ts';
import type { LaneState, RunState } from './state.ts';

const curve = new Float64Array(CURVE);

/** Progress of the lane's crossfade at date t, eased; 1 when there is none or it is over. */
function fadeProgress(l: LaneState, t: number): number {
  if (!fadeRuns(l, t)) return 1;
  const x = (t - l.fadeStart) / l.fadeLength;
  if (x <= 0) return 0;
  if (l.fadeEasing === 'linear') return x;
  if (l.fadeEasing === 'hold') return 0;
  const [x1, y1, x2, y2] = l.fadeEasing.bezier;
  compileCurve(curve, 0, x1, y1, x2, y2);
  return evaluateCurve(curve, 0, x);
}

/** Whether a crossfade is under way; at its end (dates 1e-9 apart are one) it is over. */
export function fadeRuns(l: LaneState, t: number): boolean {
  return l.fadeLength > 0 && t < l.fadeStart + l.fadeLength - SAME_DATE;
}

/** The place within the clip at which a play of this lane stands. */
export function placeOf(p: Playhead, t: number, c: ClipProgram): number {
  return placeAt(p, t, c.data.duration, c.clip.loop);
}

function samplePlay(
  program: Program,
  s: StateProgram,
  play: Playhead,
  t: number,
  outV: Float64Array,
  outW: Float64Array,
  modes: Uint8Array,
): void {
  const c = program.clips[s.clip] as ClipProgram;
  const place = placeOf(play, t, c);
  for (let i = 0; i < s.trackSlots.length; i++) {
    const slot = s.trackSlots[i] as number;
    if (slot < 0) continue;
    sampleTrack(c.data, i, place, outV, slot);
    outW[slot] = 1;
    if (modes[slot] === MIX_COLOR) {
      outW[slot + 1] = 1;
      outW[slot + 2] = 1;
    }
  }
}

/** Scratch for the old side of a crossfade; grown when a lane needs more. */
let oldV = new Float64Array(64);
let oldW = new Float64Array(64);

/** Writes what the lane gives at date t into `outV`, `outW` (one number per slot each). */
export function laneGives(
  program: Program,
  lane: LaneProgram,
  l: LaneState,
  t: number,
  outV: Float64Array,
  outW: Float64Array,
): void {
  const n = lane.slots.length;
  activeGives(program, lane, l, t, outV, outW);
  const active = lane.states[l.active];
  // What a holding state keeps, it keeps from the first instant: there is nothing to fade.
  if (active?.kind === HOLD || !fadeRuns(l, t)) return;
  const keeps = lane.lane.unkeyed === 'keep' && active?.kind === PLAY ? active.keyed : null;
  const f = fadeProgress(l, t);
  if (oldV.length < n) {
    oldV = new Float64Array(n * 2);
    oldW = new Float64Array(n * 2);
  }
  for (let i = 0; i < n; i++) {
    oldV[i] = l.fromV[i] as number;
    oldW[i] = l.fromW[i] as number;
  }
  if (l.fadeState >= 0)
    samplePlay(program, lane.states[l.fadeState] as StateProgram, l.fadePlay, t, oldV, oldW, lane.slotMode);
  const bounded = f < 0 ? 0 : Math.min(f, 1);
  for (let i = 0; i < n; i++) {
    // So does a lane that keeps what its active state does not key.
    if (keeps && keeps[i] === 0) continue;
    if (l.overSet[i] === 1) {
      oldV[i] = l.overV[i] as number;
      oldW[i] = 1;
    }
    const mode = lane.slotMode[i] as number;
    if (mode === MIX_SWITCH) {
      if (f < 0.5) {
        outV[i] = oldV[i] as number;
        outW[i] = oldW[i] as number;
      }
    } else {
      const k = mode === MIX_COLOR ? bounded : f;
      outV[i] = (oldV[i] as number) * (1 - k) + (outV[i] as number) * k;
      outW[i] = (oldW[i] as number) * (1 - k) + (outW[i] as number) * k;
    }
  }
}

function activeGives(
  program: Program,
  lane: LaneProgram,
  l: LaneState,
  t: number,
  outV: Float64Array,
  outW: Float64Array,
): void {
  const n = lane.slots.length;
  const s = lane.states[l.active];
  const held = s !== undefined && (s.kind === HOLD || (s.kind === PLAY && lane.lane.unkeyed === 'keep'));
  for (let i = 0; i < n; i++) {
    outV[i] = held ? (l.heldV[i] as number) : 0;
    outW[i] = held ? (l.heldW[i] as number) : 0;
  }
  if (s?.kind === PLAY) samplePlay(program, s, l.play, t, outV, outW, lane.slotMode);
}

let laneV = new Float64Array(64);
let laneW = new Float64Array(64);

/** The amount with which a lane counts, 0–1: a number, or a number signal over its own range. */
export function laneAmount(program: Program, state: RunState, lane: LaneProgram): number {
  const a = lane.lane.amount;
  if (typeof a === 'number') return a;
  const i = program.signalIndex.get(a.signal) as number;
  const def = program.signals[i];
  const value = state.signals[i] as number;
  if (def?.type !== 'number') return 0;
  const min = def.min ?? 0;
  const max = def.max ?? 1;
  return max > min ? Math.min(1, Math.max(0, (value - min) / (max - min))) : 1;
}

/** All values at date t: base, then the lanes in order, then what was put. */
export function poseValues(program: Program, state: RunState, t: number): void {
  const values = state.values;
  values.set(program.base);
  for (let k = 0; k < program.lanes.length; k++) {
    const lane = program.lanes[k] as LaneProgram;
    const n = lane.slots.length;
    if (n === 0) continue;
    if (laneV.length < n) {
      laneV = new Float64Array(n * 2);
      laneW = new Float64Array(n * 2);
    }
    laneGives(program, lane, state.lanes[k] as LaneState, t, laneV, laneW);
    applyLane(program, lane, laneAmount(program, state, lane), values);
  }
  for (let i = 0; i < values.length; i++) if (state.putSet[i] === 1) values[i] = state.putV[i] as number;
  boundAmounts(values);
}

/** Brings opacities back to 0–1, after all mixing: adding lanes and overshooting easing may lead beyond. */
export function boundAmounts(values: Float64Array): void {
  for (let i = CH_OPACITY; i < values.length; i += CHANNELS) {
    const v = values[i] as number;
    if (v < 0) values[i] = 0;
    else if (v > 1) values[i] = 1;
  }
}

function applyLane(program: Program, lane: LaneProgram, amount: number, values: Float64Array): void {
  const add = lane.lane.blend === 'add';
  for (let i = 0; i < lane.slots.length; i++) {
    const at = lane.slots[i] as number;
    const below = values[at] as number;
    const v = laneV[i] as number;
    const w = laneW[i] as number;
    const mode = lane.slotMode[i] as number;
    if (mode === MIX_SWITCH) {
      if (w * amount >= 0.5) values[at] = v;
    } else if (add && mode !== MIX_COLOR) {
      values[at] = below + amount * (v - (program.base[at] as number) * w);
    } else {
      // Written so that full weight gives the lane's value exactly and none leaves what lies below.
      const k = amount * w;
      values[at] = k === 1 ? v : k === 0 && v === 0 ? below : below * (1 - k) + amount * v;
    }
  }
}
