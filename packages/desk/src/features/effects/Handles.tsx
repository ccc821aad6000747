import { type Burst, CHANNELS, type Effect, type Vec3 } from '@apple-tick/core/model';
import { type ActiveEffect, burstPath, FaceBuilder, lengthOf } from '@apple-tick/core/run';
import { Effects, paintFrame } from '@apple-tick/player';
import { type RefObject, useEffect, useRef, useState } from 'react';
import { useSession, useTable, useUi } from '../../session/hooks.ts';
import { follow, type Posed } from '../../session/view/drag.ts';
import { onScreen, pointIn, type Screen, solve2, toScreen } from '../../session/view/view-math.ts';
import { Knob } from '../../ui/marks.tsx';
import { changeEffect, whereSetOff } from './edit.ts';

/** Seconds between one showing of an effect and the next. */
const PAUSE = 0.7;
/** Seconds of the fastest particle's way that the handles of a burst stand for. */
const HANDLE_AT = 0.5;

interface Placed {
  posed: Posed;
  screen: Screen;
  width: number;
  height: number;
}
interface Props extends Placed {
  seen: { readonly width: number; readonly height: number };
  /** 1 for what is not seen. */
  skip: Uint8Array | null;
  /** The canvas of the frame, which trembles. */
  frame: RefObject<HTMLCanvasElement | null>;
}

/** The effect whose properties are open. */
function useOpen(): Effect | undefined {
  const s = useSession();
  useTable('effects');
  const id = useUi((u) => (u.selected?.kind === 'effect' ? u.selected.id : null));
  return s.store.get('effects', id ?? '');
}

/** It is shown where it is set off, again and again. */
export function EffectPreview(props: Props) {
  const effect = useOpen();
  return effect ? <Showing key={effect.id} {...props} id={effect.id} /> : null;
}

/** A burst can be shaped there. */
export function EffectHandles(props: Placed) {
  const effect = useOpen();
  return effect?.kind === 'burst' ? <BurstHandles {...props} effect={effect} /> : null;
}

/** Where it begins: at the pivot of the object at which it is set off first, or in the middle of the frame. */
function originOf(posed: Posed, object: string | undefined): { at: Vec3; onTop: boolean; index: number } {
  const index = posed.program.objectIndex.get(object ?? '') ?? -1;
  if (index < 0) return { at: [0, 0, 0], onTop: false, index };
  if (posed.program.geometry.onTop[index] === 1) {
    const out = new Float64Array(3);
    posed.builder.pivotInto(index, true, out);
    return { at: [out[0] as number, out[1] as number, 0], onTop: true, index };
  }
  const pivot = Array.from(posed.values.subarray(index * CHANNELS + 9, index * CHANNELS + 12)) as Vec3;
  return { at: pointIn(posed.builder.world, index * 12, pivot), onTop: false, index };
}

function Showing({ id, posed, screen, seen, width, height, skip, frame }: Props & { id: string }) {
  const s = useSession();
  const canvas = useRef<HTMLCanvasElement>(null);
  const [effects] = useState(() => new Effects());
  const [builder] = useState(() => new FaceBuilder());
  const latest = useRef({ posed, screen, seen, skip });
  latest.current = { posed, screen, seen, skip };
  useEffect(() => {
    const el = canvas.current;
    const ctx = el?.getContext('2d');
    const shaken = frame.current;
    if (!el || !ctx) return;
    const still = matchMedia('(prefers-reduced-motion: reduce)').matches;
    const from = performance.now();
    let n = 0;
    let before = -1;
    const paint = (now: number) => {
      const { posed: p, screen: at, seen: frameSize, skip: left } = latest.current;
      const { program } = p;
      const compiled = program.parts.effects;
      const effect = compiled?.effects[compiled.index.get(id) ?? -1];
      if (!effect) return;
      const length = lengthOf(effect.effect);
      const t = still ? length * 0.3 : ((now - from) / 1000) % (length + PAUSE);
      // Each showing is a burst of its own.
      if (t < before) n++;
      before = t;
      const { at: origin, onTop, index } = originOf(p, whereSetOff(s.store, id));
      const object = effect.effect.kind === 'burst' ? -1 : index;
      const show: ActiveEffect = { effect, n, object, age: t, origin, onTop, shown: true };
      if (object >= 0) {
        // What happens to one thing is seen by painting all anew, as a run does.
        const faces = builder.build(program, p.values, at, left, frameSize);
        effects.build(program, [show], program.piece.seed, builder, at);
        paintFrame(ctx, {
          ...{
            size: { w: width, h: height },
            screen: at,
            seen: frameSize,
            faces,
            cut: false,
            overlay: effects,
          },
          ...{ ground: program.piece.frame.background, pictures: s.pictures, masks: s.state.masks },
        });
        return;
      }
      effects.build(program, [show], program.piece.seed, null, at);
      const ratio = devicePixelRatio || 1;
      if (el.width !== width * ratio || el.height !== height * ratio) {
        el.width = width * ratio;
        el.height = height * ratio;
      }
      ctx.clearRect(0, 0, el.width, el.height);
      const place = { x: at.x * ratio, y: at.y * ratio, scale: at.scale * ratio };
      effects.paint(ctx, place, frameSize, s.pictures);
      const [x, y, turn] = effects.shake as unknown as [number, number, number];
      if (shaken)
        shaken.style.transform = `translate(${x * at.scale}px, ${-y * at.scale}px) rotate(${-turn}deg)`;
    };
    let next = 0;
    const loop = (now: number) => {
      paint(now);
      next = requestAnimationFrame(loop);
    };
    if (still) paint(from);
    else next = requestAnimationFrame(loop);
    return () => {
      cancelAnimationFrame(next);
      if (shaken) shaken.style.transform = '';
    };
  }, [s, id, effects, builder, frame, width, height]);
  return (
    <canvas
      ref={canvas}
      className="absolute inset-0 w-full h-full pointer-events-none"
      aria-hidden="true"
      data-effect-preview
    />
  );
}

