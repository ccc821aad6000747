/** A piece on a canvas: its ground, and its faces over it. */
import type { Fill } from '@apple-tick/core/model';
import type { FaceList } from '@apple-tick/core/world';
import { type Pictures, paintFaces, paintGround } from '@apple-tick/painter';
import type { Overlay } from './page-part.ts';

export interface FrameView {
  /** Of the canvas, px of the page. */
  readonly size: { readonly w: number; readonly h: number };
  /** Where the middle of the piece's frame is on the canvas, px of the page, and px of the page a px of the piece. */
  readonly screen: { readonly x: number; readonly y: number; readonly scale: number };
  /** What people see of the piece, px of the piece. */
  readonly seen: { readonly width: number; readonly height: number };
  readonly faces: FaceList;
  readonly ground: Exclude<Fill, 'none'>;
  /** Whether what lies outside what people see is cut off. */
  readonly cut: boolean;
  readonly pictures: Pictures;
  readonly masks: boolean;
  /** What lies over all of it, and how its faces tremble and are coloured. */
  readonly overlay?: Overlay | undefined;
}

/** Paints all of it; the canvas is made as large as its place on the page, in px of the screen. */
export function paintFrame(ctx: CanvasRenderingContext2D, view: FrameView): void {
  const { size, screen, seen } = view;
  const el = ctx.canvas;
  const ratio = devicePixelRatio || 1;
  if (el.width !== size.w * ratio || el.height !== size.h * ratio) {
    el.width = size.w * ratio;
    el.height = size.h * ratio;
  }
  const scale = screen.scale * ratio;
  const [w, h] = [seen.width * scale, seen.height * scale];
  const [x, y] = [screen.x * ratio, screen.y * ratio];
  ctx.clearRect(0, 0, el.width, el.height);
  paintGround(ctx, view.ground, seen.width, seen.height, { x, y, scale });
  ctx.save();
  if (view.cut) {
    ctx.beginPath();
    ctx.rect(x - w / 2, y - h / 2, w, h);
    ctx.clip();
  }
  const { overlay } = view;
  overlay?.tremble(view.faces);
  paintFaces(ctx, view.faces, { x, y, scale }, view.pictures, view.masks, overlay?.tintOf);
  overlay?.paint(ctx, { x, y, scale }, seen, view.pictures);
  ctx.restore();
}
