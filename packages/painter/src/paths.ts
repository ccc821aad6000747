/** Outlines as paths, kept while they do not change. */
import { controls, eachSegment, type Subpath } from '@apple-tick/core/base';
import { type FaceList, OUTLINE_ELLIPSE, type Outline } from '@apple-tick/core/world';
import type { Placement } from './types.ts';

const paths = new WeakMap<Outline, Path2D>();

export function pathOf(o: Outline): Path2D {
  let p = paths.get(o);
  if (!p) {
    p = new Path2D();
    if (o.subpaths) for (const s of o.subpaths) trace(p, s);
    else if (o.kind === OUTLINE_ELLIPSE) p.ellipse(0, 0, o.hw, o.hh, 0, 0, 2 * Math.PI);
    else if (o.radius > 0) p.roundRect(-o.hw, -o.hh, 2 * o.hw, 2 * o.hh, o.radius);
    else p.rect(-o.hw, -o.hh, 2 * o.hw, 2 * o.hh);
    paths.set(o, p);
  }
  return p;
}

function trace(p: Path2D, s: Subpath): void {
  const first = s.nodes[0];
  if (!first) return;
  p.moveTo(first.at[0], first.at[1]);
  eachSegment(s, (a, b) => {
    if (!a.out && !b.in) p.lineTo(b.at[0], b.at[1]);
    else {
      const [, , x1, y1, x2, y2, x3, y3] = controls(a, b) as [
        number,
        number,
        number,
        number,
        number,
        number,
        number,
        number,
      ];
      p.bezierCurveTo(x1, y1, x2, y2, x3, y3);
    }
  });
  if (s.closed) p.closePath();
}

/** The face's contours on the canvas, for a line whose width does not turn with the face. */
export function edgePath(faces: FaceList, f: number, at: Placement): Path2D {
  const path = new Path2D();
  addContours(path, faces, f, at, false);
  return path;
}

/**
 * Adds the face's contours, as they lie on the canvas. `oneWay`: outer ones all turn the same way, so that several
 * faces in one path join instead of cutting holes into each other.
 */
export function addContours(path: Path2D, faces: FaceList, f: number, at: Placement, oneWay: boolean): void {
  const p = faces.plane;
  const o = f * 9;
  const { points, ends } = (faces.outline[f] as Outline).contours;
  let turning = 0;
  let start = 0;
  if (oneWay) {
    for (const end of ends) {
      for (let i = start; i < end; i++) {
        const j = i + 1 < end ? i + 1 : start;
        turning +=
          (points[i * 2] as number) * (points[j * 2 + 1] as number) -
          (points[j * 2] as number) * (points[i * 2 + 1] as number);
      }
      start = end;
    }
    const mirrored =
      (p[o + 3] as number) * (p[o + 7] as number) < (p[o + 4] as number) * (p[o + 6] as number);
    if (mirrored) turning = -turning;
    start = 0;
  }
  for (const end of ends) {
    for (let n = start; n < end; n++) {
      const i = turning < 0 ? end - 1 - (n - start) : n;
      const u = points[i * 2] as number;
      const v = points[i * 2 + 1] as number;
      const x = at.x + at.scale * ((p[o] as number) + (p[o + 3] as number) * u + (p[o + 6] as number) * v);
      const y =
        at.y - at.scale * ((p[o + 1] as number) + (p[o + 4] as number) * u + (p[o + 7] as number) * v);
      if (n === start) path.moveTo(x, y);
      else path.lineTo(x, y);
    }
    path.closePath();
    start = end;
  }
}
