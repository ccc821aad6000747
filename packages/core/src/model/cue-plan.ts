/** When the cues of a sheet come, as far as that can be told before it runs. */

import { lengths as captions } from '../features/captions/lengths.ts';
import type { CueSheet, SheetCue } from '../features/sheets/record.ts';
import { lengths as tweens } from '../features/tweens/lengths.ts';
import type { Action } from './action.ts';
import type { Clip } from './clip.ts';
import type { LengthTable } from './length-table.ts';

const ofSpine: LengthTable<'play'> = {
  play: (a, clipOf) => {
    const clip = clipOf(a.clip);
    const speed = typeof a.speed === 'object' ? 1 : Math.abs(a.speed ?? 1);
    if (clip?.loop !== 'once' || speed === 0) return 0;
    return clip.duration / speed;
  },
};

const LENGTHS: { readonly [kind: string]: (a: never, clipOf: (id: string) => Clip | undefined) => number } = {
  ...ofSpine,
  ...tweens,
  ...captions,
};

/** Seconds that an action takes once it acts; infinite where only the person knows. */
export function lengthOfAction(a: Action, clipOf: (id: string) => Clip | undefined): number {
  return LENGTHS[a.do]?.(a as never, clipOf) ?? 0;
}

/** Seconds from a cue's start to its end. */
export function lengthOfCue(cue: SheetCue, clipOf: (id: string) => Clip | undefined): number {
  return Math.max(0, ...cue.actions.map((a) => (a.after ?? 0) + lengthOfAction(a, clipOf)));
}

export interface PlannedCue {
  readonly cue: SheetCue;
  /** The cue that it is timed from, from its start or its end; null for the sheet's start. */
  readonly parent: PlannedCue | null;
  readonly after: boolean;
  /** Seconds from the sheet's start, at least: what waits is taken to come at once. Infinite after what has no end. */
  readonly start: number;
  readonly length: number;
  /** Whether it, or something that it comes after, waits. */
  readonly waits: boolean;
  /** How many cues it hangs below. */
  readonly depth: number;
}

/** All cues in the order of the tree: what is timed from a cue's start before what is timed from its end. */
export function planOf(sheet: CueSheet, clipOf: (id: string) => Clip | undefined): PlannedCue[] {
  const out: PlannedCue[] = [];
  const add = (cue: SheetCue, parent: PlannedCue | null, after: boolean) => {
    const from = parent ? parent.start + (after ? parent.length : 0) : 0;
    const own = lengthOfCue(cue, clipOf);
    const open = after && parent !== null && parent.length === Number.POSITIVE_INFINITY;
    const planned: PlannedCue = {
      ...{ cue, parent, after, start: from + cue.t, length: own, depth: parent ? parent.depth + 1 : 0 },
      waits: cue.wait !== undefined || open || (parent?.waits ?? false),
    };
    out.push(planned);
    for (const c of cue.then) add(c, planned, false);
    for (const c of cue.thenAfter) add(c, planned, true);
  };
  for (const c of sheet.cues) add(c, null, false);
  return out;
}

/** Every cue of a sheet, in the order of the tree. */
export function cuesIn(sheet: CueSheet): SheetCue[] {
  const all = (list: readonly SheetCue[]): SheetCue[] =>
    list.flatMap((c) => [c, ...all(c.then), ...all(c.thenAfter)]);
  return all(sheet.cues);
}
