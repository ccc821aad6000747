/** What is listened for (`on`) and what must hold (`when`): one descriptor for each kind of event, and of fact. */
import {
  type Fields,
  type Form,
  list,
  maybe,
  number,
  type Of,
  type OfFields,
  oneOf,
  type Rule,
  record,
  ref,
  text,
  toggle,
  union,
} from '../grammar/index.ts';
import { type Said, seconds } from './common.ts';
import { COMPARISONS, type Comparison } from './comparisons.ts';

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
  collider: maybe(ref('colliders')),
  /** The thing that is noticed, and the tags one of which it has. */
  other: maybe(ref('objects')),
  tags: maybe(list(ref('tags'), { min: 1, max: 64, needed: true })),
  /** Of a caption that asks. */
  answer: maybe(ref('answers')),
  sheet: maybe(ref('cueSheets')),
  template: maybe(ref('templates')),
  /** Timers only, seconds: the first at `after` (else `every`), then each `every`, give or take `jitter`. */
  after: maybe(seconds),
  every: maybe(number({ min: 0.001, max: 86400, low: 'must be at least 0.001 seconds' })),
  jitter: maybe(seconds),
};
type OnField = keyof typeof onFields;

interface EventKind extends Said {
  /** The heading under which it is picked. */
  readonly group: string;
  /** What tells one such event from another; the first that is given stands for it in sentences. */
  readonly by: readonly OnField[];
}
type EventRow = readonly [pick: string, says: string, ...by: OnField[]];
/** Events of one group. `{it}` stands for what the event happens to, `{thing}` for what a zone notices. */
function events<const R extends Readonly<Record<string, EventRow>>>(group: string, rows: R) {
  const made = Object.entries(rows).map(([name, [pick, says, ...by]]) => [name, { group, pick, says, by }]);
  return Object.fromEntries(made) as { readonly [K in keyof R]: EventKind };
}

export const EVENTS = {
  ...events('Time', { 'piece.start': ['the piece starts', 'the piece starts'] }),
  ...events('The person', {
    'pointer.press': ['is pressed', '{it} pressed', 'object'],
    'pointer.release': ['is released', '{it} released', 'object'],
    'pointer.click': ['is clicked', '{it} clicked', 'object'],
    'pointer.double': ['is double clicked', '{it} double clicked', 'object'],
    'pointer.long': ['is pressed for long', '{it} pressed for long', 'object'],
    'pointer.enter': ['is pointed at', '{it} pointed at', 'object'],
    'pointer.leave': ['is no longer pointed at', '{it} no longer pointed at', 'object'],
    'drag.start': ['begins to be dragged', '{it} begins to be dragged', 'object'],
    'drag.move': ['is dragged', '{it} dragged', 'object'],
    'drag.drop': ['is dropped', '{it} dropped', 'object', 'collider'],
  }),
  ...events('Zones', {
    'zone.enter': [
      'something comes into a zone',
      '{thing} comes into {it}',
      'collider',
      'object',
      'other',
      'tags',
    ],
    'zone.leave': ['something leaves a zone', '{thing} leaves {it}', 'collider', 'object', 'other', 'tags'],
    'near.enter': ['something comes near', '{thing} comes near {it}', 'collider', 'object', 'other', 'tags'],
    'near.leave': [
      'something is near no more',
      '{thing} is no longer near {it}',
      ...(['collider', 'object', 'other', 'tags'] as const),
    ],
    'touch.begin': ['something touches it', '{thing} touches {it}', 'collider', 'object', 'other', 'tags'],
    'touch.end': [
      'something touches it no more',
      '{thing} no longer touches {it}',
      ...(['collider', 'object', 'other', 'tags'] as const),
    ],
    'touch.crush': [
      'something is crushed by it',
      '{thing} crushed by {it}',
      ...(['collider', 'object', 'other', 'tags'] as const),
    ],
  }),
  ...events('Captions', {
    'caption.answer': ['is answered', '{it} answered', 'object', 'answer'],
    'caption.gone': ['stops saying it', '{it} stops saying it', 'object'],
  }),
  ...events('Cue sheets', {
    'sheet.start': ['a cue sheet starts', '{it} starts', 'sheet'],
    'sheet.done': ['a cue sheet is done', '{it} done', 'sheet'],
  }),
  ...events('Templates', {
    'spawn.start': ['one of a template is spawned', '{it} spawned', 'template'],
    'spawn.end': ['a spawned one goes', '{it} goes', 'template'],
  }),
  ...events('Keyboard', {
    'key.down': ['a keyboard key goes down', '{it} goes down', 'key'],
    'key.up': ['a keyboard key comes up', '{it} comes up', 'key'],
  }),
  ...events('Time', { timer: ['after a time', '{it}', 'after', 'every', 'jitter'] }),
  ...events('Signals and messages', {
    'signal.change': ['a signal changes', '{it} changes', 'signal'],
    pulse: ['a pulse', '{it} pulses', 'signal'],
    message: ['a message is sent', '{it} sent', 'message'],
  }),
  ...events('States and lanes', {
    'state.enter': ['a state is entered', '{it} entered', 'state', 'lane'],
    'state.leave': ['a state is left', '{it} left', 'state', 'lane'],
    'state.done': ['a state is done', '{it} done', 'state', 'lane'],
    'lane.done': ['a lane is finished', '{it} finished', 'lane'],
  }),
  ...events('Clips', {
    'clip.start': ['a clip starts', '{it} starts', 'clip', 'lane'],
    'clip.done': ['a clip is done', '{it} done', 'clip', 'lane'],
    'clip.loop': ['a clip begins anew', '{it} begins anew', 'clip', 'lane'],
    'clip.stopped': ['a clip is cut short', '{it} cut short', 'clip', 'lane'],
    cue: ['a cue is passed', '{it} passed', 'cue', 'clip', 'lane'],
  }),
} as const;
export type EventName = keyof typeof EVENTS;
export const EVENT_NAMES = Object.keys(EVENTS) as EventName[];

