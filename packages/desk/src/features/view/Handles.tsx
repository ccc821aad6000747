import {
  boundsOf,
  CHANNELS,
  drawn,
  editDrawing,
  isSolid,
  type SceneObject,
  sizeOf,
  type Vec3,
} from '@apple-tick/core/model';
import { useState } from 'react';
import { chosenWords, topmost } from '../../session/arrange.ts';
import { useSession, useUi } from '../../session/hooks.ts';
import { keyMoves, setProperties } from '../../session/properties.ts';
import { resizedFromEdge } from '../../session/resize.ts';
import { column, onScreen, pointIn, type Screen, solve2, toScreen } from '../../session/view-math.ts';
import { AXIS_COLORS, AxisMark, axisOnScreen, REACH } from './AxisMark.tsx';
import { screenBoxes } from './boxes.ts';
import { cornersOf } from './corners.ts';
import { follow, type Posed, parentAxes } from './drag.ts';
import { ManyHandles, takesTogether } from './ManyHandles.tsx';
import { hasPoints, PathPoints } from './PathPoints.tsx';
import { union } from './snapping.ts';

/** What can be taken hold of on the view for the selected object, by the tool that is on. */
export function Handles(props: { posed: Posed; screen: Screen; width: number; height: number }) {
  const { posed, screen } = props;
  const s = useSession();
  const id = useUi((u) => u.object);
  const also = useUi((u) => u.also);
  const tool = useUi((u) => u.tool);
  const [dragged, setSwing] = useState<Vec3 | null>(null);
  const shown = useUi((u) => u.swing);
  const record = id === null ? undefined : s.store.get('objects', id);
  // What is seen: its look's shape, where it has one.
  const object = record && drawn(record);
  const i = posed.program.objectIndex.get(id ?? '');
  if (!object || i === undefined || posed.builder.world.length < (i + 1) * 12) return null;
  const world = posed.builder.world;
  const row = posed.values.subarray(i * CHANNELS, (i + 1) * CHANNELS);
  const pivot = Array.from(row.subarray(9, 12)) as Vec3;
  const swing = dragged ?? (shown === object.id ? pivot : null);
  const at = toScreen(screen, pointIn(world, i * 12, pivot));
  // The others that are chosen, and what a chosen group holds, by what is seen of them.
  const boxes =
    also.length > 0 || object.kind === 'group' ? screenBoxes(posed.program, posed.builder.faces, screen) : [];
  const each = [...also, ...(object.kind === 'group' ? [object.id] : [])].flatMap(
    (x) => boxes[posed.program.objectIndex.get(x) ?? -1] ?? [],
  );
  // Very many are marked as one.
  const others = each.length > 60 ? [each.reduce((a, b) => union(a, b))] : each;
  const corners = cornersOf(object).map((p) => toScreen(screen, pointIn(world, i * 12, p)));
  return (
    <svg
      className="absolute inset-0 pointer-events-none"
      width={props.width}
      height={props.height}
      aria-hidden="true"
    >
      <ParentLink posed={posed} screen={screen} index={i} at={at} />
      {object.kind !== 'group' && <Corners points={corners} />}
      {others.map((b) => (
        <Corners
          key={`${b.x0} ${b.y0} ${b.x1} ${b.y1}`}
          points={[
            [b.x0, b.y0],
            [b.x1, b.y1],
          ]}
        />
      ))}
      {object.hitShape && (
        <polygon
          points={hitOutline(object.hitShape)
            .map((p) => toScreen(screen, pointIn(world, i * 12, p)).join())
            .join(' ')}
          fill="var(--sky)"
          fillOpacity="0.08"
          stroke="var(--sky)"
          strokeDasharray="4 3"
        />
      )}
      <AxisShown screen={screen} posed={posed} object={object} index={i} at={at} />
      {tool === 'pivot' && swing && (
        <Swing object={object} pivot={swing} screen={screen} posed={posed} index={i} />
      )}
      {tool === 'points' && hasPoints(object) && (
        <PathPoints posed={posed} screen={screen} object={object} index={i} />
      )}
      {takesTogether(s) ? (
        <ManyHandles posed={posed} screen={screen} />
      ) : (
        <>
          {tool !== 'pivot' &&
            tool !== 'points' &&
            tool !== 'pen' &&
            [0, 1, 2].map((k) => (
              <AxisHandle
                key={k}
                k={k}
                object={object}
                at={at}
                row={row}
                screen={screen}
                posed={posed}
                index={i}
              />
            ))}
          <g
            data-handle="pivot"
            className={tool === 'pivot' ? 'pointer-events-auto cursor-move' : ''}
            onPointerDown={(e) => {
              e.stopPropagation();
              dragPivot(s, posed, screen, object, i, e, setSwing);
            }}
          >
            <circle cx={at[0]} cy={at[1]} r="8" fill="var(--card)" stroke="var(--brass)" strokeWidth="2.5" />
            <circle cx={at[0]} cy={at[1]} r="2" fill="var(--ink)" />
          </g>
        </>
      )}
    </svg>
  );
}

