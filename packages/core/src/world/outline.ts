/** Outlines of faces: what is filled, in the face's own plane (u, v), px. Equal ones are one object, kept by its maker. */
import { type Contours, convexHull, flatten, insideContours, type Subpath } from '../base/index.ts';

export const OUTLINE_RECT = 1;
export const OUTLINE_ELLIPSE = 2;
export const OUTLINE_PATH = 3;

export interface Outline {
  readonly kind: typeof OUTLINE_RECT | typeof OUTLINE_ELLIPSE | typeof OUTLINE_PATH;
  /** Half width, half height and corner radius of a rectangle or ellipse round 0, 0; zeros for a path. */
  readonly hw: number;
  readonly hh: number;
  readonly radius: number;
  /** The curves of a path; null for the other kinds. */
  readonly subpaths: readonly Subpath[] | null;
  readonly evenodd: boolean;
  /** The outline as a polygon, within 0.05 px; of an ellipse, one of 64 sides. */
  readonly contours: Contours;
  /** A convex polygon, anticlockwise, that holds all of it. */
  readonly hull: Float64Array;
  /** Least u and v, greatest u and v of the hull. */
  readonly bounds: readonly [number, number, number, number];
}

/** Least u and v, greatest u and v of points. */
export function boundsOf(points: Float64Array): [number, number, number, number] {
  let [u0, v0, u1, v1] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let i = 0; i < points.length; i += 2) {
    const [u, v] = [points[i] as number, points[i + 1] as number];
    u0 = Math.min(u0, u);
    v0 = Math.min(v0, v);
    u1 = Math.max(u1, u);
    v1 = Math.max(v1, v);
  }
  return [u0, v0, u1, v1];
}

const ELLIPSE_SIDES = 24;
const CACHE = 4000;
const simple = new Map<string, Outline>();
const paths = new WeakMap<readonly Subpath[], Map<string, Outline>>();

export function rectOutline(w: number, h: number, radius = 0): Outline {
  return cached(`r${w}/${h}/${radius}`, () => {
    const [hw, hh] = [w / 2, h / 2];
    const points = Float64Array.of(-hw, -hh, hw, -hh, hw, hh, -hw, hh);
    return {
      kind: OUTLINE_RECT,
      hw,
      hh,
      radius: Math.min(radius, hw, hh),
      subpaths: null,
      evenodd: false,
      contours:
        radius > 0
          ? flatten([rounded(hw, hh, Math.min(radius, hw, hh))])
          : { points, ends: Int32Array.of(4), closed: [true] },
      hull: points,
      bounds: [-hw, -hh, hw, hh],
    };
  });
}

/** How far a cubic's handle reaches along a quarter of a unit circle: 4/3 · (√2 − 1). */
const QUARTER = 0.5522847498307936;

/** A rectangle with round corners as curves, anticlockwise from the right of its lower edge. */
function rounded(hw: number, hh: number, r: number): Subpath {
  const k = r * QUARTER;
  const corner = (x: number, y: number, sx: number, sy: number) => {
    const a = [x, y - sy * r] as const;
    const b = [x - sx * r, y] as const;
    const [ha, hb] = [[0, sy * k] as const, [sx * k, 0] as const];
    // Anticlockwise the right corner of each edge is met along y first where both signs are equal.
    return sx === sy
      ? [
          { at: a, out: ha },
          { at: b, in: hb },
        ]
      : [
          { at: b, out: hb },
          { at: a, in: ha },
        ];
  };
  const nodes = [
    ...corner(hw, -hh, 1, -1),
    ...corner(hw, hh, 1, 1),
    ...corner(-hw, hh, -1, 1),
    ...corner(-hw, -hh, -1, -1),
  ];
  return { closed: true, nodes: nodes as unknown as Subpath['nodes'] };
}

export function ellipseOutline(w: number, h: number): Outline {
  return cached(`e${w}/${h}`, () => {
    const [hw, hh] = [w / 2, h / 2];
    const points = roundPoints(64, 1);
    const hull = roundPoints(ELLIPSE_SIDES, 1.0086289605801528);
    const sized = (p: Float64Array) => p.map((x, i) => x * (i % 2 === 0 ? hw : hh));
    return {
      kind: OUTLINE_ELLIPSE,
      hw,
      hh,
      radius: 0,
      subpaths: null,
      evenodd: false,
      contours: { points: sized(points), ends: Int32Array.of(64), closed: [true] },
      // Its corners lie a little outside the circle, so that the sides touch it: 1/cos(7.5°).
      hull: sized(hull),
      bounds: boundsOf(sized(hull)),
    };
  });
}

