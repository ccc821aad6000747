/**
 * Taking something away together with whatever cannot be without it. A part that only names what is gone (a
 * condition, an action, a track) goes; what would lose its reason (a reaction to it, a transition on it) goes whole.
 */
import { GONE, type GoneRules, withoutIds } from '../grammar/index.ts';
import { CONTENTS } from './contents.ts';
import type { Lane, Transition } from './machine.ts';
import { RECORDS, type RecordOf, TABLES, type TableName } from './piece.ts';
import { visitOwnIds, visitReferences } from './references.ts';
import type { Editor, PieceStore } from './store.ts';

/** The ids of an object and of everything below it. */
export function subtreeOf(store: PieceStore, root: string): Set<string> {
  return subtreesOf(store, [root]);
}

/** The ids of objects and of everything below them. */
export function subtreesOf(store: PieceStore, roots: readonly string[]): Set<string> {
  const children = new Map<string, string[]>();
  for (const o of store.everywhere('objects')) {
    if (o.parent === null) continue;
    const list = children.get(o.parent);
    if (list) list.push(o.id);
    else children.set(o.parent, [o.id]);
  }
  const all = new Set<string>();
  const stack = roots.toReversed();
  for (let id = stack.pop(); id !== undefined; id = stack.pop()) {
    if (all.has(id)) continue;
    all.add(id);
    stack.push(...(children.get(id) ?? []));
  }
  return all;
}

/**
 * Removes the records `ids` (objects with all below them, and the machines, clips and zones they own) and mends what
 * pointed at any of them, so that the piece has no reference that leads nowhere.
 */
export function removeWithReferences(e: Editor, ids: Iterable<string>): void {
  const { store } = e;
  const gone = new Set<string>();
  for (const id of subtreesOf(store, [...ids])) gone.add(id);
  for (const t of store.all('templates'))
    if (gone.has(t.id))
      for (const table of CONTENTS) for (const r of store.within(table, t.id)) gone.add(r.id);
  for (const c of store.everywhere('clips')) if (gone.has(c.root)) gone.add(c.id);
  for (const m of store.everywhere('machines')) if (gone.has(m.object)) gone.add(m.id);
  for (const o of store.everywhere('objects'))
    if (gone.has(o.id)) for (const c of o.colliders ?? []) gone.add(c);
  for (const table of TABLES)
    for (const r of store.everywhere(table))
      if (gone.has(r.id)) visitOwnIds(table, r as never, (_, id) => void gone.add(id));
  // What is mended may lose parts that others name (a lane without a state, a clip without a key): again, until none is.
  for (let known = -1; known !== gone.size; ) {
    known = gone.size;
    for (const table of MENDED)
      for (const r of store.everywhere(table)) {
        if (gone.has(r.id)) continue;
        const left = without(table, r, gone);
        if (left === r) continue;
        for (const id of ownIds(table, r)) if (left === null || !ownIds(table, left).has(id)) gone.add(id);
        if (left === null) gone.add(r.id);
        else e.update(table, r.id, () => left as never);
      }
  }
  const { visitor } = store.head;
  if (visitor && gone.has(visitor.object)) e.head((h) => ({ ...h, visitor: null }));
  else if (visitor && typeof visitor.speed === 'object' && gone.has(visitor.speed.signal))
    e.head((h) => ({ ...h, visitor: { ...visitor, speed: 160 } }));
  const assets = assetsOf(store, (id) => gone.has(id));
  const templates = store.ids('templates').filter((id) => gone.has(id));
  const tables = TABLES.filter((t) => t !== 'objects' && t !== 'assets' && t !== 'templates').toReversed();
  for (const table of tables)
    for (const { id } of store.everywhere(table).reverse()) if (gone.has(id)) e.remove(table, id);
  for (const { id } of store.everywhere('objects').reverse()) if (gone.has(id)) e.remove('objects', id);
  // What lies in a template goes before it, so that it comes back before them.
  for (const id of templates) e.remove('templates', id);
  removeUnused(e, assets);
}

/** Removes those assets that nothing shows any more: they would only make the piece heavy. */
export function removeUnused(e: Editor, assets: ReadonlySet<string>): void {
  if (assets.size === 0) return;
  const used = assetsOf(e.store, () => true);
  for (const id of assets) if (!used.has(id) && e.store.has('assets', id)) e.remove('assets', id);
}

function ownIds<T extends TableName>(table: T, record: RecordOf<T>): Set<string> {
  const ids = new Set<string>();
  visitOwnIds(table, record, (_, id) => void ids.add(id));
  return ids;
}

/** The tables whose records may name something that goes. */
const MENDED = [
  'reactions',
  'follows',
  'machines',
  'clips',
  'colliders',
  'effects',
  'cueSheets',
  'objects',
] as const;

/** The assets of the objects and sounds that `which` picks. */
export function assetsOf(store: PieceStore, which: (id: string) => boolean): Set<string> {
  const found = new Set<string>();
  for (const table of ['objects', 'sounds'] as const)
    for (const r of store.everywhere(table))
      if (which(r.id))
        visitReferences(table, r, (kind, id) => {
          if (kind === 'assets') found.add(id);
        });
  return found;
}

/** The record without what names something gone; null when nothing sensible is left of it. */
function without<T extends TableName>(
  table: T,
  record: RecordOf<T>,
  gone: ReadonlySet<string>,
): RecordOf<T> | null {
  const left = withoutIds(RECORDS[table], record, gone, RULES);
  if (left === GONE) return null;
  return table === 'clips'
    ? (withoutLookKeys(left as RecordOf<'clips'>, gone) as RecordOf<T>)
    : (left as RecordOf<T>);
}

const RULES: GoneRules = {
  onDelete: { 'first state': (lane) => (lane as Lane).states[0]?.id },
  // A transition that lost its only reason stays, but as one not yet set.
  after: { 'transition is set': (t) => ({ ...t, set: (t as Transition).set && isSet(t as Transition) }) },
};

/** Keys of the property `look` that give a look which is gone. */
function withoutLookKeys(clip: RecordOf<'clips'>, gone: ReadonlySet<string>): RecordOf<'clips'> {
  const names = (k: { value: unknown }) => gone.has(String(k.value));
  if (!clip.tracks.some((t) => t.property === 'look' && t.keys.some(names))) return clip;
  const tracks = clip.tracks.flatMap((t) => {
    if (t.property !== 'look') return [t];
    const keys = t.keys.filter((k) => !names(k));
    return keys.length > 0 ? [{ ...t, keys }] : [];
  });
  return { ...clip, tracks };
}

/** Whether a transition has an event, a condition, a not-before or odds: what the editor stores in `set`. */
export function isSet(t: Pick<Transition, 'on' | 'when' | 'notBefore' | 'odds'>): boolean {
  return t.on !== null || t.when.length > 0 || t.notBefore !== null || t.odds !== null;
}
