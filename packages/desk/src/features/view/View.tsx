import type { SceneObject } from '@apple-tick/core/model';
import { FaceBuilder, type Program, poseClip } from '@apple-tick/core/run';
import { fitFrame, hitAll } from '@apple-tick/core/world';
import { paintFaces, paintGround } from '@apple-tick/painter';
import { DropdownMenu } from 'radix-ui';
import { useEffect, useLayoutEffect, useMemo, useRef, useState } from 'react';
import { useHead, useSession, useUi, useVersion } from '../../session/hooks.ts';
import type { Screen } from '../../session/view-math.ts';
import { screenBoxes } from './boxes.ts';
import type { Posed } from './drag.ts';
import { Handles } from './Handles.tsx';
import { LiveKeys } from './LiveKeys.tsx';
import { dragChosen, nudge } from './move.ts';
import { Pen } from './Pen.tsx';
import { type Box, type SnapLine, touches } from './snapping.ts';
import { ViewBar } from './ViewBar.tsx';

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
  const ui = useUi((u) => u);
  const box = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const [size, setSize] = useState({ w: 700, h: 400 });
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
  useLayoutEffect(() => {
    const el = box.current;
    if (!el) return;
    const watch = new ResizeObserver(() => setSize({ w: el.clientWidth, h: el.clientHeight }));
    watch.observe(el);
    return () => watch.disconnect();
  }, []);

  useEffect(() => {
    const el = box.current;
    if (!el) return;
    // Not React's own listener: that one may not keep the page from zooming.
    const wheel = (e: WheelEvent) => {
      e.preventDefault();
      const { zoom, pan } = s.state;
      if (!e.ctrlKey && !e.metaKey) return s.set({ pan: { x: pan.x - e.deltaX, y: pan.y - e.deltaY } });
      const r = el.getBoundingClientRect();
      s.set(
        zoomedAt(
          zoom,
          pan,
          2 ** (-e.deltaY / 240),
          e.clientX - r.left - r.width / 2,
          e.clientY - r.top - r.height / 2,
        ),
      );
    };
    el.addEventListener('wheel', wheel, { passive: false });
    return () => el.removeEventListener('wheel', wheel);
  }, [s]);

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
  poseClip(posed.program, ui.openClip, ui.playhead, posed.values);
  const run = ui.running ? (s.player?.run ?? null) : null;
  run?.scene.setFrame(seen);
  if (run) run.state.view = { azimuth: ui.azimuth, elevation: ui.elevation };
  const faces = run
    ? run.scene.faces()
    : posed.builder.build(
        posed.program,
        posed.values,
        screen,
        unseen(posed.program, ui.hidden, ui.only),
        seen,
      );

  useEffect(() => {
    const el = canvas.current;
    const ctx = el?.getContext('2d');
    if (!el || !ctx) return;
    const ratio = devicePixelRatio || 1;
    if (el.width !== size.w * ratio || el.height !== size.h * ratio) {
      el.width = size.w * ratio;
      el.height = size.h * ratio;
    }
    const k = screen.scale * ratio;
    const [w, h] = [seen.width * k, seen.height * k];
    const [x, y] = [screen.x * ratio, screen.y * ratio];
    ctx.clearRect(0, 0, el.width, el.height);
    paintGround(ctx, head.frame.background, seen.width, seen.height, { x, y, scale: k });
    ctx.save();
    if (run) {
      ctx.beginPath();
      ctx.rect(x - w / 2, y - h / 2, w, h);
      ctx.clip();
    }
    paintFaces(ctx, faces, { x, y, scale: k }, s.pictures, ui.masks);
    ctx.restore();
    if (run) return;
    // What lies outside the frame is seen faintly while working.
    // Erased in part, so that the ground behind the canvas shows through in either theme.
    ctx.globalCompositeOperation = 'destination-out';
    ctx.globalAlpha = 0.72;
    ctx.beginPath();
    ctx.rect(0, 0, el.width, el.height);
    ctx.rect(x - w / 2, y - h / 2, w, h);
    ctx.fill('evenodd');
    ctx.globalCompositeOperation = 'source-over';
    ctx.globalAlpha = 1;
  });

  const local = (e: { clientX: number; clientY: number }): [number, number] => {
    const r = (canvas.current as HTMLCanvasElement).getBoundingClientRect();
    return [e.clientX - r.left, e.clientY - r.top];
  };
  const toFrame = (e: React.PointerEvent) => {
    const [x, y] = local(e);
    return {
      x: (x - screen.x) / screen.scale + head.frame.width / 2,
      y: (y - screen.y) / screen.scale + head.frame.height / 2,
    };
  };
  const live = (e: React.PointerEvent, down: boolean) =>
    s.player?.input({ pointer: { ...toFrame(e), down } });
  const press = (e: React.PointerEvent) => {
    if (run) {
      canvas.current?.focus();
      canvas.current?.setPointerCapture(e.pointerId);
      live(e, true);
      return;
    }
    if (e.button === 1) return pan(e);
    if (e.button !== 0) return;
    const object = under(e)[0];
    const adding = e.shiftKey || e.ctrlKey || e.metaKey;
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
    return hitAll(faces, (x - screen.x) / screen.scale, (screen.y - y) / screen.scale)
      .map((i) => posed.program.objects[i] as SceneObject)
      .filter((o) => !o.locked);
  };
  /** Nothing is under the pointer: draws a box, and chooses what it touches. */
  const select = (e: React.PointerEvent, adding: boolean) => {
    const before = adding ? s.chosen : [];
    s.selectMany(before);
    const [x0, y0] = local(e);
    const boxes = screenBoxes(posed.program, faces, screen);
    const move = (ev: PointerEvent) => {
      const [x, y] = local(ev);
      const box = { x0: Math.min(x, x0), y0: Math.min(y, y0), x1: Math.max(x, x0), y1: Math.max(y, y0) };
      setMarquee(box);
      const touched = posed.program.objects.filter((o, i) => {
        const b = boxes[i];
        return b && o.kind !== 'group' && !o.locked && touches(b, box);
      });
      s.selectMany([...new Set([...before, ...touched.map((o) => o.id)])]);
    };
    track(move, () => setMarquee(null));
  };
  const pan = (e: React.PointerEvent) => {
    e.preventDefault();
    const from = { ...s.state.pan };
    track((ev) => s.set({ pan: { x: from.x + ev.clientX - e.clientX, y: from.y + ev.clientY - e.clientY } }));
  };
  const keyedInto = ui.openClip ? s.store.get('clips', ui.openClip)?.name : undefined;
  const f = { w: seen.width * screen.scale, h: seen.height * screen.scale };
  return (
    <section
      className="relative select-none bg-ground overflow-hidden min-w-0 flex flex-col"
      aria-label="View"
    >
      <ViewBar />
      <div ref={box} className="relative flex-1 min-h-0">
        <canvas
          ref={canvas}
          tabIndex={0}
          aria-label={run ? 'Live frame' : 'Frame'}
          role="application"
          className="absolute inset-0 w-full h-full touch-none"
          onPointerDown={press}
          onPointerMove={(e) => {
            if (!run) return;
            live(e, e.buttons === 1);
            const over = run.program.objects[run.state.pointer.over];
            s.set({ hint: hintFor(run.program, over) });
          }}
          onPointerUp={(e) => run && live(e, false)}
          onPointerLeave={() => run && s.player?.input({ pointer: null })}
          onKeyDown={(e) => {
            if (run) {
              if (e.key === 'Escape') canvas.current?.blur();
              else if (!e.ctrlKey && !e.metaKey && !e.repeat && e.key !== 'Tab') {
                s.player?.input({ key: e.key, down: true });
                e.stopPropagation();
              }
            } else if (e.key.startsWith('Arrow')) {
              e.preventDefault();
              nudge(s, posed, e);
            }
          }}
          onContextMenu={(e) => {
            if (run) return;
            e.preventDefault();
            const [x, y] = local(e);
            const objects = under(e);
            if (objects.length > 0) setList({ x, y, objects });
          }}
          onKeyUp={(e) => run && s.player?.input({ key: e.key, down: false })}
        />
        {ui.keying && (
          <div
            className="absolute pointer-events-none border-[5px] border-double border-brass rounded"
            style={{
              left: screen.x - f.w / 2 - 6,
              top: screen.y - f.h / 2 - 6,
              width: f.w + 12,
              height: f.h + 12,
            }}
          />
        )}
        {!run && (
          <div className="absolute bottom-1 left-1/2 -translate-x-1/2 bg-card rounded-md px-3 py-0.5 font-semibold text-ink-2 pointer-events-none whitespace-nowrap">
            {ui.keying ? (
              <span className="text-brass">Moves are keyed into {keyedInto}</span>
            ) : (
              'Moves change the base'
            )}
          </div>
        )}
        {run && ui.hint !== '' && (
          <div
            role="status"
            className="absolute bottom-2 left-1/2 -translate-x-1/2 bg-card border border-line rounded-md px-3 py-1"
          >
            {ui.hint}
          </div>
        )}
        {ui.notice !== '' && (
          <div
            role="status"
            className="absolute top-2 left-1/2 -translate-x-1/2 bg-card border border-line rounded-md px-3 py-1 max-w-[90%]"
          >
            {ui.notice}{' '}
            <button type="button" className="underline" onClick={() => s.set({ notice: '' })}>
              Good
            </button>
          </div>
        )}
        {run && <LiveKeys />}
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
        <UnderPointer list={list} onClose={() => setList(null)} />
        {!run && ui.tool === 'pen' && <Pen screen={screen} width={size.w} height={size.h} />}
        {!run && <Handles posed={posed} screen={screen} width={size.w} height={size.h} />}
      </div>
    </section>
  );
}

function hintFor(program: Program, over: SceneObject | undefined): string {
  for (let o = over; o; o = o.parent === null ? undefined : program.piece.objects[o.parent])
    if (o.hint) return o.hint;
  return '';
}

/** Follows the pointer until it is let go. */
function track(move: (e: PointerEvent) => void, end?: () => void): void {
  addEventListener('pointermove', move);
  const stop = () => {
    removeEventListener('pointermove', move);
    removeEventListener('pointerup', stop);
    end?.();
  };
  addEventListener('pointerup', stop);
}

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

/** Zoom and pan after zooming by a factor about a point, px from the middle of the view; that point stays. */
export function zoomedAt(
  zoom: number,
  pan: { x: number; y: number },
  factor: number,
  x: number,
  y: number,
): { zoom: number; pan: { x: number; y: number } } {
  const to = Math.max(0.1, Math.min(16, zoom * factor));
  const k = to / zoom;
  return { zoom: to, pan: { x: x - (x - pan.x) * k, y: y - (y - pan.y) * k } };
}

/** The list of what lies under the pointer, topmost first: a cover over everything is no obstacle. */
function UnderPointer(props: {
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
}
