/** Following: properties, places in clips and blends that go after a value. */

import type { Feature } from '../../run/feature.ts';
import type { Migration } from '../../run/migration.ts';
import { compileFollows } from './program.ts';
import { FOLLOW_ROW, followRows } from './rows.ts';
import { Following } from './run.ts';

function migrateFollows({ old, next, before, state }: Migration): void {
  const [from, to] = [before.parts.follows, state.parts.follows];
  const [was, is] = [old.parts.follows, next.parts.follows];
  was?.follows.forEach(({ follow, words }, k) => {
    const row = is?.index.get(follow.id);
    if (row === undefined || !from) return;
    // Words have their numbers in the run: what is other than before is worked out anew.
    if (words || is?.follows[row]?.words) return;
    to?.set(from.subarray(k * FOLLOW_ROW, (k + 1) * FOLLOW_ROW), row * FOLLOW_ROW);
  });
}

export const follows: Feature = {
  name: 'follows',
  claims: { tables: ['follows'] },
  compile: compileFollows,
  rows: followRows,
  run: (base) => new Following(base),
  migrate: migrateFollows,
};
