/** Typed values that the outside may set, and messages: named happenings that are sent and heard. */
import {
  kinds,
  list,
  maybe,
  number,
  type Of,
  oneOf,
  own,
  record,
  text,
  toggle,
  withDefault,
} from '../grammar/index.ts';
import { name, note, seconds } from './common.ts';

const common = { id: own('signals'), name, shared: withDefault(toggle, false), note: withDefault(note, '') };

export const signalSchema = kinds(
  'type',
  record({ ...common, type: oneOf(['switch']), initial: toggle }),
  record({
    ...common,
    type: oneOf(['pulse']),
    initial: maybe(oneOf([false])),
    /** Seconds for which it is kept for a lane that could not go yet. */
    remember: maybe(seconds),
  }),
  record({
    ...common,
    type: oneOf(['choice']),
    initial: text({ max: 200 }),
    options: list(text({ min: 1, max: 200 }), { min: 1, max: 200 }),
  }),
  record({
    ...common,
    type: oneOf(['number']),
    initial: number(),
    min: maybe(number()),
    max: maybe(number()),
    step: maybe(number({ above: 0 })),
    whole: maybe(toggle),
  }),
  record({ ...common, type: oneOf(['text']), initial: text({ max: 10000 }) }),
);
export type Signal = Of<typeof signalSchema>;
export type SignalType = Signal['type'];
export type SignalValue = boolean | number | string;

export const messageSchema = record({ id: own('messages'), name, note: withDefault(note, '') });
export type Message = Of<typeof messageSchema>;
