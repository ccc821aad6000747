/** State machines: a machine on an object has lanes that run side by side; a lane has states and transitions. */
import { z } from 'zod';
import { actionSchema, crossfadeSchema } from './action.ts';
import { idSchema, nameSchema, seconds } from './common.ts';
import { conditionSchema, onSchema } from './event.ts';

const fromSchema = z.union([
  z.literal('start'),
  z.literal('here'),
  z.strictObject({ seconds }),
  z.strictObject({ percent: z.number().min(0).max(100000) }),
]);
export type PlayFrom = z.infer<typeof fromSchema>;

const clipPlaySchema = z.strictObject({
  clip: idSchema,
  /** Factor on time; negative plays backwards, 0 pauses; or a number signal. */
  speed: z.union([z.number().min(-1000).max(1000), z.strictObject({ signal: idSchema })]).default(1),
  from: fromSchema.default('start'),
});
export type ClipPlay = z.infer<typeof clipPlaySchema>;

export const stateSchema = z.strictObject({
  id: idSchema,
  name: nameSchema,
  play: z.union([z.literal('rest'), z.literal('hold'), clipPlaySchema]),
  onEntry: z.array(actionSchema).max(100).optional(),
  onExit: z.array(actionSchema).max(100).optional(),
  final: z.boolean().optional(),
});
export type State = z.infer<typeof stateSchema>;

export const notBeforeSchema = z.union([
  z.strictObject({ seconds }),
  z.strictObject({ percent: z.number().min(0).max(100000) }),
  z.literal('loopEnd'),
]);
export type NotBefore = z.infer<typeof notBeforeSchema>;

export const transitionSchema = z.strictObject({
  id: idSchema,
  /** A state of the lane, or `*`: from anywhere. */
  from: z.union([z.literal('*'), idSchema]),
  to: idSchema,
  on: onSchema.nullable().default(null),
  when: z.array(conditionSchema).max(50).default([]),
  notBefore: notBeforeSchema.nullable().default(null),
  crossfade: crossfadeSchema.default({ seconds: 0 }),
  odds: z.number().min(0, 'must not be negative').max(1e6).nullable().default(null),
  enabled: z.boolean().default(true),
  /** False until its maker gave it an event, a condition, a not-before or odds; unset ones never go. */
  set: z.boolean().default(true),
  reenter: z.boolean().default(false),
  mayRepeat: z.boolean().default(true),
});
export type Transition = z.infer<typeof transitionSchema>;

export const laneSchema = z.strictObject({
  id: idSchema,
  name: nameSchema,
  initial: z.union([
    idSchema,
    z.strictObject({
      draw: z
        .array(z.strictObject({ state: idSchema, odds: z.number().min(0).max(1e6) }))
        .min(1)
        .max(200),
    }),
  ]),
  unkeyed: z.enum(['base', 'keep']).default('base'),
  amount: z.union([z.number().min(0).max(1), z.strictObject({ signal: idSchema })]).default(1),
  blend: z.enum(['replace', 'add']).default('replace'),
  states: z.array(stateSchema).min(1, 'must hold at least one state').max(500),
  transitions: z.array(transitionSchema).max(5000),
});
export type Lane = z.infer<typeof laneSchema>;

export const machineSchema = z.strictObject({
  id: idSchema,
  name: nameSchema,
  /** The object it drives: its clips are played at this object's subtree. */
  object: idSchema,
  lanes: z.array(laneSchema).max(100),
});
export type Machine = z.infer<typeof machineSchema>;
