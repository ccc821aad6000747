/** Which clip is met in a lane's play. */
import type { ClipProgram, Program, StateProgram } from './program.ts';
import type { RunState } from './state.ts';

/** Its clip; of a blend the one that counts most. Null where none plays. */
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
