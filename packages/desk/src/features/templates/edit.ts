/** Templates: made of what is chosen, placed again, opened in place, cut loose. */
import {
  type AnyRecord,
  CONTENTS,
  type ContentName,
  canBegin,
  defaultBase,
  followOwner,
  type Given,
  type KindOf,
  namer,
  orderBetween,
  type SceneObject,
  type Signal,
  type SignalValue,
  sizeOf,
  subtreeOf,
  TABLES,
  type TableName,
  type Vec3,
  visitOwnIds,
  visitReferences,
  withIds,
} from '@apple-tick/core/model';
import { type Editor, type PieceStore, topOf } from '../../session/model-help.ts';
import type { Session } from '../../session/session.ts';
import { chosenWords, holdsScope, joinUnderRoot, topmost } from '../../session/things/arrange.ts';
import { lastOrder } from '../../session/things/new-object.ts';
import { nameOf } from '../../session/words/words.ts';

export type Instance = KindOf<'instance'>;

/** The objects that are uses of a template, wherever they lie. */
export function usesOfTemplate(store: PieceStore, template: string): Instance[] {
  return store
    .everywhere('objects')
    .filter((o): o is Instance => o.kind === 'instance' && o.template === template);
}

export function timesWords(n: number): string {
  return n === 0 ? 'not placed yet' : n === 1 ? 'in one place' : `in ${n} places`;
}

// Making one.

/** A template of what is chosen, and an instance of it in its place; several things are put into a group first. */
export function makeTemplate(s: Session): void {
  if (s.state.readOnly || s.chosen.length === 0) return;
  const several = topmost(s).length > 1;
  const name = chosenWords(s, topmost(s));
  s.step(`Made a template of ${name}`, () => {
    if (several) joinUnderRoot(s);
    const root = s.store.get('objects', s.state.object ?? '');
    if (!root) return;
    const why = refusal(s.store, root.id);
    if (why) return s.set({ notice: why });
    const [template, instance] = [s.newId('templates'), s.newId('objects')];
    s.edit(`Made a template of ${root.name}`, (e) => takeOut(e, root, template, instance));
    s.select({ kind: 'object', id: instance });
  });
}

/** Why no template can be made of an object, or null. */
function refusal(store: PieceStore, root: string): string | null {
  const inside = subtreeOf(store, root);
  const name = store.get('objects', root)?.name;
  const { visitor } = store.head;
  if (visitor && inside.has(visitor.object))
    return `${name} holds the visitor, of which there is only one: no template can be made of it.`;
  const { scope } = store;
  if (scope === null) return null;
  // What lies in a template can name what is in it and the piece, and nothing of another template.
  const moved = contentsOf(store, inside);
  const ids = idsOf(moved);
  let named: string | undefined;
  for (const [table, records] of moved)
    for (const r of records)
      visitReferences(table, r as never, (_, id) => {
        const first = id.split('/')[0] as string;
        if (!ids.has(first) && store.homeOf(first) === scope && r.id !== root) named ??= first;
      });
  return named === undefined
    ? null
    : `${name} goes by ${nameOf(store, named)}, which lies beside it in this template: put both in one group first.`;
}

type Moved = readonly (readonly [ContentName, readonly AnyRecord[]])[];

/** All records that belong to these objects, and the signals that nothing else names. */
function contentsOf(store: PieceStore, inside: ReadonlySet<string>): Moved {
  const { scope } = store;
  const of = <T extends ContentName>(table: T) => store.within(table, scope);
  const objects = of('objects').filter((o) => inside.has(o.id));
  const zones = new Set(objects.flatMap((o) => o.colliders ?? []));
  const own: [ContentName, readonly AnyRecord[]][] = [
    ['objects', objects],
    ['clips', of('clips').filter((c) => inside.has(c.root))],
    ['machines', of('machines').filter((m) => inside.has(m.object))],
    ['reactions', of('reactions').filter((r) => inside.has(r.object))],
    ['follows', of('follows').filter((f) => inside.has(followOwner(store, f)))],
    ['colliders', of('colliders').filter((c) => zones.has(c.id))],
  ];
  const moved = new Set(own.flatMap(([, records]) => records.map((r) => r.id)));
  const [mine, others] = [new Set<string>(), new Set<string>()];
  for (const table of TABLES)
    for (const r of store.everywhere(table))
      visitReferences(table, r as never, (kind, id) => {
        if (kind === 'signals') (moved.has(r.id) ? mine : others).add(id);
      });
  const speed = store.head.visitor?.speed;
  if (typeof speed === 'object') others.add(speed.signal);
  const signals = of('signals').filter((x) => mine.has(x.id) && !others.has(x.id));
  return [...own, ['signals', signals]];
}

