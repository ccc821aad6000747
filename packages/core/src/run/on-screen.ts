/** What one number on the screen is at any instant: asked by what begins from it, not by the pose. */
import { clamp } from '../base/index.ts';
import { CH_OPACITY, CHANNELS } from '../model/index.ts';
import { belowLane, belowMany, fadeRuns } from './layers.ts';
import { hasMotor, motorPart, putNow } from './movers.ts';
import { HOLD, type LaneProgram, type Program } from './program.ts';
import type { RunState } from './state.ts';

/** The number on the screen at instant `clock[0]` but for motors, at a place that is in `program.laneWriters`. */
export function onScreen(program: Program, s: RunState, at: number, clock: Float64Array): number {
  return bounded(at, beforeMotors(program, s, at, clock));
}

/** The number on the screen at instant `clock[0]`, motors and all. */
export function allOnScreen(program: Program, s: RunState, at: number, clock: Float64Array): number {
  return bounded(at, beforeMotors(program, s, at, clock) + motorPart(program, s, at, clock));
}

/** Whether anything sets the value at `at` at instant `clock[0]`, at a place that is in `program.laneWriters`. */
export function isWritten(program: Program, s: RunState, at: number, clock: Float64Array): boolean {
  if (s.isPut(at) || program.driver?.sets(s.parts, at) || hasMotor(program, s, at)) return true;
  for (const i of program.laneWriters.get(at) ?? []) {
    const lane = program.lanes[i] as LaneProgram;
    const slot = lane.slots.indexOf(at);
    const active = lane.states[s.active[i] as number];
    if (!active || slot < 0) continue;
    const isHeld = (active.kind === HOLD || lane.keeps) && (s.heldW[lane.firstSlot + slot] as number) > 0;
    if (active.keyed[slot] === 1 || isHeld || fadeRuns(s, i, clock)) return true;
  }
  return false;
}

function beforeMotors(program: Program, s: RunState, at: number, clock: Float64Array): number {
  if (s.isPut(at)) return putNow(program, s, at, clock);
  const { driver } = program;
  if (driver?.sets(s.parts, at)) return driver.value(s.parts, at);
  return belowLane(program, s, at, program.lanes.length, clock);
}

/** As `allOnScreen`, of many numbers: `places` says where in `out` each comes. */
export function allOnScreenAt(
  program: Program,
  s: RunState,
  places: ReadonlyMap<number, number>,
  clock: Float64Array,
  out: Float64Array,
): void {
  const { driver } = program;
  belowMany(program, s, places, clock, out);
  for (const [at, place] of places) {
    if (s.isPut(at)) out[place] = putNow(program, s, at, clock);
    else if (driver?.sets(s.parts, at)) out[place] = driver.value(s.parts, at);
    out[place] = bounded(at, (out[place] as number) + motorPart(program, s, at, clock));
  }
}

const bounded = (at: number, n: number) => (at % CHANNELS === CH_OPACITY ? clamp(n, 0, 1) : n);
