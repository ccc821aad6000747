/** Outlines of faces on the screen and in their planes: cut, clipped, told apart. The painting order is made of these. */
import { distanceToContours, insideContours, normalOf } from '../base/index.ts';
import type { FaceList } from './faces.ts';
import type { Outline } from './outline.ts';
import { planePoint } from './plane.ts';

/** How far the part of a split face that is painted first reaches under the other, px. */
const SEAM = 0.75;

/** c + cu·u + cv·v: how far a point (u, v) of a face is before the plane of another, px. */
export type Line = readonly [c: number, cu: number, cv: number];

/** Writes the face's convex outline on the screen, turning one way so that clipping keeps its inside; its corners. */
export function outlineOf(faces: FaceList, f: number, out: Float64Array, at: number): number {
  const p = faces.plane;
  const o = f * 9;
  const poly = convexOf(faces, f);
  const n = poly.length / 2;
  const nz = (p[o + 3] as number) * (p[o + 7] as number) - (p[o + 4] as number) * (p[o + 6] as number);
  for (let i = 0; i < n; i++) {
    const k = nz > 0 ? i : n - 1 - i;
    const u = poly[k * 2] as number;
    const v = poly[k * 2 + 1] as number;
    out[at + i * 2] = (p[o] as number) + (p[o + 3] as number) * u + (p[o + 6] as number) * v;
    out[at + i * 2 + 1] = (p[o + 1] as number) + (p[o + 4] as number) * u + (p[o + 7] as number) * v;
  }
  return n;
}

/** The convex polygon that a face is compared by: what is left of it when it was split, else its hull. */
export function convexOf(faces: FaceList, f: number): Float64Array {
  return faces.piece[f] ?? (faces.outline[f] as Outline).hull;
}

/** Keeps the part of a convex polygon where (x − x0)·nx + (y − y0)·ny ≤ 0; returns its number of corners. */
export function clipHalfPlane(
  from: Float64Array,
  n: number,
  to: Float64Array,
  nx: number,
  ny: number,
  x0: number,
  y0: number,
): number {
  let out = 0;
  let ax = from[n * 2 - 2] as number;
  let ay = from[n * 2 - 1] as number;
  let da = (ax - x0) * nx + (ay - y0) * ny;
  for (let i = 0; i < n; i++) {
    const bx = from[i * 2] as number;
    const by = from[i * 2 + 1] as number;
    const db = (bx - x0) * nx + (by - y0) * ny;
    if ((da < 0 && db > 0) || (da > 0 && db < 0)) {
      const t = da / (da - db);
      to[out * 2] = ax + (bx - ax) * t;
      to[out * 2 + 1] = ay + (by - ay) * t;
      out++;
    }
    if (db <= 0) {
      to[out * 2] = bx;
      to[out * 2 + 1] = by;
      out++;
    }
    ax = bx;
    ay = by;
    da = db;
  }
  return out;
}

export function area(poly: Float64Array, n: number): number {
  let sum = 0;
  for (let i = 0; i < n; i++) {
    const j = (i + 1) % n;
    sum +=
      (poly[i * 2] as number) * (poly[j * 2 + 1] as number) -
      (poly[j * 2] as number) * (poly[i * 2 + 1] as number);
  }
  return sum / 2;
}

const normal = new Float64Array(3);

export function lineOf(faces: FaceList, f: number, g: number): Line {
  const p = faces.plane;
  const o = g * 9;
  normalOf(p, o, normal);
  let [c, cu, cv] = [0, 0, 0];
  for (let k = 0; k < 3; k++) {
    const n = normal[k] as number;
    c += n * ((p[f * 9 + k] as number) - (p[o + k] as number));
    cu += n * (p[f * 9 + 3 + k] as number);
    cv += n * (p[f * 9 + 6 + k] as number);
  }
  return [c, cu, cv];
}

/**
 * Cuts face f along a line: f keeps what lies behind, and what lies before it is returned, as the part itself and what
 * is painted of it. Null when the face lies on one side.
 */
export function splitAt(
  faces: FaceList,
  f: number,
  [c, cu, cv]: Line,
): [piece: Float64Array, painted: Float64Array] | null {
  const outline = convexOf(faces, f);
  const corners = outline.length / 2;
  let min = 0;
  let max = 0;
  for (let i = 0; i < corners; i++) {
    const d = c + cu * (outline[i * 2] as number) + cv * (outline[i * 2 + 1] as number);
    min = Math.min(min, d);
    max = Math.max(max, d);
  }
  if (min > -1e-5 || max < 1e-5) return null;
  const q = cu * cu + cv * cv;
  /** What of a polygon lies behind the cutting line moved forward by `by` px (side 1), or in front of it (−1). */
  const part = (of: Float64Array, side: 1 | -1, by: number) => {
    // A point of the line: the foot of the perpendicular from (0, 0).
    const k = (by * Math.sqrt(q) - c) / q;
    const room = new Float64Array(of.length + 4);
    const n = clipHalfPlane(of, of.length / 2, room, side * cu, side * cv, k * cu, k * cv);
    return room.slice(0, n * 2);
  };
  const painted = faces.painted[f] ?? outline;
  const front = part(outline, -1, 0);
  const inFront = part(painted, -1, 0);
  faces.piece[f] = part(outline, 1, 0);
  faces.painted[f] = part(painted, 1, SEAM);
  return [front, inFront];
}

let corners = new Float64Array(64);
const corner = new Float64Array(2);

/** Whether a circle round a convex polygon of the screen, in the plane of face f, is clear of what f fills. */
export function isBeside(faces: FaceList, f: number, poly: Float64Array, n: number): boolean {
  const { contours, hull, evenodd } = faces.outline[f] as Outline;
  // Where all corners are on the hull there is no hollow; and a stroke reaches beyond the outline.
  if (contours.points.length <= hull.length && contours.ends.length === 1) return false;
  if (faces.style[f]?.stroke) return false;
  if (corners.length < n * 2) corners = new Float64Array(n * 4);
  const at = corners;
  let [x, y] = [0, 0];
  for (let i = 0; i < n; i++) {
    planePoint(faces, f, poly[i * 2] as number, poly[i * 2 + 1] as number, corner);
    at[i * 2] = corner[0] as number;
    at[i * 2 + 1] = corner[1] as number;
    x += (corner[0] as number) / n;
    y += (corner[1] as number) / n;
  }
  let radius = 0;
  for (let i = 0; i < n; i++) {
    const [dx, dy] = [(at[i * 2] as number) - x, (at[i * 2 + 1] as number) - y];
    radius = Math.max(radius, Math.sqrt(dx * dx + dy * dy));
  }
  return !insideContours(contours, evenodd, x, y) && distanceToContours(contours, x, y) > radius;
}
