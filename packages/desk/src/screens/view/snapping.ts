/** Snapping on the view: edges and middles of what is dragged to those of other things, in screen px. */
import type { Box } from '../../session/view/screen-boxes.ts';

export interface SnapLine {
  x1: number;
  y1: number;
  x2: number;
  y2: number;
}
export interface Snapped {
  dx: number;
  dy: number;
  lines: SnapLine[];
}

const REACH = 6;

/**
 * The movement (dx, dy) of a box, changed so that an edge or its middle meets an edge or the middle of one of
 * `targets` when one is within reach on that axis. The lines show what met; they reach over both boxes.
 */
export function snapMove(box: Box, dx: number, dy: number, targets: readonly Box[]): Snapped {
  const x = nearest([box.x0, (box.x0 + box.x1) / 2, box.x1], dx, targets, (t) => [
    t.x0,
    (t.x0 + t.x1) / 2,
    t.x1,
  ]);
  const y = nearest([box.y0, (box.y0 + box.y1) / 2, box.y1], dy, targets, (t) => [
    t.y0,
    (t.y0 + t.y1) / 2,
    t.y1,
  ]);
  const to = { dx: x?.by ?? dx, dy: y?.by ?? dy };
  const lines: SnapLine[] = [];
  if (x)
    lines.push({
      x1: x.at,
      x2: x.at,
      y1: Math.min(box.y0 + to.dy, x.target.y0),
      y2: Math.max(box.y1 + to.dy, x.target.y1),
    });
  if (y)
    lines.push({
      y1: y.at,
      y2: y.at,
      x1: Math.min(box.x0 + to.dx, y.target.x0),
      x2: Math.max(box.x1 + to.dx, y.target.x1),
    });
  return { ...to, lines };
}

function nearest(
  own: readonly number[],
  d: number,
  targets: readonly Box[],
  places: (t: Box) => readonly number[],
): { by: number; at: number; target: Box } | null {
  let best: { by: number; at: number; target: Box } | null = null;
  let far = REACH;
  for (const target of targets)
    for (const at of places(target))
      for (const o of own) {
        const off = Math.abs(at - (o + d));
        // Of several equally near, the first: the frame stands before the objects.
        if (off < far || (off === far && best === null)) {
          far = off;
          best = { by: at - o, at, target };
        }
      }
  return best;
}

export function touches(a: Box, b: Box): boolean {
  return a.x0 <= b.x1 && b.x0 <= a.x1 && a.y0 <= b.y1 && b.y0 <= a.y1;
}
