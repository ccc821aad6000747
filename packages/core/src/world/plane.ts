/** Between the screen and the plane of a face. */
import type { FaceList } from './faces.ts';

/** Writes to `out` the (u, v) of the point of face f's plane that is seen at a view-space point. */
export function planePoint(faces: FaceList, f: number, x: number, y: number, out: Float64Array): void {
  const p = faces.plane;
  const o = f * 9;
  const ux = p[o + 3] as number;
  const uy = p[o + 4] as number;
  const vx = p[o + 6] as number;
  const vy = p[o + 7] as number;
  const det = ux * vy - uy * vx;
  const dx = x - (p[o] as number);
  const dy = y - (p[o + 1] as number);
  out[0] = (dx * vy - dy * vx) / det;
  out[1] = (ux * dy - uy * dx) / det;
}

const at = new Float64Array(2);

/** How near to the viewer face f's plane is at a view-space point, px: more is nearer. */
export function depthAt(faces: FaceList, f: number, x: number, y: number): number {
  planePoint(faces, f, x, y, at);
  const p = faces.plane;
  const o = f * 9;
  return (
    (p[o + 2] as number) + (p[o + 5] as number) * (at[0] as number) + (p[o + 8] as number) * (at[1] as number)
  );
}
