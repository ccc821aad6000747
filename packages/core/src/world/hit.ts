/** What lies under a point of the frame: computed here, never by a canvas, so that Node and browsers agree. */
import { type FaceList, SHAPE_ELLIPSE } from './faces.ts';

/** Whether face f covers the view-space point (x right, y up, origin at the frame's centre); outlines exactly. */
export function faceContains(faces: FaceList, f: number, x: number, y: number): boolean {
  const p = faces.plane;
  const o = f * 9;
  const ux = p[o + 3] as number;
  const uy = p[o + 4] as number;
  const vx = p[o + 6] as number;
  const vy = p[o + 7] as number;
  const det = ux * vy - uy * vx;
  const dx = x - (p[o] as number);
  const dy = y - (p[o + 1] as number);
  const u = (dx * vy - dy * vx) / det;
  const v = (ux * dy - uy * dx) / det;
  const hw = faces.extent[f * 3] as number;
  const hh = faces.extent[f * 3 + 1] as number;
  if (!(Math.abs(u) <= hw && Math.abs(v) <= hh)) return false;
  if (faces.shape[f] === SHAPE_ELLIPSE) {
    if ((u / hw) * (u / hw) + (v / hh) * (v / hh) > 1) return false;
  } else {
    const r = faces.extent[f * 3 + 2] as number;
    const cu = Math.abs(u) - (hw - r);
    const cv = Math.abs(v) - (hh - r);
    if (cu > 0 && cv > 0 && cu * cu + cv * cv > r * r) return false;
  }
  const piece = faces.piece[f];
  return !piece || insideConvex(piece, u, v);
}

function insideConvex(poly: Float64Array, u: number, v: number): boolean {
  const n = poly.length / 2;
  for (let i = 0; i < n; i++) {
    const j = (i + 1) % n;
    const ax = poly[i * 2] as number;
    const ay = poly[i * 2 + 1] as number;
    const cross = ((poly[j * 2] as number) - ax) * (v - ay) - ((poly[j * 2 + 1] as number) - ay) * (u - ax);
    if (cross < -1e-9) return false;
  }
  return true;
}

/** The topmost object under the view-space point, as its number, or −1. */
export function hitTop(faces: FaceList, x: number, y: number): number {
  for (let i = faces.count - 1; i >= 0; i--) {
    const f = faces.order[i] as number;
    if (faceContains(faces, f, x, y)) return faces.object[f] as number;
  }
  return -1;
}

/** All objects under the point, topmost first, each once. */
export function hitAll(faces: FaceList, x: number, y: number): number[] {
  const out: number[] = [];
  for (let i = faces.count - 1; i >= 0; i--) {
    const f = faces.order[i] as number;
    const object = faces.object[f] as number;
    if (!out.includes(object) && faceContains(faces, f, x, y)) out.push(object);
  }
  return out;
}

/** Points tried per axis on each face, coarse first: a sliver may show where the centre is covered. */
const GRIDS = [1, 5, 17, 49];

/**
 * A visible point of an object or of anything below it: one whose topmost object `belongs`. View space; within the
 * frame of ±halfWidth, ±halfHeight. Null when nothing of it can be seen.
 */
export function visiblePoint(
  faces: FaceList,
  belongs: (object: number) => boolean,
  halfWidth: number,
  halfHeight: number,
): [number, number] | null {
  for (const grid of GRIDS) {
    for (let i = faces.count - 1; i >= 0; i--) {
      const f = faces.order[i] as number;
      if (!belongs(faces.object[f] as number)) continue;
      const point = probeFace(faces, f, grid, belongs, halfWidth, halfHeight);
      if (point) return point;
    }
  }
  return null;
}

function probeFace(
  faces: FaceList,
  f: number,
  grid: number,
  belongs: (object: number) => boolean,
  halfWidth: number,
  halfHeight: number,
): [number, number] | null {
  const p = faces.plane;
  const o = f * 9;
  for (let a = 0; a < grid; a++) {
    for (let b = 0; b < grid; b++) {
      const u = (faces.extent[f * 3] as number) * ((2 * a + 1) / grid - 1);
      const v = (faces.extent[f * 3 + 1] as number) * ((2 * b + 1) / grid - 1);
      const x = (p[o] as number) + (p[o + 3] as number) * u + (p[o + 6] as number) * v;
      const y = (p[o + 1] as number) + (p[o + 4] as number) * u + (p[o + 7] as number) * v;
      if (Math.abs(x) > halfWidth || Math.abs(y) > halfHeight) continue;
      const top = hitTop(faces, x, y);
      if (top >= 0 && belongs(top)) return [x, y];
    }
  }
  return null;
}