/** A dotted line to the pivot of what the object moves with. */
function ParentLink(props: { posed: Posed; screen: Screen; index: number; at: readonly [number, number] }) {
  const { posed, screen, index, at } = props;
  const parent = posed.program.geometry.parent[index] as number;
  if (parent < 0) return null;
  const pivot = Array.from(posed.values.subarray(parent * CHANNELS + 9, parent * CHANNELS + 12)) as Vec3;
  const to = toScreen(screen, pointIn(posed.builder.world, parent * 12, pivot));
  return (
    <g data-link="parent" stroke="var(--ink-2)" fill="none">
      <line
        x1={at[0]}
        y1={at[1]}
        x2={to[0]}
        y2={to[1]}
        strokeDasharray="1 5"
        strokeLinecap="round"
        strokeWidth="2"
      />
      <path d={`M${to[0] - 5} ${to[1]}h10M${to[0]} ${to[1] - 5}v10`} strokeWidth="1.5" />
    </g>
  );
}

/** Points round a hit shape, px in the object's space. */
function hitOutline(h: NonNullable<SceneObject['hitShape']>): Vec3[] {
  const [x, y] = h.at ?? [0, 0];
  const [a, b] = [h.size[0] / 2, h.size[1] / 2];
  const round = h.kind === 'ellipse';
  return Array.from({ length: round ? 32 : 4 }, (_, i): Vec3 => {
    if (!round) return [x + (i === 0 || i === 3 ? -a : a), y + (i < 2 ? -b : b), 0];
    const t = (i * Math.PI) / 16;
    return [x + a * Math.cos(t), y + b * Math.sin(t), 0];
  });
}

/** Selection: four brass corners round what is seen of the object. */
function Corners({ points }: { points: [number, number][] }) {
  const xs = points.map((p) => p[0]);
  const ys = points.map((p) => p[1]);
  const [x0, x1, y0, y1] = [
    Math.min(...xs) - 5,
    Math.max(...xs) + 5,
    Math.min(...ys) - 5,
    Math.max(...ys) + 5,
  ];
  const c = 9;
  const d = `M${x0} ${y0 + c}V${y0}H${x0 + c}M${x1 - c} ${y0}H${x1}V${y0 + c}M${x1} ${y1 - c}V${y1}H${x1 - c}M${x0 + c} ${y1}H${x0}V${y1 - c}`;
  return <path d={d} fill="none" stroke="var(--brass)" strokeWidth="2" />;
}

