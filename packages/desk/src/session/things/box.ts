/** Boxes along the axes that hold other boxes. */
import { composeLocal, MAT, multiply, transformPoint } from '@apple-tick/core/base';
import { boundsOf, drawn, MAX_NESTING, type SceneObject, subtreeOf, type Vec3 } from '@apple-tick/core/model';
import { isBare, type PieceStore } from '../model-help.ts';

/** Least and greatest corner, px. One that holds nothing yet has its least above its greatest. */
export interface Box {
  readonly least: Vec3;
  readonly most: Vec3;
}

export const emptyBox = (): Box => ({
  least: [Infinity, Infinity, Infinity],
  most: [-Infinity, -Infinity, -Infinity],
});

const corner = new Float64Array(3);

/** Makes a box hold all that is drawn of an object; `m` leads from the object's own space into that of the box. */
export function widen({ least, most }: Box, o: SceneObject, m: Float64Array): void {
  const [a, b] = boundsOf(drawn(o));
  for (let n = 0; n < 8; n++) {
    const of = [0, 1, 2].map((k) => ((n >> k) & 1 ? b[k] : a[k]) as number) as Vec3;
    transformPoint(corner, 0, m, 0, ...of);
    for (let k = 0; k < 3; k++) {
      least[k] = Math.min(least[k] as number, corner[k] as number);
      most[k] = Math.max(most[k] as number, corner[k] as number);
    }
  }
}

const row = new Float64Array(MAT);
const local = new Float64Array(MAT);

/** The matrix from a part's space to that of the object `root` above it, or (null) of the piece, as all stand in the base. */
function matrixWithin(store: PieceStore, part: SceneObject, root: string | null): Float64Array {
  let m = Float64Array.of(1, 0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0);
  for (let o: SceneObject | undefined = part; o && o.id !== root; o = store.get('objects', o.parent ?? '')) {
    const { position, rotation, scale, pivot } = o.base;
    row.set([...position, ...rotation, ...scale, ...pivot]);
    composeLocal(local, 0, row, 0);
    const above = new Float64Array(MAT);
    multiply(above, 0, local, 0, m, 0);
    m = above;
  }
  return m;
}

/** Makes a box hold what is drawn of a part; of an instance all that its template holds. `m`: from the part's space to the box's. */
function widenByPart(store: PieceStore, box: Box, o: SceneObject, m: Float64Array, depth: number): void {
  if (o.kind === 'instance' && depth < MAX_NESTING)
    for (const inner of store.within('objects', o.template)) {
      const whole = new Float64Array(MAT);
      multiply(whole, 0, m, 0, matrixWithin(store, inner, null), 0);
      widenByPart(store, box, inner, whole, depth + 1);
    }
  else if (!isBare(o) && !o.guide) widen(box, o, m);
}

/**
 * The box round all that is drawn of an object and what lies below it, in the space of `root`, which is it or above it, or
 * (null) of the piece; null where nothing is drawn. Guides do not count.
 */
export function drawnBox(store: PieceStore, id: string, root: string | null): Box | null {
  const box = emptyBox();
  for (const part of subtreeOf(store, id)) {
    const o = store.get('objects', part);
    if (o) widenByPart(store, box, o, matrixWithin(store, o, root), 0);
  }
  return box.least[0] > box.most[0] ? null : box;
}
