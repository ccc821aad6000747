/** Who sets a signal, sends a message or plays a sound, and who listens: found by its id, wherever that stands. */
import { type Action, cuesIn } from '@apple-tick/core/model';
import type { PieceStore } from '../model-help.ts';
import type { Selected } from '../selected.ts';
import { actionWords, eventWords, nameOf, ticketWords } from './words.ts';

export interface Use {
  /** Whether it makes it happen, or goes by it. */
  readonly sets: boolean;
  /** Whose it is, and what is done or waited for there. */
  readonly who: string;
  readonly words: string;
  /** When that is done, of what does something. */
  readonly when: string;
  readonly select: Selected;
}

/** Actions whose signal, message, sound, effect or sheet is what they act on; elsewhere it is read. */
const SETS: ReadonlySet<string> = new Set([
  'set',
  'toggle',
  'add',
  'pulse',
  'send',
  'sound',
  'burst',
  'flash',
  'shake',
  'sheet',
]);

/** All uses of a signal, message or sound, in the order of the piece. */
export function usesOf(store: PieceStore, id: string): Use[] {
  const out: Use[] = [];
  // Ids stand in quotes, and nothing else looks like one.
  const names = (x: unknown) => JSON.stringify(x ?? null).includes(`"${id}"`);
  const acts = (a: Action) =>
    SETS.has(a.do) &&
    (('signal' in a && a.signal === id) ||
      ('message' in a && a.message === id) ||
      ('effect' in a && a.effect === id) ||
      ('sheet' in a && a.sheet === id) ||
      ('sound' in a && a.sound === id));
  const actionsIn = (actions: readonly Action[] | undefined, who: string, when: string, select: Selected) => {
    for (const a of actions ?? [])
      if (names(a)) out.push({ sets: acts(a), who, words: actionWords(store, a), when, select });
  };
  for (const r of store.all('reactions')) {
    const select: Selected = { kind: 'object', id: r.object };
    const who = nameOf(store, r.object);
    const when = eventWords(store, r.on, r.object);
    if (names(r.on) || names(r.when) || names(r.limit))
      out.push({ sets: false, who, words: `when ${when}`, when, select });
    actionsIn(r.actions, who, when, select);
  }
  for (const m of store.all('machines'))
    for (const l of m.lanes) {
      const at = { machine: m.id, lane: l.id };
      for (const t of l.transitions)
        if (names(t.on) || names(t.when))
          out.push({
            sets: false,
            who: `${l.name}: ${t.from === '*' ? 'anywhere' : nameOf(store, t.from)} → ${nameOf(store, t.to)}`,
            words: ticketWords(store, t, m, l),
            when: '',
            select: { kind: 'transition', ...at, id: t.id },
          });
      for (const x of l.states) {
        const select: Selected = { kind: 'state', ...at, id: x.id };
        const who = `${l.name}: ${x.name}`;
        if (names(x.play)) out.push({ sets: false, who, words: 'plays by it', when: '', select });
        actionsIn(x.onEntry, who, `${x.name} entered`, select);
        actionsIn(x.onExit, who, `${x.name} left`, select);
      }
      if (names(l.amount)) {
        const first = l.states[0];
        if (first)
          out.push({
            sets: false,
            who: l.name,
            words: 'counts by it',
            when: '',
            select: { kind: 'state', ...at, id: first.id },
          });
      }
    }
  for (const c of store.all('clips'))
    for (const q of c.cues)
      actionsIn(q.actions, `${c.name} at ${q.t.toFixed(2)} s`, `${c.name} at ${q.t.toFixed(2)} s`, {
        ...{ kind: 'cue', clip: c.id, id: q.id },
      });
  for (const x of store.all('cueSheets'))
    for (const q of cuesIn(x)) {
      const select: Selected = { kind: 'sheetCue', sheet: x.id, id: q.id };
      if (q.wait && names(q.wait))
        out.push({
          ...{ sets: false, who: `${x.name}: ${q.name}`, when: '', select },
          words: `waits until ${eventWords(store, q.wait)}`,
        });
      actionsIn(q.actions, `${x.name}: ${q.name}`, `${q.name} comes`, select);
    }
  for (const f of store.all('follows')) {
    if (!names(f.source)) continue;
    const { target } = f;
    const machine = store
      .all('machines')
      .find((m) => 'lane' in target && m.lanes.some((l) => l.id === target.lane));
    const object = 'object' in target ? target.object : machine?.object;
    if (object !== undefined)
      out.push({
        sets: false,
        who: nameOf(store, object),
        words: 'follows it',
        when: '',
        select: { kind: 'object', id: object },
      });
  }
  return out;
}