const round = (n: number) => Math.round(n * 10) / 10;

/** The ways of the fastest particles, and handles for direction, speed and spread. */
function BurstHandles({ effect, posed, screen, width, height }: Placed & { effect: Burst }) {
  const s = useSession();
  const { at, onTop } = originOf(posed, whereSetOff(s.store, effect.id));
  const place = (p: Vec3): [number, number] =>
    onTop ? [screen.x + screen.scale * p[0], screen.y - screen.scale * p[1]] : toScreen(screen, p);
  const off = (x: number, y: number, z = 0): [number, number] => place([at[0] + x, at[1] + y, at[2] + z]);
  const axes: [Vec3, Vec3] = onTop
    ? [
        [screen.scale, 0, 0],
        [0, -screen.scale, 0],
      ]
    : [onScreen(screen, [1, 0, 0]), onScreen(screen, [0, 1, 0])];
  const reach = Math.max(24 / screen.scale, effect.speed[1] * HANDLE_AT);
  const toward = (degrees: number, far: number) => {
    const a = (degrees * Math.PI) / 180;
    return off(far * Math.cos(a), far * Math.sin(a));
  };
  const ways = (effect.spread > 0 ? [0, 0.5, 1] : [0.5]).map((part) => burstPath(effect, part, 24));
  const drag = (e: React.PointerEvent, from: [number, number], to: (x: number, y: number) => object) => {
    const start = solve2(axes[0], axes[1], from[0] - off(0, 0)[0], from[1] - off(0, 0)[1]);
    if (!start) return;
    follow(s, `Shaped ${effect.name}`, e.clientX, e.clientY, (dx, dy) => {
      const by = solve2(axes[0], axes[1], dx, dy);
      if (by) changeEffect(s, effect, to(start[0] + by[0], start[1] + by[1]), `Shaped ${effect.name}`);
    });
  };
  const degreesOf = (x: number, y: number) => (Math.atan2(y, x) * 180) / Math.PI;
  /** The same angle, as near to this one as it comes. */
  const near = (degrees: number, to: number) => degrees + 360 * Math.round((to - degrees) / 360);
  const tip = toward(effect.direction, reach);
  const sides = [-1, 1].map((side) => ({
    side,
    at: toward(effect.direction + (side * effect.spread) / 2, reach * 0.66),
  }));
  return (
    <svg
      className="absolute inset-0 pointer-events-none"
      width={width}
      height={height}
      role="group"
      aria-label={`Shape of ${effect.name}`}
    >
      <Flights ways={ways} off={off} />
      <line
        x1={off(0, 0)[0]}
        y1={off(0, 0)[1]}
        x2={tip[0]}
        y2={tip[1]}
        stroke="var(--mark)"
        strokeWidth="1.5"
      />
      {sides.map(({ side, at: p }) => (
        <Knob
          color="var(--mark)"
          key={side}
          name={side < 0 ? 'burst-spread-' : 'burst-spread+'}
          at={p}
          round
          onStart={(e) =>
            drag(e, p, (x, y) => {
              const off = Math.abs(near(degreesOf(x, y), effect.direction) - effect.direction);
              return { spread: Math.min(360, Math.round(2 * off)) };
            })
          }
        />
      ))}
      <Knob
        color="var(--mark)"
        name="burst-reach"
        at={tip}
        onStart={(e) =>
          drag(e, tip, (x, y) => {
            const far = Math.hypot(x, y) / HANDLE_AT;
            const [least, most] = effect.speed;
            const part = most > 0 ? least / most : 0.5;
            return {
              direction: Math.round(near(degreesOf(x, y), effect.direction)),
              speed: [Math.round(far * part), Math.round(far)],
            };
          })
        }
      />
    </svg>
  );
}

/** How its particles fly: the middle and both sides of the spread. */
function Flights({
  ways,
  off,
}: {
  ways: readonly (readonly Vec3[])[];
  off: (x: number, y: number, z?: number) => [number, number];
}) {
  return ways.map((way, i) => (
    <path
      // biome-ignore lint/suspicious/noArrayIndexKey: left, middle, right
      key={i}
      d={`M${way
        .map((p) =>
          off(...p)
            .map(round)
            .join(' '),
        )
        .join('L')}`}
      fill="none"
      stroke="var(--mark)"
      strokeOpacity={i === 1 || ways.length === 1 ? 1 : 0.55}
      strokeWidth="1.5"
      strokeDasharray="5 4"
    />
  ));
}
