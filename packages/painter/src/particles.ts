/** Particles, many at once. */
import { rgbToHex } from '@apple-tick/core/base';
import type { Context, Placement } from './types.ts';

/** What a particle looks like that is no dot or square: a picture of it, and what of it is one px at size 1. */
export interface Stamp {
  readonly picture: CanvasImageSource;
  readonly width: number;
  readonly height: number;
}

/** Particles in rows: x and y from the frame's middle, y up, size, turn in degrees, opacity, colour 0xrrggbb. */
export interface Particles {
  readonly count: number;
  readonly rows: Float64Array;
  readonly drawing: (i: number) => 'dot' | 'square' | Stamp;
}
const ROW = 6;

/** Paints particles, the last on top. Leaves the context's transform as the identity. */
export function paintParticles(ctx: Context, particles: Particles, at: Placement): void {
  const { count, rows, drawing } = particles;
  let rgb = -1;
  for (let i = 0; i < count; i++) {
    const o = i * ROW;
    const x = at.x + at.scale * (rows[o] as number);
    const y = at.y - at.scale * (rows[o + 1] as number);
    const size = at.scale * (rows[o + 2] as number);
    const what = drawing(i);
    ctx.globalAlpha = rows[o + 4] as number;
    if (rows[o + 5] !== rgb) {
      rgb = rows[o + 5] as number;
      ctx.fillStyle = rgbToHex(rgb);
    }
    if (what === 'dot') {
      ctx.beginPath();
      ctx.arc(x, y, size / 2, 0, 2 * Math.PI);
      ctx.fill();
      continue;
    }
    const turn = (-(rows[o + 3] as number) * Math.PI) / 180;
    const [c, s] = [Math.cos(turn), Math.sin(turn)];
    ctx.setTransform(size * c, size * s, -size * s, size * c, x, y);
    if (what === 'square') ctx.fillRect(-0.5, -0.5, 1, 1);
    else ctx.drawImage(what.picture, -what.width / 2, -what.height / 2, what.width, what.height);
    ctx.setTransform(1, 0, 0, 1, 0, 0);
  }
  ctx.globalAlpha = 1;
}
