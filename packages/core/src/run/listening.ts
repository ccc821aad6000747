/**
 * Who listens to what, found without asking everybody: each listener stands in one bucket of its event, under the
 * narrowest thing that it names. Whether an event really is the one listened to says `onMatches`.
 */
import { type EventName, isSameKey, type On } from '../model/index.ts';
import type { TraceRecord } from './trace.ts';

/** By event, then by id of what is listened to ('' for whatever), numbers of listeners in document order. */
export type Listeners = ReadonlyMap<EventName, ReadonlyMap<string, readonly number[]>>;

/** The narrowest thing that `on` names. `own`: what is meant when it names none. */
export function subjectOf(
  on: On,
  own: { readonly object: string; readonly lane?: string; readonly reaction?: string },
): string {
  const { event } = on;
  if (isNoticed(event)) return on.collider ?? on.object ?? own.object;
  if (isPointed(event)) return on.collider ?? on.object ?? own.object;
  if (event === 'timer') return own.reaction ?? '';
  if (isOfCaption(event)) return on.answer ?? on.object ?? own.object;
  if (event.startsWith('state.') || event === 'lane.done') return on.state ?? on.lane ?? own.lane ?? '';
  if (isOfSpawned(event)) return on.object ?? on.template ?? '';
  return on.sheet ?? on.cue ?? on.lane ?? on.clip ?? on.signal ?? on.message ?? on.key?.toLowerCase() ?? '';
}

/** Whether the event happens at a point of the screen, so that it goes from the innermost object up. */
export function isPointed(event: EventName): boolean {
  return event.startsWith('pointer.') || event.startsWith('drag.');
}

/** Whether the event is that a zone has noticed something, or that a blocker is touched. */
export function isNoticed(event: EventName): boolean {
  return event.startsWith('zone.') || event.startsWith('near.') || event.startsWith('touch.');
}

/** Whether the event is of a caption: without a name, of the one that the listener's own object has. */
function isOfCaption(event: EventName): boolean {
  return event.startsWith('caption.');
}

/** Whether the event is that something is spawned, or goes. */
function isOfSpawned(event: EventName): boolean {
  return event.startsWith('spawn.');
}

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

/** The listeners that may mean what this record tells, in document order. Pointer events are found by object. */
export function listenersTo(listeners: Listeners, rec: TraceRecord): readonly number[] {
  const bySubject = rec.event && listeners.get(rec.event);
  if (!rec.event || !bySubject) return NONE;
  // Timers may be thousands at once: each is heard by its own reaction alone.
  if (rec.event === 'timer') return bySubject.get(rec.reaction as string) ?? NONE;
  let found = NONE;
  let several: Set<number> | null = null;
  for (const subject of [
    '',
    rec.state,
    rec.lane,
    rec.clip,
    rec.cue,
    rec.signal,
    rec.message,
    rec.key?.toLowerCase(),
    rec.reaction,
    rec.collider,
    rec.answer,
    rec.sheet,
    rec.template,
    rec.collider !== undefined || isOfCaption(rec.event) || isOfSpawned(rec.event) ? rec.object : undefined,
  ]) {
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

/** What an event must be of, for the one who asks. */
export interface Asker {
  /** Its own lane and reaction, by id, where it is one. */
  readonly lane?: string | undefined;
  readonly reaction?: string | undefined;
  /** The object that it belongs to, by id. */
  readonly object?: string | undefined;
  /** The id of the place where it was spawned, if it was: of what is spawned or goes it hears itself alone. */
  readonly place?: string | undefined;
}

/** Whether an event that is not the pointer's is the one that `on` means. */
export function onMatches(on: On, rec: TraceRecord, asker: Asker): boolean {
  if (rec.event !== on.event) return false;
  if (on.event === 'timer') return rec.reaction === asker.reaction;
  if (isOfCaption(on.event)) {
    if (on.answer !== undefined && on.answer !== rec.answer) return false;
    return (on.object ?? (on.answer === undefined ? asker.object : rec.object)) === rec.object;
  }
  if (isOfSpawned(on.event) && on.object === undefined && asker.place !== undefined)
    if (rec.object !== asker.place) return false;
  const inLane = on.event.startsWith('state.') || on.event === 'lane.done';
  // In a lane, a state's event without a name means the lane's own.
  const lane = on.lane ?? (inLane && on.state === undefined ? asker.lane : undefined);
  return (
    (lane === undefined || rec.lane === lane) &&
    (on.signal === undefined || on.signal === rec.signal) &&
    (on.message === undefined || on.message === rec.message) &&
    (on.key === undefined || isSameKey(on.key, rec.key)) &&
    (on.state === undefined || on.state === rec.state) &&
    (on.clip === undefined || on.clip === rec.clip) &&
    (on.cue === undefined || on.cue === rec.cue) &&
    (on.sheet === undefined || on.sheet === rec.sheet) &&
    (on.template === undefined || on.template === rec.template) &&
    (on.object === undefined || rec.object === undefined || on.object === rec.object)
  );
}