export const onForm = record({
  event: oneOf(EVENT_NAMES, 'is not an event that this version knows'),
  ...onFields,
});
export type On = Of<typeof onForm>;

const operand = union(number(), toggle, text({ max: 10000 }), record({ signal: ref('signals') }));

const comparesOnce = {
  holds: (c: { readonly [K in Comparison]?: unknown }) =>
    COMPARISONS.filter((k) => c[k] !== undefined).length === 1,
  says: 'must compare in exactly one way (is, not, atLeast, atMost, above or below)',
};
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
  comparesOnce,
);
export type SignalCondition = Of<typeof signalConditionForm>;

interface FactKind extends Said {
  readonly fields: Fields;
  // biome-ignore lint/suspicious/noExplicitAny: what it holds for is its fact's own
  readonly rule?: Rule<any>;
}
const fact = <const F extends Fields>(pick: string, says: string, fields: F, rule?: FactKind['rule']) => ({
  pick,
  says,
  fields,
  ...(rule ? { rule } : {}),
});

/** What a zone has noticed: a certain thing, or things with one of these tags; without them whatever it has. */
const noticed = {
  other: maybe(ref('objects')),
  tags: maybe(list(ref('tags'), { min: 1, max: 64, needed: true })),
};
const so = maybe(number({ min: 0, max: 1e6 }));
const counts = { is: so, not: so, atLeast: so, atMost: so, above: so, below: so };

/** `{not}` stands for "not " where the fact is asked against. */
export const FACTS = {
  state: fact('is in the state', '{not}in {state}', { lane: ref('lanes'), state: ref('states') }),
  clip: fact('is past a moment of', '{clip} {not}past {past}', {
    clip: ref('clips'),
    object: maybe(ref('objects')),
    past: seconds,
  }),
  over: fact('is pointed at', '{object} {not}pointed at', { object: ref('objects') }),
  inside: fact('has something in it', '{thing} {not}in {collider}', {
    collider: ref('colliders'),
    ...noticed,
  }),
  near: fact('has something near', '{thing} {not}near {collider}', {
    collider: ref('colliders'),
    ...noticed,
  }),
  /** How many things are in a zone, or near. */
  count: fact(
    'holds so many',
    '{how} {thing} in {collider}',
    {
      collider: ref('colliders'),
      tags: noticed.tags,
      ...counts,
    },
    comparesOnce,
  ),
  /** How fast the visitor walks, px a second. */
  speed: fact('walks so fast', 'the visitor walks {how}', counts, comparesOnce),
  /** Without an object: anything, or nothing at all, is pressed. */
  pressed: fact('is held down', '{object} {not}held down', { object: maybe(ref('objects')) }),
} as const satisfies Record<string, FactKind>;
export type Fact = keyof typeof FACTS;

/** The form of a condition on signals or these facts. */
export function conditionOf(facts: Readonly<Record<string, FactKind>>): Form {
  const each = Object.entries(facts).map(([k, f]) =>
    record({ fact: oneOf([k]), is: maybe(toggle), ...f.fields }, ...(f.rule ? [f.rule] : [])),
  );
  return union(signalConditionForm, ...each);
}
type Asked<F extends Fields> = 'is' extends keyof F ? unknown : { is?: boolean | undefined };
export type FactCondition = {
  [K in Fact]: { fact: K } & Asked<(typeof FACTS)[K]['fields']> & OfFields<(typeof FACTS)[K]['fields']>;
}[Fact];
export type Condition = SignalCondition | FactCondition;
export const conditionForm = conditionOf(FACTS) as Form<Condition>;
