/** What properties are called, what their numbers are told in and stepped by: for who shows them, not for who runs a piece. */
import { type PropertyField, propertyInfo } from './property.ts';
import { stopOf, valueInfo } from './stops.ts';

const WORDS: Readonly<Record<PropertyField, readonly [label: string, unit: string, step: number]>> = {
  position: ['place', 'px', 1],
  rotation: ['turn', '°', 1],
  scale: ['scale', '×', 0.1],
  pivot: ['pivot', 'px', 1],
  opacity: ['opacity', '', 0.1],
  shown: ['shown', '', 1],
  fill: ['fill', '', 1],
  look: ['look', '', 1],
  text: ['words', '', 1],
  dashStart: ['dashes', 'px', 1],
};

/** The property in words: "place x". A name that is no property stays as it is. */
export function propertyLabel(name: string): string {
  const stop = stopOf(name);
  if (stop)
    return `${stop.paint === 'stroke' ? 'stroke, ' : ''}stop ${stop.index + 1} ${stop.field === 'color' ? 'colour' : 'place'}`;
  const info = propertyInfo(name);
  if (!info) return name;
  const [label] = WORDS[info.field];
  return info.axis === null ? label : `${label} ${'xyz'[info.axis]}`;
}

/** The unit of its numbers; empty where they have none. */
export function propertyUnit(name: string): string {
  const info = valueInfo(name);
  return info ? WORDS[info.field][1] : '';
}

/** By how much an arrow key in its field changes the number, in its unit. */
export function propertyStep(name: string): number {
  const info = valueInfo(name);
  return info ? WORDS[info.field][2] : 1;
}
