/**
 * Templates written out: every instance becomes a group with its template's tree below it, and each id in it becomes
 * `INSTANCE/id`, so that whatever works on a piece needs to know nothing of templates. For what is spawned there are
 * places, written out likewise: `TEMPLATE#k`. Nothing here changes the piece.
 * It is long since all that an instance renames is told here, in one place.
 */

import { CONTENTS, type ContentName } from './contents.ts';
import { treeOrder } from './objects.ts';
import type { AnyRecord, Piece, Template } from './piece.ts';
import type { Given, KindOf, SceneObject } from './scene-object.ts';
import type { Signal } from './signal.ts';
import { canBegin } from './signal-values.ts';
import { ownValue, type StopPart, stopOf } from './stops.ts';

/** Templates within templates, and objects that a piece may have in all. */
export const MAX_NESTING = 8;
export const MAX_WRITTEN_OUT = 20_000;

type Instance = KindOf<'instance'>;

/** A signal of an instance that another one gives. */
export interface Bound {
  readonly inner: string;
  readonly outer: string;
  readonly from?: [number, number] | undefined;
  readonly to?: [number, number] | undefined;
}
/**
 * A property of an object that is a signal, the switch of one of its zones, or of a stop of a gradient: what is written there
 * lies in an object of its own.
 */
export interface Part {
  readonly id: string;
  readonly object: string;
  readonly of: 'signal' | 'collider' | StopPart['paint'];
  /** The id of the signal or of the zone; of a stop the rest of its name. */
  readonly what: string;
  /** The property of that object in which it lies. */
  readonly property: 'position.x' | 'shown' | 'text' | StopPart['property'];
}
/** Where one of a template can be spawned. */
export interface Place {
  /** The id of its group: `TEMPLATE#k`. */
  readonly id: string;
  readonly template: string;
  readonly parent: string | null;
  /** Its records by table. */
  readonly ids: Readonly<Record<ContentName, readonly string[]>>;
}
export interface Expansion {
  /** Without instances; its templates are those of the piece. */
  readonly piece: Piece;
  readonly bound: readonly Bound[];
  readonly parts: readonly Part[];
  readonly places: readonly Place[];
}

/**
 * `open`: the instance that is worked in, by the way to it, or a template that is worked in without one: what lies in it
 * keeps its ids.
 */
export function expand(piece: Piece, open: string | null = null): Expansion {
  const parts = partsIn(piece);
  if (Object.keys(piece.templates).length === 0 && parts.size === 0)
    return { piece, bound: [], parts: [], places: [] };
  return new Expander(piece, open, parts).result();
}

/**
 * A property that is a part of an object, by its name: `signal.ID` of an instance, `collider.ID` of an owner, `fill.1.color` of
 * what has a gradient.
 */
export function partOf(property: string): { readonly of: Part['of']; readonly what: string } | null {
  const of =
    stopOf(property)?.paint ?? (['signal', 'collider'] as const).find((k) => property.startsWith(`${k}.`));
  return of === undefined ? null : { of, what: property.slice(of.length + 1) };
}

class Expander {
  readonly #piece: Piece;
  readonly #open: string | null;
  readonly #written: ReadonlySet<string>;
  readonly #tables: Record<ContentName, Record<string, AnyRecord>>;
  readonly #bound: Bound[] = [];
  readonly #parts = new Map<string, Part>();
  readonly #places: Place[] = [];
  /** Objects so far. */
  #count: number;

  constructor(piece: Piece, open: string | null, written: ReadonlySet<string>) {
    this.#piece = piece;
    this.#open = open;
    this.#written = written;
    this.#count = Object.keys(piece.objects).length;
    this.#tables = Object.fromEntries(CONTENTS.map((t) => [t, { ...piece[t] }])) as never;
  }

