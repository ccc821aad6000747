/** What is listened for (`on`) and what must hold (`when`). */
import { z } from 'zod';
import { idSchema, seconds } from './common.ts';

export const EVENT_NAMES = [
  'piece.start',
  'pointer.press',
  'pointer.release',
  'pointer.click',
  'pointer.enter',
  'pointer.leave',
  'key.down',
  'key.up',
  'timer',
  'signal.change',
  'pulse',
  'message',
  'state.enter',
  'state.leave',
  'state.done',
  'lane.done',
  'clip.start',
  'clip.done',
  'clip.loop',
  'clip.stopped',
  'cue',
] as const;
export type EventName = (typeof EVENT_NAMES)[number];

export const onSchema = z.strictObject({
  event: z.enum(EVENT_NAMES, 'is not an event that this version knows'),
  object: idSchema.optional(),
  /** A `KeyboardEvent.key`, letters in lower case. */
  key: z.string().min(1).max(40).optional(),
  signal: idSchema.optional(),
  message: idSchema.optional(),
  lane: idSchema.optional(),
  state: idSchema.optional(),
  clip: idSchema.optional(),
  cue: idSchema.optional(),
  /** Timers only, seconds: the first at `after` (else `every`), then each `every`, give or take `jitter`. */
  after: seconds.optional(),
  every: z.number().min(0.001, 'must be at least 0.001 seconds').max(86400).optional(),
  jitter: seconds.optional(),
});
export type On = z.infer<typeof onSchema>;

const operand = z.union([
  z.number(),
  z.boolean(),
  z.string().max(10000),
  z.strictObject({ signal: idSchema }),
]);
export const COMPARISONS = ['is', 'not', 'atLeast', 'atMost', 'above', 'below'] as const;
export type Comparison = (typeof COMPARISONS)[number];

const signalConditionSchema = z
  .strictObject({
    signal: idSchema,
    is: operand.optional(),
    not: operand.optional(),
    atLeast: operand.optional(),
    atMost: operand.optional(),
    above: operand.optional(),
    below: operand.optional(),
  })
  .refine(
    (c) => COMPARISONS.filter((k) => c[k] !== undefined).length === 1,
    'must compare in exactly one way (is, not, atLeast, atMost, above or below)',
  );
export type SignalCondition = z.infer<typeof signalConditionSchema>;

export const conditionSchema = z.union([
  signalConditionSchema,
  z.strictObject({ fact: z.literal('state'), lane: idSchema, state: idSchema, is: z.boolean().optional() }),
  z.strictObject({
    fact: z.literal('clip'),
    clip: idSchema,
    object: idSchema.optional(),
    past: seconds,
    is: z.boolean().optional(),
  }),
]);
export type Condition = z.infer<typeof conditionSchema>;
export type Fact = Extract<Condition, { fact: string }>['fact'];
