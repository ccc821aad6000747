/** What can be written of an object: the properties that all objects have, and the parts that are its own. */
import {
  canOffset,
  ownValue,
  PROPERTIES,
  type PropertyInfo,
  type PropertyValue,
  partOf,
  propertyInfo,
  propertyLabel,
  type Signal,
  stopsOf,
  valueInfo,
} from '@apple-tick/core/model';
import { givenTo } from '../../features/templates/edit.ts';
import type { PieceStore } from '../model-help.ts';

/** A property that is a part of its object: an instance's signal, whether a zone or blocker is on, a stop of a gradient. */
export interface Part {
  readonly name: string;
  readonly label: string;
  readonly kind: PropertyInfo['kind'];
  /** What it is without anything that writes it. */
  readonly initial: PropertyValue;
  readonly signal: Signal | null;
}

const KINDS = { number: 'number', switch: 'switch', choice: 'text', text: 'text' } as const;

export function partsOf(store: PieceStore, object: string | undefined): Part[] {
  const o = object === undefined ? undefined : store.get('objects', object);
  if (!o) return [];
  const signals = o.kind === 'instance' ? (store.template(o.template)?.signals ?? {}) : {};
  return [
    ...Object.values(signals).flatMap((signal): Part[] => {
      if (o.kind !== 'instance' || signal.type === 'pulse') return [];
      const { id, name: label, type } = signal;
      const given = givenTo(o, signal)?.value;
      const initial = given === undefined || typeof given === 'object' ? signal.initial : given;
      return [{ name: `signal.${id}`, label, kind: KINDS[type], initial, signal }];
    }),
    ...(o.colliders ?? []).flatMap((id): Part[] => {
      const x = store.get('colliders', id);
      if (!x) return [];
      return [{ name: `collider.${id}`, label: `${x.name} on`, kind: 'switch', initial: x.on, signal: null }];
    }),
    ...stopsOf(o).flatMap((name): Part[] => {
      const [info, initial] = [valueInfo(name), ownValue(o, name)];
      if (!info || initial === null) return [];
      return [{ name, label: propertyLabel(name), kind: info.kind, initial, signal: null }];
    }),
  ];
}

/** Parts of it that a follow can write: numbers and words, as of the properties that all have. */
export const partsThatFollow = (store: PieceStore, object: string) =>
  partsOf(store, object).filter((p) => isNumeric(p.kind) || p.signal?.type === 'text');

/** The properties of all objects that can follow. */
export const FOLLOWING = PROPERTIES.filter((p) => canOffset(p) || p.kind === 'text');

/** What the values of a property of an object are, parts too; undefined where it has no such part. */
export function kindOfProperty(
  store: PieceStore,
  object: string | undefined,
  property: string,
): PropertyInfo['kind'] | undefined {
  return (
    propertyInfo(property)?.kind ??
    (partOf(property) ? partsOf(store, object).find((p) => p.name === property)?.kind : undefined)
  );
}

export const isNumeric = (kind: PropertyInfo['kind'] | undefined) =>
  kind === 'number' || kind === 'angle' || kind === 'amount';

/** As they are picked: a part by its own name. */
export const propertyOption = (name: string) => [name, propertyLabel(name)] as const;
export const partOption = (p: Part) => [p.name, p.label] as const;

/** What actions write of an object, as it is picked: its parts, then what all objects have; `driven`: what motors can. */
export function writable(
  store: PieceStore,
  object: string | undefined,
  driven = false,
): (readonly [name: string, label: string])[] {
  return [
    ...partsOf(store, object)
      .filter((p) => !driven || isNumeric(p.kind))
      .map(partOption),
    ...PROPERTIES.filter((p) => p.kind !== 'look' && (!driven || canOffset(p))).map((p) =>
      propertyOption(p.name),
    ),
  ];
}
