/**
 * Who writes a property: layers, lowest first. The base, then direct plays in the order of their beginning (in lanes of
 * their own), then the lanes of machines in order, then what follows, then what was put. A lane gives per
 * slot weight × value and weight; weight 0 lets through what lies below, so resting, unkeyed properties and crossfades
 * to and from them are one and the same mix.
 * It is long since each layer works on the same arrays, in the innermost loop of a tick.
 */
import {
  CURVE,
  compileCurve,
  HOLD as EASE_HOLD,
  EASE_ROW,
  easeInPlace,
  isStepped,
  LINEAR,
  MIX_COLOR,
  MIX_SWITCH,
  PLAY_ROW,
  passesInto,
  placeInto,
  sampleAt,
  valueAt,
} from '../anim/index.ts';
import { SAME_INSTANT } from '../base/index.ts';
import { CH_OPACITY, CHANNELS, type Clip } from '../model/index.ts';
import { amountBy } from './amount.ts';
import { listMovers, poseMotors, poseTweens } from './movers.ts';
import { BLEND, HOLD, type LaneProgram, PLAY, type Program, REST, type StateProgram } from './program.ts';
import { DIRECTS, PUTS, type RunState } from './state.ts';

type Loop = Clip['loop'];

const place = new Float64Array(1);
const passes = new Float64Array(1);
const progress = new Float64Array(1);
const curve = new Float64Array(CURVE);

/** Whether a crossfade is under way in lane i at instant `clock[0]`; at its end (instants 1e-9 apart are one) it is over. */
export function fadeRuns(s: RunState, i: number, clock: Float64Array): boolean {
  const length = s.fadeLength[i] as number;
  return length > 0 && (clock[0] as number) < (s.fadeStart[i] as number) + length - SAME_INSTANT;
}

/** Writes the progress of the lane's running crossfade, eased, to `progress[0]`. */
function fadeProgress(s: RunState, i: number, clock: Float64Array): void {
  const kind = s.fadeEase[i * EASE_ROW] as number;
  const eased = kind !== EASE_HOLD && kind !== LINEAR;
  if (eased) compileCurve(curve, 0, s.fadeEase, i * EASE_ROW);
  const lead = eased && isStepped(curve, 0) ? SAME_INSTANT : 0;
  const x = ((clock[0] as number) - (s.fadeStart[i] as number) + lead) / (s.fadeLength[i] as number);
  progress[0] = x <= 0 || kind === EASE_HOLD ? 0 : x;
  if (x <= 0 || !eased) return;
  easeInPlace(curve, 0, progress);
}

/** Writes the place within its clip at which a play stands at instant `clock[0]` to `out[0]`. */
function placeOfPlay(
  program: Program,
  s: RunState,
  row: number,
  clip: number,
  clock: Float64Array,
  out: Float64Array,
): void {
  const { duration, loop } = program.plain;
  placeInto(s.plays, row * PLAY_ROW, clock, duration, clip, loop[clip] as Loop, out);
}

/** The place within its clip at which a play stands, seconds. */
export function playPlace(
  program: Program,
  s: RunState,
  row: number,
  clip: number,
  clock: Float64Array,
): number {
  placeOfPlay(program, s, row, clip, clock, place);
  return place[0] as number;
}

const plays = (x: StateProgram) => x.kind === PLAY || x.kind === BLEND;

/**
 * What offset track k of a play has come to since the play began, without what it adds to: its value, and what all the
 * passes before have brought.
 */
export function gainOfPlay(
  program: Program,
  s: RunState,
  row: number,
  clip: number,
  k: number,
  clock: Float64Array,
): number {
  const { duration, loop, tracks, firstOf } = program.plain;
  const track = (firstOf[clip] as number) + k;
  placeOfPlay(program, s, row, clip, clock, place);
  passesInto(s.plays, row * PLAY_ROW, clock, duration, clip, loop[clip] as Loop, passes);
  return valueAt(tracks, track, place[0] as number) + (passes[0] as number) * (tracks.gain[track] as number);
}

