import { CHANNELS, type SceneObject, type Vec3 } from '@apple-tick/core/model';
import { compile, FaceBuilder, type Program, poseClip } from '@apple-tick/core/run';
import { hitTop } from '@apple-tick/core/world';
import { paintFaces } from '@apple-tick/painter';
import { useEffect, useLayoutEffect, useMemo, useRef, useState } from 'react';
import { useHead, useSession, useUi, useVersion } from '../../session/hooks.ts';
import { keyMoves, setProperties } from '../../session/properties.ts';
import { type Screen, solve2 } from '../../session/view-math.ts';
import { follow, type Posed, parentAxes } from './drag.ts';
import { Handles } from './Handles.tsx';
import { LiveKeys } from './LiveKeys.tsx';
import { ViewBar } from './ViewBar.tsx';

/** The view: the frame as it is, with handles for what is selected; while running, the live frame. */
export function View() {
  const s = useSession();
  const version = useVersion();
  const head = useHead();
  const ui = useUi((u) => u);
  const box = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const [size, setSize] = useState({ w: 700, h: 400 });
  useLayoutEffect(() => {
    const el = box.current;
    if (!el) return;
    const watch = new ResizeObserver(() => setSize({ w: el.clientWidth, h: el.clientHeight }));
    watch.observe(el);
    return () => watch.disconnect();
  }, []);

  // biome-ignore lint/correctness/useExhaustiveDependencies: the version stands for the contents of the store
  const posed = useMemo<Posed>(() => {
    const program = compile(s.piece());
    return { program, values: program.base.slice(), builder: new FaceBuilder() };
  }, [s, version]);
  const fit = Math.min((size.w - 36) / head.frame.width, (size.h - 28) / head.frame.height);
  const screen: Screen = {
    x: size.w / 2,
    y: size.h / 2,
    scale: Math.max(0.02, fit * ui.zoom),
    azimuth: ui.azimuth,
    elevation: ui.elevation,
  };
  poseClip(posed.program, ui.openClip, ui.playhead, posed.values);
  const run = ui.running ? (s.player?.run ?? null) : null;
  if (run) run.state.view = { azimuth: ui.azimuth, elevation: ui.elevation };
  const faces = run ? run.scene.faces() : posed.builder.build(posed.program, posed.values, screen);

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
    const [w, h] = [head.frame.width * k, head.frame.height * k];
    const [x, y] = [screen.x * ratio, screen.y * ratio];
    ctx.clearRect(0, 0, el.width, el.height);
    ctx.fillStyle = head.frame.background;
    ctx.fillRect(x - w / 2, y - h / 2, w, h);
    ctx.save();
    if (run) {
      ctx.beginPath();
      ctx.rect(x - w / 2, y - h / 2, w, h);
      ctx.clip();
    }
    paintFaces(ctx, faces, { x, y, scale: k });
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

  const local = (e: React.PointerEvent): [number, number] => {
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
    const [x, y] = local(e);
    const hit = hitTop(faces, (x - screen.x) / screen.scale, (screen.y - y) / screen.scale);
    const object = posed.program.objects[hit];
    s.select(object ? { kind: 'object', id: object.id } : null);
    if (!object) s.set({ object: null });
    if (object && ui.tool === 'place') dragBody(s, posed, screen, object, e);
  };
  const keyedInto = ui.openClip ? s.store.get('clips', ui.openClip)?.name : undefined;
  const f = { w: head.frame.width * screen.scale, h: head.frame.height * screen.scale };
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
            } else if (e.key.startsWith('Arrow')) nudge(s, posed, e);
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
        {run && <LiveKeys />}
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

function dragBody(
  s: ReturnType<typeof useSession>,
  posed: Posed,
  screen: Screen,
  object: SceneObject,
  e: React.PointerEvent,
): void {
  const i = posed.program.objectIndex.get(object.id) as number;
  const from = Array.from(posed.values.subarray(i * CHANNELS, i * CHANNELS + 3)) as Vec3;
  const axes = parentAxes(posed, screen, object);
  // It moves in the plane of the two axes that are seen widest.
  const away = axes.map((a) => Math.abs(a[2]));
  const [a, b] = [0, 1, 2].filter((k) => k !== away.indexOf(Math.max(...away))) as [number, number];
  follow(s, `Moved ${object.name}`, e.clientX, e.clientY, (dx, dy, ev) => {
    const d = solve2(axes[a] as Vec3, axes[b] as Vec3, dx, dy);
    if (!d) return;
    const grid = ev.shiftKey ? 10 : 1;
    const snap = (x: number) => Math.round(x / grid) * grid;
    const names = ['x', 'y', 'z'].map((n) => `position.${n}`);
    keyMoves(
      s,
      object.id,
      [a, b].map((k) => [names[k] as string, from[k] as number] as const),
    );
    setProperties(s, `Moved ${object.name}`, object.id, [
      [names[a] as string, snap((from[a] as number) + d[0])],
      [names[b] as string, snap((from[b] as number) + d[1])],
    ]);
  });
}

function nudge(s: ReturnType<typeof useSession>, posed: Posed, e: React.KeyboardEvent): void {
  const id = s.state.object;
  const object = id === null ? undefined : s.store.get('objects', id);
  const i = posed.program.objectIndex.get(id ?? '');
  if (!object || i === undefined) return;
  e.preventDefault();
  const step = e.shiftKey ? 10 : 1;
  const axis = e.key === 'ArrowLeft' || e.key === 'ArrowRight' ? 0 : s.state.elevation > 60 ? 2 : 1;
  const sign = e.key === 'ArrowRight' || e.key === (axis === 2 ? 'ArrowDown' : 'ArrowUp') ? 1 : -1;
  const property = `position.${'xyz'[axis]}`;
  const now = posed.values[i * CHANNELS + axis] as number;
  keyMoves(s, object.id, [[property, now]]);
  setProperties(s, `Moved ${object.name}`, object.id, [[property, now + sign * step]]);
}