function dragPivot(
  s: ReturnType<typeof useSession>,
  posed: Posed,
  screen: Screen,
  object: SceneObject,
  i: number,
  e: React.PointerEvent,
  setSwing: (p: Vec3 | null) => void,
): void {
  const world = posed.builder.world.slice(i * 12, i * 12 + 12);
  const from = object.base.pivot;
  const [least, greatest] = boundsOf(object);
  const part = (k: number, f: number) => (least[k] as number) * (1 - f) + (greatest[k] as number) * f;
  const snaps: Vec3[] = [];
  for (const x of [0, 0.5, 1])
    for (const y of [0, 0.5, 1])
      for (const z of least[2] < greatest[2] ? [0.5, 1, 0] : [0.5])
        snaps.push([part(0, x), part(1, y), part(2, z)]);
  const start = toScreen(screen, pointIn(world, 0, from));
  const axes = [0, 1, 2].map((k) => onScreen(screen, column(world, 0, k)));
  const away = axes.map((a) => Math.abs(a[2]));
  const [a, b] = [0, 1, 2].filter((k) => k !== away.indexOf(Math.max(...away))) as [number, number];
  setSwing(from);
  addEventListener('pointerup', () => setSwing(null), { once: true });
  follow(s, `Moved the pivot of ${object.name}`, e.clientX, e.clientY, (dx, dy) => {
    const goal = [start[0] + dx, start[1] + dy] as const;
    const near = snaps
      .map((p) => ({ p, q: toScreen(screen, pointIn(world, 0, p)) }))
      .map(({ p, q }) => ({ p, far: Math.hypot(q[0] - goal[0], q[1] - goal[1]) }))
      .sort((m, n) => m.far - n.far)[0];
    let to = near && near.far < 9 ? near.p : null;
    if (!to) {
      const d = solve2(axes[a] as Vec3, axes[b] as Vec3, dx, dy);
      if (!d) return;
      to = [...from];
      to[a] = Math.round((from[a] as number) + d[0]);
      to[b] = Math.round((from[b] as number) + d[1]);
    }
    s.movePivot(object.id, to);
    setSwing(to);
  });
}

/** Where the outline goes when it turns about the pivot: a fan of dashed ghosts. */
function Swing(props: { object: SceneObject; pivot: Vec3; screen: Screen; posed: Posed; index: number }) {
  const { pivot, screen, posed, index, object } = props;
  const s = useSession();
  const track = s.store
    .all('clips')
    .flatMap((c) => c.tracks)
    .find((t) => t.object === object.id && t.property.startsWith('rotation.'));
  const onSide = Math.abs(pivot[0]) === sizeOf(object)[0] / 2 && pivot[1] === 0;
  const axis = track ? 'xyz'.indexOf(track.property.slice(-1)) : isSolid(object) ? (onSide ? 1 : 0) : 2;
  const [u, v] = [(axis + 1) % 3, (axis + 2) % 3];
  const face = cornersOf(object).slice(-4);
  return (
    <g fill="none" stroke="var(--brass)" strokeDasharray="4 3">
      {[-60, -30, 30, 60].map((deg) => {
        const [c, n] = [Math.cos((deg * Math.PI) / 180), Math.sin((deg * Math.PI) / 180)];
        const points = face.map((p) => {
          const d = p.map((x, k) => x - (pivot[k] as number));
          const q = [...p] as Vec3;
          q[u] = (pivot[u] as number) + (d[u] as number) * c - (d[v] as number) * n;
          q[v] = (pivot[v] as number) + (d[u] as number) * n + (d[v] as number) * c;
          return toScreen(screen, pointIn(posed.builder.world, index * 12, q)).join();
        });
        return <polygon key={deg} points={points.join(' ')} />;
      })}
    </g>
  );
}

/** The axis whose field is pointed at: for a turn the arc that it turns along, with its way; else a line both ways. */
function AxisShown(props: {
  screen: Screen;
  posed: Posed;
  object: SceneObject;
  index: number;
  at: [number, number];
}) {
  const { screen, posed, object, index, at } = props;
  const property = useUi((u) => u.axis);
  const k = property === null ? -1 : 'xyz'.indexOf(property.slice(-1));
  if (property === null || k < 0) return null;
  const own = !property.startsWith('position');
  const axes = own
    ? ([0, 1, 2].map((n) => onScreen(screen, column(posed.builder.world, index * 12, n))) as Vec3[])
    : parentAxes(posed, screen, object);
  const color = AXIS_COLORS[k];
  if (!property.startsWith('rotation')) {
    const d = axes[k] as Vec3;
    const n = Math.hypot(d[0], d[1]) || 1;
    const [x, y] = [(d[0] / n) * 90, (d[1] / n) * 90];
    return (
      <line
        data-axis={property}
        x1={at[0] - x}
        y1={at[1] - y}
        x2={at[0] + x}
        y2={at[1] + y}
        stroke={color}
        strokeWidth="2"
        strokeDasharray="6 4"
      />
    );
  }
  const [a, b] = [axes[(k + 1) % 3] as Vec3, axes[(k + 2) % 3] as Vec3];
  const size = 70 / (Math.max(Math.hypot(a[0], a[1]), Math.hypot(b[0], b[1])) || 1);
  const point = (deg: number) => {
    const [c, n] = [Math.cos((deg * Math.PI) / 180) * size, Math.sin((deg * Math.PI) / 180) * size];
    return [at[0] + a[0] * c + b[0] * n, at[1] + a[1] * c + b[1] * n] as const;
  };
  const arc = Array.from({ length: 61 }, (_, n) => point(n * 5));
  const [end, before] = [point(300), point(286)];
  const [dx, dy] = [end[0] - before[0], end[1] - before[1]];
  return (
    <g data-axis={property} fill="none" stroke={color} strokeWidth="2">
      <path d={arc.map((p, n) => `${n === 0 ? 'M' : 'L'}${p[0]} ${p[1]}`).join('')} />
      {/* The arrow's head: the way in which the number grows. */}
      <path
        d={`M${end[0] - dx * 0.6 - dy * 0.4} ${end[1] - dy * 0.6 + dx * 0.4}L${end[0]} ${end[1]}L${end[0] - dx * 0.6 + dy * 0.4} ${end[1] - dy * 0.6 - dx * 0.4}`}
      />
    </g>
  );
}

