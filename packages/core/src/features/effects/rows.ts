/** What a state has of effects. */
import type { Program } from '../../run/program.ts';
import type { RowList, RowMaker } from '../../run/rows.ts';

/**
 * An effect that is under way: its number, what it is at (−1: the frame), the instant of its start, of a burst which it is
 * and where it began (x, y, z), whether that is in the frame, of a flash whether it is shown.
 */
const SHOW_ROW = 9;

export interface EffectRows {
  /** How many bursts of each effect there have been. */
  readonly bursts: Float64Array;
  /** In the order of their beginning. */
  readonly active: RowList;
}
export function effectRows({ parts }: Program, make: RowMaker): EffectRows {
  return { bursts: make.floats(parts.effects?.effects.length ?? 0), active: make.list(SHOW_ROW) };
}
