/**
 * Easing curves in one flat pool. A curve is a cubic Bézier from (0,0) to (1,1) as in CSS Easing Level 1: given
 * progress x in time, find the parameter u with X(u) = x, return Y(u). Solved by Newton steps held in a bracket
 * that a 17-entry table of X gives; only + − × ÷ are used, so every engine gives the same bits.
 */

const TABLE = 17;
/** Numbers a curve takes in the pool: three coefficients of X, three of Y, the bound on |Y′|, the table. */
export const CURVE = 7 + TABLE;

/** Writes the curve with these control points at `pool[at…at+CURVE−1]`. x1 and x2 must lie in 0…1. */
export function compileCurve(
  pool: Float64Array,
  at: number,
  x1: number,
  y1: number,
  x2: number,
  y2: number,
): void {
  const ax = 1 + 3 * x1 - 3 * x2;
  const bx = 3 * x2 - 6 * x1;
  const cx = 3 * x1;
  pool[at] = ax;
  pool[at + 1] = bx;
  pool[at + 2] = cx;
  pool[at + 3] = 1 + 3 * y1 - 3 * y2;
  pool[at + 4] = 3 * y2 - 6 * y1;
  pool[at + 5] = 3 * y1;
  // Y′ is a quadratic Bézier of these three differences, times 3: it never exceeds the largest of them.
  pool[at + 6] = 3 * Math.max(Math.abs(y1), Math.abs(y2 - y1), Math.abs(1 - y2));
  for (let i = 0; i < TABLE; i++) {
    const u = i / (TABLE - 1);
    pool[at + 7 + i] = ((ax * u + bx) * u + cx) * u;
  }
}

/** Y at progress x of the curve at `pool[at…]`, within 1e-9 of the exact value. x outside 0…1 gives 0 or 1. */
export function evaluateCurve(pool: Float64Array, at: number, x: number): number {
  progress[0] = x;
  easeInPlace(pool, at, progress);
  return progress[0] as number;
}

const progress = new Float64Array(1);

/** Replaces the progress in `io[0]` by the curve's Y: numbers that are passed in arrays cost no memory. */
export function easeInPlace(pool: Float64Array, at: number, io: Float64Array): void {
  const x = io[0] as number;
  if (!(x > 0) || x >= 1) {
    io[0] = x >= 1 ? 1 : 0;
    return;
  }
  const ax = pool[at] as number;
  const bx = pool[at + 1] as number;
  const cx = pool[at + 2] as number;
  let i = 0;
  // Four halvings of the sixteen intervals.
  for (let step = 8; step > 0; step >>= 1) if ((pool[at + 7 + i + step] as number) <= x) i += step;
  let lo = i / (TABLE - 1);
  let hi = (i + 1) / (TABLE - 1);
  const xLo = pool[at + 7 + i] as number;
  const xHi = pool[at + 8 + i] as number;
  let u = xHi > xLo ? lo + ((x - xLo) / (xHi - xLo)) * (hi - lo) : lo;
  // A step this small in u moves Y by less than 1e-11.
  const tiny = 1e-11 / ((pool[at + 6] as number) + 1);
  for (let n = 0; n < 64; n++) {
    const f = ((ax * u + bx) * u + cx) * u - x;
    if (f > 0) hi = u;
    else lo = u;
    const slope = (3 * ax * u + 2 * bx) * u + cx;
    let next = u - f / slope;
    // Where X is flat Newton may leave the bracket (or divide by 0): halve it instead.
    if (!(next > lo && next < hi)) next = f === 0 ? u : (lo + hi) / 2;
    const moved = Math.abs(next - u);
    u = next;
    if (moved < tiny) break;
  }
  io[0] = (((pool[at + 3] as number) * u + (pool[at + 4] as number)) * u + (pool[at + 5] as number)) * u;
}

const scratch = new Float64Array(CURVE);

/** Y at progress x of a Bézier given by its control points: for drawing curves and for tests. */
export function bezierAt(x1: number, y1: number, x2: number, y2: number, x: number): number {
  compileCurve(scratch, 0, x1, y1, x2, y2);
  return evaluateCurve(scratch, 0, x);
}
