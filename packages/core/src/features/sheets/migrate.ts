/** Cue sheets that run go on after an edit: their cues by their ids. What came new meanwhile comes with the next round. */
import type { Migration } from '../../run/migration.ts';
import type { Scheduled } from '../../run/state.ts';
import { CUE_ACTION_ROW, CUE_ROW, SHEET_ROW, type SheetRows } from './rows.ts';

export function migrateSheets({ old, next, before, state }: Migration): void {
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
    const acts = from.cueActions.subarray(cue.firstAction * CUE_ACTION_ROW);
    const same = Math.min(cue.lasting.length, c.lasting.length) * CUE_ACTION_ROW;
    to.cueActions.set(acts.subarray(0, same), c.firstAction * CUE_ACTION_ROW);
  });
  to.running[0] = is.sheets.filter((_, i) => to.sheets[i * SHEET_ROW] === 1).length;
}

/** What is scheduled of a cue, after an edit; undefined when that is gone. */
export function cueAfter({ old, next }: Migration, item: Scheduled): Scheduled | undefined {
  const id = old.parts.sheets?.cues[item.index]?.cue.id;
  const k = next.parts.sheets?.cues.findIndex((c) => c.cue.id === id) ?? -1;
  return k < 0 ? undefined : { ...item, index: k };
}
