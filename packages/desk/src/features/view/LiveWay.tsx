import type { Vec3 } from '@apple-tick/core/model';
import { useRef } from 'react';
import { useHead, useSession, useTick } from '../../session/hooks.ts';
import { type Screen, toScreen } from '../../session/view-math.ts';

/** Ticks of the way that stay: ten seconds. */
const TICKS = 600;
/** Px after which the way has another point. */
const APART = 3;

/** The way that the visitor has walked in this run. */
export function LiveWay(props: { screen: Screen; width: number; height: number }) {
  return useHead().visitor ? <Way {...props} /> : null;
}

function Way({ screen, width, height }: { screen: Screen; width: number; height: number }) {
  const s = useSession();
  const tick = useTick();
  const way = useRef<{ run: unknown; points: { tick: number; at: Vec3 }[] }>({ run: null, points: [] });
  const run = s.player?.run;
  const object = run?.program.visitor ?? -1;
  if (!run || object < 0) return null;
  if (way.current.run !== run) way.current = { run, points: [] };
  const { points } = way.current;
  const pivot = new Float64Array(3);
  run.scene.pivot(object, false, pivot);
  const at = Array.from(pivot) as Vec3;
  const last = points.at(-1);
  if (!last || Math.hypot(...at.map((n, k) => n - (last.at[k] as number))) >= APART)
    points.push({ tick, at });
  while (points.length > 0 && (points[0]?.tick ?? 0) < tick - TICKS) points.shift();
  if (points.length < 2) return null;
  const d = `M${[...points.map((p) => p.at), at].map((p) => toScreen(screen, p).map(Math.round).join(' ')).join('L')}`;
  return (
    <svg
      className="absolute inset-0 pointer-events-none"
      width={width}
      height={height}
      aria-hidden="true"
      data-walked
    >
      <path d={d} fill="none" stroke="var(--mark-halo)" strokeWidth="4" strokeOpacity="0.6" />
      <path
        d={d}
        fill="none"
        stroke="var(--mark)"
        strokeWidth="1.6"
        strokeDasharray="2 5"
        strokeLinecap="round"
      />
    </svg>
  );
}
