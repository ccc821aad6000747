/** What the state knows of what is spawned: who is there, since when, and by which name. */
import { mapRange, toNumber } from '../logic/index.ts';
import { CH_SHOWN, CHANNELS, type SignalValue } from '../model/index.ts';
import type { BoundProgram, PlaceProgram } from './place-program.ts';
import type { Program } from './program.ts';
import { SPAWN_ROW } from './row-widths.ts';

/** What of a run's state this is about. */
interface SpawnRows {
  readonly spawned: Float64Array;
  readonly base: Float64Array;
}

/** Whether something stands in a place. */
export function isThere(state: SpawnRows, place: number): boolean {
  return state.spawned[place * SPAWN_ROW] === 1;
}
/** The id of the place in which a reaction or lane lies; undefined for one of the piece itself. */
export function placeOf({ spawns }: Program, what: 'Reaction' | 'Lane', number: number): string | undefined {
  return spawns.places.length === 0 ? undefined : spawns.places[spawns[`of${what}`][number] ?? -1]?.id;
}
/** Which of all that were spawned of its template stands there. */
export function numberOf(state: SpawnRows, place: number): number {
  return state.spawned[place * SPAWN_ROW + 1] as number;
}

/** The number of the first scheduled item that can be of what stands in a place: earlier ones were of what stood there before. */
export function firstScheduledOf(state: SpawnRows, place: number): number {
  return state.spawned[place * SPAWN_ROW + 6] as number;
}

/** The instant at which what is in a place began; 0 for the piece itself (−1). */
export function bornAt(state: SpawnRows, place: number): number {
  return place < 0 ? 0 : (state.spawned[place * SPAWN_ROW + 2] as number);
}

/** Whether an object is there: not in a place in which nothing stands. */
export function isObjectThere(program: Program, state: SpawnRows, object: number): boolean {
  const k = program.spawns.ofObject[object] ?? -1;
  return k < 0 || isThere(state, k);
}

/** Writes to the base where what is spawned stands, and that what is not is not shown. */
export function settleBase(program: Program, state: SpawnRows, place: number): void {
  const { root } = program.spawns.places[place] as PlaceProgram;
  const o = place * SPAWN_ROW;
  const first = root * CHANNELS;
  for (let c = 0; c < 3; c++) state.base[first + c] = state.spawned[o + 3 + c] as number;
  state.base[first + CH_SHOWN] = state.spawned[o] as number;
}

/** What a bound signal takes from the value of its outer one. */
export function boundValue(b: BoundProgram, value: SignalValue): SignalValue {
  return b.from && b.to ? mapRange(toNumber(value), b.from, b.to) : value;
}

/** An id as people know it: in what is spawned, `TEMPLATE#n` with the number of the one that is there. */
export function trueName(program: Program, state: SpawnRows, id: string): string {
  const cut = id.indexOf('/');
  const k = program.spawns.index.get(cut < 0 ? id : id.slice(0, cut));
  if (k === undefined) return id;
  const { template } = program.spawns.places[k] as PlaceProgram;
  const name = `${program.spawns.templates[template]?.id}#${numberOf(state, k)}`;
  return cut < 0 ? name : name + id.slice(cut);
}

/** The place in which what people know as `TEMPLATE#n` stands; −1 when that is not there, or the text is no such name. */
export function placeNamed(program: Program, state: SpawnRows, text: string): number {
  const found = /^([^/#]+)#(\d+)$/.exec(text);
  if (!found) return -1;
  const [, template, n] = found;
  return program.spawns.places.findIndex(
    (p, k) =>
      isThere(state, k) &&
      numberOf(state, k) === Number(n) &&
      program.spawns.templates[p.template]?.id === template,
  );
}

/** The other way round from `trueName`; the same text where it names nothing that is there. */
export function placeName(program: Program, state: SpawnRows, text: string): string {
  const cut = text.search(/[/.]/);
  const [name, rest] = cut < 0 ? [text, ''] : [text.slice(0, cut), text.slice(cut)];
  const k = placeNamed(program, state, name);
  return k < 0 ? text : (program.spawns.places[k] as PlaceProgram).id + rest;
}
