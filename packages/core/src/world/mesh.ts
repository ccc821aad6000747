/** The triangles of a mesh as flat faces: those that lie in one plane and make a convex outline become one face. */
import { extentOf, type Subpath } from '../base/index.ts';
import type { MeshAsset, Vec3 } from '../model/index.ts';

export interface MeshFace {
  /** A point of the plane, and the directions of u and v in it; u × v points outward. */
  readonly origin: Vec3;
  readonly u: Vec3;
  readonly v: Vec3;
  /** One closed outline in (u, v). */
  readonly subpaths: readonly Subpath[];
  /** 0xrrggbb; absent where the mesh has no colours of its own. */
  readonly color?: number;
}

export interface MeshFaces {
  readonly faces: readonly MeshFace[];
  /** Whether the mesh is a closed convex solid: two of its faces that are seen never hide each other. */
  readonly convex: boolean;
}

/** Turned or lifted less than this, two triangles lie in one plane. */
const FLAT_TURN = 1e-5;
const FLAT_LIFT = 1e-3;

/** The mesh stretched to `size` px round 0, 0, 0. Triangles without an area are left out. */
export function meshFaces(mesh: MeshAsset, size: readonly [number, number, number]): MeshFaces {
  const points = stretched(mesh.points, size);
  const corners = welded(points, mesh.triangles);
  const triangles: Triangle[] = [];
  for (let i = 0; i < corners.length; i += 3) {
    const t = triangleOf(points, corners[i] as number, corners[i + 1] as number, corners[i + 2] as number);
    const color = mesh.colors?.[i / 3];
    if (t) triangles.push(color === undefined ? t : { ...t, color: +`0x${color.slice(1)}` });
  }
  const faces = patches(triangles).flatMap((group) => {
    const outline = group.length > 1 ? boundary(group) : null;
    const first = group[0] as Triangle;
    return outline && isConvex(points, outline, first.normal)
      ? [faceOf(points, outline, first)]
      : group.map((t) => faceOf(points, t.corners, t));
  });
  return { faces, convex: isConvexSolid(points, triangles) };
}

interface Triangle {
  readonly corners: readonly [number, number, number];
  readonly normal: Vec3;
  /** Distance of its plane from 0, 0, 0, along the normal. */
  readonly lift: number;
  readonly color?: number;
}

function stretched(points: readonly number[], size: readonly number[]): Float64Array {
  const extents = ([0, 1, 2] as const).map((k) => extentOf(points, k));
  return Float64Array.from(points, (x, i) => {
    const k = i % 3;
    const [a, b] = extents[k] as [number, number];
    return b > a ? ((x - (a + b) / 2) * (size[k] as number)) / (b - a) : 0;
  });
}

/** The triangles' corners with equal points counted as one, so that neighbours are known to be neighbours. */
function welded(points: Float64Array, triangles: readonly number[]): Int32Array {
  const first = new Map<string, number>();
  const same = new Int32Array(points.length / 3);
  for (let i = 0; i < same.length; i++) {
    const key = `${points[3 * i]}/${points[3 * i + 1]}/${points[3 * i + 2]}`;
    const known = first.get(key);
    if (known === undefined) first.set(key, i);
    same[i] = known ?? i;
  }
  return Int32Array.from(triangles, (t) => same[t] as number);
}

function triangleOf(p: Float64Array, a: number, b: number, c: number): Triangle | null {
  const n = cross(between(p, a, b), between(p, a, c));
  if (!(dot(n, n) > 1e-18)) return null;
  const normal = unit(n);
  return { corners: [a, b, c], normal, lift: dot(normal, pointOf(p, a)) };
}

const pointOf = (p: Float64Array, i: number): Vec3 =>
  [p[3 * i], p[3 * i + 1], p[3 * i + 2]] as unknown as Vec3;
const between = (p: Float64Array, i: number, j: number): Vec3 =>
  pointOf(p, j).map((x, k) => x - (p[3 * i + k] as number)) as unknown as Vec3;
const unit = (a: Vec3): Vec3 => a.map((x) => x / Math.sqrt(dot(a, a))) as unknown as Vec3;

