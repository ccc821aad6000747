/** Copies of subtrees: new ids throughout, references inside the copy pointing into the copy. */
import type { IdKind } from '../base/index.ts';
import { replaceIds, type Schema } from '../grammar/index.ts';
import { CONTENTS } from './contents.ts';
import { namer, uniqueName } from './names.ts';
import { orderBetween } from './order.ts';
import { type AnyRecord, type Piece, RECORDS, type RecordOf, TABLES, type TableName } from './piece.ts';
import { clipsPlayed } from './plays.ts';
import { visitOwnIds, visitReferences } from './references.ts';
import { removeWithReferences, subtreesOf } from './removal.ts';
import type { SceneObject } from './scene-object.ts';
import type { Editor, PieceStore } from './store.ts';

/** Reactions; what one action or one condition says; states of a lane, or one way between two of them. */
export const DOINGS = ['reactions', 'action', 'condition', 'states', 'way'] as const;
export type Doings = (typeof DOINGS)[number];

/** Records taken out of a piece, to be put into the same or another one. */
export interface Excerpt {
  /** The topmost objects, in the order of the tree. */
  readonly roots: readonly string[];
  /** What its one root does is meant, or a part of that, not the root itself: it is put onto another object. */
  readonly doings?: Doings;
  readonly records: Pick<Piece, Copied>;
}

/** What belongs to the objects that are copied. */
const OWNED = ['clips', 'machines', 'reactions', 'follows', 'colliders'] as const;
/** What a copy shares with the original when it stays in the same piece, and brings along into another. */
const SHARED = ['tags', 'signals', 'messages', 'sounds', 'effects', 'assets'] as const;
/** The tables of which records are copied. */
const COPIED = ['objects', ...OWNED, ...SHARED, 'templates'] as const;
type Copied = (typeof COPIED)[number];

/** The objects `ids` with all below them; with their behaviour (clips, machines, reactions, zones) or as drawings only. */
export function excerpt(store: PieceStore, ids: readonly string[], withBehaviour: boolean): Excerpt {
  const asked = new Set(ids);
  const roots = [...asked].filter((id) => store.has('objects', id) && !isBelow(store, id, asked));
  const inside = subtreesOf(store, roots);
  const records = noRecords();
  for (const o of store.all('objects'))
    if (inside.has(o.id))
      records.objects[o.id] = withBehaviour || !o.colliders?.length ? o : { ...o, colliders: [] };
  if (withBehaviour) {
    for (const o of Object.values(records.objects))
      for (const id of o.colliders ?? []) {
        const zone = store.get('colliders', id);
        if (zone) records.colliders[id] = zone;
      }
    for (const c of store.all('clips')) if (inside.has(c.root)) records.clips[c.id] = c;
    for (const m of store.all('machines')) if (inside.has(m.object)) records.machines[m.id] = m;
    for (const r of store.all('reactions')) if (inside.has(r.object)) records.reactions[r.id] = r;
    for (const f of store.all('follows')) if (inside.has(followOwner(store, f))) records.follows[f.id] = f;
  }
  addShared(store, records);
  return { roots, records };
}

/**
 * What an object does, to be put onto others: reactions of it, or what one says that a cue does; or a machine that stands
 * for some states of one of its lanes, with the clips of its own that they play.
 */
export function doingsOf(
  store: PieceStore,
  object: string,
  reactions: readonly RecordOf<'reactions'>[],
  doings: Doings = 'reactions',
  machine?: RecordOf<'machines'>,
): Excerpt | null {
  const owner = store.get('objects', object);
  if (!owner || (reactions.length === 0 && !machine)) return null;
  const records = noRecords();
  if (machine) {
    records.machines[machine.id] = machine;
    for (const id of machine.lanes.flatMap((l) => l.states.flatMap((x) => clipsPlayed(x.play)))) {
      const clip = store.get('clips', id);
      if (clip?.root === object) records.clips[id] = clip;
    }
  }
  const { id, name, order, base } = owner;
  const stand = { id, name, parent: null, order, base, tags: [], hint: '', kind: 'group' as const };
  for (const r of reactions) records.reactions[r.id] = { ...r, object };
  addShared(store, records);
  records.objects[id] = stand;
  return { roots: [id], doings, records };
}

