/** What reactions, cues and states do: one record per deed, its values read when it acts. */
import { z } from 'zod';
import { idSchema, seconds } from './common.ts';
import { easingSchema } from './easing.ts';

const plain = z.union([z.number(), z.boolean(), z.string().max(10000)]);
const range = z.tuple([z.number(), z.number()]);

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
export const valueSchema: z.ZodType<Value> = z.lazy(() =>
  z.union([
    plain,
    z.strictObject({ signal: idSchema, from: range.optional(), to: range.optional() }),
    z.strictObject({ sum: z.array(valueSchema).min(1).max(20) }),
    z.strictObject({ difference: z.array(valueSchema).min(1).max(20) }),
    z.strictObject({ product: z.array(valueSchema).min(1).max(20) }),
    z.strictObject({ pick: z.array(valueSchema).min(1).max(100) }),
  ]),
);

const after = { after: seconds.optional() };
export const crossfadeSchema = z.union([
  z.strictObject({ seconds, easing: easingSchema.optional(), mustFinish: z.boolean().optional() }),
  z.strictObject({
    percent: z.number().min(0).max(100000),
    easing: easingSchema.optional(),
    mustFinish: z.boolean().optional(),
  }),
]);
export type Crossfade = z.infer<typeof crossfadeSchema>;

export const actionSchema = z.discriminatedUnion('do', [
  z.strictObject({ ...after, do: z.literal('set'), signal: idSchema, to: valueSchema }),
  z.strictObject({ ...after, do: z.literal('toggle'), signal: idSchema }),
  z.strictObject({ ...after, do: z.literal('add'), signal: idSchema, by: valueSchema }),
  z.strictObject({ ...after, do: z.literal('pulse'), signal: idSchema }),
  z.strictObject({ ...after, do: z.literal('send'), message: idSchema }),
  z.strictObject({
    ...after,
    do: z.literal('put'),
    object: idSchema,
    property: z.string().max(100),
    to: valueSchema,
  }),
  z.strictObject({ ...after, do: z.literal('release'), object: idSchema, property: z.string().max(100) }),
  z.strictObject({ ...after, do: z.literal('show'), object: idSchema }),
  z.strictObject({ ...after, do: z.literal('hide'), object: idSchema }),
  /** `to` is the id of a look of the object, or '' for its own drawing. */
  z.strictObject({
    ...after,
    do: z.literal('look'),
    object: idSchema,
    to: z.union([idSchema, z.literal('')]),
  }),
  z.strictObject({
    ...after,
    do: z.literal('go'),
    lane: idSchema,
    state: idSchema,
    crossfade: crossfadeSchema.optional(),
  }),
  z.strictObject({ ...after, do: z.literal('sound'), sound: idSchema }),
]);
export type Action = z.infer<typeof actionSchema>;
