/** What conditions ask of zones. */
import type { Condition } from '../../model/index.ts';
import { compared } from '../../run/conditions.ts';
import type { Facts, Reads, Test } from '../../run/facts.ts';
import type { FactTable } from '../../run/feature.ts';
import type { Names } from '../../run/names.ts';
import type { ColliderProgram, ZonesProgram } from './program.ts';
import type { ZoneRows } from './rows.ts';

type Noticed = Extract<Condition, { fact: 'inside' | 'near' }>;
const never: Test = () => false;

/** How many things a zone has in it or near, of these objects by number; null: whichever. */
function count({ program, state }: Facts, collider: number, only: ReadonlySet<number> | null): number {
  const { colliders } = program.parts.zones as ZonesProgram;
  const { overlapping } = state.parts.zones as ZoneRows;
  const { firstPair, count: pairs, rank } = colliders[collider] as ColliderProgram;
  let n = 0;
  if (only === null) {
    for (let k = firstPair; k < firstPair + pairs; k++) n += overlapping[k] as number;
    return n;
  }
  for (const object of only) {
    const at = rank[program.parts.tracking?.nodeOf.get(object) ?? -1] ?? -1;
    if (at >= 0) n += overlapping[firstPair + at] as number;
  }
  return n;
}

/** The objects that have one of these tags. */
function tagged(tags: readonly string[] | undefined, names: Names): ReadonlySet<number> | null {
  return tags === undefined ? null : new Set(tags.flatMap((t) => names.tagged(t)));
}

const numberOf = (names: Names, collider: string) => names.parts.zones?.number(collider) ?? -1;

function isOverlapping({ collider: id, other, tags }: Noticed, names: Names): Test {
  const collider = numberOf(names, id);
  let only = tagged(tags, names);
  if (other !== undefined) {
    const object = names.object(other);
    only = new Set(only === null || only.has(object) ? [object] : []);
  }
  return collider < 0 ? never : (f) => count(f, collider, only) > 0;
}

/** The name under which whoever asks a zone is told that it has noticed something. */
export const topicOf = (zone: number) => `zone ${zone}`;

function reads({ collider: id }: { readonly collider: string }, names: Names, out: Reads): void {
  const zone = numberOf(names, id);
  if (zone < 0) return;
  const lastRecord = (s: Facts['state']) => s.parts.zones?.zoneRec[zone] as number;
  out.topics.push({ topic: topicOf(zone), lastRecord });
}

export const facts: FactTable<'inside' | 'near' | 'count'> = {
  inside: { test: isOverlapping, reads },
  near: { test: isOverlapping, reads },
  count: {
    test: (c, names) => {
      const collider = numberOf(names, c.collider);
      const only = tagged(c.tags, names);
      return collider < 0 ? never : compared(c, (f) => count(f, collider, only));
    },
    reads,
  },
};
