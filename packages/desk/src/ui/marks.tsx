/** What is drawn over the view for the selected object, and cannot be taken hold of. */
import { CHANNELS, isSolid, type SceneObject, sizeOf, type Vec3 } from '@apple-tick/core/model';
import { useSession, useUi } from '../session/hooks.ts';
import { cornersOf } from '../session/view/corners.ts';
import { type Posed, parentAxes } from '../session/view/drag.ts';
import { column, onScreen, pointIn, type Screen, toScreen } from '../session/view/view-math.ts';

/** Selection: four brass corners round what is seen of the object. */
export function Corners({ points }: { points: [number, number][] }) {
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
  return (
    <g fill="none">
      <path d={d} stroke="var(--mark-halo)" strokeWidth="4" />
      <path d={d} stroke="var(--mark)" strokeWidth="2" />
    </g>
  );
}

/** A dotted line to the pivot of what the object moves with. */
export function ParentLink(props: {
  posed: Posed;
  screen: Screen;
  index: number;
  at: readonly [number, number];
}) {
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
export function hitOutline(h: NonNullable<SceneObject['hitShape']>): Vec3[] {
  const [x, y] = h.at ?? [0, 0];
  const [a, b] = [h.size[0] / 2, h.size[1] / 2];
  const round = h.kind === 'ellipse';
  return Array.from({ length: round ? 32 : 4 }, (_, i): Vec3 => {
    if (!round) return [x + (i === 0 || i === 3 ? -a : a), y + (i < 2 ? -b : b), 0];
    const t = (i * Math.PI) / 16;
    return [x + a * Math.cos(t), y + b * Math.sin(t), 0];
  });
}

/** Where the outline goes when it turns about the pivot: a fan of dashed ghosts. */
export function Swing(props: {
  object: SceneObject;
  pivot: Vec3;
  screen: Screen;
  posed: Posed;
  index: number;
}) {
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
    <g fill="none" stroke="var(--mark)" strokeDasharray="4 3">
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
export function AxisShown(props: {
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
  const color = 'var(--mark)';
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

/** A small handle: square, or round where it takes the whole or an angle. */
export function Knob(props: {
  name: string;
  at: readonly [number, number];
  color: string;
  round?: boolean;
  onStart: (e: React.PointerEvent) => void;
}) {
  const [x, y] = props.at;
  return (
    <rect
      data-handle={props.name}
      className="pointer-events-auto cursor-move"
      x={x - 5}
      y={y - 5}
      width="10"
      height="10"
      rx={props.round ? 5 : 2}
      fill="var(--mark-halo)"
      stroke={props.color}
      strokeWidth="2"
      onPointerDown={(e) => {
        if (e.button !== 0) return;
        e.stopPropagation();
        props.onStart(e);
      }}
    />
  );
}
