/** Editing of paths: their points and handles, px in the object's own space. */
import { controls, type PathNode, type Subpath } from '@apple-tick/core/base';

type Point = readonly [number, number];
/** A point of a path: which subpath, which node. */
export interface At {
  readonly path: number;
  readonly node: number;
}
type Node = { at: [number, number]; in?: [number, number]; out?: [number, number] };
type Editable = { closed: boolean; nodes: Node[] }[];

const copy = (paths: readonly Subpath[]): Editable =>
  paths.map((s) => ({
    closed: s.closed,
    nodes: s.nodes.map((n) => ({
      at: [...n.at],
      ...(n.in ? { in: [...n.in] as [number, number] } : {}),
      ...(n.out ? { out: [...n.out] as [number, number] } : {}),
    })),
  }));
const tidy = (n: number) => Math.round(n * 100) / 100 + 0;

/** The paths with one thing done to one node. */
function change(paths: readonly Subpath[], at: At, edit: (n: Node) => void): Editable {
  const out = copy(paths);
  const n = out[at.path]?.nodes[at.node];
  if (n) edit(n);
  return out;
}

export function moveNode(paths: readonly Subpath[], at: At, to: Point): Editable {
  return change(paths, at, (n) => {
    n.at = [tidy(to[0]), tidy(to[1])];
  });
}

/** A handle to a point; the opposite one turns along and keeps its length, unless `alone`. */
export function moveHandle(
  paths: readonly Subpath[],
  at: At,
  which: 'in' | 'out',
  to: Point,
  alone: boolean,
): Editable {
  return change(paths, at, (n) => {
    const d: [number, number] = [tidy(to[0] - n.at[0]), tidy(to[1] - n.at[1])];
    n[which] = d;
    const other = which === 'in' ? 'out' : 'in';
    const o = n[other];
    const length = Math.hypot(d[0], d[1]);
    if (alone || !o || length === 0) return;
    const k = Math.hypot(o[0], o[1]) / length;
    n[other] = [tidy(-d[0] * k), tidy(-d[1] * k)];
  });
}

/** A corner becomes smooth, with handles along the line between its neighbours; a smooth point becomes a corner. */
export function toggleSmooth(paths: readonly Subpath[], at: At): Editable {
  const s = paths[at.path];
  const n = s?.nodes.length ?? 0;
  const before = s?.nodes[(at.node - 1 + n) % n]?.at;
  const after = s?.nodes[(at.node + 1) % n]?.at;
  return change(paths, at, (node) => {
    if (node.in || node.out) {
      delete node.in;
      delete node.out;
    } else if (before && after) {
      const [dx, dy] = [(after[0] - before[0]) / 6, (after[1] - before[1]) / 6];
      node.in = [tidy(-dx), tidy(-dy)];
      node.out = [tidy(dx), tidy(dy)];
    }
  });
}

/** Without a node; a subpath with fewer than two goes, and null is returned when nothing would be left. */
export function removeNode(paths: readonly Subpath[], at: At): Editable | null {
  const out = copy(paths);
  out[at.path]?.nodes.splice(at.node, 1);
  const left = out.filter((s) => s.nodes.length > 1);
  return left.length > 0 ? left : null;
}

/** A new node on the segment that follows `at`, at part t of it (0–1); the curve stays what it was (de Casteljau). */
export function insertNode(paths: readonly Subpath[], at: At, t: number): Editable {
  const out = copy(paths);
  const s = out[at.path];
  const a = s?.nodes[at.node];
  const b = s?.nodes[(at.node + 1) % (s.nodes.length || 1)];
  if (!s || !a || !b) return out;
  const straight = !a.out && !b.in;
  const c = controls(a as PathNode, b as PathNode);
  const p = [0, 1, 2, 3].map((i) => [c[i * 2] as number, c[i * 2 + 1] as number] as [number, number]);
  const mid = (u: Point, v: Point): [number, number] => [u[0] + (v[0] - u[0]) * t, u[1] + (v[1] - u[1]) * t];
  const [q0, q1, q2] = [
    mid(p[0] as Point, p[1] as Point),
    mid(p[1] as Point, p[2] as Point),
    mid(p[2] as Point, p[3] as Point),
  ];
  const [r0, r1] = [mid(q0, q1), mid(q1, q2)];
  const at3 = mid(r0, r1);
  const rel = (u: Point, from: Point): [number, number] => [u[0] - from[0], u[1] - from[1]];
  const made: Node = { at: straight ? mid(a.at, b.at) : at3 };
  if (!straight) {
    a.out = rel(q0, a.at);
    made.in = rel(r0, at3);
    made.out = rel(r1, at3);
    b.in = rel(q2, b.at);
  }
  s.nodes.splice(at.node + 1, 0, made);
  return out;
}

/** The point of the paths nearest to (x, y): after which node, at which part of its segment, how far away. */
export function nearestOnPaths(
  paths: readonly Subpath[],
  x: number,
  y: number,
): { at: At; t: number; far: number } | null {
  let best: { at: At; t: number; far: number } | null = null;
  paths.forEach((s, path) => {
    const n = s.nodes.length;
    for (let node = 0; node < (s.closed ? n : n - 1); node++) {
      const c = controls(s.nodes[node] as PathNode, s.nodes[(node + 1) % n] as PathNode);
      for (let k = 1; k < 40; k++) {
        const t = k / 40;
        const u = 1 - t;
        const w = [u * u * u, 3 * u * u * t, 3 * u * t * t, t * t * t];
        const px = w.reduce((sum, q, i) => sum + q * (c[i * 2] as number), 0);
        const py = w.reduce((sum, q, i) => sum + q * (c[i * 2 + 1] as number), 0);
        const far = Math.hypot(px - x, py - y);
        if (!best || far < best.far) best = { at: { path, node }, t, far };
      }
    }
  });
  return best;
}
