/** Typed values that the outside may set, and messages: named happenings that are sent and heard. */
import { z } from 'zod';
import { idSchema, nameSchema, noteSchema } from './common.ts';

const common = {
  id: idSchema,
  name: nameSchema,
  shared: z.boolean().default(false),
  note: noteSchema.default(''),
};

export const signalSchema = z.discriminatedUnion('type', [
  z.strictObject({ ...common, type: z.literal('switch'), initial: z.boolean() }),
  z.strictObject({
    ...common,
    type: z.literal('pulse'),
    initial: z.literal(false).optional(),
  }),
  z.strictObject({
    ...common,
    type: z.literal('choice'),
    initial: z.string().max(200),
    options: z.array(z.string().min(1).max(200)).min(1).max(200),
  }),
  z.strictObject({
    ...common,
    type: z.literal('number'),
    initial: z.number(),
    min: z.number().optional(),
    max: z.number().optional(),
    step: z.number().positive().optional(),
    whole: z.boolean().optional(),
  }),
  z.strictObject({ ...common, type: z.literal('text'), initial: z.string().max(10000) }),
]);
export type Signal = z.infer<typeof signalSchema>;
export type SignalType = Signal['type'];
export type SignalValue = boolean | number | string;

export const messageSchema = z.strictObject({ id: idSchema, name: nameSchema, note: noteSchema.default('') });
export type Message = z.infer<typeof messageSchema>;

/** What the signal holds before anything sets it. */
export function initialValue(s: Signal): SignalValue {
  return s.type === 'pulse' ? false : s.initial;
}

/** Whether a value may be set on the signal; numbers outside its range are clamped when set, not refused. */
export function fitsSignal(s: Signal, value: unknown): value is SignalValue {
  switch (s.type) {
    case 'switch':
      return typeof value === 'boolean';
    case 'number':
      return typeof value === 'number' && Number.isFinite(value);
    case 'choice':
      return typeof value === 'string' && s.options.includes(value);
    case 'text':
      return typeof value === 'string';
    case 'pulse':
      return typeof value === 'boolean';
  }
}
