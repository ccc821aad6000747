/** The faces of solids, and where they stand. */
import { cosDeg, flatten, insideContours, type Subpath, sinDeg } from '../base/index.ts';
import {
  type Asset,
  type FaceName,
  type FacePicture,
  type KindOf,
  type SceneObject,
  subpathsOf,
  type Vec3,
} from '../model/index.ts';
import {
  EDGE_LINE,
  EDGE_SEAM,
  faceImage,
  INNER,
  type LocalFace,
  OUTER,
  type SolidShapes,
  X,
  Y,
} from './drawing.ts';
import { meshFaces } from './mesh.ts';
import { boundsOf, ellipseOutline, OUTLINE_RECT, type Outline, pathOutline, rectOutline } from './outline.ts';

export const SOLID_SHAPES: SolidShapes = {
  facesOf: (o, assets) => {
    if (o.kind === 'box') return boxFaces(o);
    if (o.kind === 'cylinder') return cylinderFaces(o);
    if (o.kind === 'prism') return prismFaces(o);
    return o.kind === 'mesh' ? facesOfMesh(o, assets.get(o.asset)) : [];
  },
  footOf: (o, faces) => (o.kind === 'ball' ? ballPoints(o.size) : footPoints(faces)),
};

function facesOfMesh(o: KindOf<'mesh'>, asset: Asset | undefined): LocalFace[] {
  if (asset?.kind !== 'mesh') return [];
  const { faces, convex } = meshFaces(asset, o.size);
  return faces.flatMap(({ origin, u, v, subpaths, color }) => {
    const seen: LocalFace = {
      origin,
      u,
      v,
      outline: pathOutline(subpaths, false, 0),
      side: convex ? OUTER : INNER,
      edge: EDGE_SEAM,
      ...(color === undefined ? {} : { tint: color }),
    };
    if (!asset.twoSided || convex) return [seen];
    // The same from behind: only one of the two is ever seen.
    return [seen, { ...seen, u: u.map((n) => -n) as Vec3, outline: mirrored(subpaths, false) }];
  });
}

/** Points of a ball, evenly on its skin: each a golden turn further round and a step lower. */
const BALL_POINTS = 200;
const GOLDEN = 137.508;
function ballPoints(size: Vec3): Float64Array {
  const out = new Float64Array(BALL_POINTS * 3);
  for (let n = 0; n < BALL_POINTS; n++) {
    const y = 1 - (2 * n + 1) / BALL_POINTS;
    const r = Math.sqrt(1 - y * y);
    const at = [r * cosDeg(n * GOLDEN), y, r * sinDeg(n * GOLDEN)];
    for (let k = 0; k < 3; k++) out[3 * n + k] = ((at[k] as number) * (size[k] as number)) / 2;
  }
  return out;
}

/** At most this many corners of a solid's faces are asked for its foot. */
const FOOT_POINTS = 96;

/** Corners of a solid's faces, evenly chosen. */
function footPoints(faces: readonly LocalFace[]): Float64Array {
  const all = faces.flatMap(({ origin, u, v, outline: { hull } }) =>
    Array.from({ length: hull.length / 2 }, (_, i) =>
      origin.map(
        (n, k) =>
          n + (hull[2 * i] as number) * (u[k] as number) + (hull[2 * i + 1] as number) * (v[k] as number),
      ),
    ),
  );
  const step = Math.ceil(all.length / FOOT_POINTS);
  return Float64Array.from(all.filter((_, i) => i % step === 0).flat());
}

/** The face with its picture stretched over all of it. */
function pictured(
  o: SceneObject & { pictures?: Partial<Record<FaceName, FacePicture | undefined>> | undefined },
  name: FaceName,
  face: LocalFace,
): LocalFace {
  const picture = o.pictures?.[name];
  if (!picture) return face;
  const { contours, kind } = face.outline;
  const [x0, y0, x1, y1] = boundsOf(contours.points);
  const image = faceImage(picture, [x0, y0, x1 - x0, y1 - y0], kind !== OUTLINE_RECT);
  return {
    ...face,
    style: {
      filled: o.base.fill !== 'none',
      gradient: null,
      stroke: null,
      fillOpacity: 1,
      text: null,
      image,
    },
  };
}

/** Six rectangles. u and v point right and up as one looks at the face from outside; of top and bottom, from in front. */
const BOX_PLANES: readonly [FaceName, axis: number, side: number, u: Vec3, v: Vec3][] = [
  ['right', 0, 1, [0, 0, -1], Y],
  ['left', 0, -1, [0, 0, 1], Y],
  ['top', 1, 1, X, [0, 0, -1]],
  ['bottom', 1, -1, X, [0, 0, 1]],
  ['front', 2, 1, X, Y],
  ['back', 2, -1, [-1, 0, 0], Y],
];

function boxFaces(o: KindOf<'box'>): LocalFace[] {
  const { size } = o;
  return BOX_PLANES.map(([name, axis, side, u, v]) => {
    const out = (side * (size[axis] as number)) / 2;
    const along = (d: Vec3) => size[d.findIndex((n) => n !== 0)] as number;
    return pictured(o, name, {
      origin: [axis === 0 ? out : 0, axis === 1 ? out : 0, axis === 2 ? out : 0],
      u,
      v,
      outline: rectOutline(along(u), along(v)),
      side: OUTER,
      edge: EDGE_LINE,
    });
  });
}

