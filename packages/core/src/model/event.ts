/** What is listened for (`on`) and what must hold (`when`): one descriptor for each kind of event, and of fact. */
import {
  type Fields,
  type Form,
  maybe,
  number,
  type Of,
  type OfFields,
  oneOf,
  record,
  ref,
  text,
  toggle,
  union,
} from '../grammar/index.ts';
import { type Said, seconds } from './common.ts';

/** All that an event can be told by; which of them belong to which event, its descriptor says. */
export const onFields = {
  object: maybe(ref('objects')),
  /** A `KeyboardEvent.key`, letters in lower case. */
  key: maybe(text({ min: 1, max: 40 })),
  signal: maybe(ref('signals')),
  message: maybe(ref('messages')),
  lane: maybe(ref('lanes')),
  state: maybe(ref('states')),
  clip: maybe(ref('clips')),
  cue: maybe(ref('cues')),
  /** Timers only, seconds: the first at `after` (else `every`), then each `every`, give or take `jitter`. */
  after: maybe(seconds),
  every: maybe(number({ min: 0.001, max: 86400, low: 'must be at least 0.001 seconds' })),
  jitter: maybe(seconds),
};
type OnField = keyof typeof onFields;

interface EventKind extends Said {
  /** What tells one such event from another; the first stands for it in sentences. */
  readonly by: readonly OnField[];
}
const event = (pick: string, says: string, ...by: OnField[]): EventKind => ({ pick, says, by });

export const EVENTS = {
  'piece.start': event('the piece starts', 'the piece starts'),
  'pointer.press': event('pressed', '{object} pressed', 'object'),
  'pointer.release': event('released', '{object} released', 'object'),
  'pointer.click': event('clicked', '{object} clicked', 'object'),
  'pointer.enter': event('pointed at', '{object} pointed at', 'object'),
  'pointer.leave': event('no longer pointed at', '{object} no longer pointed at', 'object'),
  'key.down': event('goes down', '{key} goes down', 'key'),
  'key.up': event('comes up', '{key} comes up', 'key'),
  timer: event('time', '{time}', 'after', 'every', 'jitter'),
  'signal.change': event('changes', '{signal} changes', 'signal'),
  pulse: event('pulses', '{signal} pulses', 'signal'),
  message: event('sent', '{message} sent', 'message'),
  'state.enter': event('entered', '{state} entered', 'state', 'lane'),
  'state.leave': event('left', '{state} left', 'state', 'lane'),
  'state.done': event('done', '{state} done', 'state', 'lane'),
  'lane.done': event('finished', '{lane} finished', 'lane'),
  'clip.start': event('starts', '{clip} starts', 'clip', 'lane'),
  'clip.done': event('done', '{clip} done', 'clip', 'lane'),
  'clip.loop': event('begins anew', '{clip} begins anew', 'clip', 'lane'),
  'clip.stopped': event('cut short', '{clip} cut short', 'clip', 'lane'),
  cue: event('passed', '{cue} passed', 'cue', 'clip', 'lane'),
} as const satisfies Record<string, EventKind>;
export type EventName = keyof typeof EVENTS;
export const EVENT_NAMES = Object.keys(EVENTS) as EventName[];

export const onForm = record({
  event: oneOf(EVENT_NAMES, 'is not an event that this version knows'),
  ...onFields,
});
export type On = Of<typeof onForm>;

const operand = union(number(), toggle, text({ max: 10000 }), record({ signal: ref('signals') }));
export const COMPARISONS = ['is', 'not', 'atLeast', 'atMost', 'above', 'below'] as const;
export type Comparison = (typeof COMPARISONS)[number];

const signalConditionForm = record(
  {
    signal: ref('signals'),
    is: maybe(operand),
    not: maybe(operand),
    atLeast: maybe(operand),
    atMost: maybe(operand),
    above: maybe(operand),
    below: maybe(operand),
  },
  {
    holds: (c) => COMPARISONS.filter((k) => c[k] !== undefined).length === 1,
    says: 'must compare in exactly one way (is, not, atLeast, atMost, above or below)',
  },
);
export type SignalCondition = Of<typeof signalConditionForm>;

interface FactKind extends Said {
  readonly fields: Fields;
}
const fact = <const F extends Fields>(pick: string, says: string, fields: F) => ({ pick, says, fields });

/** `{not}` stands for "not " where the fact is asked against. */
export const FACTS = {
  state: fact('is in the state', '{not}in {state}', { lane: ref('lanes'), state: ref('states') }),
  clip: fact('is past a moment of', '{clip} {not}past {past}', {
    clip: ref('clips'),
    object: maybe(ref('objects')),
    past: seconds,
  }),
} as const satisfies Record<string, FactKind>;
export type Fact = keyof typeof FACTS;

/** The form of a condition on signals or these facts. */
export function conditionOf(facts: Readonly<Record<string, FactKind>>): Form {
  const each = Object.entries(facts).map(([k, f]) =>
    record({ fact: oneOf([k]), ...f.fields, is: maybe(toggle) }),
  );
  return union(signalConditionForm, ...each);
}
export type FactCondition = {
  [K in Fact]: { fact: K; is?: boolean | undefined } & OfFields<(typeof FACTS)[K]['fields']>;
}[Fact];
export type Condition = SignalCondition | FactCondition;
export const conditionForm = conditionOf(FACTS) as Form<Condition>;
