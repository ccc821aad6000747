/** Moving the chosen objects on the view: by dragging with snapping, by the arrow keys. */
import { CHANNELS, type SceneObject, type Vec3 } from '@apple-tick/core/model';
import { ancestorsOf } from '../../session/model-help.ts';
import type { Session } from '../../session/session.ts';
import { chosenWords, duplicate, topmost } from '../../session/things/arrange.ts';
import { keyMoves, type ObjectChange, setProperties } from '../../session/things/properties.ts';
import { follow, type Posed, parentAxes } from '../../session/view/drag.ts';
import { type Box, screenBoxes, union } from '../../session/view/screen-boxes.ts';
import { type Screen, solve2 } from '../../session/view/view-math.ts';
import { type SnapLine, snapMove } from './snapping.ts';

const PLACE = ['position.x', 'position.y', 'position.z'] as const;

interface Moving {
  id: string;
  from: Vec3;
  axes: Vec3[];
  /** The two axes that are seen widest: it moves in their plane. */
  a: number;
  b: number;
}

function movingOf(s: Session, posed: Posed, screen: Screen): Moving[] {
  return topmost(s).flatMap((id) => {
    const object = s.store.get('objects', id);
    const i = posed.program.objectIndex.get(id);
    if (!object || i === undefined || object.locked) return [];
    const axes = parentAxes(posed, screen, object);
    const away = axes.map((x) => Math.abs(x[2]));
    const [a, b] = [0, 1, 2].filter((k) => k !== away.indexOf(Math.max(...away))) as [number, number];
    const from = Array.from(posed.values.subarray(i * CHANNELS, i * CHANNELS + 3)) as Vec3;
    return [{ id, from, axes, a, b }];
  });
}

/** What a dragged box may snap to: the frame first, then every other object that is drawn. */
function targetsOf(
  s: Session,
  posed: Posed,
  screen: Screen,
  moving: readonly Moving[],
): { own: Box | null; targets: Box[] } {
  const boxes = screenBoxes(posed.program, posed.builder.faces, screen);
  const moved = new Set(moving.map((m) => m.id));
  // What is above moves along in part, what is below wholly: neither is a target.
  const above = new Set(moving.flatMap((m) => ancestorsOf(s.store, m.id)));
  const inside = new Uint8Array(boxes.length);
  const { width, height } = s.store.head.frame;
  const [w, h] = [(width * screen.scale) / 2, (height * screen.scale) / 2];
  const targets: Box[] = [{ x0: screen.x - w, y0: screen.y - h, x1: screen.x + w, y1: screen.y + h }];
  let own: Box | null = null;
  posed.program.objects.forEach((o, i) => {
    const parent = posed.program.geometry.parent[i] as number;
    inside[i] = moved.has(o.id) || (parent >= 0 && inside[parent] === 1) ? 1 : 0;
    const box = boxes[i];
    if (!box) return;
    if (moved.has(o.id)) own = union(own ?? undefined, box);
    else if (inside[i] === 0 && !above.has(o.id)) targets.push(box);
  });
  return { own, targets };
}

/**
 * Follows the pointer; Alt lets go of snapping, Shift keeps to steps of 10 px. Begun with Alt it is a copy that moves.
 * `show` draws the snap lines.
 */
export function dragChosen(
  s: Session,
  posed: Posed,
  screen: Screen,
  e: React.PointerEvent,
  show: (lines: SnapLine[]) => void,
): void {
  const moving = movingOf(s, posed, screen);
  if (moving.length === 0) return;
  const { own, targets } = targetsOf(s, posed, screen, moving);
  let copies = e.altKey;
  const name = `${copies ? 'Copied' : 'Moved'} ${chosenWords(
    s,
    moving.map((m) => m.id),
  )}`;
  addEventListener('pointerup', () => show([]), { once: true });
  follow(s, name, e.clientX, e.clientY, (dx, dy, ev) => {
    if (copies) {
      copies = false;
      s.selectMany(moving.map((m) => m.id));
      duplicate(s, true);
      // The copies stand in the order of what they are of.
      if (s.chosen.length !== moving.length) return;
      for (const [k, id] of s.chosen.entries()) (moving[k] as Moving).id = id;
    }
    const snapped =
      own && !e.altKey && !ev.altKey && !ev.shiftKey ? snapMove(own, dx, dy, targets) : { dx, dy, lines: [] };
    show(snapped.lines);
    const grid = ev.shiftKey ? 10 : snapped.lines.length > 0 ? 0.01 : 1;
    const list: ObjectChange[] = [];
    const before: ObjectChange[] = [];
    for (const m of moving) {
      const d = solve2(m.axes[m.a] as Vec3, m.axes[m.b] as Vec3, snapped.dx, snapped.dy);
      if (!d) continue;
      const at = (k: number, by: number) => Math.round(((m.from[k] as number) + by) / grid) * grid;
      const pair = [m.a, m.b] as const;
      before.push({
        object: m.id,
        changes: pair.map((k) => [PLACE[k] as string, m.from[k] as number] as const),
      });
      list.push({
        object: m.id,
        changes: pair.map((k, n) => [PLACE[k] as string, tidy(at(k, d[n] as number))] as const),
      });
    }
    keyMoves(s, before);
    setProperties(s, name, list);
  });
}

const tidy = (n: number) => Math.round(n * 1000) / 1000 + 0;

/** One px, or ten with Shift, along the screen's axes. */
export function nudge(s: Session, posed: Posed, e: { key: string; shiftKey: boolean }): void {
  const step = e.shiftKey ? 10 : 1;
  const axis = e.key === 'ArrowLeft' || e.key === 'ArrowRight' ? 0 : s.state.elevation > 60 ? 2 : 1;
  const sign = e.key === 'ArrowRight' || e.key === (axis === 2 ? 'ArrowDown' : 'ArrowUp') ? 1 : -1;
  const property = PLACE[axis] as string;
  const list = topmost(s).flatMap((id) => {
    const i = posed.program.objectIndex.get(id);
    const object: SceneObject | undefined = s.store.get('objects', id);
    if (i === undefined || !object || object.locked) return [];
    return [{ object: id, now: posed.values[i * CHANNELS + axis] as number }];
  });
  if (list.length === 0) return;
  keyMoves(
    s,
    list.map(({ object, now }) => ({ object, changes: [[property, now]] })),
  );
  setProperties(
    s,
    `Moved ${chosenWords(
      s,
      list.map((x) => x.object),
    )}`,
    list.map(({ object, now }) => ({ object, changes: [[property, now + sign * step]] })),
  );
}
