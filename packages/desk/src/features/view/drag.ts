/** Drags on the view: what follows the pointer. */
import type { SceneObject, Vec3 } from '@apple-tick/core/model';
import type { FaceBuilder, Program } from '@apple-tick/core/run';
import type { Session } from '../../session/session.ts';
import { column, onScreen, type Screen } from '../../session/view-math.ts';

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

/** A drag as one step of the history; Escape takes it back. Of several moves before a frame only the last counts. */
export function follow(
  s: Session,
  name: string,
  x0: number,
  y0: number,
  move: (dx: number, dy: number, e: PointerEvent) => void,
): void {
  s.history.begin(name);
  let moved = false;
  let waiting: PointerEvent | null = null;
  let frame = 0;
  const act = () => {
    const e = waiting;
    waiting = null;
    if (e) move(e.clientX - x0, e.clientY - y0, e);
  };
  const onMove = (e: PointerEvent) => {
    if (!moved && Math.hypot(e.clientX - x0, e.clientY - y0) < 3) return;
    moved = true;
    if (!waiting) frame = requestAnimationFrame(act);
    waiting = e;
  };
  const stop = () => {
    cancelAnimationFrame(frame);
    removeEventListener('pointermove', onMove);
    removeEventListener('pointerup', end);
    removeEventListener('keydown', cancel, true);
  };
  const end = () => {
    act();
    stop();
    s.history.end();
  };
  const cancel = (e: KeyboardEvent) => {
    if (e.key !== 'Escape') return;
    e.stopPropagation();
    stop();
    s.history.cancel();
  };
  addEventListener('pointermove', onMove);
  addEventListener('pointerup', end);
  addEventListener('keydown', cancel, true);
}

/** Follows the pointer until it is let go. */
export function track(move: (e: PointerEvent) => void, end?: () => void): void {
  addEventListener('pointermove', move);
  const stop = () => {
    removeEventListener('pointermove', move);
    removeEventListener('pointerup', stop);
    end?.();
  };
  addEventListener('pointerup', stop);
}
