import { pathBounds, type Subpath } from '@apple-tick/core/base';
import { useEffect, useState } from 'react';
import { localKey } from '../../commands/local-keys.ts';
import { useSession } from '../../session/hooks.ts';
import { addDrawnPath } from '../../session/things/new-object.ts';
import { onScreen, type Screen, solve2, toScreen } from '../../session/view/view-math.ts';

type Node = { at: [number, number]; in?: [number, number]; out?: [number, number] };

/**
 * Drawing a path by points: a click sets a corner, a drag a smooth point. The first point, Enter or a double-click
 * ends it; Backspace takes the last point back, Escape the whole.
 */
export function Pen({ screen, width, height }: { screen: Screen; width: number; height: number }) {
  const s = useSession();
  const [nodes, setNodes] = useState<Node[]>([]);
  const [over, setOver] = useState<[number, number] | null>(null);
  const finish = (closed: boolean, list: Node[]) => {
    setNodes([]);
    s.set({ tool: 'place' });
    if (list.length < 2) return;
    const subpath: Subpath = { closed, nodes: list };
    const [x0, y0, x1, y1] = pathBounds([subpath]);
    const middle: [number, number] = [Math.round((x0 + x1) / 2), Math.round((y0 + y1) / 2)];
    const centred = list.map((n) => ({
      ...n,
      at: [n.at[0] - middle[0], n.at[1] - middle[1]] as [number, number],
    }));
    addDrawnPath(s, { closed, nodes: centred }, middle);
  };
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      const key = localKey('pen', e);
      if (key === 'done') finish(false, nodes);
      else if (key === 'leave') {
        setNodes([]);
        s.set({ tool: 'place' });
      } else if (key === 'back') setNodes(nodes.slice(0, -1));
      else return;
      e.preventDefault();
      e.stopPropagation();
    };
    addEventListener('keydown', onKey, true);
    return () => removeEventListener('keydown', onKey, true);
  });
  /** The point of the plane z = 0 under the pointer, px, whole. */
  const pointAt = (e: React.PointerEvent): [number, number] | null => {
    const box = e.currentTarget.getBoundingClientRect();
    const o = toScreen(screen, [0, 0, 0]);
    const d = solve2(
      onScreen(screen, [1, 0, 0]),
      onScreen(screen, [0, 1, 0]),
      e.clientX - box.left - o[0],
      e.clientY - box.top - o[1],
    );
    return d && [Math.round(d[0]), Math.round(d[1])];
  };
  const seen = (p: readonly [number, number]) => toScreen(screen, [p[0], p[1], 0]);
  const near = (a: readonly [number, number], e: React.PointerEvent) => {
    const box = e.currentTarget.getBoundingClientRect();
    const q = seen(a);
    return Math.hypot(e.clientX - box.left - q[0], e.clientY - box.top - q[1]) < 9;
  };
  const shown = over && nodes.length > 0 ? [...nodes, { at: over } as Node] : nodes;
  return (
    <svg
      className="absolute inset-0 touch-none cursor-crosshair"
      width={width}
      height={height}
      role="application"
      aria-label="Drawing a path: click for corners, drag for curves, Enter ends"
      onPointerDown={(e) => {
        const at = pointAt(e);
        if (!at || e.button !== 0) return;
        e.currentTarget.setPointerCapture(e.pointerId);
        const first = nodes[0];
        if (first && nodes.length > 1 && near(first.at, e)) return finish(true, nodes);
        const last = nodes.at(-1);
        if (last && near(last.at, e)) return finish(false, nodes);
        setNodes([...nodes, { at }]);
      }}
      onPointerMove={(e) => {
        const at = pointAt(e);
        if (!at) return;
        setOver(at);
        const last = nodes.at(-1);
        if (e.buttons !== 1 || !last || near(last.at, e)) return;
        const out: [number, number] = [at[0] - last.at[0], at[1] - last.at[1]];
        setNodes([...nodes.slice(0, -1), { ...last, out, in: [-out[0], -out[1]] }]);
      }}
    >
      <path d={lineOf(shown, seen)} fill="none" stroke="var(--brass)" strokeWidth="2" />
      {nodes.map((n) => {
        const p = seen(n.at);
        return (
          <rect
            key={`${n.at[0]} ${n.at[1]}`}
            x={p[0] - 4}
            y={p[1] - 4}
            width="8"
            height="8"
            rx={n.out ? 4 : 1}
            fill="var(--card)"
            stroke="var(--brass)"
            strokeWidth="2"
          />
        );
      })}
    </svg>
  );
}

/** The line through what is drawn, bent as its points say, as a path on the screen. */
function lineOf(shown: readonly Node[], seen: (p: readonly [number, number]) => [number, number]): string {
  return shown
    .map((n, i) => {
      const p = seen(n.at).join(' ');
      const before = shown[i - 1];
      if (!before) return `M${p}`;
      const c1 = seen([before.at[0] + (before.out?.[0] ?? 0), before.at[1] + (before.out?.[1] ?? 0)]);
      const c2 = seen([n.at[0] + (n.in?.[0] ?? 0), n.at[1] + (n.in?.[1] ?? 0)]);
      return `C${c1.join(' ')} ${c2.join(' ')} ${p}`;
    })
    .join('');
}
