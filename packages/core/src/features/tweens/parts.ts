/** What a compiler, a program, a state and a run have of this feature. */
import type { TweenRows, Tweens } from './run.ts';

declare module '../../run/parts.ts' {
  interface StateParts {
    readonly tweens?: TweenRows;
  }
  interface RunParts {
    readonly tweens?: Tweens;
  }
}
