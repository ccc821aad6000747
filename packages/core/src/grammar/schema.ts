/**
 * The schemas of data, as plain data: what a field holds, within which bounds, what it names. Reading files, finding
 * references, taking away, copying, and sentences are all worked out from these; nothing here does any of it. `Schema<T>`
 * stands for values of the type T.
 */

/** Tables of records, and what lies in records and has an id of its own. */
export type RefKind =
  | 'objects'
  | 'tags'
  | 'clips'
  | 'signals'
  | 'messages'
  | 'machines'
  | 'reactions'
  | 'follows'
  | 'sounds'
  | 'colliders'
  | 'effects'
  | 'cueSheets'
  | 'templates'
  | 'answers'
  | 'assets'
  | 'lanes'
  | 'states'
  | 'transitions'
  | 'cues'
  | 'looks';

export interface Schema<T = unknown> {
  readonly is: string;
  /** Never set: it only carries the type. */
  readonly '~of'?: T;
  /** A field that may be absent. */
  readonly optional?: boolean;
  /** What an absent field stands for. */
  readonly default?: unknown;
  /** What the field becomes when what it names is gone; without it, what holds the field goes. */
  readonly onDelete?: { readonly becomes: unknown } | { readonly rule: DeleteRule };
}
/** Values that can only be told from the rest of the record. */
export type DeleteRule = 'first state';

export interface NumberSchema extends Schema<number> {
  readonly is: 'number';
  readonly min?: number;
  readonly max?: number;
  /** Greater than this. */
  readonly above?: number;
  /** Why a number is refused: too small, too large, not whole. */
  readonly low?: string;
  readonly high?: string;
  readonly whole?: string | true;
  readonly rules?: readonly Rule<number>[];
}
export interface TextSchema<T extends string = string> extends Schema<T> {
  readonly is: 'text';
  readonly min?: number;
  readonly max?: number;
  readonly short?: string;
  readonly long?: string;
  /** A regular expression that it matches, and what is said of one that does not. */
  readonly like?: readonly [source: string, says: string];
}
export interface SwitchSchema extends Schema<boolean> {
  readonly is: 'switch';
}
export interface OneOfSchema<T = unknown> extends Schema<T> {
  readonly is: 'one of';
  readonly values: readonly (string | number | boolean | null)[];
  readonly says?: string;
}
export interface ListSchema<T = unknown> extends Schema<T[]> {
  readonly is: 'list';
  readonly of: Schema<T>;
  readonly min?: number;
  readonly max?: number;
  readonly few?: string;
  readonly many?: string;
  readonly rules?: readonly Rule<T[]>[];
  /** When nothing is left of it, what holds the list goes. */
  readonly needed?: boolean;
}
export interface TupleSchema<T = unknown> extends Schema<T> {
  readonly is: 'tuple';
  readonly of: readonly Schema[];
}
export interface RecordSchema<T = unknown> extends Schema<T> {
  readonly is: 'record';
  readonly fields: Fields;
  readonly rules?: readonly Rule<T>[];
  /** What is worked out anew when something was taken out of it. */
  readonly after?: AfterRule;
}
export type AfterRule = 'transition is set';
export interface TableSchema<T = unknown> extends Schema<Record<string, T>> {
  readonly is: 'table';
  readonly of: Schema<T>;
  /** What its keys are: ids, or anything. */
  readonly keys: 'ids' | 'any';
}
/** One of several schemas; `tag`: the field whose one value tells which. */
export interface UnionSchema<T = unknown> extends Schema<T> {
  readonly is: 'union';
  readonly of: readonly Schema[];
  readonly tag?: string;
}
export interface LazySchema<T = unknown> extends Schema<T> {
  readonly is: 'lazy';
  readonly of: () => Schema<T>;
}
/** What comes later: nothing fits. */
export interface NothingSchema extends Schema<never> {
  readonly is: 'nothing';
  readonly says: string;
}
/** The record's own id. */
export interface OwnSchema extends Schema<string> {
  readonly is: 'own';
  readonly kind: RefKind;
}
/** The id of something. */
export interface RefSchema<T = string> extends Schema<T> {
  readonly is: 'ref';
  readonly to: RefKind;
  /** Of signals, the type that it must be; of assets, the kind. */
  readonly only?: string;
}
/** The name of a property. */
export interface PropertySchema extends Schema<string> {
  readonly is: 'property';
}
/** What bounds cannot say, with what is said of a value for which it does not hold. */
export interface Rule<T = unknown> {
  readonly predicate: (value: T) => boolean;
  readonly says: string;
}

