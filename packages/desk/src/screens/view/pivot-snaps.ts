/** Where a pivot that is dragged is caught. */
import { invert } from '@apple-tick/core/base';
import { boundsOf, type SceneObject, subtreeOf, type Vec3 } from '@apple-tick/core/model';
import { isBare, type PieceStore } from '../../session/model-help.ts';
import { drawnBox } from '../../session/things/box.ts';
import type { Posed } from '../../session/view/drag.ts';
import { pointIn } from '../../session/view/view-math.ts';

/**
 * The middles of round things below an object, then the nine points of its box, of a solid on three planes: px in its own
 * space. `world`: its own matrix.
 */
export function pivotSnaps(
  store: PieceStore,
  posed: Posed,
  object: SceneObject,
  world: Float64Array,
): Vec3[] {
  const box = isBare(object) ? drawnBox(store, object.id, object.id) : null;
  const [least, greatest] = box ? [box.least, box.most] : boundsOf(object);
  const part = (k: number, f: number) => (least[k] as number) * (1 - f) + (greatest[k] as number) * f;
  const snaps = hubsBelow(store, posed, object.id, world);
  for (const x of [0, 0.5, 1])
    for (const y of [0, 0.5, 1])
      for (const z of least[2] < greatest[2] ? [0.5, 1, 0] : [0.5])
        snaps.push([part(0, x), part(1, y), part(2, z)]);
  return snaps;
}

/** So many round things below one are asked for their middles. */
const MOST_HUBS = 2000;

/** The middles of round things below an object, in its own space: most of what turns turns about one. */
function hubsBelow(store: PieceStore, posed: Posed, root: string, world: Float64Array): Vec3[] {
  const back = new Float64Array(12);
  if (!invert(back, 0, world, 0)) return [];
  const hubs: Vec3[] = [];
  for (const id of subtreeOf(store, root)) {
    const { kind } = store.get('objects', id) ?? {};
    const n = posed.program.objectIndex.get(id);
    if (id === root || n === undefined || (kind !== 'ellipse' && kind !== 'ball' && kind !== 'cylinder'))
      continue;
    const w = posed.builder.world;
    hubs.push(
      pointIn(back, 0, [w[n * 12 + 9] as number, w[n * 12 + 10] as number, w[n * 12 + 11] as number]),
    );
    if (hubs.length >= MOST_HUBS) break;
  }
  return hubs.map((p) => p.map((c) => Math.round(c * 1000) / 1000 + 0) as Vec3);
}