function cylinderFaces(o: KindOf<'cylinder'>): LocalFace[] {
  const [w, h, d] = o.size;
  const cap = ellipseOutline(w, d);
  const caps = ([1, -1] as const).map((side) =>
    pictured(o, side > 0 ? 'top' : 'bottom', {
      origin: [0, (side * h) / 2, 0],
      u: X,
      v: [0, 0, -side],
      outline: cap,
      side: OUTER,
      edge: EDGE_LINE,
    }),
  );
  // The cap's polygon lies in u, v = x, −z of the upper one; going round it anticlockwise from above.
  const { points } = cap.contours;
  const sides: LocalFace[] = [];
  for (let i = 0; i < 64; i += 2) {
    const j = (i + 2) % 64;
    const [ax, az] = [points[i * 2] as number, -(points[i * 2 + 1] as number)];
    const [bx, bz] = [points[j * 2] as number, -(points[j * 2 + 1] as number)];
    sides.push(wall([ax, 0, az], [bx, 0, bz], [0, 1, 0], h, OUTER, EDGE_SEAM));
  }
  return [...caps, ...bent(sides)];
}

/** Walls are one curved wall where the sine of the angle at which they meet is less than this. */
const CURVED = 0.5;

/** Walls in a closed round, each with how far the curve that it is part of has turned at its ends. */
function bent(round: readonly LocalFace[]): LocalFace[] {
  const turns = round.map((face, i) => {
    const next = round[(i + 1) % round.length] as LocalFace;
    const [a, b] = [face.u, next.u];
    // u lies across v, so the angle between two of them is that between their walls.
    const cross = [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];
    const sin = cross.reduce((n, c, k) => n + c * (face.v[k] as number), 0);
    return Math.abs(sin) < CURVED ? sin / 2 : 0;
  });
  return round.map((face, i) => ({ ...face, bend: [turns.at(i - 1) as number, turns[i] as number] }));
}

/** A rectangle standing on the middle line a–b; `up` is its height's direction, outward is (b − a) × up. */
function wall(
  a: Vec3,
  b: Vec3,
  up: Vec3,
  height: number,
  side: LocalFace['side'],
  edge: LocalFace['edge'],
): LocalFace {
  const along: Vec3 = [b[0] - a[0], b[1] - a[1], b[2] - a[2]];
  const len = Math.sqrt(along[0] * along[0] + along[1] * along[1] + along[2] * along[2]) || 1;
  return {
    origin: [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2, (a[2] + b[2]) / 2],
    u: [along[0] / len, along[1] / len, along[2] / len],
    v: up,
    outline: rectOutline(len, height),
    side,
    edge,
  };
}

function prismFaces(o: KindOf<'prism'>): LocalFace[] {
  const closed = subpathsOf(o) ?? [];
  const contours = flatten(closed);
  const outline = pathOutline(
    o.subpaths.every((s) => s.closed) ? o.subpaths : closed,
    o.rule === 'evenodd',
    0,
  );
  const half = o.depth / 2;
  const side = OUTER;
  const evenodd = o.rule === 'evenodd';
  const out: LocalFace[] = [
    pictured(o, 'front', { origin: [0, 0, half], u: X, v: Y, outline, side, edge: EDGE_LINE }),
    pictured(o, 'back', {
      origin: [0, 0, -half],
      u: [-1, 0, 0],
      v: Y,
      outline: mirrored(closed, evenodd),
      side,
      edge: EDGE_LINE,
    }),
  ];
  let start = 0;
  contours.ends.forEach((end, n) => {
    const at = (k: number): Vec3 => [
      contours.points[k * 2] as number,
      contours.points[k * 2 + 1] as number,
      0,
    ];
    const curved = closed[n]?.nodes.some((q) => q.in || q.out) ?? false;
    // Walls look away from what is filled, which lies to the left of their line: outward, but into a hole.
    const [p, q] = [at(start), at(start + 1)];
    const beside = (d: number) =>
      insideContours(
        contours,
        evenodd,
        (p[0] + q[0] + d * (p[1] - q[1])) / 2,
        (p[1] + q[1] + d * (q[0] - p[0])) / 2,
      );
    const turned = !beside(1e-3) && beside(-1e-3);
    const walls: LocalFace[] = [];
    for (let i = start; i < end; i++) {
      const j = i + 1 < end ? i + 1 : start;
      const [a, b] = turned ? [at(j), at(i)] : [at(i), at(j)];
      const onHull =
        contours.points.length < MOST_POINTS && isLeftmost(contours.points, a, b) ? OUTER : INNER;
      walls.push(wall(a, b, [0, 0, 1], o.depth, onHull, curved ? EDGE_SEAM : EDGE_LINE));
    }
    // Walls of a hole run the other way round.
    if (turned) walls.reverse();
    out.push(...(curved ? bent(walls) : walls));
    start = end;
  });
  return out;
}

/** Of outlines with more numbers than these it is not asked which walls are on the hull: all are compared. */
const MOST_POINTS = 4096;

/** Whether no point lies to the right of the line from a to b. */
function isLeftmost(points: Float64Array, a: Vec3, b: Vec3): boolean {
  const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
  for (let i = 0; i < points.length; i += 2)
    if (dx * ((points[i + 1] as number) - a[1]) - dy * ((points[i] as number) - a[0]) < -1e-6) return false;
  return true;
}

/** The back of a prism is spanned by −x and y, so its outline has x turned round. */
function mirrored(subpaths: readonly Subpath[], evenodd: boolean): Outline {
  const turn = (p: readonly [number, number]): [number, number] => [-p[0], p[1]];
  const turned = subpaths.map((s) => ({
    closed: true,
    nodes: s.nodes.map((n) => ({
      at: turn(n.at),
      ...(n.in ? { in: turn(n.in) } : {}),
      ...(n.out ? { out: turn(n.out) } : {}),
    })),
  }));
  return pathOutline(turned, evenodd, 0);
}
