/**
 * Affine 3D matrices as 12 numbers in a flat Float64Array: the three basis columns, then the translation
 * (column-major without the last row): m = [xx xy xz, yx yy yz, zx zy zz, tx ty tz].
 * Every function writes into an `out` that its caller owns; nothing is allocated.
 */
import { turnInto } from './math.ts';

export const MAT = 12;

const turns = new Float64Array(6);

/**
 * Local matrix T(position + pivot) · Rx · Ry · Rz · S(scale) · T(−pivot).
 * `v[at…]` holds position (3), rotation in degrees (3), scale (3), pivot (3).
 */
export function composeLocal(out: Float64Array, o: number, v: Float64Array, at: number): void {
  for (let k = 0; k < 3; k++) turnInto(v, at + 3 + k, turns, 2 * k);
  const sx = turns[0] as number;
  const cx = turns[1] as number;
  const sy = turns[2] as number;
  const cy = turns[3] as number;
  const sz = turns[4] as number;
  const cz = turns[5] as number;
  const kx = v[at + 6] as number;
  const ky = v[at + 7] as number;
  const kz = v[at + 8] as number;
  const px = v[at + 9] as number;
  const py = v[at + 10] as number;
  const pz = v[at + 11] as number;
  // Columns of Rx·Ry·Rz, each times its factor of scale.
  const a0 = cy * cz * kx;
  const a1 = (cx * sz + sx * sy * cz) * kx;
  const a2 = (sx * sz - cx * sy * cz) * kx;
  const b0 = -cy * sz * ky;
  const b1 = (cx * cz - sx * sy * sz) * ky;
  const b2 = (sx * cz + cx * sy * sz) * ky;
  const c0 = sy * kz;
  const c1 = -sx * cy * kz;
  const c2 = cx * cy * kz;
  out[o] = a0;
  out[o + 1] = a1;
  out[o + 2] = a2;
  out[o + 3] = b0;
  out[o + 4] = b1;
  out[o + 5] = b2;
  out[o + 6] = c0;
  out[o + 7] = c1;
  out[o + 8] = c2;
  out[o + 9] = (v[at] as number) + px - (a0 * px + b0 * py + c0 * pz);
  out[o + 10] = (v[at + 1] as number) + py - (a1 * px + b1 * py + c1 * pz);
  out[o + 11] = (v[at + 2] as number) + pz - (a2 * px + b2 * py + c2 * pz);
}

/** out = a · b. `out` may be neither `a` nor `b` at overlapping offsets. */
export function multiply(
  out: Float64Array,
  o: number,
  a: Float64Array,
  i: number,
  b: Float64Array,
  j: number,
): void {
  for (let col = 0; col < 4; col++) {
    const x = b[j + col * 3] as number;
    const y = b[j + col * 3 + 1] as number;
    const z = b[j + col * 3 + 2] as number;
    for (let row = 0; row < 3; row++) {
      out[o + col * 3 + row] =
        (a[i + row] as number) * x +
        (a[i + 3 + row] as number) * y +
        (a[i + 6 + row] as number) * z +
        (col === 3 ? (a[i + 9 + row] as number) : 0);
    }
  }
}

/** The point (x, y, z) under m, written to `out[o…o+2]`. */
export function transformPoint(
  out: Float64Array,
  o: number,
  m: Float64Array,
  i: number,
  x: number,
  y: number,
  z: number,
): void {
  for (let r = 0; r < 3; r++) {
    out[o + r] =
      (m[i + r] as number) * x +
      (m[i + 3 + r] as number) * y +
      (m[i + 6 + r] as number) * z +
      (m[i + 9 + r] as number);
  }
}

/** out = inverse of m. Returns false (and leaves `out` alone) when m is singular. */
export function invert(out: Float64Array, o: number, m: Float64Array, i: number): boolean {
  const a = m[i] as number;
  const b = m[i + 1] as number;
  const c = m[i + 2] as number;
  const d = m[i + 3] as number;
  const e = m[i + 4] as number;
  const f = m[i + 5] as number;
  const g = m[i + 6] as number;
  const h = m[i + 7] as number;
  const k = m[i + 8] as number;
  const tx = m[i + 9] as number;
  const ty = m[i + 10] as number;
  const tz = m[i + 11] as number;
  const A = e * k - f * h;
  const B = f * g - d * k;
  const C = d * h - e * g;
  const det = a * A + b * B + c * C;
  if (!(Math.abs(det) > 1e-300)) return false;
  out[o] = A / det;
  out[o + 1] = (c * h - b * k) / det;
  out[o + 2] = (b * f - c * e) / det;
  out[o + 3] = B / det;
  out[o + 4] = (a * k - c * g) / det;
  out[o + 5] = (c * d - a * f) / det;
  out[o + 6] = C / det;
  out[o + 7] = (b * g - a * h) / det;
  out[o + 8] = (a * e - b * d) / det;
  for (let n = 0; n < 3; n++)
    out[o + 9 + n] = -(
      (out[o + n] as number) * tx +
      (out[o + 3 + n] as number) * ty +
      (out[o + 6 + n] as number) * tz
    );
  return true;
}

/** Whether the matrix mirrors: negative then. */
export function determinant(m: Float64Array, o: number): number {
  const at = (k: number) => m[o + k] as number;
  return (
    at(0) * (at(4) * at(8) - at(5) * at(7)) -
    at(3) * (at(1) * at(8) - at(2) * at(7)) +
    at(6) * (at(1) * at(5) - at(2) * at(4))
  );
}

/**
 * Degrees about x, y, z (applied as Rx · Ry · Rz) and scales of a matrix; of a sheared one, the nearest by its columns.
 * What is mirrored has a negative scale along x. For editing and imports only: arcs are the engine's own here.
 */
export function decompose(
  m: Float64Array,
  o: number,
): { rotation: [number, number, number]; scale: [number, number, number] } {
  const length = (k: number) => {
    const [x, y, z] = [m[o + k * 3] as number, m[o + k * 3 + 1] as number, m[o + k * 3 + 2] as number];
    return Math.sqrt(x * x + y * y + z * z);
  };
  const scale: [number, number, number] = [length(0), length(1), length(2)];
  if (determinant(m, o) < 0) scale[0] = -scale[0];
  const r = (row: number, col: 0 | 1 | 2) => (m[o + col * 3 + row] as number) / (scale[col] || 1);
  // The upper right entry of Rx · Ry · Rz is sin y; where that is ±1, z is taken to be 0.
  const sy = Math.max(-1, Math.min(1, r(0, 2)));
  const degrees = 180 / Math.PI;
  const flat = Math.abs(sy) > 1 - 1e-12;
  const x = flat ? Math.atan2(r(2, 1), r(1, 1)) : Math.atan2(-r(1, 2), r(2, 2));
  const z = flat ? 0 : Math.atan2(-r(0, 1), r(0, 0));
  return { rotation: [x * degrees, Math.asin(sy) * degrees, z * degrees], scale };
}

/** Writes the unit normal u × v of the plane whose nine numbers stand at `o` in `p`: centre, u, v. */
export function normalOf(p: Float64Array, o: number, out: Float64Array): void {
  let sum = 0;
  for (let k = 0; k < 3; k++) {
    const a = o + 3 + ((k + 1) % 3);
    const b = o + 3 + ((k + 2) % 3);
    const n = (p[a] as number) * (p[b + 3] as number) - (p[b] as number) * (p[a + 3] as number);
    out[k] = n;
    sum += n * n;
  }
  const length = Math.sqrt(sum);
  for (let k = 0; k < 3; k++) out[k] = (out[k] as number) / length;
}
