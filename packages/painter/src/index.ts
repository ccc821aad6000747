/** Draws sorted faces on a 2D canvas. Outlines that do not change are kept as `Path2D`. */
import { rgbToHex, shadeRgb } from '@apple-tick/core/base';
import { type FaceList, SHAPE_ELLIPSE } from '@apple-tick/core/world';

type Context = CanvasRenderingContext2D | OffscreenCanvasRenderingContext2D;

const CACHE_LIMIT = 2000;
const paths = new Map<string, Path2D>();

function pathOf(ellipse: boolean, hw: number, hh: number, radius: number): Path2D {
  const name = `${ellipse ? 'e' : 'r'}${hw}/${hh}/${radius}`;
  let p = paths.get(name);
  if (!p) {
    if (paths.size > CACHE_LIMIT) paths.clear();
    p = new Path2D();
    if (ellipse) p.ellipse(0, 0, hw, hh, 0, 0, 2 * Math.PI);
    else if (radius > 0) p.roundRect(-hw, -hh, 2 * hw, 2 * hh, radius);
    else p.rect(-hw, -hh, 2 * hw, 2 * hh);
    paths.set(name, p);
  }
  return p;
}

/** Where the frame's centre lies on the canvas and how many canvas px a frame px takes. */
export interface Placement {
  readonly x: number;
  readonly y: number;
  readonly scale: number;
}

/** Paints the faces in their order. The canvas is not cleared. Leaves the context's transform as the identity. */
export function paintFaces(ctx: Context, faces: FaceList, at: Placement): void {
  const { plane, extent } = faces;
  for (let i = 0; i < faces.count; i++) {
    const f = faces.order[i] as number;
    const o = f * 9;
    const k = at.scale;
    // The face's plane to the canvas: v and y point up, the canvas down.
    ctx.setTransform(
      k * (plane[o + 3] as number),
      -k * (plane[o + 4] as number),
      k * (plane[o + 6] as number),
      -k * (plane[o + 7] as number),
      at.x + k * (plane[o] as number),
      at.y - k * (plane[o + 1] as number),
    );
    const hw = extent[f * 3] as number;
    const hh = extent[f * 3 + 1] as number;
    const ellipse = faces.shape[f] === SHAPE_ELLIPSE;
    const path = pathOf(ellipse, hw, hh, extent[f * 3 + 2] as number);
    const rgb = faces.rgb[f] as number;
    ctx.globalAlpha = faces.opacity[f] as number;
    ctx.fillStyle = rgbToHex(rgb);
    const piece = faces.piece[f];
    if (piece) {
      ctx.save();
      ctx.beginPath();
      for (let n = 0; n < piece.length; n += 2) ctx.lineTo(piece[n] as number, piece[n + 1] as number);
      ctx.clip();
      ctx.fill(path);
      ctx.restore();
      continue;
    }
    ctx.fill(path);
    if (faces.solid[f] === 1) {
      ctx.strokeStyle = rgbToHex(shadeRgb(rgb, 0.72));
      ctx.setTransform(1, 0, 0, 1, 0, 0);
      ctx.lineWidth = Math.min(1, k);
      ctx.stroke(outlinePath(faces, f, at));
    }
  }
  ctx.setTransform(1, 0, 0, 1, 0, 0);
  ctx.globalAlpha = 1;
}

function outlinePath(faces: FaceList, f: number, at: Placement): Path2D {
  const p = faces.plane;
  const o = f * 9;
  const hw = faces.extent[f * 3] as number;
  const hh = faces.extent[f * 3 + 1] as number;
  const path = new Path2D();
  for (const [u, v] of [
    [-hw, -hh],
    [hw, -hh],
    [hw, hh],
    [-hw, hh],
  ] as const) {
    const x = (p[o] as number) + (p[o + 3] as number) * u + (p[o + 6] as number) * v;
    const y = (p[o + 1] as number) + (p[o + 4] as number) * u + (p[o + 7] as number) * v;
    path.lineTo(at.x + at.scale * x, at.y - at.scale * y);
  }
  path.closePath();
  return path;
}
