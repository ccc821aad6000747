/** Lists in which what is missing can be made: a new signal, message, sound or effect is picked like one that is there. */
import type { Action, SignalType } from '@apple-tick/core/model';
import { addEffect, type EffectKind } from '../../features/effects/edit.ts';
import { addSheet } from '../../features/sheets/edit.ts';
import { addMade } from '../../features/sounds/edit.ts';
import type { Session } from '../session.ts';
import { usesOf } from '../words/uses.ts';
import { addMessage, addSignal, WISH } from './signals.ts';

const TABLES = ['signals', 'messages', 'sounds', 'effects', 'cueSheets'] as const;
/** What was made on the way by an action that was picked, and may go with it. */
const made = new WeakMap<Session, Set<string>>();

/** Does something for an action that is picked, and remembers what had to be made for it. */
export function makingFor<T>(s: Session, work: () => T): T {
  const before = new Set(TABLES.flatMap((t) => s.store.ids(t)));
  const done = work();
  const mine = made.get(s) ?? new Set();
  made.set(s, mine);
  for (const t of TABLES) for (const id of s.store.ids(t)) if (!before.has(id)) mine.add(id);
  return done;
}

/** Puts an action in the place of another: what was made for that one, and nothing else uses, goes in the same step. */
export function replacing(s: Session, before: Action | undefined, after: Action, put: () => void): void {
  const names = (x: unknown, id: string) => JSON.stringify(x ?? null).includes(`"${id}"`);
  const mine = made.get(s);
  const left = [...(mine ?? [])].filter((id) => names(before, id) && !names(after, id));
  if (left.length === 0) return put();
  s.step('Changed an action', () => {
    put();
    for (const id of left) {
      const table = TABLES.find((t) => s.store.has(t, id));
      if (table && usesOf(s.store, id).length === 0)
        s.edit('Dropped what nothing uses', (e) => e.remove(table, id));
      mine?.delete(id);
    }
  });
}

/** Before what is to be made, where the others have their ids. */
const NEW = '(new) ';
/** What a list offers to make: signals of these types, effects of these kinds, a message, or a cue sheet. */
export function offered(...kinds: readonly (SignalType | EffectKind | 'message' | 'scene')[]) {
  return { group: 'New', options: kinds.map((k) => [NEW + k, `a new ${k}`] as const) };
}
/** Likewise sounds, by the names of how they are made. */
export function offeredSounds(synths: readonly string[]) {
  return { group: 'New', options: synths.map((x) => [`${NEW}sound ${x}`, x] as const) };
}

/** The id of what was picked, which is made if it is to be. Within a step, so that it is one with what picks it. */
export function picked(s: Session, value: string): string {
  if (!value.startsWith(NEW)) return value;
  const [kind, synth] = value.slice(NEW.length).split(' ') as [
    SignalType | EffectKind | 'message' | 'sound' | 'scene',
    string?,
  ];
  if (kind === 'scene') return addSheet(s);
  if (kind === 'message') return addMessage(s, 'ready');
  if (kind === 'burst' || kind === 'flash' || kind === 'shake') return addEffect(s, kind);
  return kind === 'sound' ? addMade(s, synth ?? 'bell') : addSignal(s, kind, WISH[kind]);
}
