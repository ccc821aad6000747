/** The captions that stand, and where: for who draws them. */
import { MAT } from '../base/index.ts';
import type { Vec3 } from '../model/index.ts';
import { drawingOf } from '../world/index.ts';
import type { Program } from './program.ts';
import { CAPTION_ROW } from './rows.ts';
import type { FaceBuilder } from './scene.ts';
import { CAPTIONS, type RunState } from './state.ts';

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
  for (let k = 0; k < (state.one[CAPTIONS] as number); k++) {
    const at = (i: number) => state.captions[k * CAPTION_ROW + i] as number;
    if (at(6) === 0) continue;
    const text = state.texts.list[at(1)] as string;
    out.push({ object: at(0), n: at(4), text, answers: program.answers[at(3)] ?? [] });
  }
  return out;
}

/**
 * Where the caption of an object stands: the top middle of what it and all below it are drawn in, shown or not, but
 * inside the frame; px from the frame's top left corner. `laid`: a builder that has laid these values out.
 */
export function captionPlace(
  program: Program,
  values: Float64Array,
  laid: FaceBuilder,
  object: number,
  frame: { readonly width: number; readonly height: number },
): [x: number, y: number] {
  const { parent } = program.geometry;
  const below = new Set([object]);
  for (let i = object + 1; i < program.objects.length; i++) if (below.has(parent[i] as number)) below.add(i);
  let [left, right, top] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (const i of below) {
    const seen = laid.viewWorld.subarray(i * MAT, (i + 1) * MAT);
    for (const { origin, u, v, outline } of drawingOf(program.geometry, values, i).faces) {
      // Each face as it lies on the screen, so that a point of it costs a few products.
      const across = (r: number, d: Vec3) =>
        (seen[r] as number) * d[0] + (seen[3 + r] as number) * d[1] + (seen[6 + r] as number) * d[2];
      const [ox, oy] = [across(0, origin) + (seen[9] as number), across(1, origin) + (seen[10] as number)];
      const [ux, uy, vx, vy] = [across(0, u), across(1, u), across(0, v), across(1, v)];
      const { points } = outline.contours;
      for (let k = 0; k < points.length; k += 2) {
        const [a, b] = [points[k] as number, points[k + 1] as number];
        const x = ox + a * ux + b * vx;
        left = Math.min(left, x);
        right = Math.max(right, x);
        top = Math.max(top, oy + a * uy + b * vy);
      }
    }
  }
  if (left > right) {
    // Nothing is drawn of it: a group without anything in it.
    laid.pivotInto(object, true, point);
    left = point[0] as number;
    right = left;
    top = point[1] as number;
  }
  const within = (n: number, size: number) => Math.max(INSIDE, Math.min(size - INSIDE, n));
  return [
    within((left + right) / 2 + frame.width / 2, frame.width),
    within(frame.height / 2 - top, frame.height),
  ];
}
const point = new Float64Array(3);