/** Samples a play into rows of a lane's slots; `starts`: what its offset tracks add to, for all slots of the piece. */
function samplePlay(
  program: Program,
  s: RunState,
  lane: LaneProgram,
  state: StateProgram,
  row: number,
  clock: Float64Array,
  outV: Float64Array,
  outW: Float64Array,
  starts: Float64Array,
): void {
  const { tracks, firstOf, duration, loop } = program.plain;
  const first = firstOf[state.clip] as number;
  placeOfPlay(program, s, row, state.clip, clock, place);
  const { trackSlots } = state;
  if (program.clips[state.clip]?.data.offsets) {
    passesInto(s.plays, row * PLAY_ROW, clock, duration, state.clip, loop[state.clip] as Loop, passes);
  }
  for (let k = 0; k < trackSlots.length; k++) {
    const slot = trackSlots[k] as number;
    if (slot < 0) continue;
    sampleAt(tracks, first + k, place, outV, slot);
    outW[slot] = 1;
    if (tracks.offset[first + k] === 1)
      outV[slot] =
        (outV[slot] as number) +
        (starts[lane.firstSlot + slot] as number) +
        (passes[0] as number) * (tracks.gain[first + k] as number);
    if (lane.slotMode[slot] === MIX_COLOR) {
      outW[slot + 1] = 1;
      outW[slot + 2] = 1;
    }
  }
}

/** Scratch for the old side of a crossfade, and for what a lane gives; grown when a lane needs more. */
let oldV = new Float64Array(64);
let oldW = new Float64Array(64);
let laneV = new Float64Array(64);
let laneW = new Float64Array(64);

function room(n: number): void {
  if (laneV.length >= n) return;
  oldV = new Float64Array(n * 2);
  oldW = new Float64Array(n * 2);
  laneV = new Float64Array(n * 2);
  laneW = new Float64Array(n * 2);
}

/** Writes what lane i gives at instant `clock[0]` into `outV`, `outW` (one number per slot each). */
export function laneGives(
  program: Program,
  s: RunState,
  i: number,
  clock: Float64Array,
  outV: Float64Array,
  outW: Float64Array,
): void {
  const lane = program.lanes[i] as LaneProgram;
  const n = lane.slots.length;
  const first = lane.firstSlot;
  room(n);
  const active = lane.states[s.active[i] as number];
  const held = active !== undefined && (active.kind === HOLD || (plays(active) && lane.keeps));
  for (let k = 0; k < n; k++) {
    outV[k] = held ? (s.heldV[first + k] as number) : 0;
    outW[k] = held ? (s.heldW[first + k] as number) : 0;
  }
  if (active?.blend) active.blend.sample(program, s, lane, active.keyed, i * 2, clock, outV, outW);
  else if (active?.kind === PLAY) samplePlay(program, s, lane, active, i * 2, clock, outV, outW, s.startV);
  // What a holding state keeps, it keeps from the first instant: there is nothing to fade.
  if (active?.kind === HOLD || !fadeRuns(s, i, clock)) return;
  const keeps = lane.keeps && active && plays(active) ? active.keyed : null;
  for (let k = 0; k < n; k++) {
    oldV[k] = s.fromV[first + k] as number;
    oldW[k] = s.fromW[first + k] as number;
  }
  const fading = lane.states[s.fadeState[i] as number];
  if (fading?.blend) fading.blend.sample(program, s, lane, fading.keyed, i * 2 + 1, clock, oldV, oldW);
  else if (fading) samplePlay(program, s, lane, fading, i * 2 + 1, clock, oldV, oldW, s.fadeStartV);
  fadeProgress(s, i, clock);
  const f = progress[0] as number;
  const bounded = f < 0 ? 0 : Math.min(f, 1);
  for (let k = 0; k < n; k++) {
    // So does a lane that keeps what its active state does not key.
    if (keeps !== null && keeps[k] === 0) continue;
    if (s.overSet[first + k] === 1) {
      oldV[k] = s.overV[first + k] as number;
      oldW[k] = 1;
    }
    const mode = lane.slotMode[k] as number;
    if (mode === MIX_SWITCH) {
      if (f < 0.5) {
        outV[k] = oldV[k] as number;
        outW[k] = oldW[k] as number;
      }
    } else {
      const x = mode === MIX_COLOR ? bounded : f;
      outV[k] = (oldV[k] as number) * (1 - x) + (outV[k] as number) * x;
      outW[k] = (oldW[k] as number) * (1 - x) + (outW[k] as number) * x;
    }
  }
}

