import { composeLocal } from '@apple-tick/core/base';
import type { Base, Vec3 } from '@apple-tick/core/model';

/** The same pose about another pivot: the place makes up for what the pivot would have moved. */
export function withPivot(b: Base, pivot: Vec3): Base {
  const row = Float64Array.from([...b.position, ...b.rotation, ...b.scale, ...b.pivot]);
  const before = new Float64Array(12);
  composeLocal(before, 0, row, 0);
  row.set(pivot, 9);
  const after = new Float64Array(12);
  composeLocal(after, 0, row, 0);
  const position = b.position.map((p, k) => {
    const exact = p + (before[9 + k] as number) - (after[9 + k] as number);
    return Math.round(exact * 1e6) / 1e6;
  }) as Vec3;
  return { ...b, pivot, position };
}
