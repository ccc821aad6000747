/** Who is in which zone, after an edit. */
import type { Migration } from '../../run/migration.ts';
import type { ZoneRows } from './rows.ts';

export function migrateZones({ old, next, before, state, objectBefore }: Migration): void {
  const [was, is] = [old.parts.zones, next.parts.zones];
  const [from, to] = [before.parts.zones as ZoneRows, state.parts.zones as ZoneRows];
  if (!was || !is) return;
  is.colliders.forEach((c, n) => {
    const j = was.index.get(c.collider.id) ?? -1;
    const zone = was.colliders[j];
    if (!zone) return;
    to.zoneRec[n] = from.zoneRec[j] as number;
    to.zoneOn[n] = from.zoneOn[j] as number;
    next.parts.tracking?.nodes.forEach((object, k) => {
      const node = old.parts.tracking?.nodeOf.get(objectBefore(object)) ?? -1;
      const [rank, at] = [c.rank[k] as number, zone.rank[node] ?? -1];
      if (rank >= 0 && at >= 0)
        to.overlapping[c.firstPair + rank] = from.overlapping[zone.firstPair + at] as number;
    });
  });
}