/** The amount with which a lane counts, 0–1: a number, or a number signal over its own range. */
export function laneAmount(program: Program, s: RunState, lane: LaneProgram): number {
  const i = lane.amountSignal;
  if (i < 0) return lane.amount;
  return amountBy(program, s, i);
}

/** All values at instant `clock[0]`; costs no memory. */
export function poseValues(program: Program, s: RunState, clock: Float64Array): void {
  const { values, base, posedIn } = s;
  const { amounts } = program;
  const { slots, firstSlot } = program.plain;
  // What no lane wrote in the pose before is as its base.
  const before = s.posed;
  s.posed = before + 1;
  for (let i = 0; i < posedIn.length; i++) {
    if (posedIn[i] !== before) continue;
    const end = firstSlot[i + 1] as number;
    for (let k = firstSlot[i] as number; k < end; k++) {
      const at = slots[k] as number;
      values[at] = base[at] as number;
    }
  }
  if (s.moversChanged) listMovers(s);
  for (let n = 0; n < s.motorCount; n++) {
    const at = program.motorAts[s.motorsOn[n] as number] as number;
    values[at] = base[at] as number;
  }
  for (let k = 0; k < s.loose.length; k++) {
    const at = s.loose[k] as number;
    values[at] = base[at] as number;
    s.setAlone(at);
  }
  if (s.loose.length > 0) {
    s.loose.length = 0;
    s.putsChanged++;
  }
  const directs = s.one[DIRECTS] as number;
  for (let k = 0; k < directs; k++) {
    const i = s.directList[k] as number;
    if (!layPlain(program, s, i, clock)) layLane(program, s, i, clock);
  }
  const { firstDirect } = program;
  for (let i = 0; i < firstDirect; i++) if (!layPlain(program, s, i, clock)) layLane(program, s, i, clock);
  program.driver?.pose(s);
  poseTweens(program, s, clock);
  const puts = s.one[PUTS] as number;
  for (let k = 0; k < puts; k++) {
    const at = s.putList[k] as number;
    if (values[at] === s.putV[at]) continue;
    values[at] = s.putV[at] as number;
    s.setAlone(at);
  }
  poseMotors(program, s, clock);
  for (let k = 0; k < amounts.length; k++) bound(values, amounts[k] as number);
}

/** Lays lane i over what lies below it if that is one clip alone, or nothing; false when there is more to it. */
function layPlain(program: Program, s: RunState, i: number, clock: Float64Array): boolean {
  const { plain } = program;
  const active = s.active[i] as number;
  if (active < 0 || plain.lane[i] === 0 || fadeRuns(s, i, clock)) return false;
  const state = (plain.firstState[i] as number) + active;
  const kind = plain.kind[state] as number;
  if (kind === REST) return true;
  if (kind !== PLAY) return false;
  const clip = plain.clip[state] as number;
  s.posedIn[i] = s.posed;
  placeOfPlay(program, s, i * 2, clip, clock, place);
  const first = plain.firstTrack[state] as number;
  const track = (plain.firstOf[clip] as number) - first;
  const end = plain.firstTrack[state + 1] as number;
  for (let k = first; k < end; k++) {
    const at = plain.value[k] as number;
    if (at >= 0) sampleAt(plain.tracks, track + k, place, s.values, at);
  }
  return true;
}

/** Lays lane i over what lies below it. */
function layLane(program: Program, s: RunState, i: number, clock: Float64Array): void {
  const lane = program.lanes[i] as LaneProgram;
  if (!ready(program, s, i, clock)) return;
  s.posedIn[i] = s.posed;
  for (let k = 0; k < lane.slots.length; k++) laySlot(s.base, lane, k, s.values, lane.slots[k] as number);
}

/** Works out what lane i gives, and its amount, for `laySlot`; false when it has nothing to give. */
function ready(program: Program, s: RunState, i: number, clock: Float64Array): boolean {
  const lane = program.lanes[i] as LaneProgram;
  if (lane.slots.length === 0 || (s.active[i] as number) < 0) return false;
  room(lane.slots.length);
  laneGives(program, s, i, clock, laneV, laneW);
  amount[0] = laneAmount(program, s, lane);
  return true;
}
const amount = new Float64Array(1);

