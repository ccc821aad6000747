/** Inputs from outside, as lists of plain data: the same in a browser, a file and a test. */
import {
  maybe,
  number,
  orNull,
  record,
  type Schema,
  table,
  text,
  toggle,
  tuple,
  union,
} from '../grammar/index.ts';
import type { Input } from '../run/input.ts';
import { toZod } from './to-zod.ts';

const at = number({ min: 0, max: 86400 });
const name = text({ min: 1, max: 1000 });
const value = union(number(), toggle, text());

const inputSchema = union(
  ...['click', 'press', 'release', 'enter', 'leave', 'pulse', 'send', 'sound'].map((what) =>
    record({ at, [what]: name }),
  ),
  record({ at, pointer: orNull(record({ x: number(), y: number(), down: toggle })) }),
  record({ at, view: record({ azimuth: number(), elevation: number() }) }),
  record({ at, frame: record({ width: number({ above: 0 }), height: number({ above: 0 }) }) }),
  record({ at, answer: record({ object: name, answer: name }) }),
  record({ at, sheet: name, skip: maybe(number({ min: 0, max: 86400 })) }),
  record({ at, visitor: record({ x: number(), y: number(), z: number() }) }),
  record({
    at,
    move: record({
      object: name,
      to: tuple(number(), number(), number()),
      over: maybe(number({ min: 0, max: 86400 })),
    }),
  }),
  record({ at, say: record({ object: name, text: text({ max: 5000 }) }) }),
  record({ at, key: name, down: toggle }),
  record({ at, set: table(value, 'any') }),
  record({ at, put: record({ object: name, property: name, value }) }),
) as Schema<Input>;

/** The input that this is; null when it is none that this version knows. */
export function readInput(entry: unknown): Input | null {
  const read = toZod(inputSchema).safeParse(entry);
  return read.success ? read.data : null;
}
