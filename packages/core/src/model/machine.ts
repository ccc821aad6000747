/** State machines: a machine on an object has lanes that run side by side; a lane has states and transitions. */
import {
  elseBecomes,
  list,
  maybe,
  number,
  type Of,
  oneOf,
  orNull,
  own,
  record,
  ref,
  type Schema,
  toggle,
  union,
  withDefault,
} from '../grammar/index.ts';
import { actionsSchema } from './action.ts';
import { bySignal } from './by-signal.ts';
import { name, seconds } from './common.ts';
import { conditionSchema, onSchema } from './event.ts';
import { playSchema } from './play.ts';
import { crossfadeSchema } from './value.ts';

const stateSchema = record({
  id: own('states'),
  name,
  play: elseBecomes(playSchema, 'rest'),
  onEntry: maybe(actionsSchema),
  onExit: maybe(actionsSchema),
  final: maybe(toggle),
});
export type State = Of<typeof stateSchema>;

const notBeforeSchema = union(
  record({ seconds }),
  record({ percent: number({ min: 0, max: 100000 }) }),
  oneOf(['loopEnd']),
);
export type NotBefore = Of<typeof notBeforeSchema>;

const odds = number({ min: 0, max: 1e6, low: 'must not be negative' });
const transitionSchema = {
  ...record({
    id: own('transitions'),
    /** A state of the lane, or `*`: from anywhere. */
    from: union(oneOf(['*']), ref('states')) as Schema<string>,
    to: ref('states'),
    on: withDefault(orNull(onSchema), null),
    when: withDefault(list(conditionSchema, { max: 50 }), []),
    notBefore: withDefault(orNull(notBeforeSchema), null),
    crossfade: withDefault(crossfadeSchema, { seconds: 0 }),
    odds: withDefault(orNull(odds), null),
    enabled: withDefault(toggle, true),
    /** False until its maker gave it an event, a condition, a not-before or odds; unset ones never go. */
    set: withDefault(toggle, true),
    reenter: withDefault(toggle, false),
    mayRepeat: withDefault(toggle, true),
  }),
  after: 'transition is set' as const,
};
export type Transition = Of<typeof transitionSchema>;

const laneSchema = record({
  id: own('lanes'),
  name,
  initial: {
    ...union(
      ref('states'),
      record({
        draw: list(record({ state: ref('states'), odds: number({ min: 0, max: 1e6 }) }), {
          min: 1,
          max: 200,
          needed: true,
        }),
      }),
    ),
    onDelete: { rule: 'first state' as const },
  },
  unkeyed: withDefault(oneOf(['base', 'keep']), 'base'),
  amount: elseBecomes(withDefault(union(number({ min: 0, max: 1 }), bySignal), 1), 1),
  blend: withDefault(oneOf(['replace', 'add']), 'replace'),
  states: list(stateSchema, { min: 1, max: 500, few: 'must hold at least one state', needed: true }),
  transitions: list(transitionSchema, { max: 5000 }),
});
export type Lane = Of<typeof laneSchema>;

export const machineSchema = record({
  id: own('machines'),
  name,
  /** The object it drives: its clips are played at this object's subtree. */
  object: ref('objects'),
  lanes: list(laneSchema, { max: 100 }),
});
export type Machine = Of<typeof machineSchema>;
