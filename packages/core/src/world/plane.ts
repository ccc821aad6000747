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

/** Writes the unit normal u × v of the plane whose nine numbers stand at `o` in `p`: centre, u, v. */
export function normalOf(p: Float64Array, o: number, out: Float64Array): void {
  let sum = 0;
  for (let k = 0; k < 3; k++) {
    const a = o + 3 + ((k + 1) % 3);
    const b = o + 3 + ((k + 2) % 3);
    const n = (p[a] as number) * (p[b + 3] as number) - (p[b] as number) * (p[a + 3] as number);
    out[k] = n;
    sum += n * n;
  }
  const length = Math.sqrt(sum);
  for (let k = 0; k < 3; k++) out[k] = (out[k] as number) / length;
}
