/** Bursts of particles, flashes and shakes. */

import type { ActionTable, Feature } from '../../run/feature.ts';
import type { Names } from '../../run/names.ts';
import type { CompiledAction } from '../../run/run-actions.ts';
import { nobody, possible, thing } from '../../run/things.ts';
import { migrateEffects } from './migrate.ts';
import { compileEffects } from './program.ts';
import { readEffect } from './read.ts';
import { effectRows } from './rows.ts';
import { Effects } from './run.ts';

/** What is drawn over the frame, or over one thing; where that is not there it is nothing. */
function overlaid(
  a: { readonly effect: string; readonly object?: string | undefined },
  names: Names,
): CompiledAction {
  const effect = names.record('effects', a.effect);
  if (effect < 0) return () => {};
  const the = a.object === undefined ? nobody : thing(names, a.object);
  return (d, cause) => {
    if (a.object === undefined || the(cause) >= 0) d.parts.effects?.begin(effect, the(cause), cause);
  };
}

const actions: ActionTable<'burst' | 'flash' | 'shake'> = {
  burst: (a, names) => {
    for (const object of possible(names, a.object)) names.stands(object);
    return overlaid(a, names);
  },
  flash: overlaid,
  shake: overlaid,
};

export const effects: Feature = {
  name: 'effects',
  claims: { tables: ['effects'] },
  actions,
  compile: compileEffects,
  read: readEffect,
  rows: effectRows,
  run: (base) => new Effects(base),
  migrate: migrateEffects,
};