function AxisHandle(props: {
  k: number;
  object: SceneObject;
  at: [number, number];
  row: Float64Array;
  screen: Screen;
  posed: Posed;
  index: number;
}) {
  const { k, object, at, row, screen, posed, index } = props;
  const s = useSession();
  const tool = useUi((u) => u.tool);
  if (tool === 'size' && (sizeOf(object)[k] as number) === 0) return null;
  const own = tool === 'size' || tool === 'scale';
  const dir = own
    ? onScreen(screen, column(posed.builder.world, index * 12, k))
    : (parentAxes(posed, screen, object)[k] as Vec3);
  const seen = axisOnScreen(dir, screen.scale, tool === 'turn');
  if (!seen) return null;
  const { ux, uy, len, flat } = seen;
  const axis = 'xyz'[k] as string;
  const start = (e: React.PointerEvent) => {
    const name = {
      turn: 'Turned',
      place: 'Moved',
      size: 'Sized',
      scale: 'Scaled',
      pivot: '',
      points: '',
      pen: '',
    }[tool];
    const before = Float64Array.from(row);
    // Several grow by as many px, each from its own edge; a group has no size of its own.
    const sized = topmost(s).flatMap((x) => {
      const o = s.store.get('objects', x);
      return o && !o.locked ? [{ o, size: sizeOf(drawn(o))[k] as number }] : [];
    });
    follow(s, `${name} ${object.name}`, e.clientX, e.clientY, (dx, dy, ev) => {
      const along = dx * ux + dy * uy;
      const across = dx * -uy + dy * ux;
      if (tool === 'size') {
        const words = chosenWords(
          s,
          sized.map(({ o }) => o.id),
        );
        s.edit(`Sized ${words}`, (e) => {
          for (const { o, size } of sized) {
            const to = Math.max(1, Math.round(size + along / len));
            if (size > 0) e.update('objects', o.id, () => editDrawing(o, (d) => resizedFromEdge(d, k, to)));
          }
        });
      } else if (tool === 'place')
        set(`position.${axis}`, (before[k] as number) + along / len, ev.shiftKey ? 10 : 1, before[k]);
      else if (tool === 'scale')
        set(
          `scale.${axis}`,
          (before[6 + k] as number) * Math.max(0.01, 1 + along / REACH),
          ev.shiftKey ? 0.25 : 0.01,
          before[6 + k],
        );
      else
        set(
          `rotation.${axis}`,
          (before[3 + k] as number) + (flat ? -dx - dy : across),
          ev.shiftKey ? 15 : 1,
          before[3 + k],
        );
    });
    function set(property: string, value: number, grid: number, was = 0) {
      const snapped = Math.round(Math.round(value / grid) * grid * 1000) / 1000;
      keyMoves(s, [{ object: object.id, changes: [[property, was]] }]);
      setProperties(s, `${name} ${object.name}`, [{ object: object.id, changes: [[property, snapped]] }]);
    }
  };
  return (
    <AxisMark
      k={k}
      at={at}
      ux={ux}
      uy={uy}
      handle={`${tool}-${axis}`}
      turns={tool === 'turn'}
      onStart={start}
    />
  );
}
