/** When … if … do …, owned by an object. */
import {
  elseBecomes,
  list,
  maybe,
  type Of,
  oneOf,
  own,
  record,
  ref,
  toggle,
  union,
  withDefault,
} from '../grammar/index.ts';
import { actionsSchema } from './action.ts';
import { seconds } from './common.ts';
import { conditionSchema, onSchema } from './event.ts';

export const reactionSchema = record({
  id: own('reactions'),
  object: ref('objects'),
  on: onSchema,
  when: withDefault(list(conditionSchema, { max: 50 }), []),
  /** Delays all its actions, seconds. */
  after: withDefault(seconds, 0),
  /** Seconds after an event during which it hears no other; the end belongs to it. */
  cooldown: withDefault(seconds, 0),
  limit: elseBecomes(
    withDefault(union(oneOf(['always', 'once']), record({ onceUntil: onSchema })), 'always'),
    'once',
  ),
  /** The event goes no further up the tree. */
  stop: maybe(toggle),
  actions: { ...actionsSchema, needed: true },
});
export type Reaction = Of<typeof reactionSchema>;
