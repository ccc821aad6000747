/** Over data by its schema: what it names, the ids it has, copies with other ids, and what is left when something is gone. */
import type {
  AnySchema,
  ListSchema,
  OneOfSchema,
  RecordSchema,
  RefKind,
  Schema,
  TextSchema,
  TupleSchema,
  UnionSchema,
} from './schema.ts';

/** Visits the names of properties in a sound value. */
export function visitProperties(
  schema: Schema,
  value: unknown,
  visit: (name: string, path: string) => void,
): void {
  walk(schema, value, '', (f, x, path) => {
    if (f.is === 'property') visit(x as string, path);
  });
}

export interface IdVisitor {
  /** `path` is relative to the value, e.g. `.tracks[0].object`. */
  readonly ref?: (kind: RefKind, id: string, path: string, only?: string) => void;
  readonly own?: (kind: RefKind, id: string, path: string) => void;
}

const naming = new WeakMap<Schema, boolean>();

/** Whether anything of this schema can name something or have an id; most of a piece's numbers cannot. */
export function namesAnything(schema: Schema): boolean {
  const known = naming.get(schema);
  if (known !== undefined) return known;
  // A schema within itself is asked about while it is being asked: what it adds is told by the rest.
  naming.set(schema, false);
  const f = schema as AnySchema;
  let any = f.is === 'own' || f.is === 'ref' || f.is === 'property';
  if (f.is === 'list' || f.is === 'table') any = namesAnything(f.of);
  else if (f.is === 'lazy') any = namesAnything(f.of());
  else if (f.is === 'tuple' || f.is === 'union') any = f.of.some(namesAnything);
  else if (f.is === 'record') any = Object.values(f.fields).some(namesAnything);
  naming.set(schema, any);
  return any;
}

/** The branch of a union that a sound value has. */
export function branchOf(schema: UnionSchema, value: unknown): Schema | undefined {
  const { tag } = schema;
  if (tag !== undefined) {
    const is = (value as Record<string, unknown>)[tag];
    return schema.of.find((f) =>
      ((f as RecordSchema).fields[tag] as OneOfSchema).values.includes(is as string),
    );
  }
  return schema.of.find((f) => fits(f, value));
}

/** Whether a sound value of one of several schemas is of this one; its inside is not looked at. */
function fits(schema: Schema, value: unknown): boolean {
  const f = schema as AnySchema;
  switch (f.is) {
    case 'number':
      return typeof value === 'number';
    case 'text':
      return typeof value === 'string' && fitsText(f, value);
    case 'own':
    case 'ref':
    case 'property':
      return typeof value === 'string';
    case 'switch':
      return typeof value === 'boolean';
    case 'one of':
      return f.values.includes(value as string);
    case 'list':
      return Array.isArray(value);
    case 'tuple':
      return Array.isArray(value) && value.length === f.of.length;
    case 'record': {
      if (typeof value !== 'object' || value === null || Array.isArray(value)) return false;
      const has = (k: string) => (value as Record<string, unknown>)[k] !== undefined;
      return (
        Object.entries(f.fields).every(([k, x]) => x.optional || x.default !== undefined || has(k)) &&
        Object.keys(value).every((k) => Object.hasOwn(f.fields, k))
      );
    }
    case 'table':
      return typeof value === 'object' && value !== null && !Array.isArray(value);
    case 'union':
      return branchOf(f, value) !== undefined;
    case 'lazy':
      return fits(f.of(), value);
    case 'nothing':
      return false;
  }
}

function fitsText(f: TextSchema, value: string): boolean {
  return f.like === undefined || new RegExp(f.like[0]).test(value);
}

/** Visits all that a sound value of this schema names, and the ids of its own, in the order of the schema. */
export function visitIds(schema: Schema, value: unknown, visit: IdVisitor): void {
  walk(schema, value, '', (f, x, path) => {
    if (f.is === 'own') visit.own?.(f.kind, x as string, path);
    else if (f.is === 'ref') visit.ref?.(f.to, x as string, path, f.only);
  });
}

/** Comes by all parts of a value that name something, or have a name of their own. */
function walk(
  schema: Schema,
  value: unknown,
  path: string,
  visit: (schema: AnySchema, value: unknown, path: string) => void,
): void {
  if (value === undefined || value === null || !namesAnything(schema)) return;
  const f = schema as AnySchema;
  switch (f.is) {
    case 'list':
    case 'tuple':
      (value as unknown[]).forEach((x, i) => {
        walk(f.is === 'list' ? f.of : (f.of[i] as Schema), x, `${path}[${i}]`, visit);
      });
      return;
    case 'table':
      for (const [k, x] of Object.entries(value)) walk(f.of, x, `${path}.${k}`, visit);
      return;
    case 'record':
      for (const [k, x] of Object.entries(f.fields))
        walk(x, (value as Record<string, unknown>)[k], `${path}.${k}`, visit);
      return;
    case 'union': {
      const branch = branchOf(f, value);
      if (branch) walk(branch, value, path, visit);
      return;
    }
    case 'lazy':
      walk(f.of(), value, path, visit);
      return;
    default:
      visit(f, value, path);
  }
}

