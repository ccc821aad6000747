/** Actions that tween, as they stand in files and sentences. */
import { list, maybe, number, oneOf, property, record, ref, toggle } from '../../grammar/index.ts';
import { type ActionRule, kind, thing } from '../../model/action-kind.ts';
import { seconds } from '../../model/common.ts';
import { tweenEasingSchema } from '../../model/easing.ts';
import { valueSchema } from '../../model/value.ts';

/** Where a tween leads: to a value, by so much, or to the base and so much more. Exactly one of them. */
const goal = { to: maybe(valueSchema), by: maybe(valueSchema), toBase: maybe(number()) };
interface Goal {
  readonly to?: unknown;
  readonly by?: unknown;
  readonly toBase?: unknown;
}
const goals = (x: Goal) => [x.to, x.by, x.toBase].filter((g) => g !== undefined).length;
/** One property with one goal, or several each with its own. */
const tweenRule: ActionRule = {
  predicate: (x: Goal & { property?: string; properties?: readonly Goal[] }) =>
    x.properties ? x.property === undefined && goals(x) === 0 : x.property !== undefined && goals(x) === 1,
  says: 'needs one property with one of "to", "by" and "toBase", or "properties" instead of them',
};
const oneGoal: ActionRule = {
  predicate: (x: Goal) => goals(x) === 1,
  says: 'needs one of "to", "by" and "toBase"',
};

export const actions = {
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
      easing: tweenEasingSchema,
    },
    { rules: [tweenRule], told: '{object} {property} tweened' },
  ),
  /** Turns the shortest way until +Z (about z: +X) points to the pivot of `toward`. */
  face: kind(
    'face toward',
    '{object} faces {toward}',
    {
      object: thing,
      toward: ref('objects'),
      axis: maybe(oneOf(['x', 'y', 'z'])),
      seconds,
      easing: tweenEasingSchema,
    },
    { told: '{object} turns to face another' },
  ),
} as const;
