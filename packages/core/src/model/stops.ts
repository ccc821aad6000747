/**
 * The stops of an object's gradients as what can be keyed, put and followed: `fill.1.color`, `stroke.2.at`. A stop that the
 * gradient does not have may be named all the same, and changes nothing: a gradient is exchanged more often than its keys.
 */
import { MAX_STOPS } from './limits.ts';
import { type PropertyInfo, type PropertyValue, propertyInfo, propertyOf, withProperty } from './property.ts';
import type { Fill, Gradient, SceneObject } from './scene-object.ts';

export interface StopPart {
  /** Which of the object's paints has the gradient. */
  readonly paint: 'fill' | 'stroke';
  /** Its place among the stops, from 0. */
  readonly index: number;
  readonly field: 'color' | 'at';
  /** The property whose values its own are like: a colour; or an amount, 0–1. */
  readonly property: 'fill' | 'opacity';
}

/** What a property's name says of a stop (the first is 1 there); null where it says nothing of one. */
export function stopOf(name: string): StopPart | null {
  const [, paint, n, field] = /^(fill|stroke)\.([1-9]\d?)\.(color|at)$/.exec(name) ?? [];
  if (paint === undefined || Number(n) > MAX_STOPS) return null;
  const property = field === 'color' ? 'fill' : 'opacity';
  return { paint: paint as 'fill', index: Number(n) - 1, field: field as 'color', property };
}

/** Names of all that can be written of the gradients of an object. */
export function stopsOf(o: SceneObject): string[] {
  return (['fill', 'stroke'] as const).flatMap((paint) =>
    (gradientOf(o, paint)?.stops ?? []).flatMap((_, i) => [
      `${paint}.${i + 1}.color`,
      `${paint}.${i + 1}.at`,
    ]),
  );
}

/** What the values of a property are, be it one that all objects have or a stop; undefined for any other part. */
export function valueInfo(name: string): PropertyInfo | undefined {
  return propertyInfo(stopOf(name)?.property ?? name);
}

/** What the object itself has of a property or a stop; null where it has none of it. */
export function ownValue(o: SceneObject, name: string): PropertyValue | null {
  const part = stopOf(name);
  if (!part) return propertyOf(o, propertyInfo(name) as PropertyInfo);
  return gradientOf(o, part.paint)?.stops[part.index]?.[part.field] ?? null;
}

/** The object with another value of its own; what has none of the property, or no such stop, stays as it is. */
export function withOwnValue(o: SceneObject, name: string, value: PropertyValue): SceneObject {
  const part = stopOf(name);
  if (!part) return withProperty(o, propertyInfo(name) as PropertyInfo, value);
  const gradient = gradientOf(o, part.paint);
  if (!gradient?.stops[part.index]) return o;
  const stops = gradient.stops.map((s, i) => (i === part.index ? { ...s, [part.field]: value } : s));
  const paint = { ...gradient, stops };
  if (part.paint === 'fill') return { ...o, base: { ...o.base, fill: paint } };
  return o.stroke ? { ...o, stroke: { ...o.stroke, color: paint } } : o;
}

function gradientOf(o: SceneObject, paint: StopPart['paint']): Gradient | null {
  const of: Fill | undefined = paint === 'fill' ? o.base.fill : o.stroke?.color;
  return typeof of === 'object' ? of : null;
}

/**
 * The property that a track's values are of. One that is a signal or a switch of its object (`signal.ID`, `collider.ID`) is
 * told by what its keys hold: it goes as any number, switch or text does.
 */
export function trackProperty(track: {
  readonly property: string;
  readonly keys: readonly { readonly value: PropertyValue }[];
}): string {
  const info = valueInfo(track.property);
  if (info) return info.name;
  const value = track.keys[0]?.value;
  return typeof value === 'boolean' ? 'shown' : typeof value === 'string' ? 'text' : 'position.x';
}
