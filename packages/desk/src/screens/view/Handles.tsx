import { CHANNELS, drawn, editDrawing, type SceneObject, sizeOf, type Vec3 } from '@apple-tick/core/model';
import { useState } from 'react';
import { useSession, useUi } from '../../session/hooks.ts';
import { isBare } from '../../session/model-help.ts';
import { chosenWords, topmost } from '../../session/things/arrange.ts';
import { keyMoves, setProperties } from '../../session/things/properties.ts';
import { resizedFromEdge } from '../../session/things/resize.ts';
import { cornersOf } from '../../session/view/corners.ts';
import { follow, type Posed, parentAxes } from '../../session/view/drag.ts';
import { screenBoxes, union } from '../../session/view/screen-boxes.ts';
import { column, onScreen, pointIn, type Screen, solve2, toScreen } from '../../session/view/view-math.ts';
import { FINGER, IS_COARSE } from '../../ui/coarse.ts';
import { AxisShown, Corners, hitOutline, ParentLink, Swing } from '../../ui/marks.tsx';
import { AxisMark, axisOnScreen, beginOf, REACH } from './AxisMark.tsx';
import { ManyHandles, takesTogether } from './ManyHandles.tsx';
import { hasPoints, PathPoints } from './PathPoints.tsx';
import { pivotSnaps } from './pivot-snaps.ts';

/** What can be taken hold of on the view for the selected object, by the tool that is on. */
export function Handles(props: { posed: Posed; screen: Screen; width: number; height: number }) {
  const { posed, screen } = props;
  const s = useSession();
  const id = useUi((u) => u.object);
  const also = useUi((u) => u.also);
  const tool = useUi((u) => u.tool);
  const [dragged, setSwing] = useState<Vec3 | null>(null);
  const shown = useUi((u) => u.swing);
  const effect = useUi((u) => (u.selected?.kind === 'effect' ? u.selected.id : ''));
  const record = id === null ? undefined : s.store.get('objects', id);
  // What is seen: its look's shape, where it has one.
  const object = record && drawn(record);
  const i = posed.program.objectIndex.get(id ?? '');
  if (!object || i === undefined || posed.builder.world.length < (i + 1) * 12) return null;
  // While an effect is shaped, the handles are its own.
  if (s.store.has('effects', effect)) return null;
  const world = posed.builder.world;
  const row = posed.values.subarray(i * CHANNELS, (i + 1) * CHANNELS);
  const pivot = Array.from(row.subarray(9, 12)) as Vec3;
  const swing = dragged ?? (shown === object.id ? pivot : null);
  const at = toScreen(screen, pointIn(world, i * 12, pivot));
  // The others that are chosen, and what a chosen group holds, by what is seen of them.
  const boxes =
    also.length > 0 || isBare(object) ? screenBoxes(posed.program, posed.builder.faces, screen) : [];
  const each = [...also, ...(isBare(object) ? [object.id] : [])].flatMap(
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
      {!isBare(object) && <Corners points={corners} />}
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
          fill="var(--zone)"
          fillOpacity="0.08"
          stroke="var(--zone)"
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
            tool !== 'shape' &&
            [0, 1, 2].map((k) => (
              <AxisHandle
                key={k}
                k={k}
                object={object}
                at={at}
                corners={corners}
                row={row}
                screen={screen}
                posed={posed}
                index={i}
              />
            ))}
          <PivotMark
            at={at}
            taken={tool === 'pivot'}
            onTake={(e) => dragPivot(s, posed, screen, object, i, e, setSwing)}
          />
        </>
      )}
    </svg>
  );
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
  const snaps = pivotSnaps(s.store, posed, object, world);
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

function AxisHandle(props: {
  k: number;
  object: SceneObject;
  at: [number, number];
  corners: [number, number][];
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
      shape: '',
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
      begin={beginOf(at, props.corners, ux, uy)}
      handle={`${tool}-${axis}`}
      does={tool === 'turn' ? 'turn' : tool === 'place' ? 'place' : 'grow'}
      onStart={start}
    />
  );
}

/** The point about which it turns, taken hold of while pivots are set. */
function PivotMark({
  at,
  taken,
  onTake,
}: {
  at: readonly [number, number];
  taken: boolean;
  onTake: (e: React.PointerEvent) => void;
}) {
  return (
    <g
      data-handle="pivot"
      className={taken ? 'pointer-events-auto cursor-move' : ''}
      onPointerDown={(e) => {
        e.stopPropagation();
        onTake(e);
      }}
    >
      {IS_COARSE && <circle cx={at[0]} cy={at[1]} r={FINGER} fill="transparent" />}
      <circle cx={at[0]} cy={at[1]} r="8" fill="var(--mark-halo)" stroke="var(--mark)" strokeWidth="2.5" />
      <circle cx={at[0]} cy={at[1]} r="2" fill="var(--mark)" />
    </g>
  );
}