const noRecords = () => Object.fromEntries(COPIED.map((t) => [t, {}])) as unknown as Excerpt['records'];

/** Takes along what the records name that a copy shares with the original. */
function addShared(store: PieceStore, records: Excerpt['records']): void {
  const need = (kind: string, id: string) => {
    const template = kind === 'templates' && !records.templates[id] ? store.template(id) : undefined;
    if (template) {
      records.templates[id] = template;
      for (const t of CONTENTS)
        for (const r of Object.values(template[t])) visitReferences(t, r as never, need);
    }
    for (const t of SHARED) {
      const r = kind === t ? store.get(t, id) : undefined;
      if (r) (records[t] as Record<string, AnyRecord>)[id] = r;
    }
  };
  // Sounds last: they name assets, and are found by what comes before.
  for (const t of ['objects', ...OWNED, 'sounds'] as const)
    for (const r of Object.values(records[t])) visitReferences(t, r as never, need);
}

/** The object whose property, or whose machine's clip, follows. */
export function followOwner(store: PieceStore, { target }: RecordOf<'follows'>): string {
  if ('object' in target) return target.object;
  const machine = store.all('machines').find((m) => m.lanes.some((l) => l.id === target.lane));
  return machine?.object ?? '';
}

/** Whether the object lies below any of `above`. */
function isBelow(store: PieceStore, id: string, above: ReadonlySet<string>): boolean {
  let at = store.get('objects', id)?.parent ?? null;
  while (at !== null && !above.has(at)) at = store.get('objects', at)?.parent ?? null;
  return at !== null;
}

/** A reference of the copy that leads out of it, in words for whoever copied. */
export interface OutsideReference {
  readonly kind: string;
  readonly id: string;
}

/**
 * Puts an excerpt into the piece of `e` under `parent` (or, by root, under several); `newId` must give ids that are free. Shared records (signals,
 * tags, …) that the piece already has are used, others are added. References to objects, clips or states that are
 * neither in the copy nor in the piece take what holds them along, as deleting would. Of doings, `onto` is the object
 * that does them from now on. Returns the new roots and what the copy still points at outside itself.
 */
