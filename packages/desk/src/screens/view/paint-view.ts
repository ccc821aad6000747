import { type FrameView, paintFrame } from '@apple-tick/player';

/** Paints the view while working: the frame with its ground, and faintly what lies outside it. */
export function paintView(ctx: CanvasRenderingContext2D, view: Omit<FrameView, 'cut'>): void {
  paintFrame(ctx, { ...view, cut: false });
  const el = ctx.canvas;
  const ratio = devicePixelRatio || 1;
  const { screen, seen } = view;
  const [w, h] = [seen.width * screen.scale * ratio, seen.height * screen.scale * ratio];
  // Erased in part, so that the ground behind the canvas shows through in either theme.
  ctx.globalCompositeOperation = 'destination-out';
  ctx.globalAlpha = 0.72;
  ctx.beginPath();
  ctx.rect(0, 0, el.width, el.height);
  ctx.rect(screen.x * ratio - w / 2, screen.y * ratio - h / 2, w, h);
  ctx.fill('evenodd');
  ctx.globalCompositeOperation = 'source-over';
  ctx.globalAlpha = 1;
}
