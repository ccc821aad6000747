/** What is listened for (`on`) and what must hold (`when`): one descriptor for each kind of event, and of fact. */
import * as blockers from '../features/blockers/schema.ts';
import * as captions from '../features/captions/schema.ts';
import * as dragging from '../features/dragging/schema.ts';
import * as sheets from '../features/sheets/schema.ts';
import * as templates from '../features/templates/schema.ts';
import * as timers from '../features/timers/schema.ts';
import * as visitor from '../features/visitor/schema.ts';
import * as zones from '../features/zones/schema.ts';
import {
  type Fields,
  maybe,
  number,
  type Of,
  type OfFields,
  oneOf,
  record,
  ref,
  type Schema,
  text,
  toggle,
  union,
} from '../grammar/index.ts';
import { seconds } from './common.ts';
import { type EventKind, events } from './event-kind.ts';
import { comparesOnce, type FactKind, fact } from './fact-kind.ts';

/** All that an event can be told by; which of them belong to which event, its descriptor says. */
const onFields = {
  object: maybe(ref('objects')),
  /** A `KeyboardEvent.key`, letters in lower case. */
  key: maybe(text({ min: 1, max: 40 })),
  signal: maybe(ref('signals')),
  message: maybe(ref('messages')),
  lane: maybe(ref('lanes')),
  state: maybe(ref('states')),
  clip: maybe(ref('clips')),
  cue: maybe(ref('cues')),
  ...zones.on,
  ...captions.on,
  ...sheets.on,
  ...templates.on,
  ...timers.on,
};

/** They are picked in this order. */
export const EVENTS = {
  ...events(
    'The person',
    {
      'pointer.press': ['is pressed', '{it} pressed', 'object'],
      'pointer.release': ['is released', '{it} released', 'object'],
      'pointer.click': ['is clicked', '{it} clicked', 'object'],
      'pointer.double': ['is double clicked', '{it} double clicked', 'object'],
      'pointer.long': ['is pressed for long', '{it} pressed for long', 'object'],
      'pointer.enter': ['is pointed at', '{it} pointed at', 'object'],
      'pointer.leave': ['is no longer pointed at', '{it} no longer pointed at', 'object'],
    },
    {
      told: {
        'pointer.click': '{object} was clicked',
        'pointer.double': '{object} was double clicked',
        'pointer.long': '{object} was pressed for long',
      },
    },
  ),
  ...dragging.events,
  ...zones.events,
  ...blockers.events,
  ...captions.events,
  ...sheets.events,
  ...templates.events,
  ...events(
    'Keyboard',
    {
      'key.down': ['a keyboard key goes down', '{it} goes down', 'key'],
      'key.up': ['a keyboard key comes up', '{it} comes up', 'key'],
    },
    { told: { 'key.down': '{key} was pressed' } },
  ),
  ...events('Signals and messages', {
    'signal.change': ['a signal changes', '{it} changes', 'signal'],
    pulse: ['a pulse', '{it} pulses', 'signal'],
    message: ['a message is sent', '{it} sent', 'message'],
  }),
  ...events(
    'States and lanes',
    {
      'state.enter': ['a state is entered', '{it} entered', 'state', 'lane'],
      'state.leave': ['a state is left', '{it} left', 'state', 'lane'],
      'state.done': ['a state is done', '{it} done', 'state', 'lane'],
      'lane.done': ['a lane is finished', '{it} finished', 'lane'],
    },
    { told: { 'state.done': '{state} was done', 'lane.done': '{lane} finished' } },
  ),
  ...events(
    'Clips',
    {
      'clip.start': ['a clip starts', '{it} starts', 'clip', 'lane'],
      'clip.done': ['a clip is done', '{it} done', 'clip', 'lane'],
      'clip.loop': ['a clip begins anew', '{it} begins anew', 'clip', 'lane'],
      'clip.stopped': ['a clip is cut short', '{it} cut short', 'clip', 'lane'],
      cue: ['a cue is passed', '{it} passed', 'cue', 'clip', 'lane'],
    },
    {
      told: {
        // Those of lanes are known from their states.
        'clip.start': '{played} began',
        'clip.done': '{played} was done',
        'clip.stopped': '{played} was cut short',
        cue: '{cue} passed',
      },
    },
  ),
  ...events(
    'Time',
    { 'piece.start': ['the piece starts', 'the piece starts'] },
    { told: { 'piece.start': '{piece} started' } },
  ),
  ...timers.events,
} as const satisfies Record<string, EventKind<keyof typeof onFields>>;
export type EventName = keyof typeof EVENTS;
export const EVENT_NAMES = Object.keys(EVENTS) as EventName[];

export const onSchema = record({
  event: oneOf(EVENT_NAMES, 'is not an event that this version knows'),
  ...onFields,
});
export type On = Of<typeof onSchema>;

const operand = union(number(), toggle, text({ max: 10000 }), record({ signal: ref('signals') }));

const signalConditionSchema = record(
  {
    signal: ref('signals'),
    is: maybe(operand),
    not: maybe(operand),
    atLeast: maybe(operand),
    atMost: maybe(operand),
    above: maybe(operand),
    below: maybe(operand),
  },
  comparesOnce,
);
export type SignalCondition = Of<typeof signalConditionSchema>;

/** `{not}` stands for "not " where the fact is asked against. They are picked in this order. */
export const FACTS = {
  state: fact('State', '{not}in {state}', { lane: ref('lanes'), state: ref('states') }, { is: 'active' }),
  clip: fact(
    'How far a clip is',
    '{clip} {not}past {past}',
    { clip: ref('clips'), object: maybe(ref('objects')), past: seconds },
    { start: { past: 0.5 } },
  ),
  ...zones.facts,
  ...visitor.facts,
  over: fact('Pointed at', '{object} {not}pointed at', { object: ref('objects') }, { is: 'pointed at' }),
  /** Without an object: anything, or nothing at all, is pressed. */
  pressed: fact(
    'Held down',
    '{object} {not}held down',
    { object: maybe(ref('objects')) },
    { is: 'held down', any: 'anything' },
  ),
} as const satisfies Record<string, FactKind>;
export type Fact = keyof typeof FACTS;

/** The schema of a condition on signals or these facts. */
export function conditionOf(facts: Readonly<Record<string, FactKind>>): Schema {
  const each = Object.entries(facts).map(([k, f]) =>
    record({ fact: oneOf([k]), is: maybe(toggle), ...f.fields }, ...(f.rule ? [f.rule] : [])),
  );
  return union(signalConditionSchema, ...each);
}
type Asked<F extends Fields> = 'is' extends keyof F ? unknown : { is?: boolean | undefined };
export type FactCondition = {
  [K in Fact]: { fact: K } & Asked<(typeof FACTS)[K]['fields']> & OfFields<(typeof FACTS)[K]['fields']>;
}[Fact];
export type Condition = SignalCondition | FactCondition;
export const conditionSchema = conditionOf(FACTS) as Schema<Condition>;
