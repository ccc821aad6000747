/** Affine maps of the plane, as SVG and CSS write them. */
import { cosDeg, sinDeg } from '../base/index.ts';

/** An affine map: x' = a·x + c·y + e, y' = b·x + d·y + f, written [a, b, c, d, e, f]. */
export type Matrix = readonly [number, number, number, number, number, number];

/** First `n`, then `m`. */
export function times(m: Matrix, n: Matrix): Matrix {
  return [
    m[0] * n[0] + m[2] * n[1],
    m[1] * n[0] + m[3] * n[1],
    m[0] * n[2] + m[2] * n[3],
    m[1] * n[2] + m[3] * n[3],
    m[0] * n[4] + m[2] * n[5] + m[4],
    m[1] * n[4] + m[3] * n[5] + m[5],
  ];
}

export function apply(m: Matrix, x: number, y: number): [number, number] {
  return [m[0] * x + m[2] * y + m[4], m[1] * x + m[3] * y + m[5]];
}

/** By how much lengths grow on average: the square root of how much areas do. */
export function areaScale(m: Matrix): number {
  return Math.sqrt(Math.abs(m[0] * m[3] - m[1] * m[2]));
}

const IDENTITY: Matrix = [1, 0, 0, 1, 0, 0];
const NUMBER = /[+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?/gi;
const FUNCTION = /([a-z]+)\s*\(([^()]*)\)[\s,]*/giy;
/** Degrees that one of each unit of CSS is. */
const DEGREES: Readonly<Record<string, number>> = { deg: 1, rad: 180 / Math.PI, grad: 0.9, turn: 360 };

/**
 * A `transform`, of an attribute or of CSS (CSS Transforms 1, 8); null when it is not sound, which counts as none. Numbers
 * may follow one another without a sign between. `box`: what per cent are of, width and height in px.
 */
export function parseTransform(
  text: string | undefined,
  box: readonly [number, number] = [0, 0],
): Matrix | null {
  const all = (text ?? '').trim();
  if (all === '' || all === 'none') return IDENTITY;
  let m: Matrix = IDENTITY;
  FUNCTION.lastIndex = 0;
  while (FUNCTION.lastIndex < all.length) {
    const part = FUNCTION.exec(all);
    if (!part) return null;
    const next = one((part[1] as string).toLowerCase(), part[2] as string, box);
    if (!next) return null;
    m = times(m, next);
  }
  return m;
}

/** The point that a `rotate` with three numbers, which alone makes a transform, turns about; null for every other. */
export function turningPoint(text: string | undefined): [number, number] | null {
  const only = /^\s*rotate\s*\(([^()]*)\)\s*$/i.exec(text ?? '');
  const n = [...(only?.[1] ?? '').matchAll(NUMBER)].map(([x]) => Number(x));
  return n.length === 3 ? [n[1] as number, n[2] as number] : null;
}

/** The numbers of a function with their units as px and degrees. */
function numbersOf(text: string, name: string, box: readonly [number, number]): number[] {
  const units = [...text.matchAll(/([+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?)\s*(deg|g?rad|turn|px|%)?/gi)];
  return units.map(([, n, unit = ''], i) => {
    if (unit === '%') return (Number(n) / 100) * (name.endsWith('y') || i === 1 ? box[1] : box[0]);
    return Number(n) * (DEGREES[unit.toLowerCase()] ?? 1);
  });
}

function one(name: string, text: string, box: readonly [number, number]): Matrix | null {
  const n = numbersOf(text, name, box);
  const [a = Number.NaN, b, c] = n;
  if (!n.every(Number.isFinite) || n.length === 0) return null;
  const tan = Math.tan((a * Math.PI) / 180);
  switch (name) {
    case 'matrix':
      return n.length === 6 ? (n as unknown as Matrix) : null;
    case 'translate':
      return [1, 0, 0, 1, a, b ?? 0];
    case 'translatex':
      return [1, 0, 0, 1, a, 0];
    case 'translatey':
      return [1, 0, 0, 1, 0, a];
    case 'scale':
      return [a, 0, 0, b ?? a, 0, 0];
    case 'scalex':
      return [a, 0, 0, 1, 0, 0];
    case 'scaley':
      return [1, 0, 0, a, 0, 0];
    case 'rotate':
    case 'rotatez': {
      const [sin, cos] = [sinDeg(a), cosDeg(a)];
      const turn: Matrix = [cos, sin, -sin, cos, 0, 0];
      return times(times([1, 0, 0, 1, b ?? 0, c ?? 0], turn), [1, 0, 0, 1, -(b ?? 0), -(c ?? 0)]);
    }
    case 'skew':
      return [1, Math.tan(((b ?? 0) * Math.PI) / 180), tan, 1, 0, 0];
    case 'skewx':
      return [1, 0, tan, 1, 0, 0];
    case 'skewy':
      return [1, tan, 0, 1, 0, 0];
    default:
      return null;
  }
}

/** The inverse; null for a matrix that leaves no area. */
export function inverse(m: Matrix): Matrix | null {
  const det = m[0] * m[3] - m[1] * m[2];
  if (!(Math.abs(det) > 1e-12)) return null;
  const [a, b, c, d] = [m[3] / det, -m[1] / det, -m[2] / det, m[0] / det];
  return [a, b, c, d, -(a * m[4] + c * m[5]), -(b * m[4] + d * m[5])];
}

/** A turn, degrees, and the scale along x and y before it, that make up the linear part of `m`; null where it is skewed. */
export function turnAndScale(m: Matrix): { turn: number; scale: [number, number] } | null {
  const [a, b, c, d] = m;
  const size = Math.max(Math.abs(a), Math.abs(b), Math.abs(c), Math.abs(d));
  if (Math.abs(b) + Math.abs(c) < 1e-9 * size) return { turn: 0, scale: [a, d] };
  const sx = Math.hypot(a, b);
  const sy = (a * d - b * c) / sx;
  if (!(sx > 0) || Math.abs(a * c + b * d) > 1e-6 * size * size) return null;
  return { turn: (Math.atan2(b, a) * 180) / Math.PI, scale: [sx, sy] };
}

/** To a ten-thousandth of a px, without −0: shorter files, and nothing that can be seen. */
export function round(n: number): number {
  return Math.round(n * 1e4) / 1e4 + 0;
}
