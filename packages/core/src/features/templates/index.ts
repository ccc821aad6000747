/** Templates: what is spawned and removed, and signals of instances that lie in properties. */
import { compileValue } from '../../logic/index.ts';
import { expand } from '../../model/index.ts';
import type { ActionTable, Feature } from '../../run/feature.ts';
import { type Hearing, isOfNamed } from '../../run/hearing.ts';
import { nobody, possible, thing } from '../../run/things.ts';
import { writtenStops } from '../../world/index.ts';
import { Spawner } from './run.ts';

/** Of what is spawned, or goes: what was spawned hears, without a name, itself alone. */
const OF_SPAWNED: Hearing = {
  subject: (on) => on.object ?? on.template ?? '',
  subjects: (r) => [r.template, r.object],
  means: (_, on, { rec }, { place }) =>
    (on.object !== undefined || place === undefined || rec.object === place) && isOfNamed(on, rec),
};

const actions: ActionTable<'spawn' | 'remove'> = {
  spawn: (a, names, stream) => {
    const template = names.parts.templates?.number(a.template) ?? -1;
    const the = a.object === undefined ? nobody : thing(names, a.object);
    for (const object of a.object === undefined ? [] : possible(names, a.object)) names.stands(object);
    const parent = a.parent === undefined || a.parent === null ? -1 : names.object(a.parent);
    const given = Object.entries(a.signals ?? {}).map(
      ([id, v]) => [id, compileValue(v, names, stream)] as const,
    );
    const offset = a.offset ?? [0, 0, 0];
    const isLost = (a.parent ?? null) !== null && parent < 0;
    if (template < 0 || isLost) return () => {};
    return (d, cause) => {
      const at = the(cause);
      if (a.object !== undefined && at < 0) return;
      const values = given.map(([id, v]) => [id, v(d)] as const);
      d.parts.templates?.spawn(template, parent, at, offset, values, a.seconds ?? 0, cause);
    };
  },
  remove: (a, names) => {
    const the = thing(names, a.object);
    return (d, cause) => d.parts.templates?.remove(the(cause), cause);
  },
};

export const templates: Feature = {
  name: 'templates',
  expand,
  stops: writtenStops,
  claims: { tables: ['templates'] },
  events: { 'spawn.start': OF_SPAWNED, 'spawn.end': OF_SPAWNED },
  actions,
  scheduled: {
    'end of what was spawned': {
      run: (item, _, { context }) => context.parts.templates?.item(item),
      place: (_, index) => index,
      migrate: ({ old, next }, item) => {
        const index = next.spawns.index.get(old.spawns.places[item.index]?.id ?? '');
        return index === undefined ? undefined : { ...item, index };
      },
    },
  },
  compile: ({ expansion }) => {
    const spawned = [...new Set(expansion.places.map((p) => p.template))];
    return { number: (id: string) => spawned.indexOf(id) };
  },
  run: (base) => new Spawner(base),
};
