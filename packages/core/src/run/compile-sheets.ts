/** Cue sheets compiled: trees become rows, each cue with the number of what it hangs on. */
import {
  type Action,
  CHANNELS,
  type Clip,
  type CueSheet,
  lengthOfCue,
  propertyInfo,
  type SheetCue,
} from '../model/index.ts';
import type { CueAct, CueProgram, SheetProgram } from './program.ts';

interface Numbers {
  object(id: string): number;
  direct(clip: string, object: string): number;
  list(cue: SheetCue): number;
  tweenRow(at: number): number;
  clip(id: string): Clip | undefined;
}

const NOTHING: CueAct = { what: 'nothing', rows: [], lane: -1, seconds: 0 };

/** `n`: asked for the numbers of things, after all actions were compiled. */
export function compileSheets(sheets: readonly CueSheet[], n: Numbers): [SheetProgram[], CueProgram[]] {
  const cues: CueProgram[] = [];
  const out = sheets.map((sheet, number): SheetProgram => {
    const first = cues.length;
    const add = (cue: SheetCue, parent: number, after: boolean) => {
      const at = cues.length;
      // First compiled: only then it is known which rows its tweens have.
      const list = n.list(cue);
      const acts = cue.actions.map((a) => actOf(a, n));
      const made = { cue, sheet: number, parent, after, list, acts, firstAct: 0 };
      cues.push({ ...made, length: lengthOfCue(cue, n.clip) });
      for (const c of cue.then) add(c, at, false);
      for (const c of cue.thenAfter) add(c, at, true);
    };
    for (const c of sheet.cues) add(c, -1, false);
    return { sheet, first, end: cues.length };
  });
  let acts = 0;
  return [
    out,
    cues.map((c) => {
      const firstAct = acts;
      acts += c.acts.length;
      return { ...c, firstAct };
    }),
  ];
}

/** What of an action takes time. */
function actOf(a: Action, n: Numbers): CueAct {
  if (a.do === 'caption') return { ...NOTHING, what: 'caption' };
  if (a.do === 'play' && n.clip(a.clip)?.loop === 'once')
    return { ...NOTHING, what: 'play', lane: n.direct(a.clip, a.object) };
  if (a.do !== 'tween' && a.do !== 'face') return NOTHING;
  const names =
    a.do === 'face' ? [`rotation.${a.axis ?? 'y'}`] : (a.properties ?? [a]).map((x) => x.property ?? '');
  const object = n.object(a.object);
  const rows = names.flatMap((name) => {
    const info = propertyInfo(name);
    const row = info && object >= 0 ? n.tweenRow(object * CHANNELS + info.channel) : -1;
    return row < 0 ? [] : [row];
  });
  return { ...NOTHING, what: 'tween', rows, seconds: a.seconds };
}
