/**
 * What reactions, cues and states do. One descriptor for each kind of action: its fields and its sentence. Reading,
 * references, taking away, copying, pickers and words are worked out from it; the engine's part is in its feature.
 */
import {
  type Fields,
  type Form,
  kinds,
  lazy,
  list,
  maybe,
  number,
  type Of,
  type OfFields,
  oneOf,
  orNull,
  own,
  property,
  type Rule,
  record,
  ref,
  table,
  text,
  toggle,
  tuple,
  union,
} from '../grammar/index.ts';
import { amount, type Said, seconds, vec3 } from './common.ts';
import { fadeEasingForm, tweenEasingForm } from './easing.ts';
import { fromForm, speedForm } from './play.ts';

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

/** A rule on an action, or on a part of one, whatever kind it is of. */
// biome-ignore lint/suspicious/noExplicitAny: what it holds for is its kind's own
type ActionRule = Rule<any>;
interface ActionKind extends Said {
  readonly fields: Fields;
  /** What its fields must hold together. */
  readonly rules?: readonly ActionRule[];
}
const kind = <const F extends Fields>(
  pick: string,
  says: string,
  fields: F,
  rules: readonly ActionRule[] = [],
) => ({
  pick,
  says,
  fields,
  rules,
});

/** Where a tween leads: to a value, by so much, or to the base and so much more. Exactly one of them. */
const goal = { to: maybe(valueForm), by: maybe(valueForm), toBase: maybe(number()) };
interface Goal {
  readonly to?: unknown;
  readonly by?: unknown;
  readonly toBase?: unknown;
}
const goals = (x: Goal) => [x.to, x.by, x.toBase].filter((g) => g !== undefined).length;
/** One property with one goal, or several each with its own. */
const tweenRule: ActionRule = {
  holds: (x: Goal & { property?: string; properties?: readonly Goal[] }) =>
    x.properties ? x.property === undefined && goals(x) === 0 : x.property !== undefined && goals(x) === 1,
  says: 'needs one property with one of "to", "by" and "toBase", or "properties" instead of them',
};
const oneGoal: ActionRule = {
  holds: (x: Goal) => goals(x) === 1,
  says: 'needs one of "to", "by" and "toBase"',
};

/** An object, or the thing of the event: what a zone has noticed, or what was dropped into it. */
const thing = union(oneOf(['other']), ref('objects')) as Form<string>;

const ANSWERS = 'must hold two to four answers';
const answerForm = record({
  id: own('answers'),
  text: text({ min: 1, max: 200, short: 'must not be empty' }),
});

