import type { SceneObject } from '@apple-tick/core/model';
import { seeded } from '@apple-tick/core/testing';
import { expect, it } from 'vitest';
import { seenRows } from './folding.ts';
import { rowsOf, type TreeRow } from './Tree.tsx';

/** A tree by random parents, each among those made before it. */
function tree(seed: number, n: number): TreeRow[] {
  const random = seeded(seed);
  const objects = Array.from({ length: n }, (_, i) => ({
    id: `ob_${i}`,
    order: `a${i}`,
    parent: i === 0 || random() < 0.2 ? null : `ob_${Math.floor(random() * i)}`,
  }));
  return rowsOf(objects as unknown as SceneObject[]);
}

it('what is seen is what has no folded ancestor', () => {
  for (let seed = 1; seed < 60; seed++) {
    const all = tree(seed, 40);
    const folded = new Set(all.filter((_, i) => (i * seed) % 5 === 0).map((r) => r.o.id));
    const parentOf = new Map(all.map((r) => [r.o.id, r.o.parent]));
    const hidden = (id: string) => {
      for (let p = parentOf.get(id) ?? null; p !== null; p = parentOf.get(p) ?? null)
        if (folded.has(p)) return true;
      return false;
    };
    expect(seenRows(all, folded)).toEqual(all.filter((r) => !hidden(r.o.id)));
  }
  const all = tree(1, 5);
  expect(seenRows(all, new Set())).toBe(all);
});
