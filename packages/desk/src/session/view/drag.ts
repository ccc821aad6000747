/** Drags on the view: what follows the pointer. */
import type { SceneObject, Vec3 } from '@apple-tick/core/model';
import type { FaceBuilder, Program } from '@apple-tick/core/run';
import type { Session } from '../session.ts';
import { dragGesture } from './drag-gesture.ts';
import { column, onScreen, type Screen } from './view-math.ts';

export interface Posed {
  program: Program;
  values: Float64Array;
  builder: FaceBuilder;
}

/** The parent's axes as seen on the screen. */
export function parentAxes(posed: Posed, screen: Screen, object: SceneObject): Vec3[] {
  const p = object.parent === null ? -1 : (posed.program.objectIndex.get(object.parent) ?? -1);
  const unit: Vec3[] = [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
  ];
  // What is on top moves along the frame's own axes.
  if (object.overlay)
    return [
      [screen.scale, 0, 0],
      [0, -screen.scale, 0],
      [0, 0, screen.scale],
    ];
  return unit.map((u, k) => onScreen(screen, p < 0 ? u : column(posed.builder.world, p * 12, k)));
}

/** A drag as one step of the history; Escape, or an undo, takes it back. Of several moves before a frame only the last counts. */
export function follow(
  s: Session,
  name: string,
  x0: number,
  y0: number,
  move: (dx: number, dy: number, e: PointerEvent) => void,
): void {
  let moved = false;
  let waiting: PointerEvent | null = null;
  let frame = 0;
  const act = () => {
    const e = waiting;
    waiting = null;
    if (e) move(e.clientX - x0, e.clientY - y0, e);
  };
  dragGesture(s, name, {
    move: (e) => {
      if (!moved && Math.hypot(e.clientX - x0, e.clientY - y0) < 3) return;
      moved = true;
      if (!waiting) frame = requestAnimationFrame(act);
      waiting = e;
    },
    drop: act,
    stop: () => cancelAnimationFrame(frame),
  });
}
