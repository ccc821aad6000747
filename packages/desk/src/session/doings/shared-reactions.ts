/** Reactions that several objects have in common, each about itself, so that they are shown and changed as one. */
import { type Reaction, withIds } from '@apple-tick/core/model';
import type { Session } from '../session.ts';

/** One reaction of each object: alike but for which object it is about. */
export type Alike = readonly Reaction[];

/** Stands for the object itself while reactions of different objects are compared; no id looks like it. */
const SELF = '(self)';

function keyOf(r: Reaction): string {
  const { id: _, ...rest } = r;
  return JSON.stringify(withIds('reactions', rest, new Map([[r.object, SELF]])));
}

/** What all the objects have, in the order of the first; `others` counts the reactions that only some of them have. */
export function sharedReactions(
  all: readonly Reaction[],
  objects: readonly string[],
): { shared: Alike[]; others: number } {
  const left = objects.map((id) => all.filter((r) => r.object === id).map((r) => ({ r, key: keyOf(r) })));
  const shared: Alike[] = [];
  for (const { r, key } of left[0] ?? []) {
    const rest = left.slice(1).map((list) => list.find((x) => x.key === key));
    if (!rest.every((x) => x !== undefined)) continue;
    shared.push([r, ...rest.map((x) => x.r)]);
    // Two alike of one object are two of the other.
    rest.forEach((x, i) => {
      left[i + 1] = (left[i + 1] ?? []).filter((y) => y !== x);
    });
  }
  const total = all.filter((r) => objects.includes(r.object)).length;
  return { shared, others: total - shared.length * objects.length };
}

/** Changes each of them alike: what names the first one's object names the own object of each. */
export function changeAlike(s: Session, name: string, list: Alike, part: Partial<Reaction>): void {
  const [first] = list;
  if (!first) return;
  s.edit(name, (e) => {
    for (const r of list) {
      const own = withIds('reactions', part, new Map([[first.object, r.object]])) as Partial<Reaction>;
      e.update('reactions', r.id, (x) => ({ ...x, ...own }));
    }
  });
}
