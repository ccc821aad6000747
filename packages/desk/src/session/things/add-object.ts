/** New objects, placed beside or below what is chosen. */
import { uniqueName } from '@apple-tick/core/model';
import { capital, type DrawnKind, KIND_WORDS, topOf } from '../model-help.ts';
import type { Session } from '../session.ts';
import { newObject } from './new-object.ts';

export function addObject(s: Session, kind: DrawnKind): void {
  const id = s.newId('objects');
  const all = s.store.all('objects');
  const chosen = s.state.object === null ? undefined : s.store.get('objects', s.state.object);
  const parent = chosen?.kind === 'group' ? chosen.id : (chosen?.parent ?? topOf(s.store));
  const siblings = all.filter((o) => o.parent === parent);
  const name = uniqueName(capital(KIND_WORDS[kind]), new Set(siblings.map((o) => o.name)));
  const made = newObject(s.store, kind, id, name, parent);
  s.edit(`Added ${name}`, (e) => e.add('objects', made));
  s.chooseNew(id);
}
