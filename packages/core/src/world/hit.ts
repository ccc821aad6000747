/** What lies under a point of the frame: computed here, never by a canvas, so that Node and browsers agree. */
import { distanceToContours } from '../base/index.ts';
import { SAME_DEPTH } from './depth-order.ts';
import { type FaceList, FILL_NONE } from './faces.ts';
import { type Outline, outlineContains } from './outline.ts';
import { depthAt, planePoint } from './plane.ts';

const at = new Float64Array(2);

/** Counts faces, and points of outlines, that were asked; what searches for long measures its work by it. */
let asked = 0;
/** So much of it is asked at most in one search for a visible point. */
const MAX_ASKED = 2e7;

/** Whether face f covers the view-space point (x right, y up, origin at the frame's centre), with its stroke. */
export function faceContains(faces: FaceList, f: number, x: number, y: number): boolean {
  planePoint(faces, f, x, y, at);
  const u = at[0] as number;
  const v = at[1] as number;
  const outline = faces.outline[f] as Outline;
  asked++;
  const reach = (faces.style[f]?.stroke?.width ?? 0) / 2;
  const [u0, v0, u1, v1] = outline.bounds;
  if (u < u0 - reach || u > u1 + reach || v < v0 - reach || v > v1 + reach) return false;
  asked += outline.contours.points.length / 2;
  // Words and pictures are hit by their box, whatever is filled.
  const solid = faces.fill[f] !== FILL_NONE || faces.style[f]?.text != null || faces.style[f]?.image != null;
  const inside = solid && outlineContains(outline, u, v);
  if (!inside) {
    const stroke = faces.style[f]?.stroke;
    if (!stroke || distanceToContours(outline.contours, u, v) > stroke.width / 2) return false;
  }
  const piece = faces.piece[f];
  if (piece && !insideConvex(piece, u, v)) return false;
  const masks = faces.masks[f];
  return !masks || masks.every((m) => inRegion(faces, m.region, x, y) === m.inside);
}

/** Whether a mask covers the view-space point. */
function inRegion(faces: FaceList, region: number, x: number, y: number): boolean {
  const { regions, regionStart } = faces;
  if (!regions) return false;
  for (let f = regionStart[region] as number; f < (regionStart[region + 1] as number); f++)
    if (faceContains(regions, f, x, y)) return true;
  return false;
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

/**
 * Whether face f is seen before face g where both cover the view-space point: what is on top, then what is nearer, and of
 * what lies in one plane the later one in the tree. This is the painting order, asked at one point only.
 */
function covers(faces: FaceList, f: number, g: number, x: number, y: number): boolean {
  const layers = (faces.layer[f] as number) - (faces.layer[g] as number);
  if (layers !== 0) return layers > 0;
  const nearer = depthAt(faces, f, x, y) - depthAt(faces, g, x, y);
  return Math.abs(nearer) <= SAME_DEPTH ? f > g : nearer > 0;
}

/** The topmost object under the view-space point, as its number, or −1. The faces need no order. */
export function hitTop(faces: FaceList, x: number, y: number): number {
  let top = -1;
  for (let f = 0; f < faces.count; f++) {
    if (faces.unhit[f] !== 0 || !faceContains(faces, f, x, y)) continue;
    if (top < 0 || covers(faces, f, top, x, y)) top = f;
  }
  return top < 0 ? -1 : (faces.object[top] as number);
}

/** All objects under the point, topmost first, each once. */
export function hitAll(faces: FaceList, x: number, y: number): number[] {
  const under: number[] = [];
  for (let f = 0; f < faces.count; f++)
    if (faces.unhit[f] === 0 && faceContains(faces, f, x, y)) under.push(f);
  under.sort((f, g) => (covers(faces, f, g, x, y) ? -1 : 1));
  return [...new Set(under.map((f) => faces.object[f] as number))];
}

/** The topmost object at a view-space point, by number; −1 for none. */
type Top = (x: number, y: number) => number;

/** Points tried per axis on each face, coarse first: a sliver may show where the centre is covered. */
const GRIDS = [1, 5, 17, 49];

/**
 * A visible point of an object or of anything below it: one whose topmost object, which `top` tells, `belongs`. View space; within the
 * frame of ±halfWidth, ±halfHeight. Null when nothing of it can be seen, or nothing was found in a bounded search: of
 * thousands of faces a sliver may be missed.
 */
export function visiblePoint(
  faces: FaceList,
  belongs: (object: number) => boolean,
  halfWidth: number,
  halfHeight: number,
  top: Top,
): [number, number] | null {
  const last = asked + MAX_ASKED;
  for (const grid of GRIDS) {
    for (let f = faces.count - 1; f >= 0; f--) {
      if (asked > last) return null;
      if (!belongs(faces.object[f] as number)) continue;
      const point = probeFace(faces, f, grid, belongs, halfWidth, halfHeight, top);
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
  top: Top,
): [number, number] | null {
  const p = faces.plane;
  const o = f * 9;
  const [u0, v0, u1, v1] = (faces.outline[f] as Outline).bounds;
  for (let a = 0; a < grid; a++) {
    for (let b = 0; b < grid; b++) {
      const u = u0 + ((u1 - u0) * (2 * a + 1)) / (2 * grid);
      const v = v0 + ((v1 - v0) * (2 * b + 1)) / (2 * grid);
      const x = (p[o] as number) + (p[o + 3] as number) * u + (p[o + 6] as number) * v;
      const y = (p[o + 1] as number) + (p[o + 4] as number) * u + (p[o + 7] as number) * v;
      if (Math.abs(x) > halfWidth || Math.abs(y) > halfHeight) continue;
      const object = top(x, y);
      if (object >= 0 && belongs(object)) return [x, y];
    }
  }
  return null;
}