export type AnySchema =
  | NumberSchema
  | TextSchema
  | SwitchSchema
  | OneOfSchema
  | ListSchema
  | TupleSchema
  | RecordSchema
  | TableSchema
  | UnionSchema
  | LazySchema
  | NothingSchema
  | OwnSchema
  | RefSchema
  | PropertySchema;

export type Fields = Readonly<Record<string, Schema>>;
export type Of<F> = F extends Schema<infer T> ? T : never;
type Optional = { readonly optional: true };
type Plain<T> = { [K in keyof T]: T[K] };
export type OfFields<F extends Fields> = Plain<
  { -readonly [K in keyof F as F[K] extends Optional ? never : K]: Of<F[K]> } & {
    -readonly [K in keyof F as F[K] extends Optional ? K : never]?: Of<F[K]> | undefined;
  }
>;
type Bounds<F> = Omit<F, 'is' | '~of'>;

export const number = (bounds: Bounds<NumberSchema> = {}): NumberSchema => ({ is: 'number', ...bounds });
export const text = (bounds: Bounds<TextSchema> = {}): TextSchema => ({ is: 'text', ...bounds });
export const toggle: SwitchSchema = { is: 'switch' };
export const oneOf = <const V extends readonly (string | number | boolean | null)[]>(
  values: V,
  says?: string,
): OneOfSchema<V[number]> => ({ is: 'one of', values, ...(says === undefined ? {} : { says }) });
export const list = <T>(of: Schema<T>, bounds: Omit<Bounds<ListSchema<T>>, 'of'> = {}): ListSchema<T> => ({
  is: 'list',
  of,
  ...bounds,
});
export const tuple = <const F extends readonly Schema[]>(
  ...of: F
): TupleSchema<{ -readonly [K in keyof F]: Of<F[K]> }> => ({ is: 'tuple', of });
export const record = <const F extends Fields>(
  fields: F,
  ...rules: readonly Rule<OfFields<F>>[]
): RecordSchema<OfFields<F>> & { readonly fields: F } => ({
  is: 'record',
  fields,
  ...(rules.length > 0 ? { rules } : {}),
});
export const table = <T>(of: Schema<T>, keys: TableSchema['keys'] = 'ids'): TableSchema<T> => ({
  is: 'table',
  of,
  keys,
});
export const union = <const F extends readonly Schema[]>(...of: F): UnionSchema<Of<F[number]>> => ({
  is: 'union',
  of,
});
/** Records that are told apart by the one value of the field `tag`. */
export const kinds = <const F extends readonly Schema[]>(
  tag: string,
  ...of: F
): UnionSchema<Of<F[number]>> => ({
  is: 'union',
  of,
  tag,
});
export const lazy = <T>(of: () => Schema<T>): LazySchema<T> => ({ is: 'lazy', of });
export const nothing = (says: string): NothingSchema => ({ is: 'nothing', says });
export const own = (kind: RefKind): OwnSchema => ({ is: 'own', kind });
export const ref = (to: RefKind, only?: string): RefSchema => ({
  is: 'ref',
  to,
  ...(only === undefined ? {} : { only }),
});
export const property: PropertySchema = { is: 'property' };

/** A field that may be absent. */
export const maybe = <T>(schema: Schema<T>): Schema<T> & Optional => ({ ...schema, optional: true });
/** A field that, absent, stands for `value`. */
export const withDefault = <T>(schema: Schema<T>, value: NoInfer<T>): Schema<T> => ({
  ...schema,
  default: value,
});
export const orNull = <T>(schema: Schema<T>): Schema<T | null> =>
  ({
    is: 'union',
    of: [oneOf([null]), schema],
  }) as UnionSchema<T | null>;
/** A field that may be absent, and is when what it names is gone. */
export const elseAbsent = <T>(schema: Schema<T>): Schema<T> & Optional => ({
  ...maybe(schema),
  onDelete: { becomes: undefined },
});
/** A field that becomes `to` when what it names is gone. */
export const elseBecomes = <F extends Schema>(schema: F, to: Of<F> | null | string | number): F => ({
  ...schema,
  onDelete: { becomes: to },
});
