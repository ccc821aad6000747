import type { FaceList } from '@apple-tick/core/world';
import { isBare } from '../../session/model-help.ts';
import type { Session } from '../../session/session.ts';
import type { Posed } from '../../session/view/drag.ts';
import { track } from '../../session/view/drag-gesture.ts';
import { type Box, screenBoxes } from '../../session/view/screen-boxes.ts';
import type { Screen } from '../../session/view/view-math.ts';
import { touches } from './snapping.ts';

/**
 * Nothing is under the pointer: it draws a box from `from`, px of the view, and chooses what the box touches, besides
 * what was chosen before when `adding`. `show` draws the box.
 */
export function chooseByBox(
  s: Session,
  posed: Posed,
  faces: FaceList,
  screen: Screen,
  from: readonly [number, number],
  local: (e: PointerEvent) => readonly [number, number],
  adding: boolean,
  show: (box: Box | null) => void,
): void {
  const before = adding ? s.chosen : [];
  s.selectMany(before);
  const [x0, y0] = from;
  const boxes = screenBoxes(posed.program, faces, screen);
  const move = (ev: PointerEvent) => {
    const [x, y] = local(ev);
    const box = { x0: Math.min(x, x0), y0: Math.min(y, y0), x1: Math.max(x, x0), y1: Math.max(y, y0) };
    show(box);
    const touched = posed.program.objects.flatMap((part, i) => {
      const b = boxes[i];
      if (!b || isBare(part) || !touches(b, box)) return [];
      const o = s.objectOf(part.id);
      return o && !o.locked ? [o] : [];
    });
    s.selectMany([...new Set([...before, ...touched.map((o) => o.id)])]);
  };
  track(move, () => show(null));
}
