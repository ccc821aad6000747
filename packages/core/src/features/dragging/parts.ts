/** What a compiler, a program, a state and a run have of this feature. */
import type { DraggingProgram } from './program.ts';
import type { DraggingRows } from './rows.ts';

declare module '../../run/parts.ts' {
  interface ProgramParts {
    readonly dragging?: DraggingProgram;
  }
  interface StateParts {
    readonly dragging?: DraggingRows;
  }
}
