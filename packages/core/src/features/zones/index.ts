/** Zones: what comes into them or near, and leaves. */
import type { Feature } from '../../run/feature.ts';
import { OF_COLLIDER } from '../../run/hearing.ts';
import { tracking } from '../../run/overlap/tracking.ts';
import { facts } from './facts.ts';
import { migrateZones } from './migrate.ts';
import { CompilingZones } from './program.ts';
import { zoneRows } from './rows.ts';
import { Zones } from './run.ts';

export const zones: Feature = {
  name: 'zones',
  claims: {
    tables: ['colliders'],
    roles: ['zone', 'near'],
  },
  events: {
    'zone.enter': OF_COLLIDER,
    'zone.leave': OF_COLLIDER,
    'near.enter': OF_COLLIDER,
    'near.leave': OF_COLLIDER,
  },
  with: [tracking],
  facts,
  compile: (c) => new CompilingZones(c),
  rows: zoneRows,
  run: (base) => new Zones(base),
  migrate: migrateZones,
};
