/**
 * Contact shadows: where solids stand on a level face, that face is darker round their feet. A shadow lies in the plane of
 * the face that it falls on, so nothing about the order of painting changes.
 */
import { convexHull, cosDeg, sinDeg } from '../base/index.ts';
import { FLAT, type ObjectGeometry } from './drawing.ts';
import type { FaceList } from './faces.ts';
import type { Geometry } from './geometry.ts';
import { boundsOf, type Outline } from './outline.ts';

/** A solid that is this much above a face, px, has no shadow there. */
const REACH = 12;
/** One that is sunk this much into a face and looks out of it has one all the same. */
const SUNK = 6;
/** Parts of a solid this much above its lowest point are its foot. */
const FOOT = 4;
/** A plane whose normal is this much along up is level. */
const LEVEL = 0.9995;
/** Sides of a ball's foot, which is this part of its width. */
const BALL_SIDES = 16;
const BALL_FOOT = 0.55;

/** Heights and numbers of the level faces, the lowest first. */
interface Ground {
  readonly height: number;
  readonly face: number;
}

/**
 * Writes the shadows on each face to `faces.contacts`. `up` is the unit vector upward in view space, `viewWorld` the
 * objects' matrices to view space (12 each), `seen` their opacity as `buildFaces` gave it.
 */
export function findContacts(
  faces: FaceList,
  g: Geometry,
  drawingOf: (object: number) => ObjectGeometry,
  viewWorld: Float64Array,
  up: ArrayLike<number>,
  seen: Float64Array,
): void {
  faces.contacts.length = 0;
  const grounds = levelFaces(faces, up);
  if (grounds.length === 0) return;
  for (let i = 0; i < g.parent.length; i++) {
    const { foot, ball } = drawingOf(i);
    if ((!foot && !ball) || !((seen[i] as number) > 0.2) || g.onTop[i] === 1) continue;
    const points = ball ? ballFoot(viewWorld, i, ball, up) : footOf(viewWorld, i, foot as Float64Array, up);
    cast(faces, g, grounds, points, up, i, seen[i] as number);
  }
}

function levelFaces(faces: FaceList, up: ArrayLike<number>): Ground[] {
  const { plane } = faces;
  const out: Ground[] = [];
  for (let f = 0; f < faces.count; f++) {
    if (faces.layer[f] === 1 || faces.masks[f] !== null) continue;
    const o = f * 9;
    const [ux, uy, uz] = [plane[o + 3] as number, plane[o + 4] as number, plane[o + 5] as number];
    const [vx, vy, vz] = [plane[o + 6] as number, plane[o + 7] as number, plane[o + 8] as number];
    const [nx, ny, nz] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
    const dot = nx * (up[0] as number) + ny * (up[1] as number) + nz * (up[2] as number);
    const along = dot / (Math.sqrt(nx * nx + ny * ny + nz * nz) || 1);
    if (!((faces.side[f] === FLAT ? Math.abs(along) : along) > LEVEL)) continue;
    const height = dotUp(plane[o] as number, plane[o + 1] as number, plane[o + 2] as number, up);
    out.push({ height, face: f });
  }
  return out.sort((a, b) => a.height - b.height);
}

function dotUp(x: number, y: number, z: number, up: ArrayLike<number>): number {
  return x * (up[0] as number) + y * (up[1] as number) + z * (up[2] as number);
}

interface Foot {
  readonly height: number;
  readonly top: number;
  /** View-space points, three numbers each. */
  readonly points: readonly number[];
}

function footOf(m: Float64Array, i: number, local: Float64Array, up: ArrayLike<number>): Foot {
  const o = i * 12;
  const all = new Float64Array(local.length);
  let height = Number.POSITIVE_INFINITY;
  let top = Number.NEGATIVE_INFINITY;
  for (let k = 0; k < local.length; k += 3) {
    for (let c = 0; c < 3; c++)
      all[k + c] =
        (m[o + c] as number) * (local[k] as number) +
        (m[o + 3 + c] as number) * (local[k + 1] as number) +
        (m[o + 6 + c] as number) * (local[k + 2] as number) +
        (m[o + 9 + c] as number);
    const at = dotUp(all[k] as number, all[k + 1] as number, all[k + 2] as number, up);
    height = Math.min(height, at);
    top = Math.max(top, at);
  }
  const points: number[] = [];
  for (let k = 0; k < all.length; k += 3) {
    const [x, y, z] = [all[k] as number, all[k + 1] as number, all[k + 2] as number];
    if (dotUp(x, y, z, up) <= height + FOOT) points.push(x, y, z);
  }
  return { height, top, points };
}

