/** What a compiler, a program, a state and a run have of this feature. */
import type { Spawner } from './run.ts';

declare module '../../run/parts.ts' {
  interface CompilingParts {
    /** The number of a template that actions spawn; −1 for any other. */
    readonly templates?: { number(id: string): number };
  }
  interface RunParts {
    readonly templates?: Spawner;
  }
}
