import { CH_OPACITY, CHANNELS, type SceneObject } from '@apple-tick/core/model';
import { type Extent, extentOf, FaceBuilder, type Program, poseClip } from '@apple-tick/core/run';
import { fitFrame, hitAll, visiblePoint } from '@apple-tick/core/world';
import type { Placed } from '@apple-tick/player';
import { DropdownMenu } from 'radix-ui';
import { memo, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { localKey } from '../../commands/local-keys.ts';
import { EffectHandles, EffectPreview } from '../../features/effects/Handles.tsx';
import { openTemplate } from '../../features/templates/edit.ts';
import { LiveZones, Zones } from '../../features/zones/Handles.tsx';
import { useHead, useSession, useUiParts, useVersion } from '../../session/hooks.ts';
import type { Posed } from '../../session/view/drag.ts';
import { track } from '../../session/view/drag-gesture.ts';
import type { Box } from '../../session/view/screen-boxes.ts';
import type { Screen } from '../../session/view/view-math.ts';
import { chooseByBox } from './choose-by-box.ts';
import { DrawShape } from './DrawShape.tsx';
import { EdgeMarks } from './EdgeMarks.tsx';
import { EmptyPiece } from './EmptyPiece.tsx';
import { ghostUnder, paintGhosts } from './ghosts.ts';
import { Handles } from './Handles.tsx';
import { LiveHand } from './LiveHand.tsx';
import { LiveWay } from './LiveWay.tsx';
import { MotionPath } from './MotionPath.tsx';
import { dragChosen, nudge } from './move.ts';
import { Pen } from './Pen.tsx';
import { PosedCues } from './PosedCues.tsx';
import { paintView } from './paint-view.ts';
import type { SnapLine } from './snapping.ts';
import { usePinch, useSize, useWheelZoom } from './use-view.ts';
import { ViewBar } from './ViewBar.tsx';
import { ViewLine, ViewMessages } from './ViewMessages.tsx';
import { WayBar } from './WayBar.tsx';

/** Spaces to try a frame in, px; none is the frame's own. */
const SPACES: Record<string, { width: number; height: number } | undefined> = {
  wide: { width: 1200, height: 360 },
  tall: { width: 400, height: 720 },
};

/** The view: the frame as it is, with handles for what is selected; while running, the live frame. */
export function View() {
  const s = useSession();
  const version = useVersion();
  const head = useHead();
  const ui = useUiParts(
    'azimuth',
    'elevation',
    'ghosts',
    'ghostCount',
    'ghostStep',
    'hidden',
    'object',
    'masks',
    'only',
    'pan',
    'playhead',
    'running',
    'shape',
    'space',
    'tool',
    'way',
    'zoom',
    'openState',
    'openClip',
    'machine',
    'picturesCame',
  );
  const box = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const size = useSize(box);
  useWheelZoom(s, box);
  usePinch(s, box);
  // Words are painted again when their font has come.
  const [, fontsCame] = useState(0);
  useEffect(() => {
    const again = () => fontsCame((n) => n + 1);
    document.fonts.addEventListener('loadingdone', again);
    return () => document.fonts.removeEventListener('loadingdone', again);
  }, []);
  const [lines, setLines] = useState<SnapLine[]>([]);
  const [marquee, setMarquee] = useState<Box | null>(null);
  const [list, setList] = useState<{ x: number; y: number; objects: SceneObject[] } | null>(null);
  const closeList = useCallback(() => setList(null), []);
  const [builder] = useState(() => new FaceBuilder());
  // biome-ignore lint/correctness/useExhaustiveDependencies: the version stands for the contents of the store
  const posed = useMemo<Posed>(() => {
    const { program } = s;
    return { program, values: program.base.slice(), builder };
  }, [s, builder, version]);
  // What people see of the piece in the space that it is tried in.
  const seen = fitFrame(head.frame, SPACES[ui.space] ?? head.frame);
  const fit = Math.min((size.w - 36) / seen.width, (size.h - 28) / seen.height);
  const screen: Screen = {
    x: size.w / 2 + ui.pan.x,
    y: size.h / 2 + ui.pan.y,
    scale: Math.max(0.02, fit * ui.zoom),
    azimuth: ui.azimuth,
    elevation: ui.elevation,
  };
  poseClip(posed.program, s.open?.clip.id ?? null, ui.playhead, posed.values);
  const way = s.inside.map((x) => x.id).join('/');
  if (way !== '') dim(posed.program, way, posed.values);
  const run = ui.running;
  const skip = unseen(posed.program, ui.hidden, ui.only);
  const faces = run ? null : posed.builder.build(posed.program, posed.values, screen, skip, seen);

  // Where what runs is shown, for whoever paints it and listens there.
  const placed = useRef<Placed | null>(null);
  placed.current = { ...screen, size, seen, masks: ui.masks };
  useEffect(() => {
    const el = canvas.current;
    const { runtime } = s;
    if (!run || !el || !runtime) return;
    return runtime.attach(el, () => placed.current as Placed);
  }, [run, s]);
  useEffect(() => {
    if (!faces) return s.runtime?.repaint();
    const ctx = canvas.current?.getContext('2d');
    const { pictures } = s;
    if (ctx)
      paintView(ctx, { size, screen, seen, faces, ground: head.frame.background, pictures, masks: ui.masks });
    if (ctx && ui.ghosts && s.open)
      paintGhosts(ctx, { session: s, program: posed.program, screen, size, seen, playhead: ui.playhead });
  });

  const local = (e: { clientX: number; clientY: number }): [number, number] => {
    const r = (canvas.current as HTMLCanvasElement).getBoundingClientRect();
    return [e.clientX - r.left, e.clientY - r.top];
  };
  const press = (e: React.PointerEvent) => {
    if (run || !faces) return;
    if (e.button === 1) return pan(e);
    if (e.button !== 0) return;
    const object = under(e)[0];
    const adding = e.shiftKey || e.ctrlKey || e.metaKey;
    if (!adding && ui.tool === 'place' && isOverUnseen(e)) {
      dragChosen(s, posed, screen, e, setLines);
      // A press that does not drag chooses what is seen there.
      const [x, y] = [e.clientX, e.clientY];
      const chooses = (up: PointerEvent) => {
        if (Math.hypot(up.clientX - x, up.clientY - y) >= 3) return;
        if (object) s.select({ kind: 'object', id: object.id });
        else s.selectMany([]);
      };
      addEventListener('pointerup', chooses, { once: true });
      return;
    }
    // Another pose of what is chosen is taken hold of: it is keyed at that pose's second.
    if (!adding && ui.tool === 'place' && ui.ghosts && !(object && s.chosen.includes(object.id))) {
      const [px, py] = local(e);
      const p = { x: (px - screen.x) / screen.scale, y: (screen.y - py) / screen.scale };
      const t = ghostUnder(s, posed.program, screen, p);
      if (t !== null) {
        s.set({ playhead: t, keying: true });
        poseClip(posed.program, s.open?.clip.id ?? null, t, posed.values);
        return dragChosen(s, posed, screen, e, setLines);
      }
    }
    if (!object) return select(e, adding);
    if (adding) return s.toggle(object.id);
    // A press on one of several chosen things takes hold of all of them.
    if (!s.chosen.includes(object.id)) s.select({ kind: 'object', id: object.id });
    else s.set({ selected: { kind: 'object', id: s.state.object as string } });
    if (ui.tool === 'place') dragChosen(s, posed, screen, e, setLines);
  };
  /** What lies under the pointer, topmost first; what is locked cannot be taken hold of. */
  const under = (e: React.MouseEvent): SceneObject[] => {
    const [x, y] = local(e);
    if (!faces) return [];
    return hitAll(faces, (x - screen.x) / screen.scale, (screen.y - y) / screen.scale)
      .flatMap((i) => s.objectOf(posed.program.objects[i]?.id ?? '') ?? [])
      .filter((o, k, all) => !o.locked && all.indexOf(o) === k);
  };
  /** Whether the pointer is over a chosen thing of which nothing is seen: it is masked away, hidden, or covered. */
  const isOverUnseen = (e: React.MouseEvent): boolean => {
    const [px, py] = local(e);
    const [x, y] = [(px - screen.x) / screen.scale, (screen.y - py) / screen.scale];
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
  const select = (e: React.PointerEvent, adding: boolean) =>
    faces && chooseByBox(s, posed, faces, screen, local(e), local, adding, setMarquee);
  const pan = (e: React.PointerEvent) => {
    e.preventDefault();
    const from = { ...s.state.pan };
    track((ev) => s.set({ pan: { x: from.x + ev.clientX - e.clientX, y: from.y + ev.clientY - e.clientY } }));
  };
  const f = { w: seen.width * screen.scale, h: seen.height * screen.scale };
  return (
    <section
      className="relative select-none bg-ground overflow-hidden min-w-0 flex flex-col"
      aria-label="View"
    >
      <ViewBar />
      <WayBar />
      {/* Heard here: what is chosen by the first click may have its handles under the second. */}
      <div
        ref={box}
        className="relative flex-1 min-h-0"
        onDoubleClick={(e) => {
          const object = run ? undefined : under(e)[0];
          if (object?.kind === 'instance' && ui.tool !== 'pen') openTemplate(s, object.id);
        }}
      >
        <canvas
          ref={canvas}
          tabIndex={0}
          aria-label={run ? 'Live frame' : 'Frame'}
          role="application"
          className="absolute inset-0 w-full h-full touch-none"
          onPointerDown={press}
          onKeyDown={(e) => {
            if (run || localKey('view', e) !== 'move') return;
            e.preventDefault();
            nudge(s, posed, e);
          }}
          onContextMenu={(e) => {
            if (run) return;
            e.preventDefault();
            const [x, y] = local(e);
            const objects = under(e);
            if (objects.length > 0) setList({ x, y, objects });
          }}
        />
        {!run && (
          <EffectPreview
            posed={posed}
            screen={screen}
            seen={seen}
            width={size.w}
            height={size.h}
            skip={skip}
            frame={canvas}
          />
        )}
        <ViewMessages screen={screen} width={f.w} height={f.h} />
        {!run && <EmptyPiece />}
        {run && <LiveHand canvas={canvas} />}
        {!run && (
          <svg className="absolute inset-0 pointer-events-none w-full h-full" aria-hidden="true">
            {lines.map((l) => (
              <line key={`${l.x1} ${l.y1} ${l.x2}`} {...l} stroke="var(--sky)" strokeWidth="1" />
            ))}
            {marquee && (
              <rect
                x={marquee.x0}
                y={marquee.y0}
                width={marquee.x1 - marquee.x0}
                height={marquee.y1 - marquee.y0}
                fill="var(--brass)"
                fillOpacity="0.12"
                stroke="var(--brass)"
              />
            )}
          </svg>
        )}
        <UnderPointer list={list} onClose={closeList} />
        {!run && ui.tool === 'shape' && (
          <DrawShape kind={ui.shape} screen={screen} width={size.w} height={size.h} />
        )}
        {!run && ui.tool === 'pen' && <Pen screen={screen} width={size.w} height={size.h} />}
        {!run && <PosedCues posed={posed} screen={screen} seen={seen} />}
        {!run && faces && <EdgeMarks posed={posed} screen={screen} seen={seen} skip={skip} />}
        {!run && ui.ghosts && <MotionPath posed={posed} screen={screen} width={size.w} height={size.h} />}
        {!run && <Handles posed={posed} screen={screen} width={size.w} height={size.h} />}
        {!run && <EffectHandles posed={posed} screen={screen} width={size.w} height={size.h} />}
        {run && <LiveWay screen={screen} width={size.w} height={size.h} />}
        {run ? (
          <LiveZones screen={screen} width={size.w} height={size.h} />
        ) : (
          <Zones posed={posed} screen={screen} width={size.w} height={size.h} />
        )}
      </div>
      <ViewLine />
    </section>
  );
}

const extent: Extent = [0, 0, 0, 0];

/** What one does not work in shows faintly: all but what lies in the object of this id, and what is above that. */
function dim(program: Program, id: string, values: Float64Array): void {
  const { parent } = program.geometry;
  const above = new Set<number>();
  for (let i = program.objectIndex.get(id) ?? -1; i >= 0; i = parent[i] as number) above.add(i);
  const own = program.objectIndex.get(id);
  program.objects.forEach((_, i) => {
    const p = parent[i] as number;
    const at = i * CHANNELS + CH_OPACITY;
    if (!above.has(i) && p !== own && (p < 0 || above.has(p))) values[at] = (values[at] as number) * FAINT;
  });
}
const FAINT = 0.22;

/** What the view leaves out: what the eye hides with all below it, or all but one object. */
function unseen(program: Program, hidden: ReadonlySet<string>, only: string | null): Uint8Array | null {
  if (hidden.size === 0 && only === null) return null;
  const out = new Uint8Array(program.objects.length);
  const alone = only !== null && program.objectIndex.has(only);
  program.objects.forEach((o, i) => {
    const parent = program.geometry.parent[i] as number;
    const above = parent >= 0 ? (out[parent] as number) : 0;
    // 1: not drawn, with all below it; 2: not drawn, because it is not the one, but what is below it may be.
    const inOnly = !alone || o.id === only || (parent >= 0 && above === 0);
    out[i] = above === 1 || hidden.has(o.id) ? 1 : inOnly ? 0 : 2;
  });
  return out.map((x) => (x > 0 ? 1 : 0));
}

/** The list of what lies under the pointer, topmost first: a cover over everything is no obstacle. */
const UnderPointer = memo(function UnderPointer(props: {
  list: { x: number; y: number; objects: SceneObject[] } | null;
  onClose: () => void;
}) {
  const s = useSession();
  const { list, onClose } = props;
  return (
    <DropdownMenu.Root open={list !== null} onOpenChange={(open) => !open && onClose()}>
      <DropdownMenu.Trigger asChild>
        <span className="absolute w-0 h-0" style={{ left: list?.x, top: list?.y }} aria-hidden="true" />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className="menu" align="start" aria-label="Under the pointer">
          {list?.objects.map((o) => (
            <DropdownMenu.Item key={o.id} onSelect={() => s.select({ kind: 'object', id: o.id })}>
              {o.name}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
});