/** The ids of records, and of what lies in them. */
function idsOf(moved: Moved): Set<string> {
  const ids = new Set<string>();
  for (const [table, records] of moved)
    for (const r of records) {
      ids.add(r.id);
      visitOwnIds(table, r as never, (_, id) => void ids.add(id));
    }
  return ids;
}

function takeOut(e: Editor, root: SceneObject, template: string, instance: string): void {
  const { store } = e;
  const moved = contentsOf(store, subtreeOf(store, root.id));
  const ids = idsOf(moved);
  const { scope } = store;
  const place = root.base.position;
  for (const [table, records] of moved) for (const r of records) e.remove(table, r.id);
  const { overlay, ...rest } = root;
  const free = namer(store.all('templates').map((t) => t.name));
  e.add('templates', { id: template, name: free(root.name), max: 64 });
  for (const [table, records] of moved)
    for (const r of records) {
      const base = { ...root.base, position: [0, 0, 0] as Vec3 };
      const own = r.id === root.id ? ({ ...rest, parent: null, base } as SceneObject) : r;
      e.add(table, besides(own, root.id, place) as never, undefined, template);
    }
  e.add(
    'objects',
    {
      ...{ id: instance, name: root.name, parent: root.parent, order: root.order, tags: [], hint: '' },
      ...{ kind: 'instance', template, signals: {}, base: { ...defaultBase(), position: place } },
      ...(overlay ? { overlay } : {}),
    } as Instance,
    undefined,
    scope,
  );
  // Whoever named what is in it from outside, names it by the way to it.
  const ways = new Map([...ids].map((id) => [id, `${instance}/${id}`]));
  for (const table of CONTENTS)
    for (const r of store.within(table, scope)) {
      const to = besides(withIds(table, r as never, ways), `${instance}/${root.id}`, place);
      if (to !== r) e.update(table, r.id, () => to as never);
    }
}

type Group = Record<string, unknown>;
const isGroup = (x: unknown): x is Group => typeof x === 'object' && x !== null && !Array.isArray(x);

/** A record in which what sets the place of an object sets it so much less: it lies in something that stands there now. */
function besides<R>(record: R, object: string, by: Vec3): R {
  const axis = (property: unknown) =>
    ['position.x', 'position.y', 'position.z'].indexOf(String(property)) as 0 | 1 | 2 | -1;
  const less = (x: Group, k: 0 | 1 | 2): Group =>
    typeof x['to'] === 'number' ? { ...x, to: x['to'] - by[k] } : x;
  const walk = (x: unknown): unknown => {
    if (Array.isArray(x)) {
      const to = x.map(walk);
      return to.every((y, i) => y === x[i]) ? x : to;
    }
    if (!isGroup(x)) return x;
    if (x['object'] === object) {
      const k = axis(x['property']);
      if (k >= 0 && Array.isArray(x['keys']))
        return x['mode'] === 'offset'
          ? x
          : {
              ...x,
              keys: x['keys'].map((key: { value: number }) => ({ ...key, value: key.value - by[k as 0] })),
            };
      if (k >= 0) return less(x, k as 0);
      if (Array.isArray(x['properties']))
        return {
          ...x,
          properties: x['properties'].map((p: Group) => {
            const of = axis(p['property']);
            return of < 0 ? p : less(p, of as 0);
          }),
        };
    }
    let to = x;
    for (const [field, y] of Object.entries(x)) {
      const next = typeof y === 'object' ? walk(y) : y;
      if (next !== y) to = { ...to, [field]: next };
    }
    return to;
  };
  if (by.every((n) => n === 0)) return record;
  return walk(record) as R;
}

