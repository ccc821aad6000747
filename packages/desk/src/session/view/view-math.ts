/** Between the piece's space and the screen, for handles on the view. */
import { transformPoint } from '@apple-tick/core/base';
import type { Vec3 } from '@apple-tick/core/model';
import { viewMatrix } from '@apple-tick/core/world';

export interface Screen {
  x: number;
  y: number;
  scale: number;
  azimuth: number;
  elevation: number;
}

const out = new Float64Array(12);

/** The matrix of the angle asked for last: points come by the hundred, angles one at a time. */
const last = { azimuth: Number.NaN, elevation: Number.NaN, matrix: new Float64Array(12) };
function viewOf({ azimuth, elevation }: Screen): Float64Array {
  if (last.azimuth !== azimuth || last.elevation !== elevation) {
    viewMatrix({ azimuth, elevation }, last.matrix);
    last.azimuth = azimuth;
    last.elevation = elevation;
  }
  return last.matrix;
}

export function toScreen(s: Screen, p: Vec3): [number, number] {
  transformPoint(out, 0, viewOf(s), 0, ...p);
  return [s.x + s.scale * (out[0] as number), s.y - s.scale * (out[1] as number)];
}

/** A direction in the piece's space as a movement on the screen (px per px), and its part toward the viewer. */
export function onScreen(s: Screen, d: Vec3): Vec3 {
  transformPoint(out, 0, viewOf(s), 0, ...d);
  return [s.scale * (out[0] as number), -s.scale * (out[1] as number), out[2] as number];
}

export function column(m: Float64Array, at: number, k: number): Vec3 {
  return [m[at + k * 3] as number, m[at + k * 3 + 1] as number, m[at + k * 3 + 2] as number];
}

export function pointIn(m: Float64Array, at: number, p: Vec3): Vec3 {
  transformPoint(out, 0, m, at, ...p);
  return [out[0] as number, out[1] as number, out[2] as number];
}

/** Solves dx, dy = a·(ax, ay) + b·(bx, by); null when the two directions are one on the screen. */
export function solve2(a: Vec3, b: Vec3, dx: number, dy: number): [number, number] | null {
  const det = a[0] * b[1] - a[1] * b[0];
  if (Math.abs(det) < 1e-6) return null;
  return [(dx * b[1] - dy * b[0]) / det, (a[0] * dy - a[1] * dx) / det];
}
