/** Where parts of a newer file stand for objects that keep their origins and pivots. */
import { composeLocal, invert, MAT } from '../base/index.ts';
import type { Base, SceneObject, Vec3 } from '../model/index.ts';
import { DRAWING, signsIn } from './brought.ts';
import type { Part } from './newer-pairs.ts';

export const NONE: Vec3 = [0, 0, 0];
export const ONE: Vec3 = [1, 1, 1];
/** Thousandths of a px; never −0. */
export const tidy = (n: number) => Math.round(n * 1000) / 1000 + 0;
export const less = (a: Vec3, b: Vec3): Vec3 => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
export const same = (a: Vec3, b: Vec3) => a.every((n, i) => Math.abs(n - (b[i] as number)) < 0.002);

/** Whether it is drawn by points, which may lie anywhere about its origin. */
export const hasPoints = (o: SceneObject) =>
  'subpaths' in o || (o.kind === 'polygon' && o.points !== undefined);
export const isDrawnAlike = (p: Part, q: Part) =>
  signsIn(p.brought.was).get(DRAWING) === signsIn(q.brought.was).get(DRAWING);
export const originOf = (q: Part): Vec3 => (hasPoints(q) ? [...(q.brought.origin ?? [0, 0]), 0] : NONE);

const work = new Float64Array(2 * MAT);

/** A step in an object's own space, in that of what it lies in: turned and scaled. */
function done(base: Base, [x, y, z]: Vec3, way: 1 | -1 = 1): Vec3 {
  composeLocal(work, 0, Float64Array.from([0, 0, 0, ...base.rotation, ...base.scale, 0, 0, 0]), 0);
  if (way < 0 && !invert(work, MAT, work, 0)) return [x, y, z];
  const m = way < 0 ? MAT : 0;
  return [0, 1, 2].map(
    (i) => x * (work[m + i] as number) + y * (work[m + 3 + i] as number) + z * (work[m + 6 + i] as number),
  ) as Vec3;
}
export const undone = (base: Base, step: Vec3): Vec3 => done(base, step, -1);

/**
 * Where the newer file has a part, px in what it lies in, for an object whose origin is at `origin` of the part's own px and
 * whose pivot is `pivot`; what it lies in has its origin at `above`. By p + v + L(x − v), the transform of objects.
 */
export function targetOf(
  p: Part,
  q: Part,
  origin: Vec3,
  above: Vec3,
  pivot: Vec3 = q.brought.pivot ?? NONE,
): Vec3 {
  const v = p.base.pivot;
  const step = done(
    p.base,
    [0, 1, 2].map((i) => (origin[i] as number) - (v[i] as number) + (pivot[i] as number)) as Vec3,
  );
  return [0, 1, 2].map(
    (i) =>
      (p.base.position[i] as number) -
      (above[i] as number) +
      (v[i] as number) -
      (pivot[i] as number) +
      (step[i] as number),
  ) as Vec3;
}
