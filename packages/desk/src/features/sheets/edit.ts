/** Cue sheets: made, changed cue by cue, tried, and made of what was done by hand in a run. */
import {
  type Action,
  type Clip,
  type CueSheet,
  cuesIn,
  type On,
  type PlannedCue,
  planOf,
  type SheetCue,
  uniqueName,
} from '@apple-tick/core/model';
import type { TraceRecord } from '@apple-tick/core/run';
import type { PieceStore } from '../../session/model-help.ts';
import type { Session } from '../../session/session.ts';
import { nameOf } from '../../session/words/words.ts';

/** Of two things done to one signal or property by hand within so many seconds the later counts: a slider is one action. */
const ONE_DEED = 0.3;

export function planFor(store: PieceStore, sheet: CueSheet): PlannedCue[] {
  return planOf(sheet, (id) => store.get('clips', id) as Clip | undefined);
}

/** Adds a sheet. Returns its id. */
export function addSheet(s: Session, wish = 'scene', cues: SheetCue[] = []): string {
  const id = s.newId('cueSheets');
  const name = uniqueName(wish, new Set(s.store.all('cueSheets').map((x) => x.name)));
  s.edit(`Added the cue sheet ${name}`, (e) =>
    e.add('cueSheets', { id, name, cues, again: 'restart', end: 'stop' }),
  );
  return id;
}

/** The sheet that is worked on: the one chosen, else the first. */
export function sheetOf(s: Session): CueSheet | undefined {
  const { sheet } = s.state;
  return (sheet === null ? undefined : s.store.get('cueSheets', sheet)) ?? s.store.all('cueSheets')[0];
}

export function editSheet(s: Session, name: string, id: string, change: (x: CueSheet) => CueSheet): void {
  s.edit(name, (e) => e.update('cueSheets', id, change));
}

/** The tree with one cue changed; null takes it out, with all that hangs on it. */
function withCue(
  cues: readonly SheetCue[],
  id: string,
  change: (c: SheetCue) => SheetCue | null,
): SheetCue[] {
  return cues.flatMap((c): SheetCue[] => {
    if (c.id === id) {
      const to = change(c);
      return to === null ? [] : [to];
    }
    return [{ ...c, then: withCue(c.then, id, change), thenAfter: withCue(c.thenAfter, id, change) }];
  });
}

export function changeCue(
  s: Session,
  sheet: string,
  id: string,
  name: string,
  change: (c: SheetCue) => SheetCue,
): void {
  editSheet(s, name, sheet, (x) => ({ ...x, cues: withCue(x.cues, id, change) }));
}

export function deleteCue(s: Session, sheet: string, id: string): void {
  const cue = cuesIn(s.store.get('cueSheets', sheet) as CueSheet).find((c) => c.id === id);
  if (!cue) return;
  const along = cuesIn({ cues: [cue] } as unknown as CueSheet).length - 1;
  const more = along === 0 ? '' : along === 1 ? ' and what follows it' : ` and ${along} that follow it`;
  editSheet(s, `Deleted ${cue.name}${more}`, sheet, (x) => ({ ...x, cues: withCue(x.cues, id, () => null) }));
}

/** A copy of a cue beside it, hung on the same, without what hangs on it. Returns its id. */
export function copyCue(s: Session, sheet: string, id: string): string {
  const made = s.newId('cues');
  const names = new Set(cuesIn(s.store.get('cueSheets', sheet) as CueSheet).map((c) => c.name));
  const withCopy = (cues: readonly SheetCue[]): SheetCue[] =>
    cues.flatMap((c): SheetCue[] => {
      const inner = { ...c, then: withCopy(c.then), thenAfter: withCopy(c.thenAfter) };
      if (c.id !== id) return [inner];
      return [inner, { ...c, id: made, name: uniqueName(c.name, names), then: [], thenAfter: [] }];
    });
  editSheet(s, 'Copied a cue', sheet, (x) => ({ ...x, cues: withCopy(x.cues) }));
  return made;
}

/** What a cue hangs on: the sheet's start, or another's start or end. */
export interface Hook {
  readonly cue: string | null;
  readonly after: boolean;
}

function hung(cues: readonly SheetCue[], made: SheetCue, at: Hook): SheetCue[] {
  if (at.cue === null) return [...cues, made];
  return withCue(cues, at.cue, (c) =>
    at.after ? { ...c, thenAfter: [...c.thenAfter, made] } : { ...c, then: [...c.then, made] },
  );
}

