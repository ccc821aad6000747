/** The shape of a zone, and the stretches of a straight way that lie in it. */
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

  add(from: number, to: number): void {
    if (!(to - from > SHORTEST)) return;
    const before = 2 * this.count - 1;
    // What only touches is one.
    if (this.count > 0 && from - (this.at[before] as number) <= SHORTEST) {
      this.at[before] = to;
      return;
    }
    if (this.count * 2 + 2 > this.at.length) {
      const more = new Float64Array(this.at.length * 2);
      more.set(this.at);
      this.at = more;
    }
    this.at[this.count * 2] = from;
    this.at[this.count * 2 + 1] = to;
    this.count++;
  }
}

/** The part of the way, as [from, to], that is looked at: narrowed by each side. */
const part = new Float64Array(2);

function slab(from: number, to: number, half: number): boolean {
  if (half === Number.POSITIVE_INFINITY) return true;
  const d = to - from;
  if (d === 0) return Math.abs(from) <= half;
  const [a, b] = [(-half - from) / d, (half - from) / d];
  part[0] = Math.max(part[0] as number, Math.min(a, b));
  part[1] = Math.min(part[1] as number, Math.max(a, b));
  return (part[0] as number) <= (part[1] as number);
}

/** Narrows `part` to where a way in space comes within `radius` of the origin. */
function round(x: number, y: number, z: number, dx: number, dy: number, dz: number, radius: number): boolean {
  const a = dx * dx + dy * dy + dz * dz;
  const c = x * x + y * y + z * z - radius * radius;
  if (a === 0) return c <= 0;
  const b = x * dx + y * dy + z * dz;
  const root = b * b - a * c;
  if (root < 0) return false;
  const far = Math.sqrt(root);
  part[0] = Math.max(part[0] as number, (-b - far) / a);
  part[1] = Math.min(part[1] as number, (-b + far) / a);
  return (part[0] as number) <= (part[1] as number);
}

let cuts = new Float64Array(64);

/** Whether a point of an outline's plane lies inside by even-odd, or on the outline. */
function inOutline(p: Float64Array, x: number, y: number): boolean {
  let inside = false;
  const n = p.length / 2;
  for (let i = 0, j = n - 1; i < n; j = i++) {
    const [ax, ay] = [p[i * 2] as number, p[i * 2 + 1] as number];
    const [bx, by] = [p[j * 2] as number, p[j * 2 + 1] as number];
    const [ex, ey] = [bx - ax, by - ay];
    const cross = ex * (y - ay) - ey * (x - ax);
    const along = ex * (x - ax) + ey * (y - ay);
    const length = ex * ex + ey * ey;
    if (cross * cross <= 1e-18 * length && along >= 0 && along <= length) return true;
    if (ay > y !== by > y && ax + ((y - ay) / (by - ay)) * (bx - ax) > x) inside = !inside;
  }
  return inside;
}

function outlineStretches(p: Float64Array, from: Float64Array, to: Float64Array, out: Stretches): void {
  const [x, y] = [from[0] as number, from[1] as number];
  const [dx, dy] = [(to[0] as number) - x, (to[1] as number) - y];
  const n = p.length / 2;
  if (cuts.length < n + 2) cuts = new Float64Array(n + 2);
  let count = 0;
  const [lo, hi] = [part[0] as number, part[1] as number];
  cuts[count++] = lo;
  for (let i = 0, j = n - 1; i < n; j = i++) {
    const [ax, ay] = [p[i * 2] as number, p[i * 2 + 1] as number];
    const [ex, ey] = [(p[j * 2] as number) - ax, (p[j * 2 + 1] as number) - ay];
    const det = dx * ey - dy * ex;
    if (det === 0) continue;
    const s = ((ax - x) * ey - (ay - y) * ex) / det;
    const u = ((ax - x) * dy - (ay - y) * dx) / det;
    if (s > lo && s < hi && u >= 0 && u <= 1) cuts[count++] = s;
  }
  cuts[count++] = hi;
  cuts.subarray(0, count).sort();
  for (let k = 0; k + 1 < count; k++) {
    const [a, b] = [cuts[k] as number, cuts[k + 1] as number];
    const m = (a + b) / 2;
    if (inOutline(p, x + dx * m, y + dy * m)) out.add(a, b);
  }
}

const a = new Float64Array(3);
const b = new Float64Array(3);

/** The stretches of the way from `from` to `to`, points of the zone's own space, that lie inside it. */
export function stretchesIn(
  shape: Exclude<ZoneShape, { is: 'near' }>,
  from: Float64Array,
  to: Float64Array,
  out: Stretches,
): void {
  out.count = 0;
  for (let k = 0; k < 3; k++) {
    a[k] = (from[k] as number) - (shape.at[k] as number);
    b[k] = (to[k] as number) - (shape.at[k] as number);
  }
  part[0] = 0;
  part[1] = 1;
  const [ax, ay, az] = [a[0] as number, a[1] as number, a[2] as number];
  const [bx, by, bz] = [b[0] as number, b[1] as number, b[2] as number];
  if (shape.is === 'box') {
    const [x, y, z] = shape.half;
    if (slab(ax, bx, x) && slab(ay, by, y) && slab(az, bz, z)) out.add(part[0], part[1]);
  } else if (shape.is === 'ball') {
    const flat = shape.through ? 0 : 1;
    if (round(ax, ay, az * flat, bx - ax, by - ay, (bz - az) * flat, shape.radius)) out.add(part[0], part[1]);
  } else if (slab(az, bz, shape.half)) outlineStretches(shape.points, a, b, out);
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
  return Math.abs(z) <= shape.half && inOutline(shape.points, x, y);
}

/**
 * The stretch of the way from `from` to `to`, as seen from the other's pivot, in which a thing is near: from where it
 * comes within `enter`, or from the start when it is near already, until it goes beyond `leave`.
 */
export function nearStretch(
  enter: number,
  leave: number,
  isNear: boolean,
  from: Float64Array,
  to: Float64Array,
  out: Stretches,
): void {
  out.count = 0;
  const [x, y, z] = [from[0] as number, from[1] as number, from[2] as number];
  const [dx, dy, dz] = [(to[0] as number) - x, (to[1] as number) - y, (to[2] as number) - z];
  const within = (radius: number) => {
    part[0] = 0;
    part[1] = 1;
    return round(x, y, z, dx, dy, dz, radius);
  };
  let start = 0;
  if (!isNear) {
    if (!within(enter)) return;
    start = part[0] as number;
  } else if (!within(leave) || (part[0] as number) > 0) {
    // It is beyond already: it leaves here, and may come again.
    if (!within(enter)) return;
    start = part[0] as number;
  }
  within(leave);
  out.add(start, part[1] as number);
}
