/** The captions that stand, and where: for who draws them. */
import { MAT, transformPoint } from '../base/index.ts';
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
      const { points } = outline.contours;
      for (let k = 0; k < points.length; k += 2) {
        const [a, b] = [points[k] as number, points[k + 1] as number];
        const local = [0, 1, 2].map(
          (r) => (origin[r] as number) + a * (u[r] as number) + b * (v[r] as number),
        );
        transformPoint(point, 0, seen, 0, ...(local as [number, number, number]));
        left = Math.min(left, point[0] as number);
        right = Math.max(right, point[0] as number);
        top = Math.max(top, point[1] as number);
      }
    }
  }
  if (left > right) {
    // Nothing is drawn of it: a group without anything in it.
    laid.pivotInto(values, object, true, point);
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
