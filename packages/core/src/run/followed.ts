/** What follows, as it stands: laid over the lanes, and asked for by what begins from it. */
import { clamp } from '../base/index.ts';
import { mapRange } from '../logic/index.ts';
import type { FollowProgram, Program } from './program.ts';
import { FOLLOW_ROW } from './rows.ts';
import type { RunState } from './state.ts';

/** Lays what follows over the lanes. */
export function poseFollows({ follows }: Program, s: RunState): void {
  for (let k = 0; k < follows.length; k++) {
    const { at } = follows[k] as FollowProgram;
    if (at < 0 || s.follows[k * FOLLOW_ROW] !== 1) continue;
    s.values[at] = s.follows[k * FOLLOW_ROW + 1] as number;
    s.setAlone(at);
  }
}

/** Whether a follow sets the value at `at`; `followed` tells to what. */
export function isFollowed(program: Program, s: RunState, at: number): boolean {
  const k = program.followAt.get(at);
  return k !== undefined && s.follows[k * FOLLOW_ROW] === 1;
}

/** Where the follow that sets the value at `at` stands; there is one. */
export function followed(program: Program, s: RunState, at: number): number {
  return s.follows[(program.followAt.get(at) as number) * FOLLOW_ROW + 1] as number;
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