// Placing one.

/** Another instance: beside the chosen one, or in the middle of the frame. Returns its id. */
export function addInstance(s: Session, template: string): string | null {
  const of = s.store.get('templates', template);
  if (!of || s.state.readOnly) return null;
  if (holdsScope(s.store, template, s.store.scope)) {
    s.set({ notice: `${of.name} cannot be placed in itself.` });
    return null;
  }
  const id = s.newId('objects');
  const chosen = s.store.get('objects', s.state.object ?? '');
  const beside = chosen?.kind === 'instance' && chosen.template === template ? chosen : undefined;
  const parent = beside?.parent ?? topOf(s.store);
  const siblings = s.store.all('objects').filter((o) => o.parent === parent);
  const name = namer(siblings.map((o) => o.name))(beside?.name ?? of.name);
  const base = {
    ...(beside?.base ?? defaultBase()),
    ...(beside ? { position: nextTo(s.store, beside) } : {}),
  };
  s.edit(`Placed ${name}`, (e) =>
    e.add('objects', {
      ...{ id, name, parent, order: orderBetween(lastOrder(s.store, parent), null), tags: [], hint: '' },
      ...{ kind: 'instance', template, signals: beside?.signals ?? {}, base },
    } as Instance),
  );
  s.select({ kind: 'object', id });
  return id;
}

/** Px between two that stand side by side. */
const BETWEEN = 20;

/** The next place in the row that an instance ends, as far on as it is from the one before; else right of it. */
function nextTo(store: PieceStore, last: Instance): Vec3 {
  const [x, y, z] = last.base.position;
  const row = usesOfTemplate(store, last.template).filter((o) => o.parent === last.parent);
  const before = row[row.findIndex((o) => o.id === last.id) - 1];
  if (before) {
    const [bx, by, bz] = before.base.position;
    return [2 * x - bx, 2 * y - by, 2 * z - bz];
  }
  const root = store
    .everywhere('objects')
    .find((o) => o.parent === null && store.homeOf(o.id) === last.template);
  const wide = root ? sizeOf(root)[0] * Math.abs(root.base.scale[0] * last.base.scale[0]) : 0;
  return [x + Math.max(2 * BETWEEN, wide) + BETWEEN, y, z];
}

/** What an instance gives a signal of its template; undefined: what the template gives. */
export function give(s: Session, instance: Instance, signal: Signal, value: Given | undefined): void {
  const { [signal.id]: _, ...rest } = instance.signals;
  s.edit(`${value === undefined ? 'Gave back' : 'Set'} ${signal.name} of ${instance.name}`, (e) =>
    e.update('objects', instance.id, (o) =>
      o.kind === 'instance'
        ? { ...o, signals: value === undefined ? rest : { ...rest, [signal.id]: value } }
        : o,
    ),
  );
}

/** The value that an instance begins with, and whether it is its own. */
export function givenTo(instance: Instance, signal: Signal): { value: Given; own: boolean } | null {
  if (signal.type === 'pulse') return null;
  const own = instance.signals[signal.id];
  const fits = typeof own === 'object' || (own !== undefined && canBegin(signal, own));
  return fits ? { value: own as Given, own: true } : { value: signal.initial, own: false };
}

// Opening it.

/** Opens an instance in place, or a template by itself; what is the only thing in it is chosen. */
export function openTemplate(s: Session, id: string): void {
  s.goInside(s.store.has('templates', id) ? [id] : [...s.inside.map((x) => x.id), id]);
  const [only, more] = s.store.ids('objects');
  if (only !== undefined && more === undefined) s.select({ kind: 'object', id: only });
}

// Cutting loose.

