import type { SceneObject } from '@apple-tick/core/model';
import { FaceBuilder, poseClip } from '@apple-tick/core/run';
import { type FaceList, fitFrame } from '@apple-tick/core/world';
import type { Placed } from '@apple-tick/player';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { localKey } from '../../commands/local-keys.ts';
import { EffectHandles, EffectPreview } from '../../features/effects/Handles.tsx';
import { openTemplate } from '../../features/templates/edit.ts';
import { LiveZones, Zones } from '../../features/zones/Handles.tsx';
import { useHead, useSession, useUiParts, useVersion } from '../../session/hooks.ts';
import type { Posed } from '../../session/view/drag.ts';
import type { Box } from '../../session/view/screen-boxes.ts';
import type { Screen } from '../../session/view/view-math.ts';
import { DrawShape } from './DrawShape.tsx';
import { EdgeMarks } from './EdgeMarks.tsx';
import { EmptyPiece } from './EmptyPiece.tsx';
import { paintGhosts } from './ghosts.ts';
import { Handles } from './Handles.tsx';
import { LiveHand } from './LiveHand.tsx';
import { LiveWay } from './LiveWay.tsx';
import { MotionPath } from './MotionPath.tsx';
import { nudge } from './move.ts';
import { Pen } from './Pen.tsx';
import { PosedCues } from './PosedCues.tsx';
import { paintView } from './paint-view.ts';
import type { SnapLine } from './snapping.ts';
import { UnderPointer } from './UnderPointer.tsx';
import { dim, unseen } from './unseen.ts';
import { usePinch, useSize, useWheelZoom } from './use-view.ts';
import { ViewBar } from './ViewBar.tsx';
import { ViewLine, ViewMessages } from './ViewMessages.tsx';
import { viewHands } from './view-hands.ts';
import { WayBar } from './WayBar.tsx';

/** Spaces to try a frame in, px; none is the frame's own. */
const SPACES: Record<string, { width: number; height: number } | undefined> = {
  wide: { width: 1200, height: 360 },
  tall: { width: 400, height: 720 },
};

/** What of the desk's state the frame is drawn by. */
const DRAWN_BY = [
  ...(['azimuth', 'elevation', 'ghosts', 'ghostCount', 'ghostStep', 'hidden', 'object'] as const),
  ...(['masks', 'only', 'pan', 'playhead', 'running', 'space', 'tool', 'way', 'zoom'] as const),
  ...(['openState', 'openClip', 'machine', 'picturesCame'] as const),
];

/** The view: the frame as it is, with handles for what is selected; while running, the live frame. */
export function View() {
  const s = useSession();
  const version = useVersion();
  const head = useHead();
  const ui = useUiParts(...DRAWN_BY);
  const box = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const size = useSize(box);
  useWheelZoom(s, box);
  usePinch(s, box);
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

  usePainted(canvas, { run, faces, screen, size, seen, posed });
  const hands = viewHands({ s, posed, faces, screen, seen, canvas, setLines, setMarquee });
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
        onDrop={hands.drop}
        onDoubleClick={(e) => {
          const object = run ? undefined : hands.under(e)[0];
          if (object?.kind === 'instance' && ui.tool !== 'pen') openTemplate(s, object.id);
        }}
      >
        <canvas
          ref={canvas}
          tabIndex={0}
          aria-label={run ? 'Live frame' : 'Frame'}
          role="application"
          className="absolute inset-0 w-full h-full touch-none"
          onPointerDown={hands.press}
          onKeyDown={(e) => {
            if (run || localKey('view', e) !== 'move') return;
            e.preventDefault();
            nudge(s, posed, e);
          }}
          onContextMenu={(e) => {
            if (run) return;
            e.preventDefault();
            const [x, y] = hands.local(e);
            const objects = hands.under(e);
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
        {!run && <Drawn lines={lines} marquee={marquee} />}
        <UnderPointer list={list} onClose={closeList} />
        <Over posed={posed} screen={screen} size={size} seen={seen} skip={skip} />
      </div>
      <ViewLine />
    </section>
  );
}

/** Paints what is worked on, again whenever it is drawn; what runs paints itself, where it is told. */
function usePainted(
  canvas: React.RefObject<HTMLCanvasElement | null>,
  shown: {
    run: boolean;
    faces: FaceList | null;
    screen: Screen;
    size: { w: number; h: number };
    seen: { width: number; height: number };
    posed: Posed;
  },
): void {
  const s = useSession();
  const { run, faces, screen, size, seen, posed } = shown;
  const { masks, ghosts, playhead } = s.state;
  // Words are painted again when their font has come.
  const [, fontsCame] = useState(0);
  useEffect(() => {
    const again = () => fontsCame((n) => n + 1);
    document.fonts.addEventListener('loadingdone', again);
    return () => document.fonts.removeEventListener('loadingdone', again);
  }, []);
  // Where what runs is shown, for whoever paints it and listens there.
  const placed = useRef<Placed | null>(null);
  placed.current = { ...screen, size, seen, masks };
  useEffect(() => {
    const el = canvas.current;
    const { runtime } = s;
    if (!run || !el || !runtime) return;
    return runtime.attach(el, () => placed.current as Placed);
  }, [run, s, canvas]);
  useEffect(() => {
    if (!faces) return s.runtime?.repaint();
    const ctx = canvas.current?.getContext('2d');
    const { pictures } = s;
    if (ctx)
      paintView(ctx, { size, screen, seen, faces, ground: s.store.head.frame.background, pictures, masks });
    if (ctx && ghosts && s.open)
      paintGhosts(ctx, { session: s, program: posed.program, screen, size, seen, playhead: playhead });
  });
}

/** Lines that something was caught by, and the box in which things are being chosen. */
function Drawn({ lines, marquee }: { lines: readonly SnapLine[]; marquee: Box | null }) {
  return (
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
  );
}

/** What lies over the frame: handles of what is chosen, and what is being drawn; in a run its ways and zones. */
function Over(props: {
  posed: Posed;
  screen: Screen;
  size: { w: number; h: number };
  seen: { width: number; height: number };
  skip: Uint8Array | null;
}) {
  const { posed, screen, size, seen, skip } = props;
  const { running, tool, shape, ghosts } = useUiParts('running', 'tool', 'shape', 'ghosts');
  const at = { screen, width: size.w, height: size.h };
  if (running)
    return (
      <>
        <LiveWay {...at} />
        <LiveZones {...at} />
      </>
    );
  return (
    <>
      {tool === 'shape' && <DrawShape kind={shape} {...at} />}
      {tool === 'pen' && <Pen {...at} />}
      <PosedCues posed={posed} screen={screen} seen={seen} />
      <EdgeMarks posed={posed} screen={screen} seen={seen} skip={skip} />
      {ghosts && <MotionPath posed={posed} {...at} />}
      <Handles posed={posed} {...at} />
      <EffectHandles posed={posed} {...at} />
      <Zones posed={posed} {...at} />
    </>
  );
}
