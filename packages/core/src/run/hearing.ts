/**
 * Events of some kind: under which name their listeners stand, so that they are found without asking everybody, and which
 * event a listener means. Features have kinds of their own; those of the spine, and those that two features need, are here.
 */
import type { On, SceneObject } from '../model/index.ts';
import type { QueuedEvent } from './events.ts';
import type { TraceRecord } from './trace.ts';

/** What of a program tells who is where in the tree. */
interface Tree {
  readonly objects: readonly SceneObject[];
  readonly objectIndex: ReadonlyMap<string, number>;
  readonly geometry: { readonly parent: Int32Array };
}

/** Whose a listener is, by id: what is meant when an `on` names nothing. */
export interface Owner {
  readonly object: string;
  readonly lane?: string;
  readonly reaction?: string;
}

/** Who listens, while an event is served. */
interface Listener {
  /** Number of the object that it belongs to; null for one that belongs to none and means whatever it happens to. */
  readonly object: number | null;
  /** Its own lane and reaction, by id, where it is one; of a lane the entry of its state. */
  readonly lane?: string | undefined;
  readonly reaction?: string | undefined;
  readonly entry?: number | undefined;
  /** The id of the place where it was spawned, if it was. */
  readonly place?: string | undefined;
  /** The object above which the event does not go, −1 for none. */
  readonly stop: number;
}

export interface Hearing {
  /** It happens at a point and is found by object: from the innermost up through its parents, or there alone. */
  readonly atPoint?: 'up' | 'there';
  /** The narrowest thing that `on` names: the listener stands under it; '' for whatever. */
  subject(on: On, owner: Owner): string;
  /** Under what else than '' listeners to this record may stand. */
  subjects(rec: TraceRecord): readonly (string | undefined)[];
  /** Whether the event is the one that `on`, which is of its kind, means. */
  means(tree: Tree, on: On, e: QueuedEvent, listener: Listener): boolean;
}

const idOf = (tree: Tree, object: number | null) => (object === null ? undefined : tree.objects[object]?.id);

/** Fields of an `on` that do not name what the event is of. */
const NO_NAMES: ReadonlySet<string> = new Set([
  ...['event', 'other', 'tags', 'collider', 'answer'],
  ...['after', 'every', 'jitter', 'object', 'key'],
]);

/** Whether a record is of all that `on` names, whatever fields these are. */
export function isOfNamed(on: On, rec: TraceRecord): boolean {
  for (const field in on) {
    const named = on[field as keyof On];
    if (named !== undefined && !NO_NAMES.has(field) && named !== rec[field as keyof TraceRecord])
      return false;
  }
  if (on.key !== undefined && on.key.toLowerCase() !== rec.key?.toLowerCase()) return false;
  return on.object === undefined || rec.object === undefined || on.object === rec.object;
}

/** What is told by names alone: signals, messages, keys, clips, cues, sheets. */
export const NAMED: Hearing = {
  subject: (on) =>
    on.sheet ?? on.cue ?? on.lane ?? on.clip ?? on.signal ?? on.message ?? on.key?.toLowerCase() ?? '',
  subjects: (r) => [r.sheet, r.cue, r.lane, r.clip, r.signal, r.message, r.key?.toLowerCase()],
  means: (tree, on, { rec }, { object }) => isOfNamed(on, rec) && hearsTags(tree, rec, object),
};

/** Of a state or a lane: in a lane, without a name, of that itself. */
export const OF_LANE: Hearing = {
  subject: (on, owner) => on.state ?? on.lane ?? owner.lane ?? '',
  subjects: (r) => [r.state, r.lane],
  means: (_, on, { rec }, { lane }) =>
    (on.state !== undefined || on.lane !== undefined || lane === undefined || rec.lane === lane) &&
    isOfNamed(on, rec),
};

/** Of a lane without a name, its present entry alone is done. */
export const STATE_DONE: Hearing = {
  ...OF_LANE,
  means: (tree, on, e, listener) => {
    const isOwn = on.state === undefined && e.rec.lane === listener.lane;
    return (!isOwn || listener.entry === e.entry) && OF_LANE.means(tree, on, e, listener);
  },
};

/** What happens at a point of the screen. */
export const AT_POINT: Hearing = {
  atPoint: 'up',
  subject: (on, owner) => on.collider ?? on.object ?? owner.object,
  subjects: () => [],
  means: (tree, on, { rec, object: at }, { object, stop }) => {
    if (object === null && on.object === undefined && on.collider === undefined) return true;
    // Dropped into a zone, whatever it is unless it is named.
    if (on.collider !== undefined) {
      if (rec.colliders?.includes(on.collider) !== true) return false;
      return on.object === undefined || isBelow(tree, at, tree.objectIndex.get(on.object) ?? -1);
    }
    const wanted = on.object === undefined ? (object ?? -1) : (tree.objectIndex.get(on.object) ?? -1);
    for (let o = wanted < 0 ? -1 : at; o >= 0; o = tree.geometry.parent[o] as number) {
      if (o === wanted) return true;
      if (o === stop) return false;
    }
    return false;
  },
};

/** Raised once for each object, so that it goes no further. */
export const COMES_AND_GOES: Hearing = {
  ...AT_POINT,
  atPoint: 'there',
  means: (tree, on, e, listener) => {
    if (on.collider !== undefined) return false;
    if (listener.object === null && on.object === undefined) return true;
    const wanted = on.object === undefined ? listener.object : tree.objectIndex.get(on.object);
    return wanted !== undefined && wanted !== null && wanted >= 0 && wanted === e.object;
  },
};

/** What a collider has to do with a thing: of this collider, else of any of its object. */
export const OF_COLLIDER: Hearing = {
  subject: (on, owner) => on.collider ?? on.object ?? owner.object,
  subjects: (r) => [r.collider, r.object],
  means: (tree, on, { rec, other }, { object }) => {
    const thing = tree.objects[other];
    if (on.other !== undefined && thing?.id !== on.other) return false;
    if (on.tags && !on.tags.some((t) => thing?.tags.includes(t))) return false;
    if (on.collider !== undefined) return on.collider === rec.collider;
    return rec.object === (on.object ?? (object === null ? rec.object : idOf(tree, object)));
  },
};

/** Whether `inner` is `object` or lies below it. */
function isBelow({ geometry }: Tree, inner: number, object: number): boolean {
  for (let o = inner; o >= 0; o = geometry.parent[o] as number) if (o === object) return true;
  return false;
}

/** Whether an object hears a message with tags: it, or one above it, has one of them; null: whichever. */
function hearsTags(tree: Tree, { tags }: TraceRecord, object: number | null): boolean {
  if (!tags || object === null) return true;
  for (let o = object; o >= 0; o = tree.geometry.parent[o] as number)
    if (tree.objects[o]?.tags.some((t) => tags.includes(t))) return true;
  return false;
}
