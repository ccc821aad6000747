/** Who listens to what: each listener stands in one bucket of its event, under the narrowest thing that it names. */
import type { EventName } from '../model/index.ts';
import type { Hearing } from './hearing.ts';
import type { TraceRecord } from './trace.ts';

/** By event, then by id of what is listened to ('' for whatever), numbers of listeners in document order. */
export type Listeners = ReadonlyMap<EventName, ReadonlyMap<string, readonly number[]>>;

export class ListenerTable {
  readonly #map = new Map<EventName, Map<string, number[]>>();

  add(event: EventName, subject: string, listener: number): void {
    const bySubject = this.#map.get(event) ?? new Map<string, number[]>();
    this.#map.set(event, bySubject);
    const list = bySubject.get(subject) ?? [];
    bySubject.set(subject, list);
    if (list.at(-1) !== listener) list.push(listener);
  }

  get table(): Listeners {
    return this.#map;
  }
}

const NONE: readonly number[] = [];

/** The listeners that may mean what this record tells, in document order; not of what happens at a point. */
export function listenersTo(listeners: Listeners, hearing: Hearing, rec: TraceRecord): readonly number[] {
  const bySubject = rec.event && listeners.get(rec.event);
  if (!bySubject) return NONE;
  let found = bySubject.get('') ?? NONE;
  let several: Set<number> | null = null;
  for (const subject of hearing.subjects(rec)) {
    const list = subject === undefined ? undefined : bySubject.get(subject);
    if (!list) continue;
    if (found.length === 0) found = list;
    else {
      several ??= new Set(found);
      for (const i of list) several.add(i);
    }
  }
  return several ? [...several].sort((a, b) => a - b) : found;
}
