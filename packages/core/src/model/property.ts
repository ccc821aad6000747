/** The properties that clips, puts and lanes can set, and where each lies in an object's row of channels. */
import { fnv1a32, hexToOklab } from '../base/index.ts';
import type { Base, SceneObject } from './scene-object.ts';

type PropertyKind = 'number' | 'angle' | 'amount' | 'switch' | 'color' | 'look' | 'text';

/** What of an object can be keyed and put: the fields of its base, the words of a text, and where the dashes of a stroke begin. */
export type PropertyField = keyof Base | 'text' | 'dashStart';

export interface PropertyInfo {
  /** The field and, of a vector, the axis: `position.x`. */
  readonly name: string;
  readonly field: PropertyField;
  /** Which number of a vector it is; null where the field is one value. */
  readonly axis: 0 | 1 | 2 | null;
  readonly kind: PropertyKind;
  /** First channel within the object's row; a colour takes three (OKLab L, a, b), all else one. */
  readonly channel: number;
  readonly width: 1 | 3;
}

/** Numbers that one object takes in the flat array of values. The first twelve are what `composeLocal` reads. */
export const CHANNELS = 20;
export const CH_OPACITY = 12;
export const CH_SHOWN = 13;
export const CH_FILL = 14;
export const CH_LOOK = 17;
export const CH_TEXT = 18;
export const CH_DASH = 19;

/** Where each field lies, in the order in which properties are listed. A field of the base that is not here does not compile. */
const FIELDS: Readonly<Record<PropertyField, readonly [channel: number, kind: PropertyKind, axes?: 3]>> = {
  position: [0, 'number', 3],
  rotation: [3, 'angle', 3],
  scale: [6, 'number', 3],
  pivot: [9, 'number', 3],
  opacity: [CH_OPACITY, 'amount'],
  shown: [CH_SHOWN, 'switch'],
  fill: [CH_FILL, 'color'],
  look: [CH_LOOK, 'look'],
  text: [CH_TEXT, 'text'],
  dashStart: [CH_DASH, 'number'],
};

export const PROPERTIES: readonly PropertyInfo[] = Object.entries(FIELDS).flatMap(
  ([key, [channel, kind, axes]]): PropertyInfo[] => {
    const field = key as PropertyField;
    if (axes === undefined)
      return [{ name: field, field, axis: null, kind, channel, width: kind === 'color' ? 3 : 1 }];
    return ([0, 1, 2] as const).map((axis) => ({
      ...{ name: `${field}.${'xyz'[axis]}`, field, axis },
      ...{ kind, channel: channel + axis, width: 1 },
    }));
  },
);

const byName = new Map(PROPERTIES.map((p) => [p.name, p]));

export function propertyInfo(name: string): PropertyInfo | undefined {
  return byName.get(name);
}

export type PropertyValue = number | boolean | string;

/** Whether a track of the property may add to what is there. */
export function canOffset(info: PropertyInfo): boolean {
  return info.kind === 'number' || info.kind === 'angle' || info.kind === 'amount';
}

/** Whether a value read from a file suits the property. */
export function fitsProperty(info: PropertyInfo, value: unknown): value is PropertyValue {
  switch (info.kind) {
    case 'switch':
      return typeof value === 'boolean';
    case 'color':
      return typeof value === 'string' && /^#[0-9a-f]{6}$/.test(value);
    case 'look':
      return typeof value === 'string';
    case 'text':
      return typeof value === 'string' && value.length <= 5000;
    default:
      return typeof value === 'number' && Number.isFinite(value);
  }
}

/**
 * Numbers that stand for strings in the flat array of values, the same in every engine: 53 bits of the string's hashes. Of
 * two strings with one hash (nobody has met any) the later one has the next free number.
 */
class Numbered {
  readonly #strings = new Map<number, string>();
  readonly #numbers = new Map<string, number>();

  number(text: string): number {
    let n = this.#numbers.get(text);
    if (n !== undefined) return n;
    n = 1 + fnv1a32(text) * 2 ** 20 + (fnv1a32(`2${text}`) >>> 12);
    while (this.#strings.has(n)) n++;
    this.#strings.set(n, text);
    this.#numbers.set(text, n);
    return n;
  }
  text(n: number): string {
    return this.#strings.get(n) ?? '';
  }
}

const looks = new Numbered();

/** The number that stands for a look in the flat array of values: 0 for the object's own drawing (`''`). */
export function lookNumber(id: string): number {
  return id === '' ? 0 : looks.number(id);
}

/** The look that a number made by `lookNumber` stands for. */
export function lookName(n: number): string {
  return looks.text(n);
}

const texts = new Numbered();

/** The number that stands for a text in the flat array of values. */
export function textNumber(text: string): number {
  return texts.number(text);
}

/** The text that a number made by `textNumber` stands for; empty for any other. */
export function textOf(n: number): string {
  return texts.text(n);
}

/** A value as words: numbers to three places. */
export function wordsOf(value: PropertyValue): string {
  return typeof value === 'number' ? String(Math.round(value * 1000) / 1000) : String(value);
}

/** Writes a value that suits the property into its channels, from `out[at]` on. */
export function writeValue(info: PropertyInfo, value: PropertyValue, out: Float64Array, at: number): void {
  if (info.kind === 'color') hexToOklab(value as string, out, at);
  else if (info.kind === 'look') out[at] = lookNumber(value as string);
  else out[at] = info.kind === 'text' ? textNumber(value as string) : Number(value);
}

/** What the object itself has of a property, before anything writes it. Null: it has no words, or no dashes. */
export function propertyOf(o: SceneObject, { field, axis }: PropertyInfo): PropertyValue | null {
  if (field === 'text') return o.kind === 'text' ? o.text : null;
  if (field === 'dashStart') return o.stroke?.dashes ? (o.stroke.dashStart ?? 0) : null;
  const value = o.base[field] ?? '';
  return axis === null ? (value as PropertyValue) : ((value as Base['position'])[axis] as number);
}

/** The object with another value of its own, which suits the property. What has no words, or no dashes, stays as it is. */
export function withProperty(
  o: SceneObject,
  { field, axis }: PropertyInfo,
  value: PropertyValue,
): SceneObject {
  if (field === 'text') return o.kind === 'text' ? { ...o, text: String(value) } : o;
  if (field === 'dashStart')
    return o.stroke?.dashes ? { ...o, stroke: { ...o.stroke, dashStart: Number(value) } } : o;
  if (axis === null) return { ...o, base: { ...o.base, [field]: value } };
  const vector = [...(o.base[field] as Base['position'])];
  vector[axis] = value as number;
  return { ...o, base: { ...o.base, [field]: vector } };
}
