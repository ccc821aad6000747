/** Copies of subtrees: new ids throughout, references inside the copy pointing into the copy. */
import type { IdKind } from '../base/index.ts';
import { type Form, replaceIds } from '../grammar/index.ts';
import { uniqueName } from './names.ts';
import { orderBetween } from './order.ts';
import { type AnyRecord, type Piece, RECORDS, type RecordOf, TABLES, type TableName } from './piece.ts';
import { visitOwnIds, visitReferences } from './references.ts';
import { removeWithReferences, subtreeOf } from './removal.ts';
import type { Editor, PieceStore } from './store.ts';

/** Records taken out of a piece, to be put into the same or another one. */
export interface Excerpt {
  /** The topmost objects, in the order of the tree. */
  readonly roots: readonly string[];
  readonly records: Pick<
    Piece,
    'objects' | 'tags' | 'clips' | 'signals' | 'messages' | 'machines' | 'reactions' | 'sounds' | 'assets'
  >;
}

const OWNED = ['clips', 'machines', 'reactions'] as const;
/** What a copy shares with the original when it stays in the same piece, and brings along into another. */
const SHARED = ['tags', 'signals', 'messages', 'sounds', 'assets'] as const;

/** The objects `ids` with all below them; with their behaviour (clips, machines, reactions) or as drawings only. */
export function excerpt(store: PieceStore, ids: readonly string[], withBehaviour: boolean): Excerpt {
  const roots = ids.filter(
    (id) => store.has('objects', id) && !ids.some((o) => o !== id && isBelow(store, id, o)),
  );
  const inside = new Set<string>();
  for (const r of roots) for (const id of subtreeOf(store, r)) inside.add(id);
  const records: Excerpt['records'] = {
    objects: {},
    tags: {},
    clips: {},
    signals: {},
    messages: {},
    machines: {},
    reactions: {},
    sounds: {},
    assets: {},
  };
  for (const o of store.all('objects')) if (inside.has(o.id)) records.objects[o.id] = o;
  if (withBehaviour) {
    for (const c of store.all('clips')) if (inside.has(c.root)) records.clips[c.id] = c;
    for (const m of store.all('machines')) if (inside.has(m.object)) records.machines[m.id] = m;
    for (const r of store.all('reactions')) if (inside.has(r.object)) records.reactions[r.id] = r;
  }
  const need = (kind: string, id: string) => {
    for (const t of SHARED) {
      const r = kind === t ? store.get(t, id) : undefined;
      if (r) (records[t] as Record<string, AnyRecord>)[id] = r;
    }
  };
  // Sounds last: they name assets, and are found by what comes before.
  for (const t of ['objects', ...OWNED, 'sounds'] as const)
    for (const r of Object.values(records[t])) visitReferences(t, r as never, need);
  return { roots, records };
}

function isBelow(store: PieceStore, id: string, above: string): boolean {
  for (
    let o = store.get('objects', id);
    o;
    o = o.parent === null ? undefined : store.get('objects', o.parent)
  )
    if (o.id === above) return true;
  return false;
}

/** A reference of the copy that leads out of it, in words for whoever copied. */
export interface OutsideReference {
  readonly kind: string;
  readonly id: string;
}

/**
 * Puts an excerpt into the piece of `e` under `parent`; `newId` must give ids that are free. Shared records (signals,
 * tags, …) that the piece already has are used, others are added. References to objects, clips or states that are
 * neither in the copy nor in the piece take what holds them along, as deleting would. Returns the new roots and what
 * the copy still points at outside itself.
 */
export function insertExcerpt(
  e: Editor,
  x: Excerpt,
  parent: string | null,
  newId: (kind: IdKind) => string,
): { roots: string[]; outside: OutsideReference[] } {
  const { store } = e;
  const ids = new Map<string, string>();
  for (const t of ['objects', ...OWNED] as const)
    for (const [id, r] of Object.entries(x.records[t])) {
      ids.set(id, newId(t));
      visitOwnIds(t, r as never, (kind, own) => void ids.set(own, newId(kind as IdKind)));
    }
  for (const t of SHARED)
    for (const [id, r] of Object.entries(x.records[t])) {
      if (store.has(t, id)) continue;
      const taken = new Set(store.all(t).map((o) => o.name));
      e.add(t, { ...r, name: uniqueName(r.name, taken) } as never);
    }
  const own = new Set(ids.values());
  const outside: OutsideReference[] = [];
  const notice = (kind: string, id: string) => {
    const shared = (SHARED as readonly string[]).includes(kind);
    if (!shared && !own.has(id) && !outside.some((o) => o.id === id)) outside.push({ kind, id });
  };
  for (const [id, o] of Object.entries(x.records.objects)) {
    const copy = withIds('objects', o, ids);
    // A mask may lie outside the copy; the roots get another parent below.
    visitReferences('objects', x.roots.includes(id) ? { ...copy, parent: null } : copy, notice);
    if (!x.roots.includes(id)) e.add('objects', copy);
    else {
      const siblings = store.all('objects').filter((s) => s.parent === parent);
      const last = siblings.reduce<string | null>((a, s) => (a === null || s.order > a ? s.order : a), null);
      const name = uniqueName(o.name, new Set(siblings.map((s) => s.name)));
      e.add('objects', { ...copy, parent, name, order: orderBetween(last, null) });
    }
  }
  for (const t of OWNED)
    for (const r of Object.values(x.records[t])) {
      const copy = withIds(t, r as never, ids);
      visitReferences(t as TableName, copy as never, notice);
      e.add(t, copy as never);
    }
  const known = knownIds(store);
  const missing = outside.filter((o) => !known.has(o.id)).map((o) => o.id);
  if (missing.length > 0) removeWithReferences(e, missing);
  return { roots: x.roots.map((id) => ids.get(id) as string), outside };
}

/** Every id that the piece has, of records and of what lies in them. */
export function knownIds(store: PieceStore): Set<string> {
  const all = new Set<string>();
  for (const t of TABLES)
    for (const r of store.all(t)) {
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
  const copy = replaceIds(RECORDS[table] as Form, record, ids) as R;
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
