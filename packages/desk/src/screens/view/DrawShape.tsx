import { boundsOf, isSolid, resized, sizeOf, uniqueName, type Vec3 } from '@apple-tick/core/model';
import { useEffect, useState } from 'react';
import { useSession } from '../../session/hooks.ts';
import { capital, type DrawnKind, KIND_WORDS, topOf } from '../../session/model-help.ts';
import type { Session } from '../../session/session.ts';
import { inParent } from '../../session/things/arrange.ts';
import { frontOfSolids } from '../../session/things/depth.ts';
import { newObject } from '../../session/things/new-object.ts';
import { onScreen, type Screen, solve2, toScreen } from '../../session/view/view-math.ts';

/** Px of the screen that a press has to be dragged to be more than a click. */
const CLICK = 4;
/** From this elevation on, degrees, one looks down on the ground, and solids are drawn standing on it. */
const LOOKS_DOWN = 15;

type Point = readonly [number, number];

/**
 * Drawing a shape: a drag gives place and size, a click the usual size there. Shift keeps it as wide as high, Alt draws
 * from its middle, Escape ends it.
 */
export function DrawShape(props: { kind: DrawnKind; screen: Screen; width: number; height: number }) {
  const { kind, screen } = props;
  const s = useSession();
  const [from, setFrom] = useState<Point | null>(null);
  const [to, setTo] = useState<Point | null>(null);
  const [fromMiddle, setFromMiddle] = useState(false);
  const made = newObject(s.store, kind, 'ob_drawn', '', null);
  /** Number of the axis that lies across: y of the plane one faces, z on the ground. */
  const across: 1 | 2 = isSolid(made) && Math.abs(screen.elevation) >= LOOKS_DOWN ? 2 : 1;
  const unit = (k: number): Vec3 => [k === 0 ? 1 : 0, k === 1 ? 1 : 0, k === 2 ? 1 : 0];
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      if (e.key !== 'Escape') return;
      s.set({ tool: 'place' });
      e.preventDefault();
      e.stopPropagation();
    };
    addEventListener('keydown', onKey, true);
    return () => removeEventListener('keydown', onKey, true);
  }, [s]);
  /** The point of the plane under the pointer, px, whole. */
  const pointAt = (e: React.PointerEvent): Point | null => {
    const box = e.currentTarget.getBoundingClientRect();
    const o = toScreen(screen, [0, 0, 0]);
    const d = solve2(
      onScreen(screen, unit(0)),
      onScreen(screen, unit(across)),
      e.clientX - box.left - o[0],
      e.clientY - box.top - o[1],
    );
    return d && [Math.round(d[0]), Math.round(d[1])];
  };
  const seen = (p: Point) => toScreen(screen, [p[0], across === 1 ? p[1] : 0, across === 2 ? p[1] : 0]);
  const corners = from && to ? rectOf(from, to, false, fromMiddle) : null;
  return (
    <svg
      className="absolute inset-0 touch-none cursor-crosshair"
      width={props.width}
      height={props.height}
      role="application"
      aria-label={`Drawing a ${KIND_WORDS[kind]}: drag for place and size, click for the usual size`}
      onPointerDown={(e) => {
        const at = e.button === 0 ? pointAt(e) : null;
        if (!at) return;
        e.currentTarget.setPointerCapture(e.pointerId);
        setFrom(at);
        setTo(at);
      }}
      onPointerMove={(e) => {
        const at = from && e.buttons === 1 ? pointAt(e) : null;
        if (!from || !at) return;
        setTo(constrained(from, at, e.shiftKey));
        setFromMiddle(e.altKey);
      }}
      onPointerUp={(e) => {
        if (!from || !to) return;
        setFrom(null);
        setTo(null);
        const [a, b] = [seen(from), seen(to)];
        const isClick = Math.hypot(a[0] - b[0], a[1] - b[1]) < CLICK;
        addShape(s, kind, across, isClick ? from : null, rectOf(from, to, e.shiftKey, e.altKey));
      }}
    >
      {corners && (
        <polygon
          points={[
            [corners.x0, corners.y0],
            [corners.x1, corners.y0],
            [corners.x1, corners.y1],
            [corners.x0, corners.y1],
          ]
            .map((p) => seen(p as unknown as Point).join(','))
            .join(' ')}
          fill="var(--mark)"
          fillOpacity="0.18"
          stroke="var(--mark)"
          strokeWidth="1.6"
        />
      )}
    </svg>
  );
}

