/** Values of actions, and crossfades. */
import {
  type Form,
  lazy,
  list,
  maybe,
  number,
  type Of,
  record,
  ref,
  text,
  toggle,
  tuple,
  union,
} from '../grammar/index.ts';
import { seconds } from './common.ts';
import { fadeEasingForm } from './easing.ts';

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
export const valueForm: Form<Value> = lazy(() => values);
const several = (max: number) => list(valueForm, { min: 1, max });
const values = union(
  number(),
  toggle,
  text({ max: 10000 }),
  record({ signal: ref('signals'), from: maybe(range), to: maybe(range) }),
  record({ sum: several(20) }),
  record({ difference: several(20) }),
  record({ product: several(20) }),
  record({ pick: several(100) }),
) as Form<Value>;

const fades = { easing: maybe(fadeEasingForm), mustFinish: maybe(toggle) };
export const crossfadeForm = union(
  record({ seconds, ...fades }),
  record({ percent: number({ min: 0, max: 100000 }), ...fades }),
);
export type Crossfade = Of<typeof crossfadeForm>;