const dot = (a: Vec3, b: Vec3) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
const cross = (a: Vec3, b: Vec3): Vec3 => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];

/** Triangles of one colour that hang together by their edges and lie in one plane. */
function patches(triangles: readonly Triangle[]): Triangle[][] {
  const byEdge = new Map<string, number[]>();
  triangles.forEach((t, n) => {
    for (let k = 0; k < 3; k++) {
      const key = `${t.corners[k]}>${t.corners[(k + 1) % 3]}`;
      byEdge.set(key, [...(byEdge.get(key) ?? []), n]);
    }
  });
  const taken = new Uint8Array(triangles.length);
  const out: Triangle[][] = [];
  triangles.forEach((first, start) => {
    if (taken[start]) return;
    taken[start] = 1;
    const group = [first];
    for (let i = 0; i < group.length; i++) {
      const t = group[i] as Triangle;
      for (let k = 0; k < 3; k++)
        for (const n of byEdge.get(`${t.corners[(k + 1) % 3]}>${t.corners[k]}`) ?? []) {
          const other = triangles[n] as Triangle;
          // Compared with the first, so that a gently bent surface does not creep into one plane.
          const turn = cross(first.normal, other.normal);
          if (
            taken[n] ||
            first.color !== other.color ||
            dot(turn, turn) > FLAT_TURN ||
            dot(first.normal, other.normal) < 0
          )
            continue;
          if (Math.abs(first.lift - other.lift) > FLAT_LIFT) continue;
          taken[n] = 1;
          group.push(other);
        }
    }
    out.push(group);
  });
  return out;
}

/** The one outline round a patch, or null when it has several or touches itself. */
function boundary(group: readonly Triangle[]): number[] | null {
  const edges = new Set<string>();
  for (const { corners } of group)
    for (let k = 0; k < 3; k++) edges.add(`${corners[k]}>${corners[(k + 1) % 3]}`);
  const next = new Map<number, number>();
  for (const e of edges) {
    const [a, b] = e.split('>').map(Number) as [number, number];
    if (edges.has(`${b}>${a}`)) continue;
    if (next.has(a)) return null;
    next.set(a, b);
  }
  const start = next.keys().next().value;
  if (start === undefined) return null;
  const loop = [start];
  for (let at = next.get(start); at !== start; at = next.get(at)) {
    if (at === undefined || loop.length > next.size) return null;
    loop.push(at);
  }
  return loop.length === next.size ? loop : null;
}

function isConvex(p: Float64Array, loop: readonly number[], normal: Vec3): boolean {
  const edge = (i: number) =>
    between(p, loop[i % loop.length] as number, loop[(i + 1) % loop.length] as number);
  return loop.every((_, i) => dot(cross(edge(i), edge(i + 1)), normal) >= -1e-6);
}

function faceOf(p: Float64Array, loop: readonly number[], { normal, color }: Triangle): MeshFace {
  const first = loop[0] as number;
  const u = unit(between(p, first, loop[1] as number));
  const v = cross(normal, u);
  const nodes = loop.map((i) => {
    const d = between(p, first, i);
    return { at: [dot(d, u), dot(d, v)] as const };
  });
  const face = { origin: pointOf(p, first), u, v, subpaths: [{ closed: true, nodes }] };
  return color === undefined ? face : { ...face, color };
}

/** Closed (each edge has its opposite), and every corner on or behind the plane of every triangle. */
function isConvexSolid(p: Float64Array, triangles: readonly Triangle[]): boolean {
  if (triangles.length === 0 || triangles.length > 1000) return false;
  const edges = new Set<string>();
  for (const { corners } of triangles)
    for (let k = 0; k < 3; k++) edges.add(`${corners[k]}>${corners[(k + 1) % 3]}`);
  for (const e of edges) {
    const [a, b] = e.split('>');
    if (!edges.has(`${b}>${a}`)) return false;
  }
  return triangles.every(({ normal, lift }) => {
    for (let i = 0; i < p.length / 3; i++) if (dot(normal, pointOf(p, i)) > lift + FLAT_LIFT) return false;
    return true;
  });
}
