/** The shape of a zone, and the stretches of a straight way that lie in it. */
import { grown } from '../base/index.ts';
import type { Collider } from '../model/index.ts';

/** Half extents round the middle; infinite along z where it is endless. */
export type ZoneShape =
  | { readonly is: 'box'; readonly at: Point; readonly half: Point }
  | { readonly is: 'ball'; readonly at: Point; readonly radius: number; readonly through: boolean }
  | { readonly is: 'outline'; readonly at: Point; readonly points: Float64Array; readonly half: number }
  | { readonly is: 'near'; readonly enter: number; readonly leave: number };
type Point = readonly [number, number, number];

/** Shorter stretches, as a part of the way, are none. */
const SHORTEST = 1e-9;

export function zoneShape(c: Collider): ZoneShape {
  if (c.role === 'near') return { is: 'near', enter: c.enter, leave: Math.max(c.enter, c.leave) };
  const { at } = c;
  const half = (n: number | undefined) => Math.max(n ?? 0, 1) / 2;
  const deep = (n: number | undefined) => (c.through ? Number.POSITIVE_INFINITY : half(n));
  if (c.shape === 'ball') return { is: 'ball', at, radius: Math.max(c.radius ?? 0, 1), through: c.through };
  if (c.shape === 'box')
    return { is: 'box', at, half: [half(c.size?.[0]), half(c.size?.[1]), deep(c.size?.[2])] };
  return { is: 'outline', at, points: Float64Array.from((c.points ?? []).flat()), half: deep(c.depth) };
}

/** The stretches of one way, as pairs of its parts 0–1, in order. */
export class Stretches {
  count = 0;
  at = new Float64Array(16);

  /** Adds the one from `part[0]` to `part[1]`. */
  add(part: Float64Array): void {
    const from = part[0] as number;
    const to = part[1] as number;
    if (!(to - from > SHORTEST)) return;
    const before = 2 * this.count - 1;
    // What only touches is one.
    if (this.count > 0 && from - (this.at[before] as number) <= SHORTEST) {
      this.at[before] = to;
      return;
    }
    if (this.count * 2 + 2 > this.at.length) this.at = grown(this.at, this.at.length * 2);
    this.at[this.count * 2] = from;
    this.at[this.count * 2 + 1] = to;
    this.count++;
  }
}

// Numbers that would cost memory when passed are passed in rows.
/** The part of the way, from and to, that is looked at: narrowed by each side. */
const part = new Float64Array(2);
/** A way in space: where it begins, and what it goes by. */
const way = new Float64Array(6);
/** How far something reaches: a half extent, or a radius. */
const reach = new Float64Array(1);

/** Narrows `part` to where the way lies within `reach` of the origin along an axis. */
function slab(axis: number): boolean {
  const half = reach[0] as number;
  if (half === Number.POSITIVE_INFINITY) return true;
  const from = way[axis] as number;
  const d = way[3 + axis] as number;
  if (d === 0) return from <= half && from >= -half;
  const a = (-half - from) / d;
  const b = (half - from) / d;
  const low = Math.min(a, b);
  const high = Math.max(a, b);
  if (low > (part[0] as number)) part[0] = low;
  if (high < (part[1] as number)) part[1] = high;
  return (part[0] as number) <= (part[1] as number);
}

/** Narrows `part` to where the way comes within `reach` of the origin. */
function round(): boolean {
  const x = way[0] as number;
  const y = way[1] as number;
  const z = way[2] as number;
  const dx = way[3] as number;
  const dy = way[4] as number;
  const dz = way[5] as number;
  const radius = reach[0] as number;
  const a = dx * dx + dy * dy + dz * dz;
  const c = x * x + y * y + z * z - radius * radius;
  if (a === 0) return c <= 0;
  const b = x * dx + y * dy + z * dz;
  const root = b * b - a * c;
  if (root < 0) return false;
  const far = Math.sqrt(root);
  const low = (-b - far) / a;
  const high = (-b + far) / a;
  if (low > (part[0] as number)) part[0] = low;
  if (high < (part[1] as number)) part[1] = high;
  return (part[0] as number) <= (part[1] as number);
}

let cuts = new Float64Array(64);

const point = new Float64Array(2);

/** Whether `point` of an outline's plane lies inside by even-odd, or on the outline. */
function inOutline(p: Float64Array): boolean {
  const x = point[0] as number;
  const y = point[1] as number;
  let inside = false;
  const n = p.length / 2;
  for (let i = 0, j = n - 1; i < n; j = i++) {
    const ax = p[i * 2] as number;
    const ay = p[i * 2 + 1] as number;
    const bx = p[j * 2] as number;
    const by = p[j * 2 + 1] as number;
    const ex = bx - ax;
    const ey = by - ay;
    const cross = ex * (y - ay) - ey * (x - ax);
    const along = ex * (x - ax) + ey * (y - ay);
    const length = ex * ex + ey * ey;
    if (cross * cross <= 1e-18 * length && along >= 0 && along <= length) return true;
    if (ay > y !== by > y && ax + ((y - ay) / (by - ay)) * (bx - ax) > x) inside = !inside;
  }
  return inside;
}

