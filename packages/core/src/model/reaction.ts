/** When … if … do …, owned by an object. */
import {
  elseBecomes,
  list,
  maybe,
  type Of,
  oneOf,
  own,
  preset,
  record,
  ref,
  toggle,
  union,
} from '../grammar/index.ts';
import { actionsForm } from './action.ts';
import { seconds } from './common.ts';
import { conditionForm, onForm } from './event.ts';

export const reactionForm = record({
  id: own('reactions'),
  object: ref('objects'),
  on: onForm,
  when: preset(list(conditionForm, { max: 50 }), []),
  /** Delays all its actions, seconds. */
  after: preset(seconds, 0),
  /** Seconds after an event during which it hears no other; the end belongs to it. */
  cooldown: preset(seconds, 0),
  limit: elseBecomes(
    preset(union(oneOf(['always', 'once']), record({ onceUntil: onForm })), 'always'),
    'once',
  ),
  /** The event goes no further up the tree. */
  stop: maybe(toggle),
  actions: { ...actionsForm, needed: true },
});
export type Reaction = Of<typeof reactionForm>;
