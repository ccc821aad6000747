/** What touches which blocker, after an edit. */
import type { Migration } from '../../run/migration.ts';
import type { BlockerRows } from './rows.ts';

export function migrateBlockers({ old, next, before, state, objectOf }: Migration): void {
  const [from, to] = [before.parts.blockers as BlockerRows, state.parts.blockers as BlockerRows];
  const numbers = new Map(old.parts.blockers?.map((b, k) => [b.blocker.id, k]));
  next.parts.blockers?.forEach(({ blocker }, n) => {
    const k = numbers.get(blocker.id);
    if (k === undefined) return;
    for (const which of [0, 1]) {
      const was = from.contacts[2 * k + which] as number;
      if (was > 0) to.contacts[2 * n + which] = objectOf(was - 1) + 1;
      to.crushed[2 * n + which] = from.crushed[2 * k + which] as number;
    }
  });
}
