/** What a state has of blockers. */
import type { Program } from '../../run/program.ts';
import type { RowMaker } from '../../run/rows.ts';

/**
 * Of a body or a blocker in the previous pose: where its pivot, or the middle of its corners, was in the world; of a blocker
 * whether it counted, of a body 1 + the number of its object.
 */
export const PREVIOUS_ROW = 4;

export interface BlockerRows {
  /** Per blocker, what touches it: the number of the visitor's object, and of the dragged one, plus 1; 0 for none. */
  readonly contacts: Int32Array;
  /** Likewise whether it is crushed: 1, and 2 once that is logged. */
  readonly crushed: Uint8Array;
  /** Rows of blockers, then of both bodies. */
  readonly previous: Float64Array;
}
export function blockerRows({ parts }: Program, make: RowMaker): BlockerRows {
  const n = parts.blockers?.length ?? 0;
  return {
    contacts: make.ints(2 * n),
    crushed: make.bytes(2 * n),
    previous: make.floats(n === 0 ? 0 : (n + 2) * PREVIOUS_ROW),
  };
}
