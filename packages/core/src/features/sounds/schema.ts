/** Sounds, and the actions that play them, as they stand in files and sentences. */
import { maybe, type Of, own, record, ref, text } from '../../grammar/index.ts';
import { kind, thing } from '../../model/action-kind.ts';
import { amount, name } from '../../model/common.ts';

/** Made by the player from the name of a synth, or played from a file that was brought in. */
export const soundSchema = record(
  { id: own('sounds'), name, synth: maybe(text({ max: 60 })), asset: maybe(ref('assets', 'sound')) },
  {
    predicate: (x) => (x.synth === undefined) !== (x.asset === undefined),
    says: 'must have either "synth" or "asset"',
  },
);
export type Sound = Of<typeof soundSchema>;

export const actions = {
  /** `object`: the thing that it is heard from, for those who read the trace. */
  sound: kind('play the sound', 'play the sound {sound}', {
    sound: ref('sounds'),
    volume: maybe(amount),
    object: maybe(thing),
  }),
  stopSound: kind(
    'stop the sound',
    'stop the sound {sound}',
    { sound: ref('sounds') },
    { told: '{sound} was stopped' },
  ),
} as const;
