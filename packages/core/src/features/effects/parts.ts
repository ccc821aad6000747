/** What a compiler, a program, a state and a run have of this feature. */
import type { EffectProgram } from './program.ts';
import type { EffectRows } from './rows.ts';
import type { Effects } from './run.ts';

declare module '../../run/parts.ts' {
  interface ProgramParts {
    readonly effects?: {
      readonly effects: readonly EffectProgram[];
      readonly index: ReadonlyMap<string, number>;
    };
  }
  interface StateParts {
    readonly effects?: EffectRows;
  }
  interface RunParts {
    readonly effects?: Effects;
  }
}
