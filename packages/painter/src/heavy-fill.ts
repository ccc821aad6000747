/**
 * Fills of outlines with thousands of points, kept as bitmaps: a browser without a graphics card takes a tenth of a second
 * for one that crosses itself everywhere, and paints it anew with each frame though nothing of it has moved.
 */
import type { Outline } from '@apple-tick/core/world';

type Context = CanvasRenderingContext2D | OffscreenCanvasRenderingContext2D;

/** Numbers of an outline (two a point) from which on its fill is kept. */
const HEAVY = 3000;
/** Px of the canvas that a bitmap may have; what is seen larger is filled as it is. */
const MOST_PX = 4_000_000;

interface Kept {
  /** How it was filled last: its matrix but for whole px of place, and its colour. */
  readonly key: string;
  readonly bitmap: OffscreenCanvas;
}
const kept = new WeakMap<Outline, Kept>();

/** Fills a path with the colour that is set, under the matrix and opacity that are set. */
export function fillOutline(ctx: Context, path: Path2D, outline: Outline): void {
  const rule = outline.evenodd ? 'evenodd' : 'nonzero';
  if (outline.contours.points.length < HEAVY || typeof OffscreenCanvas === 'undefined') {
    ctx.fill(path, rule);
    return;
  }
  const m = ctx.getTransform();
  const [u0, v0, u1, v1] = outline.bounds;
  const xs = [u0, u1].flatMap((u) => [v0, v1].map((v) => m.a * u + m.c * v + m.e));
  const ys = [u0, u1].flatMap((u) => [v0, v1].map((v) => m.b * u + m.d * v + m.f));
  const [x, y] = [Math.floor(Math.min(...xs)) - 1, Math.floor(Math.min(...ys)) - 1];
  const [w, h] = [Math.ceil(Math.max(...xs)) + 1 - x, Math.ceil(Math.max(...ys)) + 1 - y];
  if (!(w * h <= MOST_PX)) {
    ctx.fill(path, rule);
    return;
  }
  // Moved by whole px it looks the same.
  const key = [m.a, m.b, m.c, m.d, m.e - Math.floor(m.e), m.f - Math.floor(m.f), ctx.fillStyle].join();
  let last = kept.get(outline);
  if (last?.key !== key) {
    last = { key, bitmap: new OffscreenCanvas(w, h) };
    kept.set(outline, last);
    const own = last.bitmap.getContext('2d') as OffscreenCanvasRenderingContext2D;
    own.setTransform(m.a, m.b, m.c, m.d, m.e - x, m.f - y);
    own.fillStyle = ctx.fillStyle;
    own.fill(path, rule);
  }
  ctx.setTransform(1, 0, 0, 1, 0, 0);
  ctx.drawImage(last.bitmap, x, y);
  ctx.setTransform(m);
}
