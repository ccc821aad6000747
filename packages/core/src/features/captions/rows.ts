/** What a state has of captions. */
import type { Program } from '../../run/program.ts';
import type { RowList, RowMaker } from '../../run/rows.ts';

/**
 * A caption, or one that waits: the object, number of its words, seconds (−1: no end), number of its answers or −1, which it
 * is of all, the record that asked for it, whether it stands, and the instant since which.
 */
const CAPTION_ROW = 8;

export interface CaptionRows {
  /** In the order of asking. */
  readonly list: RowList;
  /** How many there have been. */
  readonly said: Float64Array;
}
export function captionRows(_: Program, make: RowMaker): CaptionRows {
  return { list: make.list(CAPTION_ROW), said: make.floats(1) };
}
