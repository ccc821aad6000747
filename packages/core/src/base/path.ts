/**
 * Paths of cubic segments: flattening, bounds, hulls, insides. Only + − × ÷ and square roots are used, which every
 * engine rounds alike. Units are px of whatever space the nodes are given in.
 */

/** A point of a path with the handles before and after it, relative to the point; absent handles are straight. */
export interface PathNode {
  readonly at: readonly [number, number];
  readonly in?: readonly [number, number] | undefined;
  readonly out?: readonly [number, number] | undefined;
}
export interface Subpath {
  readonly closed: boolean;
  readonly nodes: readonly PathNode[];
}

/** Contours as points: x, y pairs one after another; contour i ends before pair `ends[i]`. */
export interface Contours {
  readonly points: Float64Array;
  readonly ends: Int32Array;
  readonly closed: readonly boolean[];
}

/** How far the polygon of a flattened curve may lie from it, px. */
const TOLERANCE = 0.05;
const MAX_PIECES = 64;

export function flatten(subpaths: readonly Subpath[]): Contours {
  const points: number[] = [];
  const ends: number[] = [];
  for (const s of subpaths) {
    const first = s.nodes[0];
    if (!first) continue;
    points.push(first.at[0], first.at[1]);
    eachSegment(s, (a, b) => {
      addSegment(points, a, b);
    });
    // A closed contour does not repeat its first point.
    if (s.closed && s.nodes.length > 1) points.length -= 2;
    ends.push(points.length / 2);
  }
  const closed = subpaths.filter((s) => s.nodes.length > 0).map((s) => s.closed);
  return { points: Float64Array.from(points), ends: Int32Array.from(ends), closed };
}

export function eachSegment(s: Subpath, visit: (a: PathNode, b: PathNode) => void): void {
  const n = s.nodes.length;
  const last = s.closed && n > 1 ? n : n - 1;
  for (let i = 0; i < last; i++) visit(s.nodes[i] as PathNode, s.nodes[(i + 1) % n] as PathNode);
}

/** The four control points of a segment: x0, y0 … x3, y3. */
export function controls(a: PathNode, b: PathNode): number[] {
  const [ox, oy] = a.out ?? [0, 0];
  const [ix, iy] = b.in ?? [0, 0];
  return [a.at[0], a.at[1], a.at[0] + ox, a.at[1] + oy, b.at[0] + ix, b.at[1] + iy, b.at[0], b.at[1]];
}

function addSegment(points: number[], a: PathNode, b: PathNode): void {
  if (!a.out && !b.in) {
    points.push(b.at[0], b.at[1]);
    return;
  }
  const c = controls(a, b) as [number, number, number, number, number, number, number, number];
  // Wang's bound: n chords lie within ¾ · (greatest second difference) ÷ n² of the cubic.
  const ddx = Math.max(Math.abs(c[0] - 2 * c[2] + c[4]), Math.abs(c[2] - 2 * c[4] + c[6]));
  const ddy = Math.max(Math.abs(c[1] - 2 * c[3] + c[5]), Math.abs(c[3] - 2 * c[5] + c[7]));
  const bend = Math.sqrt(ddx * ddx + ddy * ddy);
  const n = Math.min(MAX_PIECES, Math.max(1, Math.ceil(Math.sqrt((0.75 * bend) / TOLERANCE))));
  for (let i = 1; i <= n; i++) {
    const t = i / n;
    const s = 1 - t;
    const [k0, k1, k2, k3] = [s * s * s, 3 * s * s * t, 3 * s * t * t, t * t * t];
    points.push(
      i === n ? c[6] : k0 * c[0] + k1 * c[2] + k2 * c[4] + k3 * c[6],
      i === n ? c[7] : k0 * c[1] + k1 * c[3] + k2 * c[5] + k3 * c[7],
    );
  }
}

type Bounds = [x0: number, y0: number, x1: number, y1: number];
const bounds = new WeakMap<readonly Subpath[], Readonly<Bounds>>();

/** Least x, least y, greatest x, greatest y over all curves, exactly; zeros for an empty path. Paths never change in place. */
export function pathBounds(subpaths: readonly Subpath[]): Bounds {
  let known = bounds.get(subpaths);
  if (!known) {
    known = boundsOf(subpaths);
    bounds.set(subpaths, known);
  }
  return [...known];
}

function boundsOf(subpaths: readonly Subpath[]): Bounds {
  let [x0, y0, x1, y1] = [
    Number.POSITIVE_INFINITY,
    Number.POSITIVE_INFINITY,
    Number.NEGATIVE_INFINITY,
    Number.NEGATIVE_INFINITY,
  ];
  const reach = (x: number, y: number) => {
    x0 = Math.min(x0, x);
    x1 = Math.max(x1, x);
    y0 = Math.min(y0, y);
    y1 = Math.max(y1, y);
  };
  for (const s of subpaths) {
    for (const n of s.nodes) reach(n.at[0], n.at[1]);
    eachSegment(s, (a, b) => {
      if (!a.out && !b.in) return;
      const c = controls(a, b);
      for (const k of [0, 1])
        for (const t of turnings(c[k] as number, c[k + 2] as number, c[k + 4] as number, c[k + 6] as number))
          reach(cubicAt(c, 0, t), cubicAt(c, 1, t));
    });
  }
  return x0 > x1 ? [0, 0, 0, 0] : [x0, y0, x1, y1];
}

