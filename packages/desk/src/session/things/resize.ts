/** Sizes of objects changed while something of them stays where it is. */
import { boundsOf, resized, type SceneObject, sizeOf, type Vec3 } from '@apple-tick/core/model';

/** Another size along an axis; the pivot stays at the same part of the object, and that point where it is. */
export function resizedAboutPivot(o: SceneObject, axis: number, to: number): SceneObject {
  const now = sizeOf(o)[axis] as number;
  const k = now > 0 ? to / now : 1;
  const next = resized(o, axis, to);
  const pivot = o.base.pivot.map((p, n) => (n === axis ? p * k : p)) as Vec3;
  const position = o.base.position.map(
    (p, n) => p + (o.base.pivot[n] as number) - (pivot[n] as number),
  ) as Vec3;
  return { ...next, base: { ...next.base, pivot, position } };
}

/** Another size along an axis; the edge on the least side (of the greatest, when `end` is −1) and the pivot stay. */
export function resizedFromEdge(o: SceneObject, axis: number, to: number, end: 1 | -1 = 1): SceneObject {
  const now = sizeOf(o)[axis] as number;
  if (now === 0) return o;
  const next = resized(o, axis, to);
  const edge = boundsOf(o)[end > 0 ? 0 : 1][axis] as number;
  // With the place moved by s and the pivot by −s, what was at x in the object's space is now at x − s.
  const shift = edge * (1 - to / now);
  const moved = (v: Vec3, by: number) => v.map((p, n) => (n === axis ? p + by : p)) as Vec3;
  return {
    ...next,
    base: { ...next.base, position: moved(o.base.position, shift), pivot: moved(o.base.pivot, -shift) },
  };
}
