import { CHANNELS, type SceneObject } from '@apple-tick/core/model';
import { pathOf, poseClip } from '@apple-tick/core/run';
import { useMemo } from 'react';
import { useHead, useOpen, useSession, useUi } from '../../session/hooks.ts';
import { setProperties } from '../../session/things/properties.ts';
import { follow, type Posed, parentAxes } from '../../session/view/drag.ts';
import { type Screen, solve2, toScreen } from '../../session/view/view-math.ts';

/** Points of a path at most; beyond so many keys none of them is drawn. */
const MOST = 400;
const MOST_KEYS = 120;

/**
 * Where the chosen object goes in the open clip: the way of its pivot, a dot at each frame number, so that dots far apart
 * are fast, and a point at each key of its place, which is dragged.
 */
export function MotionPath(props: { posed: Posed; screen: Screen; width: number; height: number }) {
  const { posed, screen } = props;
  const s = useSession();
  const open = useOpen();
  const { fps } = useHead();
  const id = useUi((u) => u.object);
  const clip = open?.clip;
  const { program } = posed;
  const index = program.objectIndex.get(id ?? '');
  const path = useMemo(() => {
    if (!clip || index === undefined || clip.duration === 0 || clip.tracks.length === 0) return null;
    const frames = Math.max(1, Math.round(clip.duration * fps));
    const step = Math.ceil(frames / MOST);
    const times = Array.from({ length: Math.floor(frames / step) + 1 }, (_, i) => (i * step) / fps);
    const keyed = clip.tracks.filter((t) => t.object === id && t.property.startsWith('position.'));
    const all = new Set(keyed.flatMap((t) => t.keys.map((k) => k.t)));
    const keys = all.size > MOST_KEYS ? [] : [...all].filter((t) => t <= clip.duration);
    const way = pathOf(program, clip.id, index, times);
    const at = pathOf(program, clip.id, index, keys);
    return way && at ? { way, at, keys } : null;
  }, [program, clip, index, id, fps]);
  const object = id === null ? undefined : s.store.get('objects', id);
  if (!path || !clip || !object || index === undefined) return null;
  const seen = (list: Float64Array, n: number) =>
    toScreen(screen, [list[3 * n] as number, list[3 * n + 1] as number, list[3 * n + 2] as number]);
  const tenth = (n: number) => Math.round(n * 10) / 10;
  const points = Array.from({ length: path.way.length / 3 }, (_, n) => seen(path.way, n).map(tenth));
  const [first] = points;
  // What stays where it is has no way.
  const far = (p: readonly number[]) =>
    Math.abs((p[0] as number) - (first?.[0] as number)) + Math.abs((p[1] as number) - (first?.[1] as number));
  if (!first || points.every((p) => far(p) < 2)) return null;
  const d = `M${points.map((p) => p.join(' ')).join('L')}`;
  return (
    <svg
      className="absolute inset-0 pointer-events-none"
      width={props.width}
      height={props.height}
      role="group"
      aria-label={`Way of ${object.name}`}
      data-motion-path
    >
      <path d={d} fill="none" stroke="var(--mark-halo)" strokeWidth="4" strokeOpacity="0.8" />
      <path d={d} fill="none" stroke="var(--mark)" strokeWidth="1.6" />
      <path
        d={points.map((p) => `M${p.join(' ')}h0`).join('')}
        stroke="var(--mark)"
        strokeWidth="4"
        strokeLinecap="round"
      />
      {path.keys.map((t, n) => {
        const p = seen(path.at, n);
        return (
          <rect
            key={t}
            data-path-key={t.toFixed(2)}
            x={p[0] - 5}
            y={p[1] - 5}
            width="10"
            height="10"
            rx="5"
            fill="var(--mark-halo)"
            stroke="var(--mark)"
            strokeWidth="2.4"
            className="pointer-events-auto cursor-move"
            onPointerDown={(e) => {
              if (e.button !== 0) return;
              e.stopPropagation();
              dragPoint(s, posed, screen, object, index, t, e);
            }}
          />
        );
      })}
    </svg>
  );
}

/** The place that is keyed at a time follows the pointer, in the plane that is seen widest. */
function dragPoint(
  s: ReturnType<typeof useSession>,
  posed: Posed,
  screen: Screen,
  object: SceneObject,
  index: number,
  t: number,
  e: React.PointerEvent,
): void {
  s.set({ playhead: t, playing: false, keying: true });
  const axes = parentAxes(posed, screen, object);
  const away = axes.map((x) => Math.abs(x[2]));
  const [a, b] = [0, 1, 2].filter((k) => k !== away.indexOf(Math.max(...away))) as [number, number];
  const [ax, bx] = [axes[a], axes[b]];
  if (!ax || !bx) return;
  // Where it stands there now, from the pose of that time.
  const clip = s.open?.clip;
  const from = clip ? placeAt(s, clip.id, index, t) : null;
  if (!from) return;
  follow(s, `Moved the way of ${object.name}`, e.clientX, e.clientY, (dx, dy) => {
    const by = solve2(ax, bx, dx, dy);
    if (!by) return;
    const round = (n: number) => Math.round(n * 10) / 10;
    setProperties(s, `Moved the way of ${object.name}`, [
      {
        object: object.id,
        changes: [
          [`position.${'xyz'[a]}`, round((from[a] as number) + by[0])],
          [`position.${'xyz'[b]}`, round((from[b] as number) + by[1])],
        ],
      },
    ]);
  });
}

function placeAt(s: ReturnType<typeof useSession>, clip: string, index: number, t: number): number[] {
  const values = s.program.base.slice();
  poseClip(s.program, clip, t, values);
  return Array.from(values.subarray(index * CHANNELS, index * CHANNELS + 3));
}
