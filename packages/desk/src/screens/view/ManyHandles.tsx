import { type Base, CHANNELS, drawn, type Vec3 } from '@apple-tick/core/model';
import { useSession, useUi } from '../../session/hooks.ts';
import { isBare } from '../../session/model-help.ts';
import type { Session } from '../../session/session.ts';
import { chosenWords, topmost } from '../../session/things/arrange.ts';
import { keyMoves, setProperties } from '../../session/things/properties.ts';
import {
  type CommonMove,
  movedTogether,
  type Placed,
  placementChanges,
} from '../../session/things/together.ts';
import { cornersOf } from '../../session/view/corners.ts';
import { follow, type Posed } from '../../session/view/drag.ts';
import { onScreen, pointIn, type Screen, toScreen } from '../../session/view/view-math.ts';
import { AxisMark, axisOnScreen, REACH } from './AxisMark.tsx';

const NAMES = { turn: 'Turned', place: 'Moved', scale: 'Scaled' } as const;
type Together = keyof typeof NAMES;

/** Whether the tool that is on takes the chosen objects as one thing. */
export function takesTogether(s: Session): boolean {
  return Object.hasOwn(NAMES, s.state.tool) && s.state.also.length > 0 && topmost(s).length > 1;
}

/** Handles for several objects as one: about their common middle, along the piece's axes. */
export function ManyHandles({ posed, screen }: { posed: Posed; screen: Screen }) {
  const s = useSession();
  const tool = useUi((u) => u.tool) as Together;
  const list = placedOf(s, posed);
  if (list.length === 0) return null;
  const centre = middleOf(s, posed, new Set(list.map((p) => p.id)));
  const at = toScreen(screen, centre);
  return (
    <>
      {[0, 1, 2].map((k) => {
        const dir = onScreen(screen, [k === 0 ? 1 : 0, k === 1 ? 1 : 0, k === 2 ? 1 : 0]);
        const seen = axisOnScreen(dir, screen.scale, tool === 'turn');
        return (
          seen && (
            <AxisMark
              key={k}
              k={k}
              at={at}
              ux={seen.ux}
              uy={seen.uy}
              begin={0}
              handle={`${tool}-${'xyz'[k]}`}
              does={tool === 'scale' ? 'grow' : tool}
              onStart={(e) => dragTogether(s, tool, k, list, centre, seen, e)}
            />
          )
        );
      })}
      <g data-handle="common">
        <circle cx={at[0]} cy={at[1]} r="8" fill="var(--mark-halo)" stroke="var(--mark)" strokeWidth="2.5" />
        <path d={`M${at[0] - 4} ${at[1]}h8M${at[0]} ${at[1] - 4}v8`} stroke="var(--mark)" strokeWidth="1.5" />
      </g>
    </>
  );
}

function dragTogether(
  s: Session,
  tool: Together,
  k: number,
  list: readonly Placed[],
  centre: Vec3,
  axis: { ux: number; uy: number; len: number; flat: boolean },
  e: React.PointerEvent,
): void {
  const name = `${NAMES[tool]} ${chosenWords(
    s,
    list.map((p) => p.id),
  )}`;
  follow(s, name, e.clientX, e.clientY, (dx, dy, ev) => {
    const along = dx * axis.ux + dy * axis.uy;
    const across = dx * -axis.uy + dy * axis.ux;
    const snap = (value: number, step: number) => Math.round(Math.round(value / step) * step * 1000) / 1000;
    const amount =
      tool === 'place'
        ? snap(along / axis.len, ev.shiftKey ? 10 : 1)
        : tool === 'turn'
          ? snap(axis.flat ? -dx - dy : across, ev.shiftKey ? 15 : 1)
          : snap(Math.max(0.01, 1 + along / REACH), ev.shiftKey ? 0.25 : 0.01);
    const vector = (rest: number): Vec3 => [0, 1, 2].map((n) => (n === k ? amount : rest)) as Vec3;
    const move: CommonMove =
      tool === 'place'
        ? { centre, by: vector(0) }
        : tool === 'turn'
          ? { centre, turn: vector(0) }
          : { centre, scale: vector(1) };
    const after = movedTogether(list, move);
    const changes = list.map((p, n) => placementChanges(p.base, after[n]?.base ?? p.base));
    keyMoves(
      s,
      list.map((p, n) => ({ object: p.id, changes: beforeOf(p.base, changes[n] ?? []) })),
    );
    // What is no longer different (the pointer went back) is put back too.
    setProperties(
      s,
      name,
      list.map((p, n) => ({
        object: p.id,
        changes: s.open ? (changes[n] ?? []) : allOf(after[n]?.base ?? p.base),
      })),
    );
  });
}

function beforeOf(base: Base, changes: readonly (readonly [string, unknown])[]): [string, number][] {
  return changes.map(([property]) => {
    const [field, axis] = property.split('.') as ['position' | 'rotation' | 'scale', string];
    return [property, base[field]['xyz'.indexOf(axis)] as number];
  });
}

/** Every number of a placement. */
function allOf(base: Base): [string, number][] {
  return (['position', 'rotation', 'scale'] as const).flatMap((field) =>
    ['x', 'y', 'z'].map((axis, k): [string, number] => [
      `${field}.${axis}`,
      Math.round((base[field][k] as number) * 1000) / 1000,
    ]),
  );
}

/** The chosen objects that the handles move: not those that are locked, or fixed to the frame. */
function placedOf(s: Session, posed: Posed): Placed[] {
  const { program, values, builder } = posed;
  return topmost(s).flatMap((id): Placed[] => {
    const o = s.store.get('objects', id);
    const i = program.objectIndex.get(id);
    if (!o || i === undefined || o.locked || program.geometry.onTop[i] === 1) return [];
    const row = values.subarray(i * CHANNELS, (i + 1) * CHANNELS);
    const vec = (at: number) => Array.from(row.subarray(at, at + 3)) as Vec3;
    const base = { ...o.base, position: vec(0), rotation: vec(3), scale: vec(6), pivot: vec(9) };
    const parent = program.geometry.parent[i] as number;
    const matrix = (n: number) => builder.world.slice(n * 12, n * 12 + 12);
    return [{ id, base, world: matrix(i), space: parent < 0 ? undefined : matrix(parent) }];
  });
}

/** The middle of the box, along the piece's axes, round all that the objects and what lies below them draw. */
function middleOf(s: Session, posed: Posed, roots: ReadonlySet<string>): Vec3 {
  const { program, builder } = posed;
  const within = new Uint8Array(program.objects.length);
  const low = [Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY];
  const high = low.map((x) => -x);
  program.objects.forEach((record, i) => {
    const parent = program.geometry.parent[i] as number;
    within[i] = roots.has(record.id) || (parent >= 0 && within[parent] === 1) ? 1 : 0;
    const o = within[i] === 1 ? s.store.get('objects', record.id) : undefined;
    if (!o) return;
    // A group is only its pivot; what it holds counts by itself.
    const points = isBare(o) ? [o.base.pivot] : cornersOf(drawn(o));
    for (const p of points)
      pointIn(builder.world, i * 12, p).forEach((x, k) => {
        low[k] = Math.min(low[k] as number, x);
        high[k] = Math.max(high[k] as number, x);
      });
  });
  return low.map((x, k) => (x + (high[k] as number)) / 2) as Vec3;
}
