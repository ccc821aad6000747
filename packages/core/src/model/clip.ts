/** Animation data: a clip has tracks, one per object and property; a track has keys in order of time. */
import {
  type Form,
  list,
  maybe,
  type NumberForm,
  number,
  type Of,
  oneOf,
  own,
  preset,
  property,
  record,
  ref,
  text,
  toggle,
  union,
} from '../grammar/index.ts';
import { actionsForm } from './action.ts';
import { name, seconds } from './common.ts';
import { easingForm } from './easing.ts';

const keyValue = union(
  number({ min: -1e7, max: 1e7, low: 'is too small', high: 'is too large' }),
  toggle,
  text({ max: 5000 }),
);

const keyForm = record({ t: seconds, value: keyValue, easing: easingForm });
export type Key = Of<typeof keyForm>;

/** A key of the property `look` names a look: `referencesOf` knows that. */
const trackForm = record({
  object: ref('objects'),
  property,
  /** An offset track adds to the value that the object has when the play begins, and what it gained stays. */
  mode: oneOf(['absolute', 'offset']),
  /** Of a turn: from key to key the shorter way round, however many turns the numbers are apart. */
  shortest: maybe(toggle),
  keys: list(keyForm, { min: 1, max: 100000, few: 'must hold at least one key' }),
});
export type Track = Of<typeof trackForm>;

const clipCueForm = record({
  id: own('cues'),
  t: seconds,
  when: preset(oneOf(['forwards', 'backwards', 'both']), 'forwards'),
  actions: actionsForm,
});
export type ClipCue = Of<typeof clipCueForm>;

const duration: Form<number> = {
  ...seconds,
  rules: [{ holds: (d: number) => d === 0 || d >= 0.001, says: 'must be 0 or at least 0.001 seconds' }],
} as NumberForm;
export const clipForm = record({
  id: own('clips'),
  name,
  /** The object at whose subtree the clip is made. */
  root: ref('objects'),
  /** Seconds; 0 is a pose, otherwise at least 0.001. */
  duration,
  loop: oneOf(['once', 'loop', 'there-and-back']),
  tracks: list(trackForm, { max: 20000 }),
  cues: preset(list(clipCueForm, { max: 1000 }), []),
});
export type Clip = Of<typeof clipForm>;
