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
  record,
  ref,
  type TupleSchema,
  tuple,
  union,
  withDefault,
} from '../../grammar/index.ts';
import { kind, thing } from '../../model/action-kind.ts';
import { amount, color, length, name, seconds, vec3 } from '../../model/common.ts';
import { tweenEasingSchema } from '../../model/easing.ts';

const extent = number({ min: 0, max: 10000, low: 'must not be negative', high: 'must be at most 10000' });
const turn = number({ min: -36000, max: 36000 });
/** From the least to the most; the other way round it is read the same. */
const span = <T extends number>(of: ReturnType<typeof number>): TupleSchema<[T, T]> =>
  tuple(of, of) as TupleSchema<[T, T]>;
const life = number({
  min: 0.02,
  max: 60,
  low: 'must be at least 0.02 seconds',
  high: 'must be at most a minute',
});

/** Particles that fly off from a point, all at once. */
const burstSchema = record({
  id: own('effects'),
  name,
  kind: oneOf(['burst']),
  count: withDefault(
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
  seconds: withDefault(span(life), [0.6, 1.2]),
  /** Of the way they fly, about z: 0 is +X, 90 is up; and how far to both sides in all. */
  direction: withDefault(turn, 90),
  spread: withDefault(number({ min: 0, max: 360 }), 60),
  /** Px a second. */
  speed: withDefault(span(extent), [60, 120]),
  /** Px a second, each second. */
  gravity: withDefault(vec3, [0, -200, 0]),
  /** The part of its speed that a particle loses in a second, about: 0 is none. */
  drag: withDefault(number({ min: 0, max: 100 }), 0),
  /** How much of its speed it may have toward the viewer or away. */
  depth: withDefault(number({ min: 0, max: 10 }), 0),
  size: withDefault(span(extent), [4, 8]),
  /** Degrees a second. */
  spin: withDefault(span(turn), [0, 0]),
  fills: withDefault(list(color, { min: 1, max: 20, few: 'must hold at least one colour' }), ['#b23529']),
  drawing: withDefault(elseBecomes(union(oneOf(['dot', 'square']), ref('objects')), 'dot'), 'dot'),
  /** The last part of its life in which it fades. */
  fade: withDefault(amount, 0.5),
});
/** A colour over the frame, or over an object and what is below it, that goes by itself. */
const flashSchema = record({
  id: own('effects'),
  name,
  kind: oneOf(['flash']),
  fill: withDefault(color, '#ffffff'),
  opacity: withDefault(amount, 0.8),
  seconds: withDefault(seconds, 0.3),
  easing: withDefault(tweenEasingSchema, 'linear'),
});
/** The frame, or an object and what is below it, trembles on the screen. */
const shakeSchema = record({
  id: own('effects'),
  name,
  kind: oneOf(['shake']),
  /** Px to each side, and up and down. */
  amount: withDefault(tuple(length, length), [6, 4]),
  turn: withDefault(turn, 0),
  seconds: withDefault(seconds, 0.4),
  /** How often a second it goes to and fro. */
  frequency: withDefault(number({ min: 0, max: 60 }), 12),
});
export type Burst = Of<typeof burstSchema>;
export type Flash = Of<typeof flashSchema>;
export type Shake = Of<typeof shakeSchema>;
export const effectSchema = kinds('kind', burstSchema, flashSchema, shakeSchema);
export type Effect = Of<typeof effectSchema>;

export const actions = {
  burst: kind('set off a burst', '{effect} at {object}', { effect: ref('effects', 'burst'), object: thing }),
  /** Without an object the whole frame. */
  flash: kind(
    'flash',
    'flash {effect}',
    { effect: ref('effects', 'flash'), object: maybe(thing) },
    { told: '{effect}{over}' },
  ),
  shake: kind(
    'shake',
    'shake {effect}',
    { effect: ref('effects', 'shake'), object: maybe(thing) },
    { told: '{effect}{over}' },
  ),
} as const;
