/** Affine maps of the plane as in SVG: x' = a·x + c·y + e, y' = b·x + d·y + f, written [a, b, c, d, e, f]. */
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

/** A `transform` attribute; what is not sound in it counts as nothing. */
export function parseTransform(text: string | undefined): Matrix {
  let m: Matrix = [1, 0, 0, 1, 0, 0];
  for (const part of (text ?? '').matchAll(/(\w+)\s*\(([^)]*)\)/g)) {
    const n = (part[2] as string)
      .trim()
      .split(/[\s,]+/)
      .map(Number);
    if (n.every(Number.isFinite)) m = times(m, one(part[1] as string, n));
  }
  return m;
}

function one(name: string, n: number[]): Matrix {
  const [a = 0, b, c] = n;
  const rad = (a * Math.PI) / 180;
  switch (name) {
    case 'matrix':
      return n.length === 6 ? (n as unknown as Matrix) : [1, 0, 0, 1, 0, 0];
    case 'translate':
      return [1, 0, 0, 1, a, b ?? 0];
    case 'scale':
      return [a, 0, 0, b ?? a, 0, 0];
    case 'rotate': {
      const turn: Matrix = [Math.cos(rad), Math.sin(rad), -Math.sin(rad), Math.cos(rad), 0, 0];
      return times(times([1, 0, 0, 1, b ?? 0, c ?? 0], turn), [1, 0, 0, 1, -(b ?? 0), -(c ?? 0)]);
    }
    case 'skewX':
      return [1, 0, Math.tan(rad), 1, 0, 0];
    case 'skewY':
      return [1, Math.tan(rad), 0, 1, 0, 0];
    default:
      return [1, 0, 0, 1, 0, 0];
  }
}

/** To a ten-thousandth of a px, without −0: shorter files, and nothing that can be seen. */
export function round(n: number): number {
  return Math.round(n * 1e4) / 1e4 + 0;
}
