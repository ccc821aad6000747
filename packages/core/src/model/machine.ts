/** State machines: a machine on an object has lanes that run side by side; a lane has states and transitions. */
import {
  elseBecomes,
  type Form,
  list,
  maybe,
  number,
  type Of,
  oneOf,
  orNull,
  own,
  preset,
  record,
  ref,
  toggle,
  union,
} from '../grammar/index.ts';
import { actionsForm } from './action.ts';
import { bySignal } from './by-signal.ts';
import { name, seconds } from './common.ts';
import { conditionForm, onForm } from './event.ts';
import { playForm } from './play.ts';
import { crossfadeForm } from './value.ts';

const stateForm = record({
  id: own('states'),
  name,
  play: elseBecomes(playForm, 'rest'),
  onEntry: maybe(actionsForm),
  onExit: maybe(actionsForm),
  final: maybe(toggle),
});
export type State = Of<typeof stateForm>;

const notBeforeForm = union(
  record({ seconds }),
  record({ percent: number({ min: 0, max: 100000 }) }),
  oneOf(['loopEnd']),
);
export type NotBefore = Of<typeof notBeforeForm>;

const odds = number({ min: 0, max: 1e6, low: 'must not be negative' });
const transitionForm = {
  ...record({
    id: own('transitions'),
    /** A state of the lane, or `*`: from anywhere. */
    from: union(oneOf(['*']), ref('states')) as Form<string>,
    to: ref('states'),
    on: preset(orNull(onForm), null),
    when: preset(list(conditionForm, { max: 50 }), []),
    notBefore: preset(orNull(notBeforeForm), null),
    crossfade: preset(crossfadeForm, { seconds: 0 }),
    odds: preset(orNull(odds), null),
    enabled: preset(toggle, true),
    /** False until its maker gave it an event, a condition, a not-before or odds; unset ones never go. */
    set: preset(toggle, true),
    reenter: preset(toggle, false),
    mayRepeat: preset(toggle, true),
  }),
  after: 'transition is set' as const,
};
export type Transition = Of<typeof transitionForm>;

const laneForm = record({
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
    lost: { rule: 'first state' as const },
  },
  unkeyed: preset(oneOf(['base', 'keep']), 'base'),
  amount: elseBecomes(preset(union(number({ min: 0, max: 1 }), bySignal), 1), 1),
  blend: preset(oneOf(['replace', 'add']), 'replace'),
  states: list(stateForm, { min: 1, max: 500, few: 'must hold at least one state', needed: true }),
  transitions: list(transitionForm, { max: 5000 }),
});
export type Lane = Of<typeof laneForm>;

export const machineForm = record({
  id: own('machines'),
  name,
  /** The object it drives: its clips are played at this object's subtree. */
  object: ref('objects'),
  lanes: list(laneForm, { max: 100 }),
});
export type Machine = Of<typeof machineForm>;
