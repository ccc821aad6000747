/** What a compiler, a program, a state and a run have of this feature. */
import type { Answers, CompilingCaptions } from './program.ts';
import type { CaptionRows } from './rows.ts';
import type { Captions } from './run.ts';

declare module '../../run/parts.ts' {
  interface CompilingParts {
    readonly captions?: CompilingCaptions;
  }
  interface ProgramParts {
    readonly captions?: {
      /** The answers of captions that ask, and their numbers by their ids, joined by commas. */
      readonly answers: readonly Answers[];
      readonly index: ReadonlyMap<string, number>;
    };
  }
  interface StateParts {
    readonly captions?: CaptionRows;
  }
  interface RunParts {
    readonly captions?: Captions;
  }
}
