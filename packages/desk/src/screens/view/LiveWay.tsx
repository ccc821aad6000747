import type { Vec3 } from '@apple-tick/core/model';
import { useRef } from 'react';
import { useHead, useRun, useSession } from '../../session/hooks.ts';
import { type Screen, toScreen } from '../../session/view/view-math.ts';

/** Ticks of the way that stay: ten seconds. */
const TICKS = 600;
/** Px after which the way has another point. */
const APART = 3;
/** Ticks after which what is too long ago is looked for. */
const FADES = 30;
const pivot = new Float64Array(3);

/** The way that the visitor has walked in this run. */
export function LiveWay(props: { screen: Screen; width: number; height: number }) {
  return useHead().visitor ? <Way {...props} /> : null;
}

function Way({ screen, width, height }: { screen: Screen; width: number; height: number }) {
  const s = useSession();
  // Drawn anew when the visitor stands elsewhere, and now and then for what is too long ago.
  useRun((r) => {
    const object = r.program.visitor;
    if (object < 0) return '';
    r.scene.pivot(object, false, pivot);
    return `${pivot.join()} ${Math.floor(r.tick / FADES)}`;
  });
  const way = useRef<{ run: unknown; points: { tick: number; at: Vec3 }[] }>({ run: null, points: [] });
  const run = s.player?.run;
  const object = run?.program.visitor ?? -1;
  if (!run || object < 0) return null;
  if (way.current.run !== run) way.current = { run, points: [] };
  const { points } = way.current;
  run.scene.pivot(object, false, pivot);
  const at = Array.from(pivot) as Vec3;
  const last = points.at(-1);
  if (!last || Math.hypot(...at.map((n, k) => n - (last.at[k] as number))) >= APART)
    points.push({ tick: run.tick, at });
  while (points.length > 0 && (points[0]?.tick ?? 0) < run.tick - TICKS) points.shift();
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
