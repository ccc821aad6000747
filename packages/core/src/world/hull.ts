/** Convex hulls in a plane, and the way of a point among them, along which it slides. Hulls are rows of x and y. */

/** What is nearer than this is at one place, px. */
const SAME_PLACE = 1e-9;

/**
 * The convex hull of points, counter-clockwise from the corner with the greatest x (of equals, the least y); after Andrew's
 * monotone chain (1979). Fewer than three corners for points on one line.
 */
export function convexHull(points: readonly (readonly [number, number])[]): Float64Array {
  const sorted = [...points].sort((a, b) => a[0] - b[0] || a[1] - b[1]);
  const half = (list: readonly (readonly [number, number])[]) => {
    const out: (readonly [number, number])[] = [];
    for (const p of list) {
      for (let a = out.at(-2), b = out.at(-1); a && b; a = out.at(-2), b = out.at(-1)) {
        if ((b[0] - a[0]) * (p[1] - a[1]) - (b[1] - a[1]) * (p[0] - a[0]) > 0) break;
        out.pop();
      }
      out.push(p);
    }
    return out.slice(0, -1);
  };
  // Of corners at one place one is kept: the way from one to the other would be rounding, no edge.
  const ring = [...half(sorted), ...half(sorted.toReversed())].filter((p, i, all) => {
    const q = all[(i + 1) % all.length] as readonly [number, number];
    return all.length === 1 || Math.hypot(p[0] - q[0], p[1] - q[1]) > SAME_PLACE;
  });
  const [only] = sorted;
  if (ring.length === 0) return Float64Array.from(only ?? []);
  let first = 0;
  ring.forEach((p, i) => {
    const best = ring[first] as readonly [number, number];
    if (p[0] > best[0] || (p[0] === best[0] && p[1] < best[1])) first = i;
  });
  return Float64Array.from([...ring.slice(first), ...ring.slice(0, first)].flat());
}

/** Where the point of a body, whose corners lie round it at `body`, must not come for the body to stay off a hull. */
export function grownBy(hull: Float64Array, body: Float64Array): Float64Array {
  const points: [number, number][] = [];
  for (let i = 0; i < hull.length; i += 2)
    for (let k = 0; k < body.length; k += 2)
      points.push([
        (hull[i] as number) - (body[k] as number),
        (hull[i + 1] as number) - (body[k + 1] as number),
      ]);
  return convexHull(points);
}

/** What stands deeper in a hull than this is not stopped by it. */
const DEEP = 1e-6;
/** Edges that a way meets at most. */
const MOST_EDGES = 4;

/** How far a point is from a hull; negative inside, by the nearest edge. Infinite for what has no area. */
export function distanceTo(hull: Float64Array, x: number, y: number): number {
  if (hull.length < 6) return Number.POSITIVE_INFINITY;
  let most = Number.NEGATIVE_INFINITY;
  let least = Number.POSITIVE_INFINITY;
  for (let i = 0; i < hull.length; i += 2) {
    const [nx, ny] = normalOf(hull, i);
    const [u, v] = [x - (hull[i] as number), y - (hull[i + 1] as number)];
    const off = u * nx + v * ny;
    most = Math.max(most, off);
    // Before an edge it is as far as the edge's line, past an end of it as far as that corner.
    const along = v * nx - u * ny;
    const j = (i + 2) % hull.length;
    const length =
      ((hull[j + 1] as number) - (hull[i + 1] as number)) * nx -
      ((hull[j] as number) - (hull[i] as number)) * ny;
    least = Math.min(least, Math.hypot(off, along - Math.max(0, Math.min(length, along))));
  }
  return most < 0 ? most : least;
}

/**
 * Where a point that is inside a hull comes out of it: over the nearest edge (of equally near ones the first), or along one
 * axis (0 or 1) the nearer way.
 */