/** Changes what a value holds: the same value again where nothing in it changes. */
function mapped(
  schema: Schema,
  value: unknown,
  change: (schema: Schema, value: unknown) => unknown,
): unknown {
  const f = schema as AnySchema;
  if (f.is === 'list' || f.is === 'tuple') {
    const from = value as unknown[];
    const to = from.map((x, i) => change(f.is === 'list' ? f.of : ((f as TupleSchema).of[i] as Schema), x));
    return to.every((x, i) => x === from[i]) ? value : to;
  }
  if (f.is === 'table' || f.is === 'record') {
    const from = value as Record<string, unknown>;
    let to: Record<string, unknown> | null = null;
    for (const [k, x] of Object.entries(from)) {
      const of = f.is === 'table' ? f.of : f.fields[k];
      const next = of && x !== undefined && x !== null ? change(of, x) : x;
      if (next !== x) to = { ...(to ?? from), [k]: next };
    }
    return to ?? value;
  }
  return value;
}

/** The value with ids replaced wherever they stand for something; words that people wrote are left as they are. */
export function replaceIds<T>(schema: Schema<T>, value: T, ids: ReadonlyMap<string, string>): T {
  const replace = (of: Schema, x: unknown): unknown => {
    if (x === undefined || x === null || !namesAnything(of)) return x;
    const f = of as AnySchema;
    if (f.is === 'own' || f.is === 'ref') return ids.get(x as string) ?? x;
    if (f.is === 'lazy') return replace(f.of(), x);
    if (f.is === 'union') {
      const branch = branchOf(f, x);
      return branch ? replace(branch, x) : x;
    }
    if (f.is !== 'table') return mapped(of, x, replace);
    const to = mapped(of, x, replace) as Record<string, unknown>;
    const keys = Object.keys(to);
    return keys.some((k) => ids.has(k)) ? Object.fromEntries(keys.map((k) => [ids.get(k) ?? k, to[k]])) : to;
  };
  return replace(schema, value) as T;
}

/** Stands for a value of which nothing sensible is left. */
export const GONE = Symbol('gone');

/** What rules about gone things, that schemas name, do: they need to know what the fields mean. */
export interface GoneRules {
  readonly onDelete: Readonly<Record<string, (record: Record<string, unknown>) => unknown>>;
  readonly after: Readonly<Record<string, (record: Record<string, unknown>) => Record<string, unknown>>>;
}

/** Whether what an id names is gone: itself, or, of what lies in an instance (`INSTANCE/id`), one of those on the way. */
function isGone(id: string, gone: ReadonlySet<string>): boolean {
  return gone.has(id) || (id.includes('/') && id.split('/').some((part) => gone.has(part)));
}

/**
 * What is left of a value when the things of these ids are gone: what names one of them goes with it, up to the nearest
 * list, or to a field that says what it becomes then. The same value again when it names none of them.
 */
export function withoutIds(
  schema: Schema,
  value: unknown,
  gone: ReadonlySet<string>,
  rules: GoneRules,
): unknown {
  const clean = (of: Schema, x: unknown): unknown => {
    if (x === undefined || x === null || !namesAnything(of)) return x;
    const f = of as AnySchema;
    switch (f.is) {
      case 'own':
      case 'ref':
        return isGone(x as string, gone) ? GONE : x;
      case 'lazy':
        return clean(f.of(), x);
      case 'union': {
        const branch = branchOf(f, x);
        return branch ? clean(branch, x) : x;
      }
      case 'list':
        return cleanList(f, x as unknown[]);
      case 'tuple': {
        const to = mapped(of, x, clean) as unknown[];
        return to.includes(GONE) ? GONE : to;
      }
      case 'record':
        return cleanRecord(f, x as Record<string, unknown>);
      case 'table': {
        const to = mapped(of, x, clean) as Record<string, unknown>;
        return to === x ? x : Object.fromEntries(Object.entries(to).filter(([, v]) => v !== GONE));
      }
      default:
        return mapped(of, x, clean);
    }
  };
  const cleanList = (f: ListSchema, x: unknown[]): unknown => {
    const to = mapped(f, x, clean) as unknown[];
    if (to === x) return x;
    const left = to.filter((e) => e !== GONE);
    return left.length === 0 && f.needed ? GONE : left;
  };
  const cleanRecord = (f: RecordSchema, x: Record<string, unknown>): unknown => {
    let to = mapped(f, x, clean) as Record<string, unknown>;
    if (to === x) return x;
    const late: [field: string, rule: string][] = [];
    for (const [k, v] of Object.entries(to)) {
      if (v !== GONE) continue;
      const onDelete = f.fields[k]?.onDelete;
      if (!onDelete) return GONE;
      if ('becomes' in onDelete && onDelete.becomes === undefined) {
        const { [k]: _, ...rest } = to;
        to = rest;
      } else if ('becomes' in onDelete) to = { ...to, [k]: onDelete.becomes };
      else late.push([k, onDelete.rule]);
    }
    // These look at the rest of the record, so the rest comes first.
    for (const [k, rule] of late) to = { ...to, [k]: rules.onDelete[rule]?.(to) };
    return f.after ? (rules.after[f.after]?.(to) ?? to) : to;
  };
  return clean(schema, value);
}

/** A copy of plain data. */
export function copyOf<T>(x: T): T {
  return JSON.parse(JSON.stringify(x)) as T;
}

/** A record's defaults, as they stand when nothing is written. */
export function defaultsOf<T>(schema: RecordSchema<T>): T {
  const out: Record<string, unknown> = {};
  for (const [k, f] of Object.entries(schema.fields)) if (f.default !== undefined) out[k] = copyOf(f.default);
  return out as T;
}
