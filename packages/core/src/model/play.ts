/** How a clip is played: by a state, or by an action. */
import { rangePlaySchema, stackPlaySchema } from '../features/blends/schema.ts';
import { elseBecomes, number, type Of, oneOf, record, ref, union, withDefault } from '../grammar/index.ts';
import { bySignal } from './by-signal.ts';
import { seconds } from './common.ts';

const percent = number({ min: 0, max: 100000 });
export const fromSchema = union(oneOf(['start', 'here']), record({ seconds }), record({ percent }));
export type PlayFrom = Of<typeof fromSchema>;

/** Factor on time; negative plays backwards, 0 pauses; or a number signal. */
export const speedSchema = union(number({ min: -1000, max: 1000 }), bySignal);
export type Speed = Of<typeof speedSchema>;

/** What a state can play, besides resting and holding. */
const clipPlaySchema = record({
  clip: ref('clips'),
  speed: elseBecomes(withDefault(speedSchema, 1), 1),
  from: withDefault(fromSchema, 'start'),
});
export type ClipPlay = Of<typeof clipPlaySchema>;

export const playSchema = union(oneOf(['rest', 'hold']), clipPlaySchema, rangePlaySchema, stackPlaySchema);
export type Play = Of<typeof playSchema>;