  result(): Expansion {
    const { objects } = this.#tables as { objects: Record<string, SceneObject> };
    if (this.#open !== null) this.#reach(`${this.#open}/`);
    const instances = treeOrder(Object.values(this.#piece.objects)).filter((o) => o.kind === 'instance');
    for (const o of instances) this.#instance(o as Instance, [o.name], []);
    const first = this.#open?.split('/')[0] ?? '';
    if (Object.hasOwn(this.#piece.templates, first)) this.#alone(first);
    this.#spawned();
    if (this.#written.size > 0) this.#writeParts(objects);
    const tables = this.#tables as unknown as Pick<Piece, ContentName>;
    return {
      piece: { ...this.#piece, ...tables },
      bound: this.#bound,
      parts: [...this.#parts.values()],
      places: this.#places,
    };
  }

  /** What names from outside something in the opened instance names it as it is called there. */
  #reach(prefix: string): void {
    const renamed = (text: string) => (text.startsWith(prefix) ? text.slice(prefix.length) : text);
    for (const t of CONTENTS)
      for (const [id, r] of Object.entries(this.#tables[t]))
        this.#tables[t][id] = withNames(r, renamed) as AnyRecord;
  }

  /** A template that is worked in where no instance of it stands. */
  #alone(template: string): void {
    const of = this.#piece.templates[template] as Template;
    const base = { position: [0, 0, 0], rotation: [0, 0, 0], scale: [1, 1, 1], pivot: [0, 0, 0] };
    const root = {
      ...{ id: template, name: of.name, parent: null, order: '~', tags: [], hint: '', kind: 'instance' },
      ...{ template, signals: {}, base: { ...base, opacity: 1, shown: true, fill: 'none' } },
    } as unknown as Instance;
    this.#instance(root, [of.name], []);
  }

  /** Puts the group of an instance and all that its template holds among the records. */
  #instance(o: Instance, names: readonly string[], within: readonly string[]): Place['ids'] | null {
    const template = this.#piece.templates[o.template];
    const { objects } = this.#tables;
    const { template: _, signals: given, ...rest } = o;
    objects[o.id] = { ...rest, kind: 'group' } as SceneObject;
    if (!template || within.includes(template.id) || within.length >= MAX_NESTING) return null;
    this.#count += Object.keys(template.objects).length;
    if (this.#count > MAX_WRITTEN_OUT) return null;
    const prefix = o.id === this.#open ? '' : `${o.id}/`;
    const copies = copiesOf(template, prefix);
    for (const t of CONTENTS)
      for (const copy of copies[t]) {
        let record: AnyRecord = copy;
        if (t === 'objects') {
          const x = copy as SceneObject;
          if (x.parent === null) record = { ...x, parent: o.id };
        } else if (t === 'signals') {
          const own = copy as Signal;
          const value = given[prefix === '' ? own.id : own.id.slice(prefix.length)];
          record = { ...this.#signal(own, value), name: [...names, own.name].join('/') };
        } else if ('name' in copy) record = { ...copy, name: [...names, copy.name].join('/') };
        this.#tables[t][copy.id] = record;
      }
    const ids = Object.fromEntries(CONTENTS.map((t) => [t, copies[t].map((r) => r.id)])) as Record<
      ContentName,
      string[]
    >;
    const inner = treeOrder(copies.objects as SceneObject[]).filter((x) => x.kind === 'instance');
    for (const { id, name } of inner) {
      const x = objects[id] as Instance;
      const more = this.#instance(x, [...names, name], [...within, template.id]);
      if (more) for (const t of CONTENTS) ids[t].push(...more[t]);
    }
    return ids;
  }

  /** A signal with the value that its instance gives it at the start. */
  #signal(own: Signal, value: Given | undefined): Signal {
    if (value === undefined || own.type === 'pulse') return own;
    if (typeof value !== 'object') return canBegin(own, value) ? ({ ...own, initial: value } as Signal) : own;
    this.#bound.push({ inner: own.id, outer: value.signal, from: value.from, to: value.to });
    return own;
  }

  /** Places for all that actions spawn: so many of each template as may be there at once, in each parent. */
  #spawned(): void {
    const known = new Set<string>();
    // What is spawned may spawn in its turn.
    for (let looked = new Set<string>(); ; ) {
      const more = spawnsIn(this.#tables, looked).filter((x) => !known.has(`${x.template} ${x.parent}`));
      if (more.length === 0) return;
      for (const { template, parent } of more) {
        if (known.has(`${template} ${parent}`)) continue;
        known.add(`${template} ${parent}`);
        this.#pool(template, parent);
      }
    }
  }

  #pool(template: string, parent: string | null): void {
    const of = this.#piece.templates[template];
    const { objects } = this.#tables;
    if (!of || (parent !== null && !Object.hasOwn(objects, parent))) return;
    const first = this.#places.filter((x) => x.template === template).length;
    for (let k = first; k < first + of.max; k++) {
      const id = `${template}#${k}`;
      const group = {
        ...{
          id,
          name: `${of.name} ${k + 1}`,
          parent,
          order: `~${String(k).padStart(6, '0')}`,
          tags: [],
          hint: '',
        },
        ...{ kind: 'instance', template, signals: {}, base: { ...NOTHING, shown: false } },
      } as unknown as Instance;
      const ids = this.#instance(group, [group.name], []);
      if (!ids) {
        delete objects[id];
        return;
      }
      this.#startsWith(ids, id);
      this.#places.push({ id, template, parent, ids });
    }
  }

  /** What listens to the start of the piece listens, in what is spawned, to its own. */
  #startsWith(ids: Place['ids'], root: string): void {
    const on = { event: 'spawn.start', object: root } as const;
    const isStart = (x: { event: string } | null) => x?.event === 'piece.start';
    for (const id of ids.reactions) {
      const r = this.#tables.reactions[id] as Piece['reactions'][string];
      if (isStart(r.on)) this.#tables.reactions[id] = { ...r, on };
    }
    for (const id of ids.machines) {
      const m = this.#tables.machines[id] as Piece['machines'][string];
      if (!m.lanes.some((l) => l.transitions.some((t) => isStart(t.on)))) continue;
      const lanes = m.lanes.map((l) => ({
        ...l,
        transitions: l.transitions.map((t) => (isStart(t.on) ? { ...t, on } : t)),
      }));
      this.#tables.machines[id] = { ...m, lanes };
    }
  }

  /** Objects for the written parts, and whatever wrote those writes these. */
  #writeParts(objects: Record<string, SceneObject>): void {
    const signals = this.#tables.signals as Record<string, Signal>;
    const colliders = this.#tables.colliders as Piece['colliders'];
    const rewritten = (x: { object: string; property: string }) => {
      const part = this.#part(x.object, x.property, objects, signals, colliders);
      return part ? { object: part.id, property: part.property } : null;
    };
    for (const t of CONTENTS)
      for (const [id, r] of Object.entries(this.#tables[t]))
        this.#tables[t][id] = withParts(r, rewritten) as AnyRecord;
  }

  #part(
    object: string,
    property: string,
    objects: Record<string, SceneObject>,
    signals: Record<string, Signal>,
    colliders: Piece['colliders'],
  ): Part | null {
    const named = partOf(property);
    const owner = objects[object];
    if (!named || !owner) return null;
    const id = `${object}/${property}`;
    const known = this.#parts.get(id);
    if (known) return known;
    const stop = stopOf(property);
    if (stop) {
      const own = ownValue(owner, property) ?? (stop.field === 'color' ? '#000000' : 0);
      const part: Part = { id, object, ...named, property: stop.property };
      const base = { ...NOTHING, [stop.property]: own };
      objects[id] = { ...unseen(id, property, object), base, kind: 'group' } as unknown as SceneObject;
      this.#parts.set(id, part);
      return part;
    }
    // A signal is named as its template has it, a zone as its owner does.
    const inside = object === this.#open ? named.what : `${object}/${named.what}`;
    const what = named.of === 'signal' ? inside : named.what;
    const signal = named.of === 'signal' ? signals[what] : undefined;
    const zone = named.of === 'collider' && owner.colliders?.includes(what) ? colliders[what] : undefined;
    if (!signal && !zone) return null;
    const of = signal?.type;
    const lies = of === 'number' ? 'position.x' : of === 'switch' || zone ? 'shown' : 'text';
    const part: Part = { id, object, of: named.of, what, property: lies };
    const at = of === 'number' ? (signal?.initial as number) : 0;
    const shown = zone ? zone.on : of === 'switch' ? (signal?.initial as boolean) : true;
    objects[id] = {
      ...unseen(id, property, object),
      base: { ...NOTHING, position: [at, 0, 0], shown: lies === 'text' ? false : shown },
      ...(lies === 'text'
        ? {
            kind: 'text',
            text: String(signal?.initial ?? ''),
            font: 'sans',
            size: 1,
            weight: 400,
            align: 'left',
          }
        : { kind: 'group' }),
    } as unknown as SceneObject;
    this.#parts.set(id, part);
    return part;
  }
}

/** What an object has in which a part lies. */
const unseen = (id: string, name: string, parent: string) => ({
  id,
  name,
  parent,
  order: '~',
  tags: [],
  hint: '',
});

/** The base of what is not drawn. */
const NOTHING = {
  ...{ position: [0, 0, 0], rotation: [0, 0, 0], scale: [1, 1, 1], pivot: [0, 0, 0] },
  ...{ opacity: 1, shown: true, fill: 'none' },
};

const copies = new WeakMap<Template, Map<string, Record<ContentName, readonly AnyRecord[]>>>();

/** The records of a template with `prefix` before each of their ids; kept, since records never change in place. */
function copiesOf(template: Template, prefix: string): Record<ContentName, readonly AnyRecord[]> {
  const known = copies.get(template) ?? new Map<string, Record<ContentName, readonly AnyRecord[]>>();
  copies.set(template, known);
  let made = known.get(prefix);
  if (made) return made;
  const ids = new Map<string, string>();
  if (prefix !== '')
    for (const t of CONTENTS)
      for (const r of Object.values(template[t]) as AnyRecord[])
        for (const x of groupsIn(r)) if (typeof x['id'] === 'string') ids.set(x['id'], prefix + x['id']);
  const renamed = (text: string): string => {
    const own = ids.get(text);
    if (own !== undefined) return own;
    // What lies in an instance (`A/id`) is found by the instance.
    const cut = text.indexOf('/');
    const first = cut < 0 ? undefined : ids.get(text.slice(0, cut));
    return first === undefined ? text : first + text.slice(cut);
  };
  made = Object.fromEntries(
    CONTENTS.map((t) => [
      t,
      (Object.values(template[t]) as AnyRecord[]).map((r) =>
        prefix === '' ? r : (withNames(r, renamed) as AnyRecord),
      ),
    ]),
  ) as never;
  known.set(prefix, made);
  return made;
}

/**
 * Plain data with other words wherever a text as a whole is one that `renamed` changes; the same again where none is. Who
 * runs a piece does not carry its schemas: that a text is an id, and no words, is told by there being a thing of that id.
 */
function withNames(x: unknown, renamed: (text: string) => string): unknown {
  if (typeof x === 'string') return renamed(x);
  if (Array.isArray(x)) {
    const to = x.map((e) => withNames(e, renamed));
    return to.every((e, i) => e === x[i]) ? x : to;
  }
  if (!isGroup(x)) return x;
  let to = x;
  for (const [k, e] of Object.entries(x)) {
    const isWords = OF_WORDS.has(k) || (k === 'text' && typeof e === 'string');
    const next = isWords || typeof e === 'number' ? e : withNames(e, renamed);
    if (next !== e) to = to === x ? { ...x, [k]: next } : Object.assign(to, { [k]: next });
  }
  return to;
}
/** Fields that hold what people wrote, or nothing but numbers (not `points`: those of a blend name clips). */
const OF_WORDS = new Set(['name', 'hint', 'note', 'subpaths']);

type Group = Record<string, unknown>;
const isGroup = (x: unknown): x is Group => typeof x === 'object' && x !== null && !Array.isArray(x);

/** Fields that may be long and in which nothing has an id, or acts. */
const HOLDS_NUMBERS = new Set(['keys', 'subpaths', 'points', 'base']);

/** Every group of fields within plain data. */
function* groupsIn(x: unknown): Iterable<Group> {
  if (Array.isArray(x)) for (const e of x) yield* groupsIn(e);
  else if (isGroup(x)) {
    yield x;
    for (const [k, e] of Object.entries(x))
      if (typeof e === 'object' && !HOLDS_NUMBERS.has(k)) yield* groupsIn(e);
  }
}

/** The tables whose records act, or write properties. */
const ACTING = ['clips', 'machines', 'reactions', 'follows', 'cueSheets'] as const;

function spawnsIn(
  tables: Record<ContentName, Record<string, AnyRecord>>,
  looked: Set<string>,
): { template: string; parent: string | null }[] {
  const out: { template: string; parent: string | null }[] = [];
  for (const t of ACTING)
    for (const r of Object.values(tables[t])) {
      if (looked.has(r.id)) continue;
      looked.add(r.id);
      for (const x of groupsIn(r))
        if (x['do'] === 'spawn')
          out.push({ template: x['template'] as string, parent: (x['parent'] as string | null) ?? null });
    }
  return out;
}

/** The names of all parts that something in the piece writes. */
function partsIn(piece: Piece): Set<string> {
  const out = new Set<string>();
  for (const of of [piece, ...Object.values(piece.templates)])
    for (const t of ACTING)
      for (const r of Object.values(of[t]))
        for (const x of groupsIn(r))
          if (typeof x['property'] === 'string' && partOf(x['property'])) out.add(x['property']);
  return out;
}

/** Plain data with what writes parts writing the objects in which these lie; the same again where nothing does. */
function withParts(
  x: unknown,
  rewritten: (of: { object: string; property: string }) => { object: string; property: string } | null,
): unknown {
  if (Array.isArray(x)) {
    const to = x.map((e) => withParts(e, rewritten));
    return to.every((e, i) => e === x[i]) ? x : to;
  }
  if (!isGroup(x)) return x;
  let to = x;
  for (const [k, e] of Object.entries(x)) {
    const next = typeof e === 'object' && !HOLDS_NUMBERS.has(k) ? withParts(e, rewritten) : e;
    if (next !== e) to = { ...to, [k]: next };
  }
  const { object, property } = to;
  if (typeof object !== 'string' || typeof property !== 'string') return to;
  const part = rewritten({ object, property });
  return part ? { ...to, ...part } : to;
}
