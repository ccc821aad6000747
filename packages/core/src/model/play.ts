/** How a clip is played: by a state, or by an action. */
import { elseBecomes, list, number, type Of, oneOf, preset, record, ref, union } from '../grammar/index.ts';
import { seconds } from './common.ts';

const percent = number({ min: 0, max: 100000 });
export const fromForm = union(oneOf(['start', 'here']), record({ seconds }), record({ percent }));
export type PlayFrom = Of<typeof fromForm>;

export const bySignal = record({ signal: ref('signals', 'number') });
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

/** Clips by the place of a number among theirs: between two of them both, beyond the last of them that one. */
const rangePlayForm = record({
  range: record({
    signal: ref('signals', 'number'),
    points: list(record({ clip: ref('clips'), at: number() }), { min: 1, max: 50, needed: true }),
    /** Whether all of them go through their clips together, each at its own length, or each by itself. */
    phase: preset(oneOf(['own', 'common']), 'own'),
  }),
});
/** Clips added to what lies below, each by its amount: how far it leads from the base. */
const stackPlayForm = record({
  stack: list(
    record({
      clip: ref('clips'),
      amount: elseBecomes(preset(union(number({ min: 0, max: 1 }), bySignal), 1), 1),
    }),
    { min: 1, max: 50, needed: true },
  ),
});
export const playForm = union(oneOf(['rest', 'hold']), clipPlayForm, rangePlayForm, stackPlayForm);
export type Play = Of<typeof playForm>;
