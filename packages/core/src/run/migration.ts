/** What features have to take their rows over to the program after an edit. */
import type { Program } from './program.ts';
import type { RunState } from './state.ts';

export interface Migration {
  readonly old: Program;
  readonly next: Program;
  /** The state before, and the one that goes on. */
  readonly before: RunState;
  readonly state: RunState;
  /** The new number of an object; −1 when it is gone. */
  objectOf(from: number): number;
  /** The old number of an object of the new program; −1 when it is new. */
  objectBefore(to: number): number;
}
