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
      contours: { points, ends: Int32Array.of(4), closed: [true] },
      hull: points,
    };
  });
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
    outline = {
      kind: OUTLINE_PATH,
      hw: 0,
      hh: 0,
      radius: 0,
      subpaths,
      evenodd,
      contours,
      hull: convexHull(around === 0 ? contours.points : widened(contours.points, around)),
    };
    of.set(key, outline);
  }
  return outline;
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
