import { boundsOf, type SceneObject, type Vec3 } from '@apple-tick/core/model';

/** The corners of the object's own box: four of what is flat, eight of a solid, those in front last. */
export function cornersOf(object: SceneObject): Vec3[] {
  const [a, b] = boundsOf(object);
  const out: Vec3[] = [];
  for (const z of a[2] < b[2] ? [a[2], b[2]] : [a[2]])
    out.push([a[0], a[1], z], [b[0], a[1], z], [b[0], b[1], z], [a[0], b[1], z]);
  return out;
}
