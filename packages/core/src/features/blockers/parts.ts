/** What a compiler, a program, a state and a run have of this feature. */
import type { BlockerProgram } from './program.ts';
import type { BlockerRows } from './rows.ts';

declare module '../../run/parts.ts' {
  interface ProgramParts {
    readonly blockers?: readonly BlockerProgram[];
  }
  interface StateParts {
    readonly blockers?: BlockerRows;
  }
}
