/** Where objects lie on the screen, each with all that is below it. */
import type { Program } from '@apple-tick/core/run';
import type { FaceList } from '@apple-tick/core/world';
import type { Screen } from './view-math.ts';

export interface Box {
  x0: number;
  y0: number;
  x1: number;
  y1: number;
}

export function union(a: Box | undefined, b: Box): Box {
  if (!a) return b;
  return {
    x0: Math.min(a.x0, b.x0),
    y0: Math.min(a.y0, b.y0),
    x1: Math.max(a.x1, b.x1),
    y1: Math.max(a.y1, b.y1),
  };
}

/** By number of the object; undefined for what is not drawn. */
export function screenBoxes(program: Program, faces: FaceList, screen: Screen): (Box | undefined)[] {
  const out: (Box | undefined)[] = new Array(program.objects.length).fill(undefined);
  for (let f = 0; f < faces.count; f++) {
    const p = faces.plane.subarray(f * 9, f * 9 + 9) as unknown as number[];
    // Not the hull: that of an ellipse reaches a little beyond it.
    const hull = faces.piece[f] ?? faces.outline[f]?.contours.points;
    if (!hull) continue;
    const box: Box = { x0: 1e9, y0: 1e9, x1: -1e9, y1: -1e9 };
    for (let i = 0; i < hull.length; i += 2) {
      const [u, v] = [hull[i] as number, hull[i + 1] as number];
      const x = screen.x + screen.scale * ((p[0] as number) + (p[3] as number) * u + (p[6] as number) * v);
      const y = screen.y - screen.scale * ((p[1] as number) + (p[4] as number) * u + (p[7] as number) * v);
      box.x0 = Math.min(box.x0, x);
      box.x1 = Math.max(box.x1, x);
      box.y0 = Math.min(box.y0, y);
      box.y1 = Math.max(box.y1, y);
    }
    const o = faces.object[f] as number;
    out[o] = union(out[o], box);
  }
  // Children come after their parents, so going backwards each is complete when it is added to its parent.
  for (let i = out.length - 1; i >= 0; i--) {
    const parent = program.geometry.parent[i] as number;
    const own = out[i];
    if (own && parent >= 0) out[parent] = union(out[parent], own);
  }
  return out;
}