/** An instance becomes a group with what its template holds now, as records of their own. */
export function cutLoose(s: Session, id: string): void {
  const o = s.store.get('objects', id);
  const template = o?.kind === 'instance' ? s.store.template(o.template) : undefined;
  if (o?.kind !== 'instance' || !template || s.state.readOnly) return;
  s.edit(`Cut ${o.name} loose`, (e) => {
    const { store } = e;
    const ids = new Map<string, string>();
    for (const table of CONTENTS)
      for (const r of Object.values(template[table]) as AnyRecord[]) {
        ids.set(r.id, s.newId(table));
        visitOwnIds(table, r as never, (kind, own) => ids.set(own, s.newId(kind as never)));
      }
    const told: { signal: Signal; given: Exclude<Given, SignalValue> }[] = [];
    const names = namer(store.all('signals').map((x) => x.name));
    const { template: _, signals: given, ...rest } = o;
    e.update('objects', id, () => ({ ...rest, kind: 'group' }));
    for (const x of Object.values(template.signals)) {
      const value = given[x.id];
      const outer = typeof value === 'object' ? store.get('signals', value.signal) : undefined;
      if (typeof value === 'object' && outer && !value.from && outer.type === x.type) {
        ids.set(x.id, outer.id);
        continue;
      }
      const initial =
        value !== undefined && typeof value !== 'object' && canBegin(x, value) ? { initial: value } : {};
      const signal = {
        ...x,
        ...initial,
        id: ids.get(x.id) as string,
        name: names(`${o.name} ${x.name}`),
      } as Signal;
      if (typeof value === 'object' && outer) told.push({ signal, given: value });
      e.add('signals', signal);
    }
    for (const table of CONTENTS) {
      if (table === 'signals') continue;
      for (const r of Object.values(template[table]) as AnyRecord[]) {
        const copy = withIds(table, r as never, ids) as AnyRecord;
        const isRoot = table === 'objects' && (r as SceneObject).parent === null;
        e.add(table, (isRoot ? { ...copy, parent: id } : copy) as never);
      }
    }
    for (const { signal, given: value } of told) goesAfter(s, e, id, signal, value);
    reachIn(e, id, ids);
  });
}

/** A signal that another gives, where none of an instance does: set at the start, and with each change. */
function goesAfter(
  s: Session,
  e: Editor,
  object: string,
  signal: Signal,
  value: { signal: string; from?: [number, number] | undefined; to?: [number, number] | undefined },
): void {
  for (const on of [{ event: 'piece.start' }, { event: 'signal.change', signal: value.signal }] as const)
    e.add('reactions', {
      ...{
        id: s.newId('reactions'),
        object,
        on,
        when: [],
        cooldown: 0,
        limit: 'always',
        stop: false,
        after: 0,
      },
      actions: [{ do: 'set', signal: signal.id, to: value }],
    });
}

/** Whatever named what lies in the instance by the way to it names the records that this is now. */
function reachIn(e: Editor, id: string, ids: ReadonlyMap<string, string>): void {
  const { store } = e;
  const prefix = `${id}/`;
  const ways = {
    get: (x: string) => {
      if (!x.startsWith(prefix)) return undefined;
      const [first = '', ...rest] = x.slice(prefix.length).split('/');
      const own = ids.get(first);
      return own === undefined ? undefined : [own, ...rest].join('/');
    },
    has: (x: string) => x.startsWith(prefix),
  } as ReadonlyMap<string, string>;
  /** What wrote a signal of the instance as a property sets it, or goes. */
  const written = (x: unknown): unknown => {
    if (Array.isArray(x)) {
      const to = x.map(written).filter((y) => y !== null);
      return to.length === x.length && to.every((y, i) => y === x[i]) ? x : to;
    }
    if (!isGroup(x)) return x;
    if (x['object'] === id && String(x['property']).startsWith('signal.')) {
      const signal = ids.get(String(x['property']).slice('signal.'.length));
      if (x['do'] === 'put' && signal !== undefined)
        return { ...(x['after'] === undefined ? {} : { after: x['after'] }), do: 'set', signal, to: x['to'] };
      return null;
    }
    let to = x;
    for (const [field, y] of Object.entries(x)) {
      const next = typeof y === 'object' && y !== null ? written(y) : y;
      if (next !== y) to = { ...to, [field]: next };
    }
    return to;
  };
  for (const table of TABLES)
    for (const r of store.everywhere(table as TableName)) {
      const to = written(withIds(table as TableName, r as never, ways));
      if (to !== r) e.update(table as TableName, r.id, () => to as never);
    }
}
