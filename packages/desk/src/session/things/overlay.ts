/** Things that are fixed to the frame: by which of its nine anchors, and how far from it. */
import { ANCHORS, type Anchor, type Overlay, type SceneObject } from '@apple-tick/core/model';
import type { Session } from '../session.ts';
import { pointIn, toScreen } from '../view/view-math.ts';
import { worldsOf } from './arrange.ts';

/** To the left or right, and up or down, −1 to 1. */
function wayOf(anchor: Anchor): readonly [number, number] {
  const i = ANCHORS.indexOf(anchor);
  return [(i % 3) - 1, 1 - Math.floor(i / 3)];
}

/** Where the pivot of an object is seen, px from the middle of the frame, y up. */
function seenAt(s: Session, object: SceneObject): readonly [number, number] {
  const { width, height } = s.store.head.frame;
  const [px, py, pz] = object.base.pivot;
  const fixed = s.program.geometry.overlays[s.program.objectIndex.get(object.id) ?? -1];
  if (fixed) {
    const [x, y] = object.base.position;
    return [(fixed.ax * width) / 2 + fixed.x + x + px, (fixed.ay * height) / 2 + fixed.y + y + py];
  }
  const { azimuth, elevation } = s.state;
  const world = worldsOf(s).get(object.id);
  const at = world ? pointIn(world, 0, [px, py, pz]) : object.base.position;
  const [x, y] = toScreen({ x: 0, y: 0, scale: 1, azimuth, elevation }, at);
  return [x, -y];
}

/** The anchor in whose ninth of the frame an object is seen. */
export function nearestAnchor(s: Session, object: SceneObject): Anchor {
  const { width, height } = s.store.head.frame;
  const [x, y] = seenAt(s, object);
  const third = (n: number) => (n < -1 / 6 ? 0 : n > 1 / 6 ? 2 : 1);
  return ANCHORS[(2 - third(y / height)) * 3 + third(x / width)] as Anchor;
}

/** Fixed to an anchor, and seen where it is seen now. */
export function keptAt(s: Session, object: SceneObject, anchor: Anchor): Overlay {
  const { width, height } = s.store.head.frame;
  const [x, y] = seenAt(s, object);
  const way = wayOf(anchor);
  const { position, pivot } = object.base;
  const tenth = (n: number) => Math.round(n * 10) / 10 + 0;
  return {
    anchor,
    offset: [
      tenth(x - position[0] - pivot[0] - (way[0] * width) / 2),
      tenth(y - position[1] - pivot[1] - (way[1] * height) / 2),
    ],
    ofOwn: [0, 0],
  };
}

/** Just inside its anchor's edge (with a small margin), or just beyond it, at any size of frame. */
export function beside(object: SceneObject, anchor: Anchor, where: 'inside' | 'outside'): Overlay {
  const way = wayOf(anchor);
  const [x, y] = object.base.position;
  const k = where === 'inside' ? -1 : 1;
  const margin = where === 'inside' ? -12 : 0;
  return {
    anchor,
    // Its place counts from there.
    offset: [way[0] * margin - x, way[1] * margin - y],
    ofOwn: [way[0] * 50 * k + 0, way[1] * 50 * k + 0],
  };
}
