/** Inputs from outside, as lists of plain data: the same in a browser, a file and a test. */
import { type Piece, type SceneObject, type SignalValue, treeOrder } from '../model/index.ts';

/** One input, without its instant: the schemas are those of `inputSchema` in `check`, which reads them. */
export type InputKind =
  | { click: string }
  | { press: string }
  | { release: string }
  | { enter: string }
  | { leave: string }
  /** Frame px from the top left corner; null takes the pointer away. */
  | { pointer: { x: number; y: number; down: boolean } | null }
  /** The angle from which people look, degrees. */
  | { view: { azimuth: number; elevation: number } }
  /** What people see of the piece where it is shown, px. */
  | { frame: { width: number; height: number } }
  /** The answer, by its id or its words, to the caption of an object. */
  | { answer: { object: string; answer: string } }
  /** A cue sheet by its name or id, as if `skip` seconds of it had passed. */
  | { sheet: string; skip?: number | undefined }
  /** Where the visitor is put, px in its parent. */
  | { visitor: { x: number; y: number; z: number } }
  /** Moved to a place in its parent, px, straight and as fast as it takes `over` seconds; nothing stops it. */
  | { move: { object: string; to: readonly [number, number, number]; over?: number | undefined } }
  /** What an object says for the usual 3 s; without words it says no more. */
  | { say: { object: string; text: string } }
  /** A sound by its name or id. */
  | { sound: string }
  | { key: string; down: boolean }
  | { set: Record<string, SignalValue> }
  | { pulse: string }
  | { send: string }
  | { put: { object: string; property: string; value: SignalValue } };
/** `at`: seconds. */
export type Input = InputKind & { at: number };

/** An object by id, by path of names (`Chute/Flap`) or by its name where that is unique; null when there is none. */
export function findObject(piece: Piece, text: string): SceneObject | null {
  if (Object.hasOwn(piece.objects, text)) return piece.objects[text] as SceneObject;
  const all = treeOrder(Object.values(piece.objects));
  const named = all.filter((o) => o.name === text);
  if (named.length === 1) return named[0] as SceneObject;
  return all.find((o) => objectPath(piece, o.id) === text) ?? null;
}

/** The names from the root down to an object, joined by `/`. */
export function objectPath(piece: Piece, id: string): string {
  const names: string[] = [];
  for (let o = piece.objects[id]; o; o = o.parent === null ? undefined : piece.objects[o.parent])
    names.unshift(o.name);
  return names.join('/');
}

/** The id of a record of a table, told by that or by its name; the text itself where there is none. */
export function idOf(records: Readonly<Record<string, { id: string; name: string }>>, text: string): string {
  if (Object.hasOwn(records, text)) return text;
  return Object.values(records).find((r) => r.name === text)?.id ?? text;
}
