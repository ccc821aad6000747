/** What a state has of what follows: one row each. */
import type { Program } from '../../run/program.ts';
import type { RowMaker } from '../../run/rows.ts';

/** Whether it has begun, where it stands, the source's number then. */
export const FOLLOW_ROW = 3;

export const followRows = ({ parts }: Program, make: RowMaker): Float64Array =>
  make.floats((parts.follows?.follows.length ?? 0) * FOLLOW_ROW);