function constrained(from: Point, to: Point, square: boolean): Point {
  if (!square) return to;
  const side = Math.max(Math.abs(to[0] - from[0]), Math.abs(to[1] - from[1]));
  return [
    from[0] + side * (Math.sign(to[0] - from[0]) || 1),
    from[1] + side * (Math.sign(to[1] - from[1]) || 1),
  ];
}

interface Rect {
  x0: number;
  y0: number;
  x1: number;
  y1: number;
}
function rectOf(from: Point, end: Point, square: boolean, fromMiddle: boolean): Rect {
  const to = constrained(from, end, square);
  const start: Point = fromMiddle ? [2 * from[0] - to[0], 2 * from[1] - to[1]] : from;
  return {
    x0: Math.min(start[0], to[0]),
    x1: Math.max(start[0], to[0]),
    y0: Math.min(start[1], to[1]),
    y1: Math.max(start[1], to[1]),
  };
}

/** A new shape of this place and size, or of the usual size round a point; it is chosen. */
function addShape(s: Session, kind: DrawnKind, across: 1 | 2, at: Point | null, rect: Rect): void {
  const parent = topOf(s.store);
  const beside = s.store.all('objects').filter((o) => o.parent === parent);
  const name = uniqueName(capital(KIND_WORDS[kind]), new Set(beside.map((o) => o.name)));
  const id = s.newId('objects');
  let o = newObject(s.store, kind, id, name, parent);
  if (!at) {
    const [w, h] = [rect.x1 - rect.x0, rect.y1 - rect.y0];
    if (o.kind === 'text') o = { ...o, size: Math.max(4, Math.min(1000, Math.round(h / 1.25))) };
    else {
      if (w > 0) o = resized(o, 0, w);
      if (h > 0) o = resized(o, across, h);
      // A ball stays one.
      if (o.kind === 'ball') o = resized(o, 3 - across, Math.round((w + h) / 2) || 1);
    }
  }
  const [low, high] = boundsOf(o);
  const middle: Point = at ?? [(rect.x0 + rect.x1) / 2, (rect.y0 + rect.y1) / 2];
  const centre = (k: 0 | 1 | 2) => ((low[k] as number) + (high[k] as number)) / 2;
  // What is flat and drawn over a solid, as it is seen from the front, lies before that.
  const isFront = s.state.azimuth === 0 && s.state.elevation === 0;
  const half = [(high[0] - low[0]) / 2, (high[1] - low[1]) / 2] as const;
  const under = {
    x0: middle[0] - half[0],
    x1: middle[0] + half[0],
    y0: middle[1] - half[1],
    y1: middle[1] + half[1],
  };
  const front = isFront && !isSolid(o) ? frontOfSolids(s, under) : null;
  const exact: Vec3 =
    across === 1
      ? [middle[0] - centre(0), middle[1] - centre(1), front === null ? 0 : Math.ceil(front) + 1]
      : // It stands on the ground.
        [middle[0] - centre(0), -(low[1] as number), middle[1] - centre(2)];
  const position = inParent(s, parent, exact).map((n) => Math.round(n)) as Vec3;
  if (kind !== 'group' && sizeOf(o).every((n) => n === 0)) return;
  s.edit(`Drew ${name}`, (e) => e.add('objects', { ...o, base: { ...o.base, position } }));
  s.set({ tool: 'place' });
  s.chooseNew(id);
  s.set({ naming: id });
}
