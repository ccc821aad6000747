/**
 * What reactions, cues and states do. One descriptor for each kind of action: its fields and its sentence. Reading,
 * references, taking away, copying, pickers and words are worked out from it; the engine's part is in its feature.
 */
import { actions as captions } from '../features/captions/schema.ts';
import { actions as effects } from '../features/effects/schema.ts';
import { actions as motors } from '../features/motors/schema.ts';
import { actions as sheets } from '../features/sheets/schema.ts';
import { actions as sounds } from '../features/sounds/schema.ts';
import { actions as templates } from '../features/templates/schema.ts';
import { actions as tweens } from '../features/tweens/schema.ts';
import {
  kinds,
  list,
  maybe,
  type OfFields,
  oneOf,
  property,
  record,
  ref,
  type Schema,
  union,
} from '../grammar/index.ts';
import { type ActionKind, kind, thing } from './action-kind.ts';
import { seconds } from './common.ts';
import { fromSchema, speedSchema } from './play.ts';
import { crossfadeSchema, valueSchema } from './value.ts';

/** Those of the spine. `to` of a look is its id, or '' for the object's own drawing. */
const actions = {
  toggle: kind('toggle', 'toggle {signal}', { signal: ref('signals', 'switch') }),
  set: kind('set', 'set {signal} to {to}', { signal: ref('signals'), to: valueSchema }),
  add: kind('add', 'add {by} to {signal}', { signal: ref('signals', 'number'), by: valueSchema }),
  pulse: kind('pulse', 'pulse {signal}', { signal: ref('signals', 'pulse') }),
  /** With tags only what has one of them hears it, or lies below what has. */
  send: kind('send the message', 'send {message}', {
    message: ref('messages'),
    tags: maybe(list(ref('tags'), { min: 1, max: 64, needed: true })),
  }),
  put: kind(
    'put a property',
    'put {object} {property} to {to}',
    {
      object: thing,
      property,
      to: valueSchema,
    },
    { told: '{object} {property} put' },
  ),
  release: kind(
    'release a property',
    'release {object} {property}',
    { object: thing, property },
    { told: '{object} {property} released' },
  ),
  show: kind('show', 'show {object}', { object: thing }),
  hide: kind('hide', 'hide {object}', { object: thing }),
  look: kind('give a look to', 'give {object} the look {to}', {
    object: thing,
    to: union(oneOf(['']), ref('looks')) as Schema<string>,
  }),
  /** A play of its own, below all lanes; one of each clip and object. */
  play: kind(
    'play a clip',
    'play {clip} on {object}',
    {
      clip: ref('clips'),
      object: ref('objects'),
      speed: maybe(speedSchema),
      from: maybe(fromSchema),
      /** What happens where it runs already; without it, it begins anew. */
      again: maybe(oneOf(['restart', 'ignore', 'queue'])),
    },
    { told: '{played} was asked for again' },
  ),
  stop: kind(
    'stop a clip',
    'stop {clip} on {object}',
    { clip: ref('clips'), object: ref('objects') },
    { told: '{played} was stopped' },
  ),
  go: kind('go to the state', 'go to {state}', {
    lane: ref('lanes'),
    state: ref('states'),
    crossfade: maybe(crossfadeSchema),
  }),
} as const;

export const ACTIONS = {
  ...actions,
  ...{ ...tweens, ...motors, ...sounds, ...effects, ...sheets, ...captions, ...templates },
} as const satisfies Record<string, ActionKind>;
export type ActionName = keyof typeof ACTIONS;

/** The schema of an action of these kinds. */
export function actionSchema(of: Readonly<Record<string, ActionKind>>): Schema {
  const each = Object.entries(of).map(([action, k]) =>
    record({ after: maybe(seconds), do: oneOf([action]), ...k.fields }, ...(k.rules ?? [])),
  );
  return kinds('do', ...each);
}

export type Action = {
  [K in ActionName]: { after?: number | undefined; do: K } & OfFields<(typeof ACTIONS)[K]['fields']>;
}[ActionName];
export const actionsSchema = list(actionSchema(ACTIONS) as Schema<Action>, { max: 100 });
