/** Where things wait outside the frame, to come in. */
import type { SceneObject } from '@apple-tick/core/model';
import type { Session } from '../session.ts';
import { drawnBox } from './box.ts';

/** Px between the frame's edge and what waits beyond it. */
const GAP = 8;

/** A side of the frame along each axis: −1 left or below, 1 right or above, 0 neither. */
export type Side = readonly [x: -1 | 0 | 1, y: -1 | 0 | 1];

/**
 * Where an object at the top of the tree stands that waits just outside the frame, as it is seen from the front: its place
 * along x and y, px. Along an axis on which it is beyond neither edge it keeps its place.
 */
export function outsideAt(s: Session, object: SceneObject, [dx, dy]: Side): readonly [x: number, y: number] {
  const box = drawnBox(s.store, object.id, null);
  const { width, height } = s.store.head.frame;
  const [x, y] = object.base.position;
  const along = (at: number, side: -1 | 0 | 1, half: number, axis: 0 | 1) =>
    side === 0 || !box ? at : side > 0 ? at + half + GAP - box.least[axis] : at - half - GAP - box.most[axis];
  return [along(x, dx, width / 2, 0), along(y, dy, height / 2, 1)];
}