export function insertExcerpt(
  e: Editor,
  x: Excerpt,
  parent: string | null | ((root: SceneObject) => string | null),
  newId: (kind: IdKind) => string,
  onto: string | null = null,
): { roots: string[]; outside: OutsideReference[] } {
  const { store } = e;
  const ids = new Map<string, string>();
  for (const t of ['objects', ...OWNED] as const)
    for (const [id, r] of Object.entries(x.records[t])) {
      ids.set(id, newId(t));
      visitOwnIds(t, r as never, (kind, own) => void ids.set(own, newId(kind as IdKind)));
    }
  if (onto !== null) for (const id of x.roots) ids.set(id, onto);
  const brought = Object.values(x.records.templates).filter((t) => !store.has('templates', t.id));
  for (const template of brought) {
    ids.set(template.id, newId('templates'));
    for (const t of CONTENTS)
      for (const r of Object.values(template[t]) as AnyRecord[]) {
        ids.set(r.id, newId(t));
        visitOwnIds(t, r as never, (kind, id) => void ids.set(id, newId(kind as IdKind)));
      }
  }
  const own = new Set(ids.values());
  const outside = new Map<string, OutsideReference>();
  const detect = (kind: string, id: string) => {
    const shared = kind === 'templates' || (SHARED as readonly string[]).includes(kind);
    if (!shared && !own.has(id)) outside.set(id, { kind, id });
  };
  for (const t of SHARED)
    for (const [id, r] of Object.entries(x.records[t])) {
      if (store.has(t, id)) continue;
      const taken = new Set(store.all(t).map((o) => o.name));
      // What an effect draws may be in the copy, or be left behind.
      const copy = t === 'effects' ? withIds(t, r as RecordOf<'effects'>, ids) : r;
      if (t === 'effects') visitReferences(t, copy as never, detect);
      e.add(t, { ...copy, name: uniqueName(r.name, taken) } as never);
    }
  const names = namer(store.all('templates').map((t) => t.name));
  for (const { id, name, max, ...contents } of brought) {
    const copy = ids.get(id) as string;
    e.add('templates', { id: copy, name: names(name), max });
    for (const t of CONTENTS)
      for (const r of Object.values(contents[t])) {
        const inner = withIds(t, r as never, ids);
        visitReferences(t as TableName, inner as never, detect);
        e.add(t, inner as never, undefined, copy);
      }
  }
  const roots = new Set(x.roots);
  const places = new Places(store);
  for (const [id, o] of Object.entries(x.records.objects)) {
    if (onto !== null && roots.has(id)) continue;
    const copy = withIds('objects', o, ids);
    // A mask may lie outside the copy; the roots get another parent.
    visitReferences('objects', roots.has(id) ? { ...copy, parent: null } : copy, detect);
    const under = typeof parent === 'function' ? parent(o) : parent;
    e.add('objects', roots.has(id) ? { ...copy, parent: under, ...places.next(under, o.name) } : copy);
  }
  for (const t of OWNED)
    for (const r of Object.values(x.records[t])) {
      const copy = withIds(t, r as never, ids);
      visitReferences(t as TableName, copy as never, detect);
      e.add(t, copy as never);
    }
  const known = knownIds(store);
  const missing = [...outside.keys()].filter((id) => !known.has(id));
  if (missing.length > 0) removeWithReferences(e, missing);
  return { roots: x.roots.map((id) => ids.get(id) as string), outside: [...outside.values()] };
}

/** Names and places for objects that come last among the children of a parent. */
class Places {
  private readonly store: PieceStore;
  private readonly known = new Map<string | null, { last: string | null; name: (wish: string) => string }>();

  constructor(store: PieceStore) {
    this.store = store;
  }

  next(parent: string | null, wish: string): { name: string; order: string } {
    let place = this.known.get(parent);
    if (!place) {
      const siblings = this.store.all('objects').filter((s) => s.parent === parent);
      const last = siblings.reduce<string | null>((a, s) => (a === null || s.order > a ? s.order : a), null);
      place = { last, name: namer(siblings.map((s) => s.name)) };
      this.known.set(parent, place);
    }
    place.last = orderBetween(place.last, null);
    return { name: place.name(wish), order: place.last };
  }
}

/** Every id that the piece has, of records and of what lies in them. */
export function knownIds(store: PieceStore): Set<string> {
  const all = new Set<string>();
  for (const t of TABLES)
    for (const r of store.everywhere(t)) {
      all.add(r.id);
      visitOwnIds(t, r as never, (_, id) => void all.add(id));
    }
  return all;
}

/** A record, or some of its fields, with ids replaced wherever they stand for something. */
export function withIds<T extends TableName, R extends Partial<RecordOf<T>>>(
  table: T,
  record: R,
  ids: ReadonlyMap<string, string>,
): R {
  const copy = replaceIds(RECORDS[table] as Schema, record, ids) as R;
  const tracks = (copy as Partial<RecordOf<'clips'>>).tracks;
  if (table !== 'clips' || !tracks) return copy;
  const value = (x: unknown) => ids.get(String(x)) ?? x;
  return {
    ...copy,
    tracks: tracks.map((t) =>
      t.property === 'look' ? { ...t, keys: t.keys.map((k) => ({ ...k, value: value(k.value) })) } : t,
    ),
  };
}
