/**
 * Elementary functions built from + − × ÷ and exact integer steps only, so that every engine gives the same bits.
 * (`Math.sin`, `Math.exp`, `Math.pow`, `Math.cbrt` may differ in the last place; `Math.sqrt` may not.)
 */

const RAD = Math.PI / 180;

/**
 * Writes sine and cosine of the angle `v[at]`, degrees, to `out[o]` and `out[o + 1]`, without memory for numbers that are
 * passed. Exact at multiples of 90: the reduction by whole turns is (`%`). Taylor series on |x| ≤ π/4, of which the first
 * term left out is below 1e-18 there.
 */
export function turnInto(v: Float64Array, at: number, out: Float64Array, o: number): void {
  let d = (v[at] as number) % 360;
  if (d < 0) d += 360;
  const q = Math.floor((d + 45) / 90);
  const x = (d - q * 90) * RAD;
  const z = x * x;
  const s =
    x *
    (1 +
      z *
        (-1 / 6 +
          z *
            (1 / 120 +
              z *
                (-1 / 5040 +
                  z * (1 / 362880 + z * (-1 / 39916800 + z * (1 / 6227020800 - z / 1307674368000)))))));
  const c =
    1 +
    z *
      (-1 / 2 +
        z *
          (1 / 24 +
            z *
              (-1 / 720 +
                z *
                  (1 / 40320 +
                    z *
                      (-1 / 3628800 + z * (1 / 479001600 + z * (-1 / 87178291200 + z / 20922789888000)))))));
  const quarter = q & 3;
  out[o] = quarter === 0 ? s : quarter === 1 ? c : quarter === 2 ? -s : -c;
  out[o + 1] = quarter === 0 ? c : quarter === 1 ? -s : quarter === 2 ? -c : s;
}

const angle = new Float64Array(3);

/** Sine of an angle in degrees; exact at multiples of 90. */
export function sinDeg(degrees: number): number {
  angle[0] = degrees;
  turnInto(angle, 0, angle, 1);
  return angle[1] as number;
}

/** Cosine of an angle in degrees; exact at multiples of 90. */
export function cosDeg(degrees: number): number {
  angle[0] = degrees;
  turnInto(angle, 0, angle, 1);
  return angle[2] as number;
}

/** Cube root of x ≥ 0 to full precision: a power-of-two scaling, then Newton's y ← (2y + x/y²)/3. */
export function cbrt(x: number): number {
  if (!(x > 0)) return x === 0 ? 0 : Number.NaN;
  let m = x;
  let scale = 1;
  while (m < 0.125) {
    m *= 8;
    scale *= 0.5;
  }
  while (m >= 1) {
    m *= 0.125;
    scale *= 2;
  }
  let y = 0.5 + 0.5 * m;
  for (let i = 0; i < 6; i++) y = (2 * y + m / (y * y)) / 3;
  return y * scale;
}

/** x^2.4 for x ≥ 0, the power in the sRGB transfer: x² · (x^(1/5))². The fifth root by Newton. */
export function pow24(x: number): number {
  const r = fifthRoot(x);
  return x * x * r * r;
}

/** x^(1/2.4) = x^(5/12) for x ≥ 0: (x^(1/3))^(5/4) = c · √√c with c = cbrt(x). */
export function root24(x: number): number {
  const c = cbrt(x);
  return c * Math.sqrt(Math.sqrt(c));
}

function fifthRoot(x: number): number {
  if (!(x > 0)) return 0;
  let m = x;
  let scale = 1;
  while (m < 0.03125) {
    m *= 32;
    scale *= 0.5;
  }
  while (m >= 1) {
    m *= 0.03125;
    scale *= 2;
  }
  let y = 0.6 + 0.4 * m;
  for (let i = 0; i < 8; i++) {
    const y2 = y * y;
    y = (4 * y + m / (y2 * y2)) / 5;
  }
  return y * scale;
}

const LN2_HIGH = 0.6931471803691238;
const LN2_LOW = 1.9082149292705877e-10;

/** e^x to full precision for |x| ≤ 700: x = n · ln 2 + r with |r| ≤ 0.35, Taylor in r, then n doublings. */
export function exp(x: number): number {
  const n = Math.round(x / Math.LN2);
  const r = x - n * LN2_HIGH - n * LN2_LOW;
  let sum = 1;
  for (let k = 16; k > 0; k--) sum = 1 + (r / k) * sum;
  let base = n < 0 ? 0.5 : 2;
  for (let k = Math.abs(n); k > 0; k >>= 1) {
    if (k & 1) sum *= base;
    base *= base;
  }
  return sum;
}

/** The angle of (x, y) from the x axis, degrees in (−180, 180]; 0 for the origin. Halved twice, then Taylor's series. */
export function atan2Deg(y: number, x: number): number {
  if (x === 0 && y === 0) return 0;
  const [ax, ay] = [Math.abs(x), Math.abs(y)];
  // Of a ratio of at most 1; atan r = 2 atan(r ÷ (1 + √(1 + r²))), twice.
  let r = Math.min(ax, ay) / Math.max(ax, ay);
  for (let i = 0; i < 2; i++) r /= 1 + Math.sqrt(1 + r * r);
  const z = r * r;
  let sum = 0;
  for (let k = 27; k > 0; k -= 2) sum = 1 / k - z * sum;
  let angle = (4 * r * sum) / RAD;
  if (ay > ax) angle = 90 - angle;
  if (x < 0) angle = 180 - angle;
  return y < 0 ? -angle : angle;
}

export function clamp(x: number, lo: number, hi: number): number {
  return x < lo ? lo : Math.min(x, hi);
}
