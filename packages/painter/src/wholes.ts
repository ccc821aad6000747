/**
 * What is painted as one: a group that is half transparent, or a thing with a blend, is painted on a sheet of its own, and
 * the sheet on what lies under it. Where there is no second canvas to be had, each part is painted by itself.
 */
import { BLENDS } from '@apple-tick/core/model';
import type { FaceList, Outline } from '@apple-tick/core/world';
import type { Context, Placement } from './types.ts';

/** A rectangle of the canvas, px: left, top, right, bottom. */
export type Box = readonly [number, number, number, number];

/** Sheets by how deep they lie, kept from frame to frame. */
const sheets: OffscreenCanvas[] = [];

function sheetFor(depth: number, ctx: Context): OffscreenCanvasRenderingContext2D | null {
  if (typeof OffscreenCanvas === 'undefined') return null;
  const { width, height } = ctx.canvas;
  let sheet = sheets[depth];
  if (!sheet) {
    sheet = new OffscreenCanvas(width, height);
    sheets[depth] = sheet;
  }
  // A larger one serves as well: painters of several sizes take turns.
  if (sheet.width < width) sheet.width = width;
  if (sheet.height < height) sheet.height = height;
  return sheet.getContext('2d');
}

/** The mode that the canvas has for a blend as `Geometry.wholes` numbers it. */
export function modeOf(blend: number): GlobalCompositeOperation {
  return blend > 1 ? (BLENDS[blend - 2] as GlobalCompositeOperation) : 'source-over';
}

/** Paints what `paint` paints, all within `box`, as one with this opacity and mode; `depth`: how many such it lies in. */
export function asWhole(
  ctx: Context,
  box: Box,
  depth: number,
  opacity: number,
  mode: GlobalCompositeOperation,
  paint: (on: Context) => void,
): void {
  const [x0, y0] = [Math.max(0, Math.floor(box[0])), Math.max(0, Math.floor(box[1]))];
  const x1 = Math.min(ctx.canvas.width, Math.ceil(box[2]));
  const y1 = Math.min(ctx.canvas.height, Math.ceil(box[3]));
  if (!(x1 > x0 && y1 > y0)) return;
  const sheet = sheetFor(depth, ctx);
  if (!sheet) return paint(ctx);
  sheet.setTransform(1, 0, 0, 1, 0, 0);
  sheet.clearRect(x0, y0, x1 - x0, y1 - y0);
  paint(sheet);
  ctx.save();
  ctx.setTransform(1, 0, 0, 1, 0, 0);
  ctx.globalAlpha = opacity;
  ctx.globalCompositeOperation = mode;
  ctx.drawImage(sheet.canvas, x0, y0, x1 - x0, y1 - y0, x0, y0, x1 - x0, y1 - y0);
  ctx.restore();
}

/** Grows `box` (left, top, right, bottom) by what face f covers on the canvas, with its stroke; the same box. */
export function addFaceBox(
  box: [number, number, number, number],
  faces: FaceList,
  f: number,
  at: Placement,
): Box {
  const { plane } = faces;
  const o = f * 9;
  const [u0, v0, u1, v1] = (faces.outline[f] as Outline).bounds;
  const style = faces.style[f];
  const stroke = style?.stroke;
  // A corner, or a square end, reaches farther than half the width; letters reach beyond their lines.
  const reach = stroke
    ? stroke.width * Math.max(1, stroke.join === 'miter' ? (stroke.miter ?? 10) / 2 : 1)
    : 0;
  const r = reach + (style?.text ? style.text.size : 0);
  const fixed = stroke?.fixed === true ? reach * at.scale : 0;
  for (const u of [u0 - r, u1 + r])
    for (const v of [v0 - r, v1 + r]) {
      const x =
        at.x +
        at.scale * ((plane[o] as number) + (plane[o + 3] as number) * u + (plane[o + 6] as number) * v);
      const y =
        at.y -
        at.scale * ((plane[o + 1] as number) + (plane[o + 4] as number) * u + (plane[o + 7] as number) * v);
      box[0] = Math.min(box[0], x - 2 - fixed);
      box[1] = Math.min(box[1], y - 2 - fixed);
      box[2] = Math.max(box[2], x + 2 + fixed);
      box[3] = Math.max(box[3], y + 2 + fixed);
    }
  return box;
}
