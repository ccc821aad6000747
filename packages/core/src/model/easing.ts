/** Easing of a segment, kept on the key at its left. Curves are those of CSS Easing Level 1. */
import { number, type Of, oneOf, record, tuple, union } from '../grammar/index.ts';
import { amount } from './common.ts';

const handle = number({ min: -100, max: 100 });

export const easingForm = union(
  oneOf(['linear', 'hold']),
  record({ bezier: tuple(amount, handle, amount, handle) }),
);
export type Easing = Of<typeof easingForm>;
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
  if (typeof easing === 'string') return null;
  const names = Object.keys(EASING_PRESETS) as EasingPreset[];
  return names.find((n) => EASING_PRESETS[n].every((x, i) => x === easing.bezier[i])) ?? null;
}
