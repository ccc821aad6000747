/** Values of actions, and crossfades. */
import {
  lazy,
  list,
  maybe,
  number,
  type Of,
  record,
  ref,
  type Schema,
  text,
  toggle,
  tuple,
  union,
} from '../grammar/index.ts';
import { seconds } from './common.ts';
import { fadeEasingSchema } from './easing.ts';

/** A constant, a signal (perhaps mapped from one range to another), an arithmetic, or a random pick. */
export type Value =
  | number
  | boolean
  | string
  | { signal: string; from?: [number, number] | undefined; to?: [number, number] | undefined }
  | { sum: Value[] }
  | { difference: Value[] }
  | { product: Value[] }
  | { pick: Value[] };
const range = tuple(number(), number());
export const valueSchema: Schema<Value> = lazy(() => values);
const several = (max: number) => list(valueSchema, { min: 1, max });
const values = union(
  number(),
  toggle,
  text({ max: 10000 }),
  record({ signal: ref('signals'), from: maybe(range), to: maybe(range) }),
  record({ sum: several(20) }),
  record({ difference: several(20) }),
  record({ product: several(20) }),
  record({ pick: several(100) }),
) as Schema<Value>;

const fades = { easing: maybe(fadeEasingSchema), mustFinish: maybe(toggle) };
export const crossfadeSchema = union(
  record({ seconds, ...fades }),
  record({ percent: number({ min: 0, max: 100000 }), ...fades }),
);
export type Crossfade = Of<typeof crossfadeSchema>;
