/** What a compiler, a program, a state and a run have of this feature. */
import type { TimersProgram } from './program.ts';
import type { Timers } from './run.ts';

declare module '../../run/parts.ts' {
  interface ProgramParts {
    readonly timers?: TimersProgram;
  }
  interface RunParts {
    readonly timers?: Timers;
  }
}
