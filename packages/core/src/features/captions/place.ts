/** The captions that stand, and where: for who draws them. */
import { MAT } from '../../base/index.ts';
import type { Vec3 } from '../../model/index.ts';
import type { Program } from '../../run/program.ts';
import type { FaceBuilder } from '../../run/scene.ts';
import type { RunState } from '../../run/state.ts';
import { drawingOf } from '../../world/index.ts';

export interface Caption {
  /** Number of its object, and which it is of all captions of the run. */
  readonly object: number;
  readonly n: number;
  readonly text: string;
  readonly answers: readonly { readonly id: string; readonly text: string }[];
}

/** Px of the frame between its edge and a caption. */
const INSIDE = 8;

/** In the order in which they were asked for; those that wait are not among them. */
export function captionsOf(program: Program, state: RunState): Caption[] {
  const out: Caption[] = [];
  const list = state.parts.captions?.list;
  for (let k = 0; list && k < list.count; k++) {
    if (list.at(k, 6) === 0) continue;
    const text = state.texts.list[list.at(k, 1)] as string;
    const answers = program.parts.captions?.answers[list.at(k, 3)] ?? [];
    out.push({ object: list.at(k, 0), n: list.at(k, 4), text, answers });
  }
  return out;
}

/** Left, bottom, right and top, px from the middle of the frame, y up. */
export type Extent = [left: number, bottom: number, right: number, top: number];

/**
 * How far what an object and all below it are drawn in reaches, shown or not; of a group without anything in it its pivot.
 * `posed`: a builder in which these values are posed. What lies below an object stands after it, so only that is looked at.
 */
export function extentOf(
  program: Program,
  values: Float64Array,
  posed: FaceBuilder,
  object: number,
  out: Extent,
): Extent {
  const { parent } = program.geometry;
  const below = new Set([object]);
  for (let i = object + 1; i < program.objects.length; i++) if (below.has(parent[i] as number)) below.add(i);
  let [left, right, bottom, top] = [
    Number.POSITIVE_INFINITY,
    Number.NEGATIVE_INFINITY,
    Number.POSITIVE_INFINITY,
    Number.NEGATIVE_INFINITY,
  ];
  for (const i of below) {
    const seen = posed.viewWorld.subarray(i * MAT, (i + 1) * MAT);
    for (const { origin, u, v, outline } of drawingOf(program.geometry, values, i).faces) {
      // Each face as it lies on the screen, so that a point of it costs a few products.
      const across = (r: number, d: Vec3) =>
        (seen[r] as number) * d[0] + (seen[3 + r] as number) * d[1] + (seen[6 + r] as number) * d[2];
      const [ox, oy] = [across(0, origin) + (seen[9] as number), across(1, origin) + (seen[10] as number)];
      const [ux, uy, vx, vy] = [across(0, u), across(1, u), across(0, v), across(1, v)];
      const { points } = outline.contours;
      for (let k = 0; k < points.length; k += 2) {
        const [a, b] = [points[k] as number, points[k + 1] as number];
        const [x, y] = [ox + a * ux + b * vx, oy + a * uy + b * vy];
        left = Math.min(left, x);
        right = Math.max(right, x);
        bottom = Math.min(bottom, y);
        top = Math.max(top, y);
      }
    }
  }
  if (left > right) {
    posed.pivotInto(object, true, point);
    left = point[0] as number;
    right = left;
    top = point[1] as number;
    bottom = top;
  }
  out[0] = left;
  out[1] = bottom;
  out[2] = right;
  out[3] = top;
  return out;
}

/**
 * Where the caption of an object stands: the top middle of its extent, but inside the frame; px from the frame's top left
 * corner.
 */
export function captionPlace(
  program: Program,
  values: Float64Array,
  posed: FaceBuilder,
  object: number,
  frame: { readonly width: number; readonly height: number },
): [x: number, y: number] {
  const [left, , right, top] = extentOf(program, values, posed, object, extent);
  const within = (n: number, size: number) => Math.max(INSIDE, Math.min(size - INSIDE, n));
  return [
    within((left + right) / 2 + frame.width / 2, frame.width),
    within(frame.height / 2 - top, frame.height),
  ];
}
const point = new Float64Array(3);
const extent: Extent = [0, 0, 0, 0];
