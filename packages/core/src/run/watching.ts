/** What a run is doing, for whoever shows it. */

import { playPlace } from './layers.ts';
import { type LaneProgram, PLAY } from './program.ts';
import type { Run } from './run.ts';

/** Number of the active state, its age and the place of its clip (seconds, null for none) in lane i. */
export function placeIn(run: Run, i: number): { state: number; age: number; place: number | null } {
  const { program, state, time } = run;
  const active = state.active[i] as number;
  const s = (program.lanes[i] as LaneProgram).states[active];
  return {
    state: active,
    age: time - (state.entered[i] as number),
    place: s?.kind === PLAY ? playPlace(program, state, i * 2, s.clip, new Float64Array([time])) : null,
  };
}
