/**
 * Contact shadows: where solids stand on a level face, that face is darker round their feet. A shadow lies in the plane of
 * the face that it falls on, so nothing about the order of painting changes.
 */
import { convexHull } from '../base/index.ts';
import { FLAT } from './drawing.ts';
import { type Contact, drawingOf, type FaceList } from './faces.ts';
import type { Geometry } from './geometry.ts';
import { boundsOf, type Outline } from './outline.ts';

/** A solid that is this much above a face, px, has no shadow there. */
const REACH = 12;
/** One that is sunk this much into a face and looks out of it has one all the same. */
const SUNK = 6;
/** Parts of a solid this much above its lowest point, and this part of its height, are its foot. */
const FOOT = 4;
const FOOT_PART = 0.06;
/** A plane whose normal is this much along up is level. */
const LEVEL = 0.9995;
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
  values: Float64Array,
  viewWorld: Float64Array,
  up: ArrayLike<number>,
  seen: Float64Array,
): void {
  faces.contacts.length = 0;
  const grounds = levelFaces(faces, up);
  if (grounds.length === 0) return;
  for (let i = 0; i < g.parent.length; i++) {
    const { foot } = drawingOf(g, values, i);
    if (foot && (seen[i] as number) > 0.2 && g.onTop[i] === 0)
      cast(faces, g, grounds, footOf(viewWorld, i, foot, up), up, i, seen[i] as number);
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
  const foot = height + FOOT + FOOT_PART * (top - height);
  const points: number[] = [];
  for (let k = 0; k < all.length; k += 3) {
    const [x, y, z] = [all[k] as number, all[k + 1] as number, all[k + 2] as number];
    if (dotUp(x, y, z, up) <= foot) points.push(x, y, z);
  }
  return { height, top, points };
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
    const shadow = onFace(faces, face, foot.points, height, up);
    if (!shadow) continue;
    const gap = Math.max(0, foot.height - height);
    const strength = (1 - gap / REACH) * opacity;
    faces.contacts[face] ??= [];
    faces.contacts[face]?.push({ ...shadow, strength });
  }
}

/** Whether `object` carries what the face belongs to: a thing's own parts that lie under it are not its ground. */
function isBelow(g: Geometry, face: number, object: number): boolean {
  for (let i = g.parent[face] as number; i >= 0; i = g.parent[i] as number) if (i === object) return true;
  return false;
}

/** The shadow of view-space points, dropped onto a face's plane; null when they lie beside the face. */
function onFace(
  faces: FaceList,
  f: number,
  points: readonly number[],
  height: number,
  up: ArrayLike<number>,
): Contact | null {
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
  if (!(highU > u0 && lowU < u1 && highV > v0 && lowV < v1)) return null;
  // Small things have small soft edges.
  const spread = Math.min(14, 4 + 0.12 * Math.sqrt((highU - lowU) * (highV - lowV)));
  return { polygon: convexHull(flat), strength: 1, spread };
}
