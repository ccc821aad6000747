/** What a compiler, a program, a state and a run have of this feature. */
import type { FollowsProgram } from './program.ts';

declare module '../../run/parts.ts' {
  interface ProgramParts {
    readonly follows?: FollowsProgram;
  }
  interface StateParts {
    readonly follows?: Float64Array;
  }
}
