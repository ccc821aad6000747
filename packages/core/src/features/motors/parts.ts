/** What a compiler, a program, a state and a run have of this feature. */
import type { Motors } from './run.ts';

declare module '../../run/parts.ts' {
  interface RunParts {
    readonly motors?: Motors;
  }
}
