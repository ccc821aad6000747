/** Cue sheets that run go on after an edit: their cues by their ids. What came new meanwhile comes with the next round. */
import type { Carrying } from '../../run/carrying.ts';
import type { Due } from '../../run/state.ts';
import { CUE_ACT_ROW, CUE_ROW, SHEET_ROW, type SheetRows } from './rows.ts';

export function carrySheets({ old, next, before, state }: Carrying): void {
  const [was, is] = [old.parts.sheets, next.parts.sheets];
  const [from, to] = [before.parts.sheets as SheetRows, state.parts.sheets as SheetRows];
  if (!was || !is) return;
  is.sheets.forEach(({ sheet }, i) => {
    const j = was.index.get(sheet.id);
    if (j !== undefined)
      to.sheets.set(from.sheets.subarray(j * SHEET_ROW, (j + 1) * SHEET_ROW), i * SHEET_ROW);
  });
  is.cues.forEach((c, k) => {
    const j = was.cues.findIndex((x) => x.cue.id === c.cue.id);
    const cue = was.cues[j];
    if (!cue) return;
    to.cues.set(from.cues.subarray(j * CUE_ROW, (j + 1) * CUE_ROW), k * CUE_ROW);
    const acts = from.cueActs.subarray(cue.firstAct * CUE_ACT_ROW);
    const same = Math.min(cue.acts.length, c.acts.length) * CUE_ACT_ROW;
    to.cueActs.set(acts.subarray(0, same), c.firstAct * CUE_ACT_ROW);
  });
  to.running[0] = is.sheets.filter((_, i) => to.sheets[i * SHEET_ROW] === 1).length;
}

/** What is due of a cue, after an edit; undefined when that is gone. */
export function cueAfter({ old, next }: Carrying, due: Due): Due | undefined {
  const id = old.parts.sheets?.cues[due.index]?.cue.id;
  const k = next.parts.sheets?.cues.findIndex((c) => c.cue.id === id) ?? -1;
  return k < 0 ? undefined : { ...due, index: k };
}
