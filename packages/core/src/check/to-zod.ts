/** Validators from schemas. Only what reads foreign data comes here; the rest of the program knows schemas alone. */
import { z } from 'zod';
import {
  type AnySchema,
  copyOf,
  type ListSchema,
  type NumberSchema,
  type OneOfSchema,
  type RecordSchema,
  type Rule,
  type Schema,
  type TextSchema,
  type UnionSchema,
} from '../grammar/index.ts';

// Under the desk's content policy there is no `unsafe-eval`; without this Zod would probe for it.
z.config({ jitless: true });

const made = new WeakMap<Schema, z.ZodType>();

/** The validator of a schema; the same again for the same schema. */
export function toZod<T>(schema: Schema<T>): z.ZodType<T> {
  let zod = made.get(schema);
  if (!zod) {
    zod = make(schema as AnySchema);
    made.set(schema, zod);
  }
  return zod as z.ZodType<T>;
}

const ID = /^[a-z]{2}_[A-Za-z0-9_-]{1,60}$/;
const id = z.string().regex(ID, 'must be an id such as "ob_x7k2"');
/** What lies in an instance is named from outside by the way to it: `INSTANCE/id`. */
const PATH = /^[a-z]{2}_[A-Za-z0-9_-]{1,60}(?:\/[a-z]{2}_[A-Za-z0-9_-]{1,60}){0,8}$/;
const path = z.string().regex(PATH, 'must be an id such as "ob_x7k2"');

function make(f: AnySchema): z.ZodType {
  switch (f.is) {
    case 'number':
      return ruled(numberOf(f), f.rules);
    case 'text':
      return textOf(f);
    case 'switch':
      return z.boolean();
    case 'one of':
      return oneOf(f);
    case 'list':
      return ruled(listOf(f), f.rules);
    case 'tuple':
      return z.tuple(f.of.map(toZod) as [z.ZodType, ...z.ZodType[]]);
    case 'record':
      return ruled(recordOf(f), f.rules);
    case 'table':
      return z.record(f.keys === 'ids' ? id : z.string(), toZod(f.of));
    case 'union':
      return unionOf(f);
    case 'lazy':
      return z.lazy(() => toZod(f.of()));
    case 'nothing':
      return z.never(f.says);
    case 'own':
      return id;
    case 'ref':
      return path;
    case 'property':
      return z.string().max(100);
  }
}

function ruled<T>(zod: z.ZodType, rules: readonly Rule<T>[] | undefined): z.ZodType {
  return (rules ?? []).reduce((z, r) => z.refine((x) => r.predicate(x as T), r.says), zod);
}

function numberOf(f: NumberSchema): z.ZodType {
  let n = z.number();
  if (f.whole !== undefined) n = f.whole === true ? n.int() : n.int(f.whole);
  if (f.min !== undefined) n = n.min(f.min, f.low);
  if (f.max !== undefined) n = n.max(f.max, f.high);
  if (f.above !== undefined) n = n.gt(f.above);
  return n;
}

function textOf(f: TextSchema): z.ZodType {
  let t = z.string();
  if (f.min !== undefined) t = t.min(f.min, f.short);
  if (f.max !== undefined) t = t.max(f.max, f.long);
  if (f.like) t = t.regex(new RegExp(f.like[0]), f.like[1]);
  return t;
}

function oneOf(f: OneOfSchema): z.ZodType {
  const { values } = f;
  const [only] = values;
  if (values.length === 1) return only === null ? z.null(f.says) : z.literal(only as string, f.says);
  return values.every((v) => typeof v === 'string')
    ? z.enum(values, f.says)
    : z.literal(values as string[], f.says);
}

function listOf(f: ListSchema): z.ZodType {
  let l = z.array(toZod(f.of));
  if (f.min !== undefined) l = l.min(f.min, f.few);
  if (f.max !== undefined) l = l.max(f.max, f.many);
  return l;
}

function recordOf(f: RecordSchema): z.ZodType {
  return z.strictObject(
    Object.fromEntries(Object.entries(f.fields).map(([k, x]) => [k, fieldOf(x)])) as Record<
      string,
      z.ZodType
    >,
  );
}

function fieldOf(f: Schema): z.ZodType {
  let zod = toZod(f);
  if (f.default !== undefined) zod = zod.default(() => copyOf(f.default));
  return f.optional ? zod.optional() : zod;
}

function unionOf(f: UnionSchema): z.ZodType {
  const each = f.of.map(toZod);
  if (f.tag !== undefined) return z.discriminatedUnion(f.tag, each as never);
  const [first, second] = f.of as readonly AnySchema[];
  // What may be empty is said of what it is otherwise.
  if (
    each.length === 2 &&
    first?.is === 'one of' &&
    first.values.length === 1 &&
    first.values[0] === null &&
    second
  )
    return toZod(second).nullable();
  return z.union(each as [z.ZodType, z.ZodType]);
}
