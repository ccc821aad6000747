import type { Fill } from '@apple-tick/core/model';
import type { FaceList } from '@apple-tick/core/world';
import { type Pictures, paintFaces, paintGround } from '@apple-tick/painter';
import type { Screen } from '../../session/view-math.ts';

/** Paints the whole view: the frame with its ground, and, but for a live one, what lies outside it, faintly. */
export function paintView(
  ctx: CanvasRenderingContext2D,
  view: {
    /** Of the view, px of the page. */
    readonly size: { readonly w: number; readonly h: number };
    readonly screen: Screen;
    /** What people see of the piece, px of the piece. */
    readonly seen: { readonly width: number; readonly height: number };
    readonly faces: FaceList;
    readonly ground: Exclude<Fill, 'none'>;
    readonly live: boolean;
    readonly pictures: Pictures;
    readonly masks: boolean;
  },
): void {
  const { size, screen, seen } = view;
  const el = ctx.canvas;
  const ratio = devicePixelRatio || 1;
  if (el.width !== size.w * ratio || el.height !== size.h * ratio) {
    el.width = size.w * ratio;
    el.height = size.h * ratio;
  }
  const k = screen.scale * ratio;
  const [w, h] = [seen.width * k, seen.height * k];
  const [x, y] = [screen.x * ratio, screen.y * ratio];
  ctx.clearRect(0, 0, el.width, el.height);
  paintGround(ctx, view.ground, seen.width, seen.height, { x, y, scale: k });
  ctx.save();
  if (view.live) {
    ctx.beginPath();
    ctx.rect(x - w / 2, y - h / 2, w, h);
    ctx.clip();
  }
  paintFaces(ctx, view.faces, { x, y, scale: k }, view.pictures, view.masks);
  ctx.restore();
  if (view.live) return;
  // What lies outside the frame is seen faintly while working.
  // Erased in part, so that the ground behind the canvas shows through in either theme.
  ctx.globalCompositeOperation = 'destination-out';
  ctx.globalAlpha = 0.72;
  ctx.beginPath();
  ctx.rect(0, 0, el.width, el.height);
  ctx.rect(x - w / 2, y - h / 2, w, h);
  ctx.fill('evenodd');
  ctx.globalCompositeOperation = 'source-over';
  ctx.globalAlpha = 1;
}
