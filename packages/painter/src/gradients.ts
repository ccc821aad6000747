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

type Stop = Gradient['stops'][number];
type Point = readonly [number, number];
/** Least x, y, greatest x, y of what is painted. */
type Bounds = readonly [number, number, number, number];

export function flipped(g: Gradient): Gradient {
  const at = ([x, y]: Point): [number, number] => [x, -y];
  if (g.gradient === 'linear') return { ...g, from: at(g.from), to: at(g.to) };
  if (g.matrix) {
    const [a, b, c, d, e, f] = g.matrix;
    return { ...g, matrix: [a, -b, c, -d, e, -f] };
  }
  return { ...g, centre: at(g.centre), ...(g.focus ? { focus: at(g.focus) } : {}) };
}

/** So often a gradient that goes on is repeated at most, to each side: more of them are not told apart. */
const MOST_SPREAD = 256;

/** From where to where, in lengths of the gradient from its start, it has to be written out to cover `bounds`. */
function reachOf(g: Gradient, bounds: Bounds): [first: number, last: number] {
  const corners: Point[] = [
    [bounds[0], bounds[1]],
    [bounds[2], bounds[1]],
    [bounds[0], bounds[3]],
    [bounds[2], bounds[3]],
  ];
  if (g.gradient === 'linear') {
    const [dx, dy] = [g.to[0] - g.from[0], g.to[1] - g.from[1]];
    const t = corners.map(
      ([x, y]) => ((x - g.from[0]) * dx + (y - g.from[1]) * dy) / (dx * dx + dy * dy || 1),
    );
    return [
      Math.max(-MOST_SPREAD, Math.floor(Math.min(...t))),
      Math.min(MOST_SPREAD, Math.ceil(Math.max(...t))),
    ];
  }
  // The circle t lies round focus + t(centre − focus) with radius t·radius: it holds a corner at once when t is so large.
  const focus = g.focus ?? g.centre;
  const gain = g.radius - Math.hypot(g.centre[0] - focus[0], g.centre[1] - focus[1]);
  const far = Math.max(...corners.map(([x, y]) => Math.hypot(x - focus[0], y - focus[1])));
  return [0, Math.max(1, Math.min(MOST_SPREAD, Math.ceil(far / Math.max(gain, g.radius / 64, 1e-6))))];
}

/** The stops of a gradient that goes on, from `first` to `last` lengths from its start, as places 0–1 of that whole. */
function writtenOut(g: Gradient, first: number, last: number): Stop[] {
  const out: Stop[] = [];
  for (let n = first; n < last; n++) {
    const mirrored = g.spread === 'reflect' && (n & 1) !== 0;
    const place = (at: number) => (n + (mirrored ? 1 - at : at) - first) / (last - first);
    const stops = mirrored ? [...g.stops].reverse() : g.stops;
    // Up to its first stop, and from its last, each has that stop's colour.
    const [before, after] = [stops[0], stops.at(-1)] as [Stop, Stop];
    out.push({ ...before, at: (n - first) / (last - first) });
    for (const s of stops) out.push({ ...s, at: place(s.at) });
    out.push({ ...after, at: (n + 1 - first) / (last - first) });
  }
  return out;
}

/** The gradient in its own space: what has a matrix is painted under it. `bounds`: what is to be covered, in that space. */
export function gradientOf(ctx: Context, g: Gradient, bounds: Bounds): CanvasGradient {
  const goesOn = g.spread !== undefined && g.spread !== 'pad';
  const [first, last] = goesOn ? reachOf(g, bounds) : [0, 1];
  let out: CanvasGradient;
  if (g.gradient === 'linear') {
    const at = (t: number): Point => [
      g.from[0] + t * (g.to[0] - g.from[0]),
      g.from[1] + t * (g.to[1] - g.from[1]),
    ];
    out = ctx.createLinearGradient(...at(first), ...at(last));
  } else {
    const focus = g.focus ?? g.centre;
    const inner = g.focusRadius ?? 0;
    out = ctx.createRadialGradient(
      ...focus,
      inner,
      focus[0] + last * (g.centre[0] - focus[0]),
      focus[1] + last * (g.centre[1] - focus[1]),
      inner + last * (g.radius - inner),
    );
  }
  for (const s of goesOn ? writtenOut(g, first, Math.max(last, first + 1)) : g.stops) {
    const alpha = Math.round((s.opacity ?? 1) * 255);
    out.addColorStop(Math.max(0, Math.min(1, s.at)), `${s.color}${alpha.toString(16).padStart(2, '0')}`);
  }
  return out;
}

/** Of a gradient with a matrix, that matrix and the box of `bounds` seen from its space; null for one without. */
export function spaceOf(g: Gradient, bounds: Bounds): { matrix: DOMMatrix; bounds: Bounds } | null {
  if (g.gradient === 'linear' || !g.matrix) return null;
  const matrix = new DOMMatrix([...g.matrix]);
  const back = matrix.inverse();
  const xs: number[] = [];
  const ys: number[] = [];
  for (const x of [bounds[0], bounds[2]])
    for (const y of [bounds[1], bounds[3]]) {
      xs.push(back.a * x + back.c * y + back.e);
      ys.push(back.b * x + back.d * y + back.f);
    }
  if (![...xs, ...ys].every(Number.isFinite)) return null;
  return { matrix, bounds: [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)] };
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
