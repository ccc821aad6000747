/** What a compiler, a program, a state and a run have of this feature. */
import type { VisitorRow } from './rows.ts';

declare module '../../run/parts.ts' {
  interface StateParts {
    readonly visitor?: VisitorRow;
  }
}
