/** Sounds: the run only tells that they begin and stop; whoever shows it plays them. */
import type { ActionTable, Feature, InputTable } from '../../run/feature.ts';
import { idOf } from '../../run/input.ts';
import { nobody, thing } from '../../run/things.ts';
import { Sounds } from './run.ts';

const actions: ActionTable<'sound' | 'stopSound'> = {
  sound: (a, names) => {
    const the = a.object === undefined ? nobody : thing(names, a.object);
    return (d, cause) => d.parts.sounds?.begin(a.sound, a.volume ?? 1, the(cause), cause);
  },
  stopSound: (a) => (d, cause) => d.parts.sounds?.stop(a.sound, cause),
};

const inputs: InputTable<'sound'> = {
  sound: ({ sound: text }, { context }) => {
    const { sounds: all } = context.program.piece;
    const sound = idOf(all, text);
    const isThere = Object.hasOwn(all, sound);
    const cause = context.recordInput({ input: 'sound', sound, ...(isThere ? {} : { missed: true }) });
    if (isThere) context.parts.sounds?.begin(sound, 1, -1, cause);
  },
};

export const sounds: Feature = {
  name: 'sounds',
  claims: { tables: ['sounds'] },
  actions,
  inputs,
  run: (base) => new Sounds(base),
};
