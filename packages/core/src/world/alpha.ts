/**
 * Where a picture is as opaque as a threshold, as outlines. Marching squares over the cells of its alpha, with the
 * crossing of each edge placed linearly between the cells' middles (Lorensen and Cline 1987, in two dimensions). Only
 * + − × ÷ are used, so Node and browsers get the same outlines.
 */
import type { Subpath } from '../base/index.ts';
import type { Alpha } from '../model/index.ts';

/** Points nearer than this to the line between their neighbours are left out, in cells. */
const STRAIGHT = 0.02;

/**
 * Closed outlines in the box of w × h px round 0, 0, y up, for the evenodd rule; the part `cut` (x, y, width, height in
 * parts of the whole picture, y down) fills the box. Empty when nothing is so opaque.
 */
export function alphaSubpaths(
  alpha: Alpha,
  threshold: number,
  w: number,
  h: number,
  cut: readonly [number, number, number, number],
): Subpath[] {
  const { columns, rows } = alpha;
  const [cx, cy, cw, ch] = cut;
  const [x0, y0, x1, y1] = [cx * columns, cy * rows, (cx + cw) * columns, (cy + ch) * rows];
  return trace(alpha, threshold).flatMap((loop) => {
    // Cut while its points are still a cell apart: a long line would be bent by having its ends moved.
    const inside = loop.map((n, i) => (i % 2 === 0 ? clamp(n, x0, x1) : clamp(n, y0, y1)));
    const points = straightened(inside);
    const nodes = [];
    for (let i = 0; i < points.length; i += 2) {
      const x = ((points[i] as number) - x0) / (x1 - x0);
      const y = ((points[i + 1] as number) - y0) / (y1 - y0);
      nodes.push({ at: [(x - 0.5) * w, (0.5 - y) * h] as const });
    }
    return nodes.length > 2 ? [{ closed: true, nodes }] : [];
  });
}

const clamp = (n: number, least: number, most: number) => Math.max(least, Math.min(most, n));

/** Outlines in cells from the top left corner, y down: x, y pairs; what is opaque lies to one side all along. */
function trace(alpha: Alpha, threshold: number): number[][] {
  // The outermost cells once more, so that they reach the picture's edge; round them clear ones, which close it all.
  const W = alpha.columns + 4;
  const H = alpha.rows + 4;
  const value = new Float64Array(W * H);
  for (let j = 1; j < H - 1; j++)
    for (let i = 1; i < W - 1; i++) {
      const column = Math.max(0, Math.min(alpha.columns - 1, i - 2));
      const row = Math.max(0, Math.min(alpha.rows - 1, j - 2));
      value[j * W + i] = Number.parseInt(alpha.cells[row * alpha.columns + column] as string, 16) / 15;
    }
  const at = (i: number, j: number) => value[j * W + i] as number;
  const inside = (i: number, j: number) => at(i, j) >= threshold;
  // An edge between two cells: 2 · cell for the one to its right, 2 · cell + 1 for the one below.
  const next = new Map<number, number>();
  for (let j = 0; j + 1 < H; j++)
    for (let i = 0; i + 1 < W; i++) {
      const corners = [inside(i, j), inside(i + 1, j), inside(i + 1, j + 1), inside(i, j + 1)];
      const edges = [2 * (j * W + i), 2 * (j * W + i + 1) + 1, 2 * ((j + 1) * W + i), 2 * (j * W + i) + 1];
      // Going round clockwise: where one enters what is opaque, and where one leaves it again.
      const enter: number[] = [];
      const leave: number[] = [];
      for (let k = 0; k < 4; k++) {
        const [a, b] = [corners[k], corners[(k + 1) % 4]];
        if (!a && b) enter.push(k);
        if (a && !b) leave.push(k);
      }
      if (enter.length === 0) continue;
      const joined = (at(i, j) + at(i + 1, j) + at(i + 1, j + 1) + at(i, j + 1)) / 4 >= threshold;
      for (const from of enter) {
        // Of two opaque corners facing each other, the middle says whether they touch.
        const to =
          enter.length === 1
            ? leave[0]
            : leave.find((k) => (joined ? k === (from + 3) % 4 : k === (from + 1) % 4));
        next.set(edges[from] as number, edges[to as number] as number);
      }
    }
  const loops: number[][] = [];
  const done = new Set<number>();
  for (const start of next.keys()) {
    if (done.has(start)) continue;
    const loop: number[] = [];
    for (let e = start; !done.has(e); e = next.get(e) as number) {
      done.add(e);
      const cell = Math.floor(e / 2);
      const [i, j] = [cell % W, Math.floor(cell / W)];
      const down = e % 2 === 1;
      const a = at(i, j);
      const b = down ? at(i, j + 1) : at(i + 1, j);
      const t = (threshold - a) / (b - a);
      loop.push(i - 1.5 + (down ? 0 : t), j - 1.5 + (down ? t : 0));
    }
    loops.push(loop);
  }
  return loops;
}

/** Without the points that lie on the line between the one kept before them and the one after. */
function straightened(p: readonly number[]): number[] {
  const n = p.length / 2;
  const out: number[] = [];
  for (let i = 0; i < n; i++) {
    const k = out.length;
    const [ax, ay] = k > 0 ? [out[k - 2] as number, out[k - 1] as number] : [p[2 * n - 2], p[2 * n - 1]];
    const [x, y] = [p[2 * i] as number, p[2 * i + 1] as number];
    const j = (i + 1) % n;
    const [dx, dy] = [(p[2 * j] as number) - (ax as number), (p[2 * j + 1] as number) - (ay as number)];
    const cross = dx * (y - (ay as number)) - dy * (x - (ax as number));
    // A distance is compared squared, so that no root is needed.
    if (cross * cross > STRAIGHT * STRAIGHT * (dx * dx + dy * dy)) out.push(x, y);
  }
  return out.length >= 6 ? out : [...p];
}
