/** Whether a point is in a zone, how far a zone reaches along x, and the list that is swept by that. */
import { transformPoint } from '../../base/index.ts';
import { isInZone, type ZoneShape } from '../../world/index.ts';

/** What ends so late on the way ends on the boundary, which belongs to the zone. */
export const STAYS = 1 - 1e-9;

/** What `zoneExtent` wrote last: the least and the greatest x, px. */
export const range = new Float64Array(2);

export function pointIn(m: Float64Array, of: Float64Array, o: number, out: Float64Array): void {
  transformPoint(out, 0, m, 0, of[o] as number, of[o + 1] as number, of[o + 2] as number);
}

export function isIn(shape: ZoneShape, was: boolean, p: Float64Array): boolean {
  if (shape.is !== 'near') return isInZone(shape, p);
  const [x, y, z] = [p[0] as number, p[1] as number, p[2] as number];
  return x * x + y * y + z * z <= (was ? shape.leave : shape.enter) ** 2;
}

/** Writes how far along x a zone reaches, whose owner has its matrix at `o` of `m` and its pivot at `p` of `pivots`. */
export function zoneExtent(
  shape: ZoneShape,
  m: Float64Array,
  o: number,
  pivots: Float64Array,
  p: number,
): void {
  if (shape.is === 'near') {
    range[0] = (pivots[p] as number) - shape.leave;
    range[1] = (pivots[p] as number) + shape.leave;
    return;
  }
  const xx = m[o] as number;
  const yx = m[o + 3] as number;
  const zx = m[o + 6] as number;
  const middle = xx * shape.at[0] + yx * shape.at[1] + zx * shape.at[2] + (m[o + 9] as number);
  // What is endless along its z reaches no further where that stands square on x.
  const half = shape.is === 'box' ? shape.half[2] : shape.is === 'outline' ? shape.half : ENDLESS;
  const deep = zx === 0 ? 0 : Math.abs(zx) * half;
  if (shape.is === 'outline') {
    let low = Number.POSITIVE_INFINITY;
    let high = Number.NEGATIVE_INFINITY;
    const points = shape.points;
    for (let i = 0; i < points.length; i += 2) {
      const x = xx * (points[i] as number) + yx * (points[i + 1] as number);
      if (x < low) low = x;
      if (x > high) high = x;
    }
    range[0] = middle + low - deep;
    range[1] = middle + high + deep;
    return;
  }
  let reach = 0;
  if (shape.is === 'box') reach = Math.abs(xx) * shape.half[0] + Math.abs(yx) * shape.half[1] + deep;
  else
    reach =
      (Math.abs(xx) + Math.abs(yx)) * shape.radius + (shape.through ? deep : Math.abs(zx) * shape.radius);
  range[0] = middle - reach;
  range[1] = middle + reach;
}
const ENDLESS = Number.POSITIVE_INFINITY;

/** Sorts a list, nearly in order from the last time, by the numbers it stands for. */
export function sortBy(list: Int32Array, by: Float64Array): void {
  for (let i = 1; i < list.length; i++) {
    const x = list[i] as number;
    const key = by[x] as number;
    let j = i - 1;
    while (j >= 0 && (by[list[j] as number] as number) > key) {
      list[j + 1] = list[j] as number;
      j--;
    }
    list[j + 1] = x;
  }
}
