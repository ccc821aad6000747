/** Inputs from outside, as lists of plain data: the same in a browser, a file and a test. */
import { z } from 'zod';
import { type Piece, type SceneObject, treeOrder } from '../model/index.ts';

const at = { at: z.number().min(0).max(86400) };
const name = z.string().min(1).max(1000);
const value = z.union([z.number(), z.boolean(), z.string()]);

export const inputSchema = z.union([
  z.strictObject({ ...at, click: name }),
  z.strictObject({ ...at, press: name }),
  z.strictObject({ ...at, release: name }),
  z.strictObject({ ...at, enter: name }),
  z.strictObject({ ...at, leave: name }),
  /** Frame px from the top left corner; null takes the pointer away. */
  z.strictObject({
    ...at,
    pointer: z.strictObject({ x: z.number(), y: z.number(), down: z.boolean() }).nullable(),
  }),
  /** The angle from which people look, degrees. */
  z.strictObject({ ...at, view: z.strictObject({ azimuth: z.number(), elevation: z.number() }) }),
  /** What people see of the piece where it is shown, px. */
  z.strictObject({
    ...at,
    frame: z.strictObject({ width: z.number().positive(), height: z.number().positive() }),
  }),
  z.strictObject({ ...at, key: name, down: z.boolean() }),
  z.strictObject({ ...at, set: z.record(z.string(), value) }),
  z.strictObject({ ...at, pulse: name }),
  z.strictObject({ ...at, send: name }),
  z.strictObject({ ...at, put: z.strictObject({ object: name, property: name, value }) }),
]);
export type Input = z.infer<typeof inputSchema>;

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
