/** Where the markers of a line stand and how they are turned: SVG 2, 13.3. */
import type { Subpath } from '../base/index.ts';

export interface MarkerPlace {
  readonly at: 'marker-start' | 'marker-mid' | 'marker-end';
  readonly x: number;
  readonly y: number;
  /** The direction of the line there, degrees. */
  readonly angle: number;
}

/** Places along subpaths, in the order in which they are painted. */
export function markerPlaces(subpaths: readonly Subpath[]): MarkerPlace[] {
  const out: { x: number; y: number; into: Vector | null; outOf: Vector | null }[] = [];
  for (const s of subpaths) {
    const n = s.nodes.length;
    const count = s.closed ? n + 1 : n;
    for (let i = 0; i < count; i++) {
      const node = s.nodes[i % n] as Subpath['nodes'][number];
      const before = i > 0 || s.closed ? s.nodes[(i - 1 + n) % n] : undefined;
      const after = i < n - 1 || s.closed ? s.nodes[(i + 1) % n] : undefined;
      out.push({
        x: node.at[0],
        y: node.at[1],
        into: before ? direction(before, node, true) : null,
        outOf: after ? direction(node, after, false) : null,
      });
    }
  }
  return out.map(({ x, y, into, outOf }, i): MarkerPlace => {
    const at = i === 0 ? 'marker-start' : i === out.length - 1 ? 'marker-end' : 'marker-mid';
    const [a, b] = [into ?? outOf ?? [1, 0], outOf ?? into ?? [1, 0]];
    const bisected: Vector = [a[0] + b[0], a[1] + b[1]];
    const isBack = Math.hypot(...bisected) < 1e-9;
    const v = isBack ? [-a[1], a[0]] : bisected;
    return { at, x, y, angle: (Math.atan2(v[1] as number, v[0] as number) * 180) / Math.PI };
  });
}

type Vector = readonly [number, number];
type Node = Subpath['nodes'][number];

/** The unit vector of a segment at its end, or its start: toward the first point of it that lies elsewhere. */
function direction(from: Node, to: Node, atEnd: boolean): Vector | null {
  const [p0, p3] = [from.at, to.at];
  const p1 = from.out ? ([p0[0] + from.out[0], p0[1] + from.out[1]] as const) : p0;
  const p2 = to.in ? ([p3[0] + to.in[0], p3[1] + to.in[1]] as const) : p3;
  const tries: (readonly [Vector, Vector])[] = atEnd
    ? [
        [p2, p3],
        [p1, p3],
        [p0, p3],
      ]
    : [
        [p0, p1],
        [p0, p2],
        [p0, p3],
      ];
  for (const [a, b] of tries) {
    const d = Math.hypot(b[0] - a[0], b[1] - a[1]);
    if (d > 1e-9) return [(b[0] - a[0]) / d, (b[1] - a[1]) / d];
  }
  return null;
}
