/** Animation data: a clip has tracks, one per object and property; a track has keys in order of time. */
import {
  list,
  maybe,
  type NumberSchema,
  number,
  type Of,
  oneOf,
  own,
  property,
  record,
  ref,
  type Schema,
  text,
  toggle,
  union,
  withDefault,
} from '../grammar/index.ts';
import { actionsSchema } from './action.ts';
import { name, seconds } from './common.ts';
import { easingSchema } from './easing.ts';

const keyValue = union(
  number({ min: -1e7, max: 1e7, low: 'is too small', high: 'is too large' }),
  toggle,
  text({ max: 5000 }),
);

const keySchema = record({ t: seconds, value: keyValue, easing: easingSchema });
export type Key = Of<typeof keySchema>;

/** A key of the property `look` names a look: `visitReferences` knows that. */
const trackSchema = record({
  object: ref('objects'),
  property,
  /** An offset track adds to the value that the object has when the play begins, and what it gained stays. */
  mode: oneOf(['absolute', 'offset']),
  /** Of a turn: from key to key the shorter way round, however many turns the numbers are apart. */
  shortest: maybe(toggle),
  keys: list(keySchema, { min: 1, max: 100000, few: 'must hold at least one key' }),
});
export type Track = Of<typeof trackSchema>;

const clipCueSchema = record({
  id: own('cues'),
  t: seconds,
  when: withDefault(oneOf(['forwards', 'backwards', 'both']), 'forwards'),
  actions: actionsSchema,
});
export type ClipCue = Of<typeof clipCueSchema>;

const duration: Schema<number> = {
  ...seconds,
  rules: [{ predicate: (d: number) => d === 0 || d >= 0.001, says: 'must be 0 or at least 0.001 seconds' }],
} as NumberSchema;
export const clipSchema = record({
  id: own('clips'),
  name,
  /** The object at whose subtree the clip is made. */
  root: ref('objects'),
  /** Seconds; 0 is a pose, otherwise at least 0.001. */
  duration,
  loop: oneOf(['once', 'loop', 'there-and-back']),
  tracks: list(trackSchema, { max: 20000 }),
  cues: withDefault(list(clipCueSchema, { max: 1000 }), []),
});
export type Clip = Of<typeof clipSchema>;