/** Hangs a cue on another, or on the sheet's start, with all that hangs on it. */
export function hangCue(s: Session, sheet: string, id: string, at: Hook, t: number): void {
  const x = s.store.get('cueSheets', sheet);
  const cue = x && cuesIn(x).find((c) => c.id === id);
  if (!x || !cue || (at.cue !== null && cuesIn({ ...x, cues: [cue] }).some((c) => c.id === at.cue))) return;
  const words = at.cue === null ? 'the start' : nameOf(s.store, at.cue);
  editSheet(s, `Hung ${cue.name} on ${words}`, sheet, (y) => ({
    ...y,
    cues: hung(
      withCue(y.cues, id, () => null),
      { ...cue, t },
      at,
    ),
  }));
}

/** Adds a cue and chooses it. Returns its id. */
export function addSheetCue(
  s: Session,
  sheet: CueSheet,
  at: Hook,
  t: number,
  actions: Action[] = [],
): string {
  const id = s.newId('cues');
  const name = uniqueName('cue', new Set(cuesIn(sheet).map((c) => c.name)));
  const made: SheetCue = { id, name, t, actions, then: [], thenAfter: [] };
  editSheet(s, `Added ${name}`, sheet.id, (x) => ({ ...x, cues: hung(x.cues, made, at) }));
  s.select({ kind: 'sheetCue', sheet: sheet.id, id });
  return id;
}

/** Where what comes after a cue hangs: on its end where that is known, else on its start. */
export function hookAfter(planned: PlannedCue | undefined): Hook {
  if (!planned) return { cue: null, after: false };
  return { cue: planned.cue.id, after: planned.length > 0 && Number.isFinite(planned.length) };
}

/** Who speaks after a cue: whoever spoke last before or in it; else what is chosen, else the first thing there is. */
export function speakerAfter(s: Session, plan: readonly PlannedCue[], at: Hook): string | undefined {
  const upTo = plan.findIndex((p) => p.cue.id === at.cue);
  const said = plan
    .slice(0, upTo < 0 ? plan.length : upTo + 1)
    .flatMap((p) => p.cue.actions)
    .findLast((a) => a.do === 'caption');
  if (said?.do === 'caption' && s.store.has('objects', said.object)) return said.object;
  const { object } = s.state;
  return object !== null && s.store.has('objects', object) ? object : s.store.ids('objects')[0];
}

/** Seconds for which a line stays: what it takes to read it. */
const readingTime = (text: string) => Math.max(1.5, Math.round((0.8 + text.length * 0.055) * 10) / 10);

/**
 * Adds a cue in which something speaks, as it is written in a script: "Ada: Good morning" is said by Ada, a line without
 * a name by `speaker`. An empty line is a cue that does nothing yet. Returns the cue's id.
 */
export function addLine(
  s: Session,
  sheet: CueSheet,
  at: Hook,
  line: string,
  speaker: string | undefined,
): string {
  const [, who = '', words = ''] = /^([^:]{1,200}):\s*(.*)$/s.exec(line) ?? [];
  const named = s.store.all('objects').find((o) => o.name.toLowerCase() === who.trim().toLowerCase());
  const text = (named ? words : line).trim().slice(0, 500);
  const object = named?.id ?? speaker;
  const actions: Action[] =
    text === '' || object === undefined ? [] : [{ do: 'caption', object, text, seconds: readingTime(text) }];
  return addSheetCue(s, sheet, at, 0, actions);
}

/** Runs the sheet by itself, as if so many seconds of it had passed. */
export function trySheet(s: Session, sheet: string, skip: number): void {
  if (!s.player) s.startRun();
  s.player?.input({ sheet: s.inRun(sheet), ...(skip > 0 ? { skip } : {}) });
}

/** A reaction that starts the sheet. */
export function startWhen(s: Session, sheet: CueSheet, object: string, on: On): void {
  s.edit(`${nameOf(s.store, object)} starts ${sheet.name}`, (e) =>
    e.add('reactions', {
      ...{ id: s.newId('reactions'), object, on, when: [], after: 0, cooldown: 0, limit: 'always' },
      actions: [{ do: 'sheet', sheet: sheet.id }],
    }),
  );
}