/** Lays slot k of the lane that is ready over `values[at]`. */
function laySlot(base: Float64Array, lane: LaneProgram, k: number, values: Float64Array, at: number): void {
  const below = values[at] as number;
  const v = laneV[k] as number;
  const w = laneW[k] as number;
  const a = amount[0] as number;
  const mode = lane.slotMode[k] as number;
  if (mode === MIX_SWITCH) {
    if (w * a >= 0.5) values[at] = v;
  } else if (lane.adds && mode !== MIX_COLOR) {
    values[at] = below + a * (v - (base[lane.slots[k] as number] as number) * w);
  } else {
    // Written so that full weight gives the lane's value exactly and none leaves what lies below.
    const x = a * w;
    values[at] = x === 1 ? v : x === 0 && v === 0 ? below : below * (1 - x) + a * v;
  }
}

/**
 * The number that stands at `at`, one that is asked for by itself, at instant `clock[0]`: what the base and the lanes before
 * `end` come to. Costs as much as the lanes that write it, and is asked when a play with offsets begins or is left.
 */
export function belowLane(
  program: Program,
  s: RunState,
  at: number,
  end: number,
  clock: Float64Array,
): number {
  one[0] = s.base[at] as number;
  const writers = program.laneWriters.get(at) ?? [];
  const lay = (i: number) => {
    if (!ready(program, s, i, clock)) return;
    const lane = program.lanes[i] as LaneProgram;
    laySlot(s.base, lane, lane.slots.indexOf(at), one, 0);
  };
  for (const i of directsOf(s)) if (writers.includes(i)) lay(i);
  for (const i of writers) if (i < Math.min(end, program.firstDirect)) lay(i);
  return one[0] as number;
}
/**
 * As `belowLane` for many numbers at once, all lanes counted: `places` says where in `out` each comes. Costs as much as
 * the lanes that write any of them, however many those are.
 */
export function belowMany(
  program: Program,
  s: RunState,
  places: ReadonlyMap<number, number>,
  clock: Float64Array,
  out: Float64Array,
): void {
  const writers = new Set<number>();
  for (const [at, place] of places) {
    out[place] = s.base[at] as number;
    for (const i of program.laneWriters.get(at) ?? []) writers.add(i);
  }
  const lay = (i: number) => {
    if (!ready(program, s, i, clock)) return;
    const lane = program.lanes[i] as LaneProgram;
    for (let k = 0; k < lane.slots.length; k++) {
      const place = places.get(lane.slots[k] as number);
      if (place !== undefined) laySlot(s.base, lane, k, out, place);
    }
  };
  for (const i of directsOf(s)) if (writers.has(i)) lay(i);
  for (const i of [...writers].sort((a, b) => a - b)) if (i < program.firstDirect) lay(i);
}

/** The lanes of the direct plays that are there, in the order of their beginning. */
export function directsOf(s: RunState): Int32Array {
  return s.directList.subarray(0, s.one[DIRECTS] as number);
}
const one = new Float64Array(1);

/** Whether a follow, or a lane after lane i, gives anything for the number at `at`, one that is asked for by itself. */
export function heldAbove(
  program: Program,
  s: RunState,
  at: number,
  i: number,
  clock: Float64Array,
): boolean {
  if (program.driver?.sets(s.parts, at)) return true;
  const directs = directsOf(s);
  const own = directs.indexOf(i);
  for (const j of program.laneWriters.get(at) ?? []) {
    // Direct plays lie below all lanes, the one begun last on top.
    const isAbove = j < program.firstDirect ? own >= 0 || j > i : own >= 0 && directs.indexOf(j) > own;
    if (!isAbove || !ready(program, s, j, clock)) continue;
    const slot = (program.lanes[j] as LaneProgram).slots.indexOf(at);
    // What a stack adds has no weight.
    if ((laneW[slot] !== 0 || laneV[slot] !== 0) && (amount[0] as number) > 0) return true;
  }
  return false;
}

/** Brings an opacity back to 0–1: adding lanes and overshooting easing may lead beyond. */
function bound(values: Float64Array, at: number): void {
  const v = values[at] as number;
  if (v < 0) values[at] = 0;
  else if (v > 1) values[at] = 1;
}

/** Brings all opacities back to 0–1, after all mixing. */
export function boundAmounts(values: Float64Array): void {
  for (let at = CH_OPACITY; at < values.length; at += CHANNELS) bound(values, at);
}
