/**
 * What is known of the file that an object came in with, so that a newer version of the file can take its place: which
 * part of the file it was, where it stood, and a sign of each of its fields, by which one sees what was changed here.
 */
import { list, maybe, number, type Of, oneOf, record, text, tuple } from '../grammar/index.ts';
import { length, name, vec3 } from './common.ts';

const part = text({ min: 1, max: 400, short: 'must not be empty' });

const side = number({ whole: true, min: 1 });

const fileSchema = record({
  name,
  /** SHA-256 of its bytes, in hexadecimal. */
  hash: text({ like: ['^[0-9a-f]{64}$', 'must be a SHA-256 in hexadecimal'] }),
  /** How the px of the file became those of the piece, as its reader writes it. */
  seen: maybe(list(number(), { max: 16 })),
  /** Of a picture that is kept smaller: its width and height in the file, px. */
  scaledFrom: maybe(tuple(side, side)),
  /** Of a model: the most triangles that it may have here. */
  faces: maybe(number({ whole: true, min: 1 })),
  /** What was left out or taken otherwise. */
  notes: list(text({ max: 1000 }), { max: 500 }),
  /** All that was in it, each with the sign of its drawing: what of it is gone here was taken out here. */
  parts: list(text({ min: 1, max: 500, short: 'must not be empty' }), { max: 20_000 }),
});
export type BroughtFile = Of<typeof fileSchema>;

export const broughtSchema = record({
  /** The same for all that came with one file. */
  drawing: text({ min: 1, max: 40, short: 'must not be empty' }),
  /** "#" and its id in the file; else the part that it lay in, "/" and its name there. */
  part,
  /** The part that it lay in, where `part` does not say that. */
  within: maybe(part),
  name,
  /** Whether the file gives it that name. */
  named: maybe(oneOf([true])),
  /** Why it is a picture that was painted of a part of the file. */
  painted: maybe(text({ max: 100 })),
  kind: text({ max: 20 }),
  order: text({ min: 1, max: 200, short: 'must not be empty' }),
  /** Where it stood: of turn, scale and pivot what differs from none. */
  position: vec3,
  rotation: maybe(vec3),
  scale: maybe(vec3),
  pivot: maybe(vec3),
  /** Where its origin lies from the middle of its drawing, px, since a newer version was drawn about the old origin. */
  origin: maybe(tuple(length, length)),
  /** The names of its fields, each followed by its sign: what is as in a new object is left out. */
  was: text({ max: 4000 }),
  /** Of the object that holds all of them: the file. */
  file: maybe(fileSchema),
});
export type Brought = Of<typeof broughtSchema>;
