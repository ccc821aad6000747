/**
 * Effects: bursts of particles, flashes, shakes. They are only drawn: no value, hit or zone knows them. A burst's numbers
 * are px and degrees; an action sets one off where an object is.
 */
import {
  elseBecomes,
  kinds,
  list,
  maybe,
  number,
  type Of,
  oneOf,
  own,
  preset,
  record,
  ref,
  type TupleForm,
  tuple,
  union,
} from '../../grammar/index.ts';
import { kind, thing } from '../../model/action-kind.ts';
import { amount, color, length, name, seconds, vec3 } from '../../model/common.ts';
import { tweenEasingForm } from '../../model/easing.ts';

const extent = number({ min: 0, max: 10000, low: 'must not be negative', high: 'must be at most 10000' });
const turn = number({ min: -36000, max: 36000 });
/** From the least to the most; the other way round it is read the same. */
const span = <T extends number>(of: ReturnType<typeof number>): TupleForm<[T, T]> =>
  tuple(of, of) as TupleForm<[T, T]>;
const life = number({
  min: 0.02,
  max: 60,
  low: 'must be at least 0.02 seconds',
  high: 'must be at most a minute',
});

/** Particles that fly off from a point, all at once. */
const burstForm = record({
  id: own('effects'),
  name,
  kind: oneOf(['burst']),
  count: preset(
    number({
      whole: 'must be a whole number',
      min: 1,
      max: 500,
      low: 'must be at least 1',
      high: 'must be at most 500',
    }),
    12,
  ),
  /** How long a particle is there. */
  seconds: preset(span(life), [0.6, 1.2]),
  /** Of the way they fly, about z: 0 is +X, 90 is up; and how far to both sides in all. */
  direction: preset(turn, 90),
  spread: preset(number({ min: 0, max: 360 }), 60),
  /** Px a second. */
  speed: preset(span(extent), [60, 120]),
  /** Px a second, each second. */
  gravity: preset(vec3, [0, -200, 0]),
  /** The part of its speed that a particle loses in a second, about: 0 is none. */
  drag: preset(number({ min: 0, max: 100 }), 0),
  /** How much of its speed it may have toward the viewer or away. */
  depth: preset(number({ min: 0, max: 10 }), 0),
  size: preset(span(extent), [4, 8]),
  /** Degrees a second. */
  spin: preset(span(turn), [0, 0]),
  fills: preset(list(color, { min: 1, max: 20, few: 'must hold at least one colour' }), ['#b23529']),
  drawing: preset(elseBecomes(union(oneOf(['dot', 'square']), ref('objects')), 'dot'), 'dot'),
  /** The last part of its life in which it fades. */
  fade: preset(amount, 0.5),
});
/** A colour over the frame, or over an object and what is below it, that goes by itself. */
const flashForm = record({
  id: own('effects'),
  name,
  kind: oneOf(['flash']),
  fill: preset(color, '#ffffff'),
  opacity: preset(amount, 0.8),
  seconds: preset(seconds, 0.3),
  easing: preset(tweenEasingForm, 'linear'),
});
/** The frame, or an object and what is below it, trembles on the screen. */
const shakeForm = record({
  id: own('effects'),
  name,
  kind: oneOf(['shake']),
  /** Px to each side, and up and down. */
  amount: preset(tuple(length, length), [6, 4]),
  turn: preset(turn, 0),
  seconds: preset(seconds, 0.4),
  /** How often a second it goes to and fro. */
  frequency: preset(number({ min: 0, max: 60 }), 12),
});
export type Burst = Of<typeof burstForm>;
export type Flash = Of<typeof flashForm>;
export type Shake = Of<typeof shakeForm>;
export const effectForm = kinds('kind', burstForm, flashForm, shakeForm);
export type Effect = Of<typeof effectForm>;

export const actions = {
  burst: kind('set off a burst', '{effect} at {object}', { effect: ref('effects', 'burst'), object: thing }),
  /** Without an object the whole frame. */
  flash: kind('flash', 'flash {effect}', { effect: ref('effects', 'flash'), object: maybe(thing) }),
  shake: kind('shake', 'shake {effect}', { effect: ref('effects', 'shake'), object: maybe(thing) }),
} as const;