function outlineStretches(p: Float64Array, out: Stretches): void {
  const x = way[0] as number;
  const y = way[1] as number;
  const dx = way[3] as number;
  const dy = way[4] as number;
  const n = p.length / 2;
  if (cuts.length < n + 2) cuts = new Float64Array(n + 2);
  const lo = part[0] as number;
  const hi = part[1] as number;
  cuts[0] = lo;
  let count = 1;
  for (let i = 0, j = n - 1; i < n; j = i++) {
    const ax = p[i * 2] as number;
    const ay = p[i * 2 + 1] as number;
    const ex = (p[j * 2] as number) - ax;
    const ey = (p[j * 2 + 1] as number) - ay;
    const det = dx * ey - dy * ex;
    if (det === 0) continue;
    const s = ((ax - x) * ey - (ay - y) * ex) / det;
    const u = ((ax - x) * dy - (ay - y) * dx) / det;
    if (s > lo && s < hi && u >= 0 && u <= 1) cuts[count++] = s;
  }
  cuts[count++] = hi;
  // Few, and not worth the memory of a view on them.
  for (let i = 1; i < count; i++)
    for (let j = i; j > 0 && (cuts[j - 1] as number) > (cuts[j] as number); j--) {
      const swap = cuts[j] as number;
      cuts[j] = cuts[j - 1] as number;
      cuts[j - 1] = swap;
    }
  for (let k = 0; k + 1 < count; k++) {
    part[0] = cuts[k] as number;
    part[1] = cuts[k + 1] as number;
    const middle = (part[0] + part[1]) / 2;
    point[0] = x + dx * middle;
    point[1] = y + dy * middle;
    if (inOutline(p)) out.add(part);
  }
}

/** The stretches of the way from `from` to `to`, points of the zone's own space, that lie inside it. */
export function stretchesIn(
  shape: Exclude<ZoneShape, { is: 'near' }>,
  from: Float64Array,
  to: Float64Array,
  out: Stretches,
): void {
  out.count = 0;
  for (let k = 0; k < 3; k++) {
    way[k] = (from[k] as number) - (shape.at[k] as number);
    way[3 + k] = (to[k] as number) - (from[k] as number);
  }
  part[0] = 0;
  part[1] = 1;
  if (shape.is === 'box') {
    for (let k = 0; k < 3; k++) {
      reach[0] = shape.half[k] as number;
      if (!slab(k)) return;
    }
    out.add(part);
  } else if (shape.is === 'ball') {
    if (shape.through) {
      way[2] = 0;
      way[5] = 0;
    }
    reach[0] = shape.radius;
    if (round()) out.add(part);
  } else {
    reach[0] = shape.half;
    if (slab(2)) outlineStretches(shape.points, out);
  }
}

/** Whether a point of the zone's own space lies in it, or on its boundary. */
export function isInZone(shape: Exclude<ZoneShape, { is: 'near' }>, p: Float64Array): boolean {
  const [x, y, z] = [0, 1, 2].map((k) => (p[k] as number) - (shape.at[k] as number)) as [
    number,
    number,
    number,
  ];
  if (shape.is === 'box')
    return Math.abs(x) <= shape.half[0] && Math.abs(y) <= shape.half[1] && Math.abs(z) <= shape.half[2];
  if (shape.is === 'ball') return x * x + y * y + (shape.through ? 0 : z * z) <= shape.radius * shape.radius;
  point[0] = x;
  point[1] = y;
  return Math.abs(z) <= shape.half && inOutline(shape.points);
}

/**
 * The stretch of the way from `from` to `to`, as seen from the other's pivot, in which a thing is near: from where it
 * comes within `enter`, or from the start when it is near already, until it goes beyond `leave`.
 */
export function nearStretch(
  shape: Extract<ZoneShape, { is: 'near' }>,
  isNear: boolean,
  from: Float64Array,
  to: Float64Array,
  out: Stretches,
): void {
  out.count = 0;
  for (let k = 0; k < 3; k++) {
    way[k] = from[k] as number;
    way[3 + k] = (to[k] as number) - (from[k] as number);
  }
  // What is near and beyond already leaves here, and may come again.
  const stays = isNear && within(shape.leave) && part[0] === 0;
  if (!stays && !within(shape.enter)) return;
  start[0] = part[0] as number;
  within(shape.leave);
  part[0] = start[0];
  out.add(part);
}
const start = new Float64Array(1);

function within(radius: number): boolean {
  reach[0] = radius;
  part[0] = 0;
  part[1] = 1;
  return round();
}
