/** What a state has of cue sheets. */
import type { Program } from '../../run/program.ts';
import type { RowMaker } from '../../run/rows.ts';

/** Of a sheet: whether it runs, which of its rounds this is, how many askings wait, the round that has ended and pauses, its start, seconds. */
export const SHEET_ROW = 5;
/** Of a cue of one: what has become of it, and its record. */
export const CUE_ROW = 2;
/** Of an action of a cue: when it acted, seconds, or −1, and what tells what it began from others. */
export const CUE_ACTION_ROW = 2;

export interface SheetRows {
  readonly sheets: Float64Array;
  readonly cues: Float64Array;
  readonly cueActions: Float64Array;
  /** How many sheets run. */
  readonly running: Int32Array;
}
export function sheetRows({ parts }: Program, make: RowMaker): SheetRows {
  const { sheets, cues } = parts.sheets ?? { sheets: [], cues: [] };
  const acts = cues.reduce((sum, c) => sum + c.lasting.length, 0);
  return {
    sheets: make.floats(sheets.length * SHEET_ROW),
    cues: make.floats(cues.length * CUE_ROW),
    cueActions: make.floats(acts * CUE_ACTION_ROW),
    running: make.ints(1),
  };
}
