/** Where an object can be pointed at, for inputs that name it instead of a point: files, tests, the keyboard's focus. */
import { visiblePoint } from '../world/index.ts';
import type { Context } from './context.ts';
import type { Scene } from './scene.ts';
import { FRAME_HEIGHT, FRAME_WIDTH } from './state.ts';

/**
 * A visible point of an object, px from the middle of what people see, y up: of its own faces, else of what lies below it;
 * null when none can be seen.
 */
export function aimAt(
  { program, state }: Context,
  scene: Scene,
  object: number,
): [x: number, y: number] | null {
  const { parent } = program.geometry;
  const { one } = state;
  const [halfWidth, halfHeight] = [(one[FRAME_WIDTH] as number) / 2, (one[FRAME_HEIGHT] as number) / 2];
  const faces = scene.faces();
  const topmost = (x: number, y: number) => scene.hit(x, y);
  const isOfIt = (o: number) => {
    for (let at = o; at >= 0; at = parent[at] as number) if (at === object) return true;
    return false;
  };
  return (
    visiblePoint(faces, (o) => o === object, halfWidth, halfHeight, topmost) ??
    visiblePoint(faces, isOfIt, halfWidth, halfHeight, topmost)
  );
}