/** What an object can do once, in the order in which it was made: its motions that end, then its looks. */
function doneOnce(s: Session, object: string): { readonly name: string; readonly action: Action }[] {
  const clips = s.store
    .all('clips')
    .filter((c) => c.root === object && c.loop === 'once' && c.duration > 0 && c.tracks.length > 0);
  const looks = s.store.get('objects', object)?.looks ?? [];
  return [
    ...clips.map((c) => ({ name: c.name, action: { do: 'play', clip: c.id, object } as const })),
    ...looks.map((l) => ({ name: l.name, action: { do: 'look', object, to: l.id } as const })),
  ];
}

export const mayBeScene = (s: Session, object: string | null): boolean =>
  object !== null && doneOnce(s, object).length > 0;

/** A cue sheet in which an object does all that it can, one after another; one step. It is then worked on. */
export function sheetOfThing(s: Session, object: string): void {
  const name = s.store.get('objects', object)?.name ?? '';
  const cues = doneOnce(s, object).reduceRight<SheetCue[]>(
    (after, action) => [
      {
        ...{ id: s.newId('cues'), name: action.name, t: 0, actions: [action.action] },
        // A look is put on at once: it has no end to wait for.
        ...(action.action.do === 'play' ? { then: [], thenAfter: after } : { then: after, thenAfter: [] }),
      },
    ],
    [],
  );
  if (cues.length === 0) return;
  s.step(`Made a scene of what ${name} does`, () => {
    const sheet = addSheet(s, `${name} in order`, cues);
    s.set({ sheet, deck: 'sheets', openState: null, openClip: null });
  });
}

/** What a record of something done by hand is as an action; null for what none does. */
function deedOf(r: TraceRecord): Action | null {
  if (r.kind !== 'input' || r.missed) return null;
  if (r.input === 'set' && r.signal && r.to !== undefined) return { do: 'set', signal: r.signal, to: r.to };
  if (r.input === 'pulse' && r.signal) return { do: 'pulse', signal: r.signal };
  if (r.input === 'send' && r.message) return { do: 'send', message: r.message };
  if (r.input === 'put' && r.object && r.property && r.to !== undefined)
    return { do: 'put', object: r.object, property: r.property, to: r.to };
  if (r.input === 'say' && r.object && r.text !== undefined)
    return { do: 'caption', object: r.object, text: r.text };
  if (r.input === 'sound' && r.sound) return { do: 'sound', sound: r.sound };
  return null;
}

const sameDeed = (a: Action, b: Action) =>
  (a.do === 'set' && b.do === 'set' && a.signal === b.signal) ||
  (a.do === 'put' && b.do === 'put' && a.object === b.object && a.property === b.property);

/** What was done by hand in the run, at which second. */
export function doneByHand(
  records: readonly TraceRecord[],
): { readonly t: number; readonly action: Action }[] {
  const out: { t: number; last: number; action: Action }[] = [];
  for (const r of records) {
    const action = deedOf(r);
    if (!action) continue;
    const before = out.findLast((x) => sameDeed(x.action, action));
    if (before && r.t - before.last <= ONE_DEED) {
      before.action = action;
      before.last = r.t;
    } else out.push({ t: r.t, last: r.t, action });
  }
  return out;
}

/** The id of what an action is about. */
function aboutWhat(action: Action): string {
  if ('signal' in action) return action.signal;
  if ('message' in action) return action.message;
  if ('sound' in action) return action.sound;
  return ('object' in action && action.object) || '';
}

/** Makes a cue sheet of what was done by hand in the run that goes on, or was the last; one step. */
export function sheetOfHand(s: Session): void {
  const done = doneByHand(s.log.records).filter(({ action }) =>
    (['signals', 'messages', 'sounds', 'objects'] as const).some((t) => s.store.has(t, aboutWhat(action))),
  );
  if (done.length === 0) return;
  s.step('Made a cue sheet of what was done', () => {
    const cues = done.map(
      ({ t, action }): SheetCue => ({
        ...{ id: s.newId('cues'), name: nameOf(s.store, aboutWhat(action)), t: Math.round(t * 60) / 60 },
        ...{ actions: [action], then: [], thenAfter: [] },
      }),
    );
    const sheet = addSheet(s, 'what was done', cues);
    s.set({ sheet, deck: 'sheets', openState: null, openClip: null });
  });
}
