/** Blockers: what stops and pushes the visitor and what is dragged. */
import type { Feature } from '../../run/feature.ts';
import { OF_COLLIDER } from '../../run/hearing.ts';
import { tracking } from '../../run/overlap/tracking.ts';
import { migrateBlockers } from './migrate.ts';
import { compileBlockers } from './program.ts';
import { blockerRows } from './rows.ts';
import { runBlockers } from './run.ts';

export const blockers: Feature = {
  name: 'blockers',
  claims: {
    tables: ['colliders'],
    roles: ['blocker'],
  },
  events: {
    'touch.begin': OF_COLLIDER,
    'touch.end': OF_COLLIDER,
    'touch.crush': OF_COLLIDER,
  },
  with: [tracking],
  compile: compileBlockers,
  rows: blockerRows,
  run: runBlockers,
  migrate: migrateBlockers,
};
