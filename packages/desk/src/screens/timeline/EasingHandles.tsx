import { clamp } from '@apple-tick/core/base';
import type { Bezier, Easing, Track } from '@apple-tick/core/model';
import { useSession } from '../../session/hooks.ts';
import type { Session } from '../../session/session.ts';
import { dragGesture } from '../../session/view/drag-gesture.ts';

/** The four numbers of a curve with handles; null for other easings. */
function bezierOf(e: Easing): Bezier | null {
  return typeof e === 'object' && 'bezier' in e ? e.bezier : null;
}

/** The handles that shape the curve from a key to the next; none where there is no curve to shape. */
export function EasingHandles(props: {
  clip: string;
  track: Track;
  t: number;
  x: (t: number) => number;
  y: (v: number) => number;
  height: number;
}) {
  const { clip, track, t, x, y, height } = props;
  const s = useSession();
  const n = track.keys.findIndex((k) => Math.abs(k.t - t) < 1e-9);
  const [key, next] = [track.keys[n], track.keys[n + 1]];
  const bezier = key && bezierOf(key.easing);
  if (!key || !next || !bezier || typeof key.value !== 'number' || typeof next.value !== 'number')
    return null;
  const [x0, x1, y0, y1] = [x(key.t), x(next.t), y(key.value), y(next.value)];
  const shape = (which: 0 | 1) => (e: React.PointerEvent) => {
    if (e.button !== 0) return;
    e.stopPropagation();
    const [hx, hy] = which === 0 ? [bezier[0], bezier[1]] : [bezier[2], bezier[3]];
    dragGesture(s, 'Shaped the easing', {
      move: (ev) => {
        const px = hx + (ev.clientX - e.clientX) / (x1 - x0);
        // Where both keys have one value there is no height to drag along: a row's height is a whole.
        const py = hy + (ev.clientY - e.clientY) / (y1 === y0 ? -height : y1 - y0);
        shapeEasing(s, clip, track, n, which, clamp(px, 0, 1), clamp(py, -5, 5));
      },
    });
  };
  /** Where a handle is drawn: on its line, but never beyond the row. */
  const within = (fromX: number, fromY: number, toX: number, toY: number): [number, number] => {
    const edge = clamp(toY, 5, Math.max(5, height - 5));
    const part = edge === toY || toY === fromY ? 1 : Math.max(0.15, (edge - fromY) / (toY - fromY));
    return [fromX + (toX - fromX) * part, edge];
  };
  return (
    <g stroke="var(--ink-2)" strokeDasharray="2 2">
      {([0, 1] as const).map((w) => {
        const [fromX, fromY] = w === 0 ? [x0, y0] : [x1, y1];
        const [px, py] = w === 0 ? [bezier[0], bezier[1]] : [bezier[2], bezier[3]];
        const [hx, hy] = within(fromX, fromY, x0 + (x1 - x0) * px, y0 + (y1 - y0) * py);
        return (
          <g key={w}>
            <line x1={fromX} y1={fromY} x2={hx} y2={hy} />
            <circle
              data-handle={`ease-${w}`}
              role="button"
              tabIndex={0}
              aria-label={w === 0 ? 'Shape how it sets out' : 'Shape how it arrives'}
              cx={hx}
              cy={hy}
              r="5"
              fill="var(--card)"
              stroke="var(--ink)"
              strokeDasharray="none"
              className="cursor-move"
              onPointerDown={shape(w)}
              onKeyDown={(e) => {
                const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[
                  e.key
                ];
                if (!by) return;
                e.preventDefault();
                e.stopPropagation();
                const far = e.shiftKey ? 0.1 : 0.02;
                const [hx, hy] = w === 0 ? [bezier[0], bezier[1]] : [bezier[2], bezier[3]];
                shapeEasing(
                  s,
                  clip,
                  track,
                  n,
                  w,
                  clamp(hx + far * (by[0] as number), 0, 1),
                  clamp(hy + far * (by[1] as number), -5, 5),
                );
              }}
            />
          </g>
        );
      })}
    </g>
  );
}

function shapeEasing(
  s: Session,
  clip: string,
  track: Track,
  n: number,
  which: 0 | 1,
  px: number,
  py: number,
): void {
  const round = (v: number) => Math.round(v * 1000) / 1000;
  s.edit('Shaped the easing', (e) =>
    e.update('clips', clip, (c) => ({
      ...c,
      tracks: c.tracks.map((t) => {
        if (t.object !== track.object || t.property !== track.property) return t;
        return {
          ...t,
          keys: t.keys.map((k, i) => {
            const now = i === n ? bezierOf(k.easing) : null;
            if (!now) return k;
            const b = [...now] as [number, number, number, number];
            b[which * 2] = round(px);
            b[which * 2 + 1] = round(py);
            return { ...k, easing: { bezier: b } };
          }),
        };
      }),
    })),
  );
}