/** `around` is how far a stroke reaches beyond the outline, px: the hull holds it too. */
export function pathOutline(subpaths: readonly Subpath[], evenodd: boolean, around: number): Outline {
  let of = paths.get(subpaths);
  if (!of) {
    of = new Map();
    paths.set(subpaths, of);
  }
  const key = `${evenodd}/${around}`;
  let outline = of.get(key);
  if (!outline) {
    const contours = flatten(subpaths);
    const hull = convexHull(around === 0 ? contours.points : widened(contours.points, around));
    outline = {
      kind: OUTLINE_PATH,
      hw: 0,
      hh: 0,
      radius: 0,
      subpaths,
      evenodd,
      contours,
      hull: coarse(hull),
      bounds: boundsOf(hull),
    };
    of.set(key, outline);
  }
  return outline;
}

/** Corners that a hull has at most: what is compared with every other outline must not have thousands. */
const HULL_SIDES = 64;

/** A convex polygon of at most 64 sides round a finer one; its sides touch that one, so it is at most 0.12 % wider. */
function coarse(hull: Float64Array): Float64Array {
  if (hull.length <= HULL_SIDES * 2) return hull;
  const away = roundPoints(HULL_SIDES, 1);
  /** How far the hull reaches in each direction. */
  const reach = new Float64Array(HULL_SIDES).fill(Number.NEGATIVE_INFINITY);
  for (let k = 0; k < HULL_SIDES; k++)
    for (let i = 0; i < hull.length; i += 2) {
      const d =
        (hull[i] as number) * (away[k * 2] as number) + (hull[i + 1] as number) * (away[k * 2 + 1] as number);
      if (d > (reach[k] as number)) reach[k] = d;
    }
  const out = new Float64Array(HULL_SIDES * 2);
  for (let k = 0; k < HULL_SIDES; k++) {
    // Where the side of this direction meets the next one's.
    const n = (k + 1) % HULL_SIDES;
    const [ax, ay, bx, by] = [away[k * 2], away[k * 2 + 1], away[n * 2], away[n * 2 + 1]] as [
      number,
      number,
      number,
      number,
    ];
    const det = ax * by - ay * bx;
    const [p, q] = [reach[k] as number, reach[n] as number];
    out[k * 2] = (p * by - q * ay) / det;
    out[k * 2 + 1] = (q * ax - p * bx) / det;
  }
  return out;
}

function widened(points: Float64Array, by: number): Float64Array {
  const out = new Float64Array(points.length * 4);
  for (let i = 0; i < points.length; i += 2) {
    const [x, y] = [points[i] as number, points[i + 1] as number];
    out.set([x - by, y - by, x + by, y - by, x + by, y + by, x - by, y + by], i * 4);
  }
  return out;
}

function cached(key: string, make: () => Outline): Outline {
  let o = simple.get(key);
  if (!o) {
    if (simple.size > CACHE) simple.clear();
    o = make();
    simple.set(key, o);
  }
  return o;
}

/** Points round a circle by halving and mirroring, without library functions: the same in every engine. */
function roundPoints(n: number, reach: number): Float64Array {
  // cos and sin of 360° ÷ n.
  const [c, s] =
    n === 64 ? [0.9951847266721969, 0.0980171403295606] : [0.9659258262890683, 0.25881904510252074];
  const out = new Float64Array(n * 2);
  let [x, y] = [reach, 0];
  for (let i = 0; i < n; i++) {
    out[i * 2] = x;
    out[i * 2 + 1] = y;
    [x, y] = [x * c - y * s, x * s + y * c];
  }
  return out;
}

/** Whether the filled outline covers (u, v): rectangles, rounded corners and ellipses exactly, paths to 0.05 px. */
export function outlineContains(o: Outline, u: number, v: number): boolean {
  if (o.kind === OUTLINE_PATH) return insideContours(o.contours, o.evenodd, u, v);
  if (!(Math.abs(u) <= o.hw && Math.abs(v) <= o.hh)) return false;
  if (o.kind === OUTLINE_ELLIPSE) return (u / o.hw) * (u / o.hw) + (v / o.hh) * (v / o.hh) <= 1;
  const cu = Math.abs(u) - (o.hw - o.radius);
  const cv = Math.abs(v) - (o.hh - o.radius);
  return !(cu > 0 && cv > 0 && cu * cu + cv * cv > o.radius * o.radius);
}
