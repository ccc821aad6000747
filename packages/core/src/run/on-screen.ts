/** What one number on the screen is at any date: asked by what begins from it, not by the pose. */
import { clamp } from '../base/index.ts';
import { CH_OPACITY, CHANNELS } from '../model/index.ts';
import { followed, isFollowed } from './followed.ts';
import { belowLane, belowMany } from './layers.ts';
import { motorPart, putNow } from './moving.ts';
import type { Program } from './program.ts';
import type { RunState } from './state.ts';

/** The number on the screen at date `clock[0]` but for motors, at a place that is in `program.laneWriters`. */
export function onScreen(program: Program, s: RunState, at: number, clock: Float64Array): number {
  return bounded(at, beforeMotors(program, s, at, clock));
}

/** The number on the screen at date `clock[0]`, motors and all. */
export function allOnScreen(program: Program, s: RunState, at: number, clock: Float64Array): number {
  return bounded(at, beforeMotors(program, s, at, clock) + motorPart(program, s, at, clock));
}

function beforeMotors(program: Program, s: RunState, at: number, clock: Float64Array): number {
  if (s.isPut(at)) return putNow(program, s, at, clock);
  if (isFollowed(program, s, at)) return followed(program, s, at);
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
  belowMany(program, s, places, clock, out);
  for (const [at, place] of places) {
    if (s.isPut(at)) out[place] = putNow(program, s, at, clock);
    else if (isFollowed(program, s, at)) out[place] = followed(program, s, at);
    out[place] = bounded(at, (out[place] as number) + motorPart(program, s, at, clock));
  }
}

const bounded = (at: number, n: number) => (at % CHANNELS === CH_OPACITY ? clamp(n, 0, 1) : n);