function cubicAt(c: readonly number[], k: number, t: number): number {
  const s = 1 - t;
  return (
    s * s * s * (c[k] as number) +
    3 * s * s * t * (c[k + 2] as number) +
    3 * s * t * t * (c[k + 4] as number) +
    t * t * t * (c[k + 6] as number)
  );
}

/** Where the derivative of one coordinate is 0, within (0, 1). */
function turnings(p0: number, p1: number, p2: number, p3: number): number[] {
  const a = p3 - 3 * p2 + 3 * p1 - p0;
  const b = 2 * (p2 - 2 * p1 + p0);
  const c = p1 - p0;
  const out: number[] = [];
  const inside = (t: number) => {
    if (t > 0 && t < 1) out.push(t);
  };
  if (Math.abs(a) < 1e-12) {
    if (Math.abs(b) > 1e-12) inside(-c / b);
    return out;
  }
  const d = b * b - 4 * a * c;
  if (d < 0) return out;
  const r = Math.sqrt(d);
  inside((-b + r) / (2 * a));
  inside((-b - r) / (2 * a));
  return out;
}

/** The convex hull of x, y pairs, anticlockwise (Andrew's monotone chain). */
export function convexHull(points: Float64Array): Float64Array {
  const list: [number, number][] = [];
  for (let i = 0; i < points.length; i += 2) list.push([points[i] as number, points[i + 1] as number]);
  list.sort((a, b) => a[0] - b[0] || a[1] - b[1]);
  const cross = (o: [number, number], a: [number, number], b: [number, number]) =>
    (a[0] - o[0]) * (b[1] - o[1]) - (a[1] - o[1]) * (b[0] - o[0]);
  const half = (from: [number, number][]) => {
    const chain: [number, number][] = [];
    for (const p of from) {
      while (
        chain.length >= 2 &&
        cross(chain.at(-2) as [number, number], chain.at(-1) as [number, number], p) <= 0
      )
        chain.pop();
      chain.push(p);
    }
    chain.pop();
    return chain;
  };
  return Float64Array.from([...half(list), ...half(list.toReversed())].flat());
}

/** Whether a point lies inside; open contours count as closed, as when filled. Points on an edge may fall either way. */
export function insideContours(c: Contours, evenodd: boolean, x: number, y: number): boolean {
  let winding = 0;
  let start = 0;
  const p = c.points;
  for (const end of c.ends) {
    for (let i = start; i < end; i++) {
      const j = i + 1 < end ? i + 1 : start;
      const ay = p[i * 2 + 1] as number;
      const by = p[j * 2 + 1] as number;
      if (ay > y === by > y) continue;
      const ax = p[i * 2] as number;
      const side = ax + ((y - ay) / (by - ay)) * ((p[j * 2] as number) - ax);
      if (side > x) winding += by > ay ? 1 : -1;
    }
    start = end;
  }
  return evenodd ? winding % 2 !== 0 : winding !== 0;
}

/** The distance of a point from the line of the contours, px. */
export function distanceToContours(c: Contours, x: number, y: number): number {
  let best = Number.POSITIVE_INFINITY;
  let start = 0;
  const p = c.points;
  for (let n = 0; n < c.ends.length; n++) {
    const end = c.ends[n] as number;
    const last = c.closed[n] ? end : end - 1;
    if (end - start === 1)
      best = Math.min(best, far(x - (p[start * 2] as number), y - (p[start * 2 + 1] as number)));
    for (let i = start; i < last; i++) {
      const j = i + 1 < end ? i + 1 : start;
      const ax = p[i * 2] as number;
      const ay = p[i * 2 + 1] as number;
      const dx = (p[j * 2] as number) - ax;
      const dy = (p[j * 2 + 1] as number) - ay;
      const len = dx * dx + dy * dy;
      const t = len === 0 ? 0 : Math.max(0, Math.min(1, ((x - ax) * dx + (y - ay) * dy) / len));
      best = Math.min(best, far(x - ax - t * dx, y - ay - t * dy));
    }
    start = end;
  }
  return Math.sqrt(best);
}

/** The square of a distance: only the least one needs its root. */
function far(dx: number, dy: number): number {
  return dx * dx + dy * dy;
}

/** A closed polygon through the points. */
export function polygonPath(points: readonly (readonly [number, number])[]): Subpath {
  return { closed: true, nodes: points.map((at) => ({ at })) };
}
