/** Fills and strokes with colours and gradients, as the canvas has them. */
import type { Gradient, Stroke } from '@apple-tick/core/model';
import { fillColor } from '@apple-tick/core/model';
import { flipped, gradientOf, spaceOf } from './gradients.ts';
import type { Context, Placement } from './types.ts';
import { asWhole, type Box } from './wholes.ts';

type Bounds = readonly [number, number, number, number];
/** The sheet on which a stroke is cut out of its gradient: no group lies so deep in others. */
const DEEPEST = 64;

const moved = new WeakMap<Path2D, { matrix: object; path: Path2D }>();

/** Fills a path with a gradient of its own plane, whose `bounds` hold the path. */
export function fillWithGradient(
  ctx: Context,
  path: Path2D,
  g: Gradient,
  bounds: Bounds,
  rule: CanvasFillRule,
): void {
  const space = spaceOf(g, bounds);
  if (!space) {
    ctx.fillStyle = gradientOf(ctx, g, bounds);
    ctx.fill(path, rule);
    return;
  }
  let known = moved.get(path);
  if (known?.matrix !== (g as { matrix?: object }).matrix || !known) {
    known = { matrix: (g as { matrix?: object }).matrix as object, path: new Path2D() };
    known.path.addPath(path, space.matrix.inverse());
    moved.set(path, known);
  }
  ctx.save();
  const { a, b, c, d, e, f } = space.matrix;
  ctx.transform(a, b, c, d, e, f);
  ctx.fillStyle = gradientOf(ctx, g, space.bounds);
  ctx.fill(known.path, rule);
  ctx.restore();
}

/** Sets the line of a stroke: all but what it is painted with. `later`: px that its dashes begin later than it says. */
function setLine(ctx: Context, stroke: Stroke, by: number, later: number): void {
  ctx.lineWidth = stroke.width * by;
  ctx.lineCap = stroke.cap;
  ctx.lineJoin = stroke.join;
  ctx.miterLimit = stroke.miter ?? 10;
  if (stroke.dashes) {
    ctx.setLineDash(stroke.dashes.map((n) => n * by));
    ctx.lineDashOffset = ((stroke.dashStart ?? 0) + later) * by;
  }
}

/**
 * Strokes a path of a plane whose `bounds` hold it, under the plane's transform and the opacity that are set; `later`:
 * px that its dashes begin later than it says; `box`: what it can cover of the canvas.
 */
export function strokePath(
  ctx: Context,
  path: Path2D,
  stroke: Stroke,
  later: number,
  bounds: Bounds,
  at: Placement,
  box: () => Box,
): void {
  const g = stroke.color;
  const wide: Bounds = [
    bounds[0] - stroke.width,
    bounds[1] - stroke.width,
    bounds[2] + stroke.width,
    bounds[3] + stroke.width,
  ];
  const draw = (on: Context, style: string | CanvasGradient) => {
    on.strokeStyle = style;
    if (stroke.fixed) {
      const m = on.getTransform();
      const seen = new Path2D();
      seen.addPath(path, m);
      on.setTransform(1, 0, 0, 1, 0, 0);
      setLine(on, stroke, at.scale, later);
      on.stroke(seen);
      on.setTransform(m);
    } else {
      setLine(on, stroke, 1, later);
      on.stroke(path);
    }
    if (stroke.dashes) on.setLineDash([]);
  };
  if (typeof g === 'string') return draw(ctx, g);
  const space = spaceOf(g, wide);
  if (!space && !stroke.fixed) return draw(ctx, gradientOf(ctx, g, wide));
  // The pen would be bent by the gradient's matrix, or the gradient be that of the frame: it is cut out instead.
  const m = ctx.getTransform();
  asWhole(ctx, box(), DEEPEST, ctx.globalAlpha, 'source-over', (on) => {
    on.globalAlpha = 1;
    on.setTransform(m);
    if (on === ctx) return draw(on, fillColor(g) ?? '#000000');
    draw(on, '#000000');
    on.globalCompositeOperation = 'source-in';
    on.setTransform(m);
    if (space) {
      const { a, b, c, d, e, f } = space.matrix;
      on.transform(a, b, c, d, e, f);
    }
    const [x0, y0, x1, y1] = space?.bounds ?? wide;
    on.fillStyle = gradientOf(on, g, space?.bounds ?? wide);
    on.fillRect(x0, y0, x1 - x0, y1 - y0);
    on.globalCompositeOperation = 'source-over';
  });
}

/** Sets what the letters of a text, whose y points down, are stroked with; `bounds`: of the text, y up. */
export function setTextStroke(ctx: Context, stroke: Stroke, later: number, bounds: Bounds): void {
  ctx.strokeStyle =
    typeof stroke.color === 'string'
      ? stroke.color
      : gradientOf(ctx, flipped(stroke.color), flippedBox(bounds));
  setLine(ctx, stroke, 1, later);
}

export function flippedBox(b: Bounds): Bounds {
  return [b[0], -b[3], b[2], -b[1]];
}
