/** Numbers in rows. */

/** The typed array with room for `length` numbers; what it held stands at its start. */
export function grown<T extends Int32Array | Uint8Array | Float64Array>(a: T, length: number): T {
  const b = new (a.constructor as new (n: number) => T)(length);
  b.set(a);
  return b;
}

/** Least and greatest of the k-th of every three numbers: of points x, y, z one after another. At least one point. */
export function extentOf(points: ArrayLike<number>, k: 0 | 1 | 2): [least: number, greatest: number] {
  let least = points[k] as number;
  let greatest = least;
  for (let i = k + 3; i < points.length; i += 3) {
    least = Math.min(least, points[i] as number);
    greatest = Math.max(greatest, points[i] as number);
  }
  return [least, greatest];
}
