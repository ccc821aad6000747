/** Gradients as the canvas has them. */
import { rgbToHex, shadeRgb } from '@apple-tick/core/base';
import type { Gradient } from '@apple-tick/core/model';
import type { Context } from './types.ts';

/** A piece of a curved wall: from the colour at its one end to that at the other. */
export function bentOf(ctx: Context, from: number, to: number, hw: number): CanvasGradient {
  const out = ctx.createLinearGradient(-hw, 0, hw, 0);
  out.addColorStop(0, rgbToHex(from));
  out.addColorStop(1, rgbToHex(to));
  return out;
}

export function flipped(g: Gradient): Gradient {
  const at = ([x, y]: readonly [number, number]): [number, number] => [x, -y];
  return g.gradient === 'linear'
    ? { ...g, from: at(g.from), to: at(g.to) }
    : { ...g, centre: at(g.centre), ...(g.focus ? { focus: at(g.focus) } : {}) };
}

export function gradientOf(ctx: Context, g: Gradient): CanvasGradient {
  const out =
    g.gradient === 'linear'
      ? ctx.createLinearGradient(g.from[0], g.from[1], g.to[0], g.to[1])
      : ctx.createRadialGradient(
          (g.focus ?? g.centre)[0],
          (g.focus ?? g.centre)[1],
          0,
          g.centre[0],
          g.centre[1],
          g.radius,
        );
  for (const s of g.stops) {
    const alpha = Math.round((s.opacity ?? 1) * 255);
    out.addColorStop(s.at, `${s.color}${alpha.toString(16).padStart(2, '0')}`);
  }
  return out;
}

/** A ball: brightest where its skin looks at the light, darker toward the rim away from it. */
export function ballOf(ctx: Context, rgb: number, u: number, v: number): CanvasGradient {
  const out = ctx.createRadialGradient(u * 0.75, v * 0.75, 0, u * 0.3, v * 0.3, 1.3);
  for (const [at, light] of BALL_LIGHT) out.addColorStop(at, rgbToHex(shadeRgb(rgb, light)));
  return out;
}
const BALL_LIGHT = [
  [0, 1.1],
  [0.6, 0.97],
  [0.85, 0.84],
  [1, 0.76],
] as const;
