/** Painting order by depth as a whole, for more faces than can be compared two by two. */
import type { FaceList } from './faces.ts';
import { depthAt } from './plane.ts';

/** Depths closer than this are one depth. */
export const SAME_DEPTH = 1e-6;

/**
 * Orders faces by depth, those at one depth in the order of the tree, what is on top last: by the depth of their planes
 * where all are `parallel`, as in a drawing seen at an angle, which is exact; else by that of their middles.
 */
export function byDepth(faces: FaceList, parallel: boolean): void {
  const order = faces.order.subarray(0, faces.count);
  const key = new Float64Array(order.length);
  for (let f = 0; f < order.length; f++) {
    order[f] = f;
    const depth = parallel ? depthAt(faces, f, 0, 0) : (faces.plane[f * 9 + 2] as number);
    key[f] = Math.round(depth / SAME_DEPTH);
  }
  order.sort(
    (a, b) =>
      (faces.layer[a] as number) - (faces.layer[b] as number) ||
      (key[a] as number) - (key[b] as number) ||
      a - b,
  );
}

/** Whether depth changes over the screen in the same way on all faces, but for what is on top. */
export function allParallel(faces: FaceList): boolean {
  let first = -1;
  const slope = (f: number, x: number, y: number) => depthAt(faces, f, x, y) - depthAt(faces, f, 0, 0);
  for (let f = 0; f < faces.count; f++) {
    if (faces.layer[f] !== 0) continue;
    if (first < 0) first = f;
    for (const [x, y] of [
      [100, 0],
      [0, 100],
    ] as const)
      if (!(Math.abs(slope(f, x, y) - slope(first, x, y)) < 1e-6)) return false;
  }
  return true;
}
