/** Animation data: a clip has tracks, one per object and property; a track has keys in order of time. */
import { z } from 'zod';
import { actionSchema } from './action.ts';
import { idSchema, nameSchema, seconds } from './common.ts';
import { easingSchema } from './easing.ts';

const valueSchema = z.union([
  z.number().min(-1e7, 'is too small').max(1e7, 'is too large'),
  z.boolean(),
  z.string().max(1000),
]);

export const keySchema = z.strictObject({ t: seconds, value: valueSchema, easing: easingSchema });
export type Key = z.infer<typeof keySchema>;

export const trackSchema = z.strictObject({
  object: idSchema,
  property: z.string().max(100),
  mode: z.literal('absolute', 'must be "absolute": offset tracks are not read by this version'),
  keys: z.array(keySchema).min(1, 'must hold at least one key').max(100000),
});
export type Track = z.infer<typeof trackSchema>;

export const clipCueSchema = z.strictObject({
  id: idSchema,
  t: seconds,
  when: z.enum(['forwards', 'backwards', 'both']).default('forwards'),
  actions: z.array(actionSchema).max(100),
});
export type ClipCue = z.infer<typeof clipCueSchema>;

export const clipSchema = z.strictObject({
  id: idSchema,
  name: nameSchema,
  /** The object at whose subtree the clip is made. */
  root: idSchema,
  /** Seconds; 0 is a pose, otherwise at least 0.001. */
  duration: seconds.refine((d) => d === 0 || d >= 0.001, 'must be 0 or at least 0.001 seconds'),
  loop: z.enum(['once', 'loop', 'there-and-back']),
  tracks: z.array(trackSchema).max(20000),
  cues: z.array(clipCueSchema).max(1000).default([]),
});
export type Clip = z.infer<typeof clipSchema>;