/** `to` of a look is its id, or '' for the object's own drawing. */
export const ACTIONS = {
  toggle: kind('toggle', 'toggle {signal}', { signal: ref('signals', 'switch') }),
  set: kind('set', 'set {signal} to {to}', { signal: ref('signals'), to: valueForm }),
  add: kind('add', 'add {by} to {signal}', { signal: ref('signals', 'number'), by: valueForm }),
  pulse: kind('pulse', 'pulse {signal}', { signal: ref('signals', 'pulse') }),
  /** With tags only what has one of them hears it, or lies below what has. */
  send: kind('send the message', 'send {message}', {
    message: ref('messages'),
    tags: maybe(list(ref('tags'), { min: 1, max: 64, needed: true })),
  }),
  put: kind('put a property', 'put {object} {property} to {to}', {
    object: thing,
    property,
    to: valueForm,
  }),
  /** One property, or several at once in `properties`. */
  tween: kind(
    'tween',
    'tween {object} {property}',
    {
      object: thing,
      property: maybe(property),
      ...goal,
      properties: maybe(list(record({ property, ...goal }, oneGoal), { min: 1, max: 50 })),
      fromNow: maybe(toggle),
      seconds,
      easing: tweenEasingForm,
    },
    [tweenRule],
  ),
  motor: kind('motor', 'run a motor on {object} {property} at {rate} a second', {
    object: thing,
    property,
    rate: valueForm,
    acceleration: maybe(valueForm),
    limit: maybe(valueForm),
  }),
  stopMotor: kind('stop a motor', 'stop the motor on {object} {property}', {
    object: thing,
    property,
    return: maybe(toggle),
  }),
  release: kind('release a property', 'release {object} {property}', { object: thing, property }),
  show: kind('show', 'show {object}', { object: thing }),
  hide: kind('hide', 'hide {object}', { object: thing }),
  look: kind('give a look to', 'give {object} the look {to}', {
    object: thing,
    to: union(oneOf(['']), ref('looks')) as Form<string>,
  }),
  /** Turns the shortest way until +Z (about z: +X) points to the pivot of `toward`. */
  face: kind('face toward', '{object} faces {toward}', {
    object: thing,
    toward: ref('objects'),
    axis: maybe(oneOf(['x', 'y', 'z'])),
    seconds,
    easing: tweenEasingForm,
  }),
  /** A play of its own, below all lanes; one of each clip and object. */
  play: kind('play a clip', 'play {clip} on {object}', {
    clip: ref('clips'),
    object: ref('objects'),
    speed: maybe(speedForm),
    from: maybe(fromForm),
    /** What happens where it runs already; without it, it begins anew. */
    again: maybe(oneOf(['restart', 'ignore', 'queue'])),
  }),
  stop: kind('stop a clip', 'stop {clip} on {object}', { clip: ref('clips'), object: ref('objects') }),
  go: kind('go to the state', 'go to {state}', {
    lane: ref('lanes'),
    state: ref('states'),
    crossfade: maybe(crossfadeForm),
  }),
  /** `object`: the thing that it is heard from, for those who read the trace. */
  sound: kind('play the sound', 'play the sound {sound}', {
    sound: ref('sounds'),
    volume: maybe(amount),
    object: maybe(thing),
  }),
  stopSound: kind('stop the sound', 'stop the sound {sound}', { sound: ref('sounds') }),
  burst: kind('set off a burst', '{effect} at {object}', { effect: ref('effects', 'burst'), object: thing }),
  /** Without an object the whole frame. */
  flash: kind('flash', 'flash {effect}', { effect: ref('effects', 'flash'), object: maybe(thing) }),
  shake: kind('shake', 'shake {effect}', { effect: ref('effects', 'shake'), object: maybe(thing) }),
  sheet: kind('start the cue sheet', 'start {sheet}', { sheet: ref('cueSheets') }),
  stopSheet: kind('stop the cue sheet', 'stop {sheet}', { sheet: ref('cueSheets') }),
  /** Above the object, 3 seconds without `seconds`; null: until it is answered, or another takes its place. */
  caption: kind('show a caption', '{object} says {text}', {
    object: thing,
    text: valueForm,
    seconds: maybe(orNull(seconds)),
    answers: maybe(list(answerForm, { min: 2, max: 4, few: ANSWERS, many: ANSWERS })),
    /** What happens to one that the object has already; without it, this one takes its place. */
    again: maybe(oneOf(['restart', 'ignore', 'queue'])),
  }),
  /** At the pivot of `object`, or at the middle of the piece, and so much beside. */
  spawn: kind('spawn', 'spawn {template}', {
    template: ref('templates'),
    object: maybe(thing),
    offset: maybe(vec3),
    /** What it lies in; the piece itself without one. */
    parent: maybe(orNull(ref('objects'))),
    /** Values for its signals. */
    signals: maybe(table(valueForm)),
    /** How long it stays; without, until it is removed. */
    seconds: maybe(orNull(number({ min: 0.001, max: 86400, low: 'must be at least 0.001 seconds' }))),
  }),
  /** Any part of what is to go serves; what was not spawned stays. */
  remove: kind('remove what was spawned', 'remove {object}', { object: thing }),
} as const satisfies Record<string, ActionKind>;
export type Deed = keyof typeof ACTIONS;

/** The form of an action of these kinds. */
export function actionForm(of: Readonly<Record<string, ActionKind>>): Form {
  const each = Object.entries(of).map(([deed, k]) =>
    record({ after: maybe(seconds), do: oneOf([deed]), ...k.fields }, ...(k.rules ?? [])),
  );
  return kinds('do', ...each);
}

export type Action = {
  [K in Deed]: { after?: number | undefined; do: K } & OfFields<(typeof ACTIONS)[K]['fields']>;
}[Deed];
export const actionsForm = list(actionForm(ACTIONS) as Form<Action>, { max: 100 });
