/** Cue sheets compiled: trees become rows, each cue with the number of what it hangs on. */
import { type CueSheet, lengthOfCue, type SheetCue } from '../../model/index.ts';
import type { Compiling, CompilingPart } from '../../run/compiling.ts';
import type { Lasting } from '../../run/lasting.ts';

export interface SheetProgram {
  readonly sheet: CueSheet;
  /** Its cues are those from `first` up to `end` of all, in the order of the tree. */
  readonly first: number;
  readonly end: number;
  /** The place of what is spawned in which it lies; −1 for the piece itself. */
  readonly place: number;
}
export interface CueProgram {
  readonly cue: SheetCue;
  readonly sheet: number;
  /** Number of the cue that it is timed from, −1 for the sheet's start; whether from its end. */
  readonly parent: number;
  readonly after: boolean;
  /** Number of its actions among `Program.lists`, and of each what it begins that takes time, or null. */
  readonly list: number;
  readonly lasting: readonly (Lasting | null)[];
  readonly firstAction: number;
  /** Seconds that it takes, as planned. */
  readonly length: number;
}

export function compileSheets(c: Compiling): CompilingPart {
  const sheets: SheetProgram[] = [];
  const cues: CueProgram[] = [];
  return {
    lists: () => {
      let firstAction = 0;
      for (const sheet of Object.values(c.piece.cueSheets)) {
        const first = cues.length;
        const add = (cue: SheetCue, parent: number, after: boolean) => {
          const at = cues.length;
          // First compiled: only then it is known which rows its tweens have.
          c.hears(cue.wait, `cueSheets.${sheet.id}`);
          const list = c.list(cue.id, cue.id, cue.actions);
          const lasting = cue.actions.map((a) => c.lasting(a));
          const length = lengthOfCue(cue, (id) => c.clipOf(id));
          cues.push({ cue, sheet: sheets.length, parent, after, list, lasting, firstAction, length });
          firstAction += lasting.length;
          for (const x of cue.then) add(x, at, false);
          for (const x of cue.thenAfter) add(x, at, true);
        };
        for (const cue of sheet.cues) add(cue, -1, false);
        sheets.push({ sheet, first, end: cues.length, place: c.placeOf(sheet.id) });
      }
    },
    part: () => {
      const byPlace = new Map<number, number[]>();
      sheets.forEach(({ place }, i) => {
        const list = byPlace.get(place);
        if (list) list.push(i);
        else if (place >= 0) byPlace.set(place, [i]);
      });
      return { sheets, index: new Map(sheets.map((s, i) => [s.sheet.id, i])), cues, byPlace };
    },
  };
}
