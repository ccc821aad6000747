/** What part of a drawing is seen in a box, and how large: SVG 2, 8.2. */
import type { Matrix } from './svg-matrix.ts';

/** Left, top, width, height. */
export type ViewBox = readonly [number, number, number, number];

/** A sound `viewBox`; null when it is absent or has no area. */
export function readViewBox(text: string | undefined): ViewBox | null {
  const box = (text ?? '')
    .trim()
    .split(/[\s,]+/)
    .map(Number);
  return box.length === 4 && box.every(Number.isFinite) && (box[2] as number) > 0 && (box[3] as number) > 0
    ? (box as unknown as ViewBox)
    : null;
}

/** How `box` comes to lie in a viewport of `width` × `height` at 0, 0, by a `preserveAspectRatio`. */
export function viewportMatrix(
  box: ViewBox,
  width: number,
  height: number,
  preserve: string | undefined,
): Matrix {
  const [x, y, w, h] = box;
  const [align = 'xMidYMid', fit = 'meet'] = (preserve ?? '').trim().split(/\s+/).filter(Boolean);
  let [kx, ky] = [width / w, height / h];
  if (align !== 'none') kx = ky = fit === 'slice' ? Math.max(kx, ky) : Math.min(kx, ky);
  const part = (name: string | undefined) => (name === 'Min' ? 0 : name === 'Max' ? 1 : 0.5);
  const [, ax, ay] = /^x(Min|Mid|Max)Y(Min|Mid|Max)$/.exec(align) ?? [];
  const dx = align === 'none' ? 0 : (width - w * kx) * part(ax);
  const dy = align === 'none' ? 0 : (height - h * ky) * part(ay);
  return [kx, 0, 0, ky, dx - x * kx, dy - y * ky];
}