/** A ball's foot is round however it is turned; of one that is pressed flat, as wide as its mean. */
function ballFoot(m: Float64Array, i: number, half: readonly number[], up: ArrayLike<number>): Foot {
  const o = i * 12;
  const at = (c: number) => m[o + 9 + c] as number;
  let [high, wide] = [0, 0];
  for (let k = 0; k < 3; k++) {
    const [x, y, z] = [0, 1, 2].map((c) => (m[o + k * 3 + c] as number) * (half[k] as number)) as Triple;
    const rise = dotUp(x, y, z, up);
    high += rise * rise;
    wide += x * x + y * y + z * z - rise * rise;
  }
  const r = Math.sqrt(wide / 2) * BALL_FOOT;
  const drop = Math.sqrt(high);
  const [p, q] = across(up);
  const points: number[] = [];
  for (let n = 0; n < BALL_SIDES; n++) {
    const angle = (n / BALL_SIDES) * 360;
    const [c, s] = [cosDeg(angle) * r, sinDeg(angle) * r];
    for (let k = 0; k < 3; k++)
      points.push(at(k) + (p[k] as number) * c + (q[k] as number) * s - (up[k] as number) * drop);
  }
  const middle = dotUp(at(0), at(1), at(2), up);
  return { height: middle - drop, top: middle + drop, points };
}

type Triple = [number, number, number];

/** Two unit vectors that stand on `up` and on each other. */
function across(up: ArrayLike<number>): [Triple, Triple] {
  const [x, y, z] = [up[0] as number, up[1] as number, up[2] as number];
  // Whichever axis is further from up.
  const p: Triple = Math.abs(x) < 0.8 ? [1 - x * x, -x * y, -x * z] : [-y * x, 1 - y * y, -y * z];
  const len = Math.sqrt(p[0] * p[0] + p[1] * p[1] + p[2] * p[2]);
  for (let k = 0; k < 3; k++) p[k] = (p[k] as number) / len;
  return [p, [y * p[2] - z * p[1], z * p[0] - x * p[2], x * p[1] - y * p[0]]];
}

/** The foot's shadow on the level faces that lie just below it. */
function cast(
  faces: FaceList,
  g: Geometry,
  grounds: readonly Ground[],
  foot: Foot,
  up: ArrayLike<number>,
  object: number,
  opacity: number,
): void {
  let [low, high] = [0, grounds.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((grounds[middle] as Ground).height < foot.height - REACH) low = middle + 1;
    else high = middle;
  }
  for (let k = low; k < grounds.length; k++) {
    const { height, face } = grounds[k] as Ground;
    if (height > foot.height + SUNK || height > foot.top - 1) return;
    if (faces.object[face] === object || isBelow(g, faces.object[face] as number, object)) continue;
    const polygon = onFace(faces, face, foot.points, height, up);
    if (!polygon) continue;
    const gap = Math.max(0, foot.height - height);
    let list = faces.contacts[face];
    if (!list) {
      list = [];
      faces.contacts[face] = list;
    }
    list.push({ polygon, strength: (1 - gap / REACH) * opacity, spread: spreadOf(polygon) });
  }
}

/** Whether `object` carries what the face belongs to: a thing's own parts that lie under it are not its ground. */
function isBelow(g: Geometry, face: number, object: number): boolean {
  for (let i = g.parent[face] as number; i >= 0; i = g.parent[i] as number) if (i === object) return true;
  return false;
}

/** View-space points, dropped onto a face's plane, as a convex polygon in it; null when they lie beside the face. */
function onFace(
  faces: FaceList,
  f: number,
  points: readonly number[],
  height: number,
  up: ArrayLike<number>,
): Float64Array | null {
  const p = faces.plane;
  const o = f * 9;
  const at = (k: number) => p[o + k] as number;
  const det = at(3) * at(7) - at(4) * at(6);
  const flat = new Float64Array((points.length / 3) * 2);
  for (let k = 0, n = 0; k < points.length; k += 3, n += 2) {
    const [x, y, z] = [points[k] as number, points[k + 1] as number, points[k + 2] as number];
    const drop = dotUp(x, y, z, up) - height;
    const dx = x - (up[0] as number) * drop - at(0);
    const dy = y - (up[1] as number) * drop - at(1);
    flat[n] = (dx * at(7) - dy * at(6)) / det;
    flat[n + 1] = (at(3) * dy - at(4) * dx) / det;
  }
  const [u0, v0, u1, v1] = (faces.outline[f] as Outline).bounds;
  const [lowU, lowV, highU, highV] = boundsOf(flat);
  return highU > u0 && lowU < u1 && highV > v0 && lowV < v1 ? convexHull(flat) : null;
}

const LEAST_SPREAD = 4;
const MOST_SPREAD = 14;

/** Small things have small soft edges. */
function spreadOf(polygon: Float64Array): number {
  let area = 0;
  for (let i = 0; i < polygon.length; i += 2) {
    const j = (i + 2) % polygon.length;
    area +=
      ((polygon[i] as number) * (polygon[j + 1] as number) -
        (polygon[j] as number) * (polygon[i + 1] as number)) /
      2;
  }
  return Math.min(MOST_SPREAD, LEAST_SPREAD + Math.sqrt(Math.abs(area)) * 0.12);
}
