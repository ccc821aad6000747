/** What a compiler, a program, a state and a run have of this feature. */
import type { Sounds } from './run.ts';

declare module '../../run/parts.ts' {
  interface RunParts {
    readonly sounds?: Sounds;
  }
}
