/** What a compiler, a program, a state and a run have of this feature. */
import type { CueProgram, SheetProgram } from './program.ts';
import type { SheetRows } from './rows.ts';
import type { Sheets } from './run.ts';

declare module '../../run/parts.ts' {
  interface ProgramParts {
    readonly sheets?: {
      readonly sheets: readonly SheetProgram[];
      readonly index: ReadonlyMap<string, number>;
      readonly cues: readonly CueProgram[];
      /** By place of what is spawned the numbers of its sheets. */
      readonly byPlace: ReadonlyMap<number, readonly number[]>;
    };
  }
  interface StateParts {
    readonly sheets?: SheetRows;
  }
  interface RunParts {
    readonly sheets?: Sheets;
  }
}
