/** What a press in the view takes hold of, or chooses. */
import type { SceneObject, Vec3 } from '@apple-tick/core/model';
import { type Extent, extentOf, poseClip } from '@apple-tick/core/run';
import { type FaceList, hitAll, visiblePoint } from '@apple-tick/core/world';
import type { Session } from '../../session/session.ts';
import type { Posed } from '../../session/view/drag.ts';
import { track } from '../../session/view/drag-gesture.ts';
import type { Box } from '../../session/view/screen-boxes.ts';
import { onScreen, type Screen, solve2, toScreen } from '../../session/view/view-math.ts';
import { chooseByBox } from './choose-by-box.ts';
import { ghostUnder } from './ghosts.ts';
import { dragChosen } from './move.ts';
import type { SnapLine } from './snapping.ts';

/** What is seen now, and where: none of it is kept past the next drawing. */
interface Seen {
  readonly s: Session;
  readonly posed: Posed;
  /** Null in a run: hands are the piece's then. */
  readonly faces: FaceList | null;
  readonly screen: Screen;
  /** Size of the frame, px of the piece. */
  readonly seen: { readonly width: number; readonly height: number };
  readonly canvas: React.RefObject<HTMLCanvasElement | null>;
  readonly setLines: (lines: SnapLine[]) => void;
  readonly setMarquee: (box: Box | null) => void;
}

export function viewHands({ s, posed, faces, screen, seen, canvas, setLines, setMarquee }: Seen) {
  const local = (e: { clientX: number; clientY: number }): [number, number] => {
    const r = (canvas.current as HTMLCanvasElement).getBoundingClientRect();
    return [e.clientX - r.left, e.clientY - r.top];
  };
  /** The place under the pointer, px of the frame, y up. */
  const inFrame = (e: { clientX: number; clientY: number }) => {
    const [x, y] = local(e);
    return { x: (x - screen.x) / screen.scale, y: (screen.y - y) / screen.scale };
  };
  /** The point of the plane that one faces under the pointer, px of the piece, whole; null where it is seen from its edge. */
  const inPiece = (e: { clientX: number; clientY: number }): Vec3 | null => {
    const [x, y] = local(e);
    const middle = toScreen(screen, [0, 0, 0]);
    const p = solve2(onScreen(screen, [1, 0, 0]), onScreen(screen, [0, 1, 0]), x - middle[0], y - middle[1]);
    return p && [Math.round(p[0]), Math.round(p[1]), 0];
  };
  /** What lies under the pointer, topmost first; what is locked cannot be taken hold of. */
  const under = (e: React.MouseEvent): SceneObject[] => {
    if (!faces) return [];
    const { x, y } = inFrame(e);
    return hitAll(faces, x, y)
      .flatMap((i) => s.objectOf(posed.program.objects[i]?.id ?? '') ?? [])
      .filter((o, k, all) => !o.locked && all.indexOf(o) === k);
  };
  /** Whether the pointer is over a chosen thing of which nothing is seen: it is masked away, hidden, or covered. */
  const isOverUnseen = (e: React.MouseEvent): boolean => {
    const { x, y } = inFrame(e);
    return s.chosen.some((id) => {
      const i = posed.program.objectIndex.get(id);
      if (i === undefined || !faces || s.store.get('objects', id)?.locked) return false;
      const [left, bottom, right, top] = extentOf(posed.program, posed.values, posed.builder, i, extent);
      if (x < left || x > right || y < bottom || y > top) return false;
      const { parent } = posed.program.geometry;
      const isOfIt = (o: number) => {
        for (let at = o; at >= 0; at = parent[at] as number) if (at === i) return true;
        return false;
      };
      const topmost = (a: number, b: number) => hitAll(faces, a, b)[0] ?? -1;
      return visiblePoint(faces, isOfIt, seen.width, seen.height, topmost) === null;
    });
  };
  /** Drags what is chosen; a press that does not drag chooses what is seen there. */
  const takeUnseen = (e: React.PointerEvent, object: SceneObject | undefined) => {
    dragChosen(s, posed, screen, e, setLines);
    const [x, y] = [e.clientX, e.clientY];
    const chooses = (up: PointerEvent) => {
      if (Math.hypot(up.clientX - x, up.clientY - y) >= 3) return;
      if (object) s.select({ kind: 'object', id: object.id });
      else s.selectMany([]);
    };
    addEventListener('pointerup', chooses, { once: true });
  };
  /** Another pose of what is chosen is taken hold of: it is keyed at that pose's second. Whether there is one. */
  const takeGhost = (e: React.PointerEvent): boolean => {
    const t = ghostUnder(s, posed.program, screen, inFrame(e));
    if (t === null) return false;
    s.set({ playhead: t, keying: true });
    poseClip(posed.program, s.open?.clip.id ?? null, t, posed.values);
    dragChosen(s, posed, screen, e, setLines);
    return true;
  };
  const select = (e: React.PointerEvent, adding: boolean) =>
    faces && chooseByBox(s, posed, faces, screen, local(e), local, adding, setMarquee);
  const pan = (e: React.PointerEvent) => {
    e.preventDefault();
    const from = { ...s.state.pan };
    track((ev) => s.set({ pan: { x: from.x + ev.clientX - e.clientX, y: from.y + ev.clientY - e.clientY } }));
  };
  const press = (e: React.PointerEvent) => {
    if (!faces) return;
    if (e.button === 1) return pan(e);
    if (e.button !== 0) return;
    const { tool, ghosts } = s.state;
    const object = under(e)[0];
    const adding = e.shiftKey || e.ctrlKey || e.metaKey;
    const places = !adding && tool === 'place';
    if (places && isOverUnseen(e)) return takeUnseen(e, object);
    if (places && ghosts && !(object && s.chosen.includes(object.id)) && takeGhost(e)) return;
    if (!object) return select(e, adding);
    if (adding) return s.toggle(object.id);
    // A press on one of several chosen things takes hold of all of them.
    if (!s.chosen.includes(object.id)) s.select({ kind: 'object', id: object.id });
    else s.set({ selected: { kind: 'object', id: s.state.object as string } });
    if (tool === 'place') dragChosen(s, posed, screen, e, setLines);
  };
  /** Files are brought in where they are dropped. */
  const drop = (e: React.DragEvent) => {
    if (e.dataTransfer.files.length === 0) return;
    e.preventDefault();
    e.stopPropagation();
    s.page?.take([...e.dataTransfer.files], { at: inPiece(e), over: under(e)[0]?.id ?? null });
  };
  return { press, under, local, drop };
}

const extent: Extent = [0, 0, 0, 0];
