/**
 * The forms of data, as plain data: what a field holds, within which bounds, what it names. Reading files, finding
 * references, taking away, copying, and sentences are all worked out from these; nothing here does any of it. `Form<T>`
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

export interface Form<T = unknown> {
  readonly is: string;
  /** Never set: it only carries the type. */
  readonly '~of'?: T;
  /** A field that may be absent. */
  readonly optional?: boolean;
  /** What an absent field stands for. */
  readonly preset?: unknown;
  /** What the field becomes when what it names is gone; without it, what holds the field goes. */
  readonly lost?: { readonly becomes: unknown } | { readonly rule: LostRule };
}
/** Values that can only be told from the rest of the record. */
export type LostRule = 'first state';

export interface NumberForm extends Form<number> {
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
export interface TextForm<T extends string = string> extends Form<T> {
  readonly is: 'text';
  readonly min?: number;
  readonly max?: number;
  readonly short?: string;
  readonly long?: string;
  /** A regular expression that it matches, and what is said of one that does not. */
  readonly like?: readonly [source: string, says: string];
}
export interface SwitchForm extends Form<boolean> {
  readonly is: 'switch';
}
export interface OneOfForm<T = unknown> extends Form<T> {
  readonly is: 'one of';
  readonly values: readonly (string | number | boolean | null)[];
  readonly says?: string;
}
export interface ListForm<T = unknown> extends Form<T[]> {
  readonly is: 'list';
  readonly of: Form<T>;
  readonly min?: number;
  readonly max?: number;
  readonly few?: string;
  readonly many?: string;
  readonly rules?: readonly Rule<T[]>[];
  /** When nothing is left of it, what holds the list goes. */
  readonly needed?: boolean;
}
export interface TupleForm<T = unknown> extends Form<T> {
  readonly is: 'tuple';
  readonly of: readonly Form[];
}
export interface RecordForm<T = unknown> extends Form<T> {
  readonly is: 'record';
  readonly fields: Fields;
  readonly rules?: readonly Rule<T>[];
  /** What is worked out anew when something was taken out of it. */
  readonly after?: AfterRule;
}
export type AfterRule = 'transition is set';
export interface TableForm<T = unknown> extends Form<Record<string, T>> {
  readonly is: 'table';
  readonly of: Form<T>;
  /** What its keys are: ids, or anything. */
  readonly keys: 'ids' | 'any';
}
/** One of several forms; `tag`: the field whose one value tells which. */
export interface UnionForm<T = unknown> extends Form<T> {
  readonly is: 'union';
  readonly of: readonly Form[];
  readonly tag?: string;
}
export interface LazyForm<T = unknown> extends Form<T> {
  readonly is: 'lazy';
  readonly of: () => Form<T>;
}
/** What comes later: nothing fits. */
export interface NothingForm extends Form<never> {
  readonly is: 'nothing';
  readonly says: string;
}
/** The record's own id. */
export interface OwnForm extends Form<string> {
  readonly is: 'own';
  readonly kind: RefKind;
}
/** The id of something. */
export interface RefForm<T = string> extends Form<T> {
  readonly is: 'ref';
  readonly to: RefKind;
  /** Of signals, the type that it must be; of assets, the kind. */
  readonly only?: string;
}
/** The name of a property. */
export interface PropertyForm extends Form<string> {
  readonly is: 'property';
}
/** What bounds cannot say, with what is said of a value for which it does not hold. */
export interface Rule<T = unknown> {
  readonly holds: (value: T) => boolean;
  readonly says: string;
}

export type AnyForm =
  | NumberForm
  | TextForm
  | SwitchForm
  | OneOfForm
  | ListForm
  | TupleForm
  | RecordForm
  | TableForm
  | UnionForm
  | LazyForm
  | NothingForm
  | OwnForm
  | RefForm
  | PropertyForm;

export type Fields = Readonly<Record<string, Form>>;
export type Of<F> = F extends Form<infer T> ? T : never;
type Optional = { readonly optional: true };
type Plain<T> = { [K in keyof T]: T[K] };
export type OfFields<F extends Fields> = Plain<
  { -readonly [K in keyof F as F[K] extends Optional ? never : K]: Of<F[K]> } & {
    -readonly [K in keyof F as F[K] extends Optional ? K : never]?: Of<F[K]> | undefined;
  }
>;
type Bounds<F> = Omit<F, 'is' | '~of'>;

export const number = (bounds: Bounds<NumberForm> = {}): NumberForm => ({ is: 'number', ...bounds });
export const text = (bounds: Bounds<TextForm> = {}): TextForm => ({ is: 'text', ...bounds });
export const toggle: SwitchForm = { is: 'switch' };
export const oneOf = <const V extends readonly (string | number | boolean | null)[]>(
  values: V,
  says?: string,
): OneOfForm<V[number]> => ({ is: 'one of', values, ...(says === undefined ? {} : { says }) });
export const list = <T>(of: Form<T>, bounds: Omit<Bounds<ListForm<T>>, 'of'> = {}): ListForm<T> => ({
  is: 'list',
  of,
  ...bounds,
});
export const tuple = <const F extends readonly Form[]>(
  ...of: F
): TupleForm<{ -readonly [K in keyof F]: Of<F[K]> }> => ({ is: 'tuple', of });
export const record = <const F extends Fields>(
  fields: F,
  ...rules: readonly Rule<OfFields<F>>[]
): RecordForm<OfFields<F>> & { readonly fields: F } => ({
  is: 'record',
  fields,
  ...(rules.length > 0 ? { rules } : {}),
});
export const table = <T>(of: Form<T>, keys: TableForm['keys'] = 'ids'): TableForm<T> => ({
  is: 'table',
  of,
  keys,
});
export const union = <const F extends readonly Form[]>(...of: F): UnionForm<Of<F[number]>> => ({
  is: 'union',
  of,
});
/** Records that are told apart by the one value of the field `tag`. */
export const kinds = <const F extends readonly Form[]>(tag: string, ...of: F): UnionForm<Of<F[number]>> => ({
  is: 'union',
  of,
  tag,
});
export const lazy = <T>(of: () => Form<T>): LazyForm<T> => ({ is: 'lazy', of });
export const nothing = (says: string): NothingForm => ({ is: 'nothing', says });
export const own = (kind: RefKind): OwnForm => ({ is: 'own', kind });
export const ref = (to: RefKind, only?: string): RefForm => ({
  is: 'ref',
  to,
  ...(only === undefined ? {} : { only }),
});
export const property: PropertyForm = { is: 'property' };

/** A field that may be absent. */
export const maybe = <T>(form: Form<T>): Form<T> & Optional => ({ ...form, optional: true });
/** A field that, absent, stands for `preset`. */
export const preset = <T>(form: Form<T>, value: NoInfer<T>): Form<T> => ({ ...form, preset: value });
export const orNull = <T>(form: Form<T>): Form<T | null> =>
  ({
    is: 'union',
    of: [oneOf([null]), form],
  }) as UnionForm<T | null>;
/** A field that may be absent, and is when what it names is gone. */
export const elseAbsent = <T>(form: Form<T>): Form<T> & Optional => ({
  ...maybe(form),
  lost: { becomes: undefined },
});
/** A field that becomes `to` when what it names is gone. */
export const elseBecomes = <F extends Form>(form: F, to: Of<F> | null | string | number): F => ({
  ...form,
  lost: { becomes: to },
});
