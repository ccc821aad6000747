/** When … if … do …, owned by an object. */
import { z } from 'zod';
import { actionSchema } from './action.ts';
import { idSchema, seconds } from './common.ts';
import { conditionSchema, onSchema } from './event.ts';

export const reactionSchema = z.strictObject({
  id: idSchema,
  object: idSchema,
  on: onSchema,
  when: z.array(conditionSchema).max(50).default([]),
  /** Delays all its actions, seconds. */
  after: seconds.default(0),
  /** Seconds after an event during which it hears no other; the end belongs to it. */
  cooldown: seconds.default(0),
  limit: z
    .union([z.literal('always'), z.literal('once'), z.strictObject({ onceUntil: onSchema })])
    .default('always'),
  /** The event goes no further up the tree. */
  stop: z.boolean().optional(),
  actions: z.array(actionSchema).max(100),
});
export type Reaction = z.infer<typeof reactionSchema>;
