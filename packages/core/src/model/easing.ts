/** Easing of a segment, kept on the key at its left. Curves, steps and stops are those of CSS Easing. */
import { list, number, type Of, oneOf, record, tuple, union, withDefault } from '../grammar/index.ts';
import { amount } from './common.ts';
import { FAMILIES, STEP_POSITIONS, WAYS } from './easing-names.ts';

const handle = number({ min: -100, max: 100 });

const bezier = record({ bezier: tuple(amount, handle, amount, handle) });
const steps = {
  ...record({
    steps: number({ min: 1, max: 1000, whole: true }),
    position: withDefault(oneOf(STEP_POSITIONS), 'jump-end'),
  }),
  rules: [
    {
      predicate: (e: { steps: number; position: string }) => e.position !== 'jump-none' || e.steps > 1,
      says: 'needs at least 2 steps when it jumps at neither end',
    },
  ],
};
const family = record({ family: oneOf(FAMILIES), way: oneOf(WAYS) });
const elastic = record({
  elastic: record({ amplitude: number({ min: 1, max: 10 }), period: number({ min: 0.05, max: 4 }) }),
});
const spring = record({ spring: record({ damping: number({ min: 0.02, max: 10 }) }) });
const bounce = record({ bounce: number({ min: 1, max: 12, whole: true }) });
/** As in CSS: values, each with a place in per cent if it is not to lie evenly between its neighbours. */
const stops = record({ linear: list(union(handle, tuple(handle, handle)), { min: 2, max: 200 }) });

/** What five numbers say. */
const curves = [bezier, steps, family, elastic, spring, bounce] as const;

/** Of a crossfade: all that needs no neighbours, and no list. */
export const fadeEasingSchema = union(oneOf(['linear', 'hold']), ...curves);
export type FadeEasing = Of<typeof fadeEasingSchema>;

/** Of a tween: all that needs no neighbours. */
export const tweenEasingSchema = union(oneOf(['linear', 'hold']), ...curves, stops);
export type TweenEasing = Of<typeof tweenEasingSchema>;

export const easingSchema = union(oneOf(['linear', 'hold', 'auto']), ...curves, stops);
export type Easing = Of<typeof easingSchema>;
export type Bezier = readonly [x1: number, y1: number, x2: number, y2: number];

/**
 * The six ready-made curves. The first four are the keywords of CSS Easing; the last two are our own: one swings
 * past its goal, the other also draws back before it starts.
 */
export const EASING_PRESETS = {
  ease: [0.25, 0.1, 0.25, 1],
  'ease-in': [0.42, 0, 1, 1],
  'ease-out': [0, 0, 0.58, 1],
  'ease-in-out': [0.42, 0, 0.58, 1],
  overshoot: [0.3, 1.45, 0.6, 1],
  'anticipate-and-overshoot': [0.6, -0.4, 0.35, 1.45],
} as const satisfies Record<string, Bezier>;
export type EasingPreset = keyof typeof EASING_PRESETS;

/** What a key gets when it is made. */
export function defaultEasing(): Easing {
  return { bezier: [...EASING_PRESETS['ease-in-out']] };
}

/** The preset whose four numbers these are, or null. */
export function presetOf(easing: Easing): EasingPreset | null {
  if (typeof easing === 'string' || !('bezier' in easing)) return null;
  const names = Object.keys(EASING_PRESETS) as EasingPreset[];
  return names.find((n) => EASING_PRESETS[n].every((x, i) => x === easing.bezier[i])) ?? null;
}