export function outOf(hull: Float64Array, x: number, y: number, axis: 0 | 1 | null): [x: number, y: number] {
  if (axis !== null) {
    // How far it is along the axis to where an edge is met, to either side.
    let [back, ahead] = [Number.NEGATIVE_INFINITY, Number.POSITIVE_INFINITY];
    for (let i = 0; i < hull.length; i += 2) {
      const normal = normalOf(hull, i);
      const off = (x - (hull[i] as number)) * normal[0] + (y - (hull[i + 1] as number)) * normal[1];
      const into = normal[axis];
      if (Math.abs(into) < 1e-12) continue;
      const t = -off / into;
      if (into > 0) ahead = Math.min(ahead, t);
      else back = Math.max(back, t);
    }
    const by = -back < ahead - 1e-9 ? back : ahead;
    if (!Number.isFinite(by)) return [x, y];
    return axis === 0 ? [x + by, y] : [x, y + by];
  }
  let most = Number.NEGATIVE_INFINITY;
  let out: [number, number] = [x, y];
  for (let i = 0; i < hull.length; i += 2) {
    const [nx, ny] = normalOf(hull, i);
    const off = (x - (hull[i] as number)) * nx + (y - (hull[i + 1] as number)) * ny;
    if (off <= most + 1e-9) continue;
    most = off;
    out = [x - off * nx, y - off * ny];
  }
  return out;
}

/** The outward normal of the edge that begins at corner `i`, of length 1. */
function normalOf(hull: Float64Array, i: number): [number, number] {
  const j = (i + 2) % hull.length;
  const [dx, dy] = [
    (hull[j] as number) - (hull[i] as number),
    (hull[j + 1] as number) - (hull[i + 1] as number),
  ];
  const length = Math.hypot(dx, dy);
  return [dy / length, -dx / length];
}

/**
 * The way of a point from (x, y) that would go by (dx, dy) among hulls: straight until it meets an edge from outside,
 * then on along it with what of the way does not go into it; four edges at most. `slides` false: it stops at the first.
 */
export function slide(
  hulls: readonly Float64Array[],
  [x, y]: readonly [number, number],
  [dx, dy]: readonly [number, number],
  slides: boolean,
): [x: number, y: number] {
  let [px, py, wx, wy] = [x, y, dx, dy];
  const met: [nx: number, ny: number][] = [];
  for (let n = 0; n <= MOST_EDGES && (wx !== 0 || wy !== 0); n++) {
    let at = 1;
    let edge: [number, number] | null = null;
    for (const hull of hulls) {
      if (distanceTo(hull, px, py) < -DEEP) continue;
      const found = meets(hull, px, py, wx, wy);
      if (found && found.at < at) {
        at = found.at;
        edge = found.normal;
      }
    }
    px += wx * at;
    py += wy * at;
    if (!edge || n === MOST_EDGES || !slides) return [px, py];
    met.push(edge);
    [wx, wy] = [wx * (1 - at), wy * (1 - at)];
    for (const [nx, ny] of met) {
      const into = wx * nx + wy * ny;
      if (into < 0) [wx, wy] = [wx - into * nx, wy - into * ny];
    }
    // Between two edges that it may go into no more there is no way left.
    if (met.some(([nx, ny]) => wx * nx + wy * ny < -1e-12)) return [px, py];
  }
  return [px, py];
}

/** Where on its way, 0–1, a point outside a hull comes into it, and over which edge. */
function meets(
  hull: Float64Array,
  px: number,
  py: number,
  wx: number,
  wy: number,
): { at: number; normal: [number, number] } | null {
  if (hull.length < 6) return null;
  let enter = Number.NEGATIVE_INFINITY;
  let leave = Number.POSITIVE_INFINITY;
  let normal: [number, number] | null = null;
  let outside = 0;
  for (let i = 0; i < hull.length; i += 2) {
    const [nx, ny] = normalOf(hull, i);
    const off = (px - (hull[i] as number)) * nx + (py - (hull[i + 1] as number)) * ny;
    const into = wx * nx + wy * ny;
    if (Math.abs(into) < 1e-12) {
      // Along an edge: beside the hull there is nothing to meet.
      if (off > -1e-9) return null;
      continue;
    }
    const t = -off / into;
    if (into < 0) {
      if (t > enter) {
        enter = t;
        normal = [nx, ny];
        outside = off;
      }
    } else leave = Math.min(leave, t);
  }
  if (!normal || enter >= leave - 1e-12 || enter > 1 || leave <= 1e-12) return null;
  // What stands on an edge and goes off it has the opposite one far behind it: that is not met.
  if (outside < -DEEP) return null;
  return { at: Math.max(0, enter), normal };
}
