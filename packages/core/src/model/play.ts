/** How a clip is played: by a state, or by an action. */
import { rangePlayForm, stackPlayForm } from '../features/blends/forms.ts';
import { elseBecomes, number, type Of, oneOf, preset, record, ref, union } from '../grammar/index.ts';
import { bySignal } from './by-signal.ts';
import { seconds } from './common.ts';

const percent = number({ min: 0, max: 100000 });
export const fromForm = union(oneOf(['start', 'here']), record({ seconds }), record({ percent }));
export type PlayFrom = Of<typeof fromForm>;

/** Factor on time; negative plays backwards, 0 pauses; or a number signal. */
export const speedForm = union(number({ min: -1000, max: 1000 }), bySignal);
export type Speed = Of<typeof speedForm>;

/** What a state can play, besides resting and holding. */
export const clipPlayForm = record({
  clip: ref('clips'),
  speed: elseBecomes(preset(speedForm, 1), 1),
  from: preset(fromForm, 'start'),
});
export type ClipPlay = Of<typeof clipPlayForm>;

export const playForm = union(oneOf(['rest', 'hold']), clipPlayForm, rangePlayForm, stackPlayForm);
export type Play = Of<typeof playForm>;
