/** How far from the pivot a handle stands, screen px. */
import { FINGER, IS_COARSE } from '../../ui/coarse.ts';
export const REACH = 62;
/** Px at its middle that no handle takes, so that a thing can be taken hold of there; and between it and its handles. */
const FREE = 16;
const BESIDE = 4;
/** Px that a handle has for itself beyond a small thing. */
const BAR = 30;

/** How far from the pivot handles begin: beyond a thing that is small on the screen, beside the middle of a large one. */
export function beginOf(
  at: readonly [number, number],
  corners: readonly (readonly [number, number])[],
  ux: number,
  uy: number,
): number {
  const far = corners.map(([x, y]) => Math.abs((x - at[0]) * ux + (y - at[1]) * uy));
  const edge = Math.max(0, ...far) + BESIDE;
  return edge + BAR <= REACH + BAR ? Math.max(FREE, edge) : FREE;
}

/** What is taken hold of for one axis: a line from `at` along (ux, uy) to a knob with the axis' letter. */
export function AxisMark(props: {
  k: number;
  at: readonly [number, number];
  ux: number;
  uy: number;
  handle: string;
  /** Px from `at` at which it begins. */
  begin: number;
  /** What it does tells its shape: an arc turns, a bar places, a block makes larger. */
  does: 'turn' | 'place' | 'grow';
  onStart: (e: React.PointerEvent) => void;
}) {
  const { k, at, ux, uy, begin } = props;
  const reach = Math.max(REACH, begin + BAR);
  const end = [at[0] + ux * reach, at[1] + uy * reach] as const;
  const start = [at[0] + ux * begin, at[1] + uy * begin] as const;
  const half = props.does === 'place' ? 11 : 8;
  const bow = `M${end[0] - uy * 17} ${end[1] + ux * 17}Q${end[0] + ux * 9} ${end[1] + uy * 9} ${end[0] + uy * 17} ${end[1] - ux * 17}`;
  const line = `M${start[0]} ${start[1]}L${end[0]} ${end[1]}${props.does === 'turn' ? bow : ''}`;
  return (
    <g
      data-handle={props.handle}
      className="pointer-events-auto cursor-grab"
      onPointerDown={(e) => {
        e.stopPropagation();
        props.onStart(e);
      }}
    >
      {IS_COARSE && <circle cx={end[0]} cy={end[1]} r={FINGER} fill="transparent" />}
      <path d={line} fill="none" stroke="var(--mark-halo)" strokeWidth="4.5" />
      <path d={line} fill="none" stroke="var(--mark)" strokeWidth="2" />
      <rect
        x={end[0] - half}
        y={end[1] - 8}
        width={2 * half}
        height="16"
        rx={props.does === 'grow' ? 2 : 8}
        fill="var(--mark-halo)"
        stroke="var(--mark)"
        strokeWidth="2"
      />
      <text x={end[0]} y={end[1] + 3.5} textAnchor="middle" fontSize="10" fontWeight="600" fill="var(--mark)">
        {'xyz'[k]}
      </text>
    </g>
  );
}

/** Where an axis' handle stands and how it is pulled. Null when the axis points at the viewer and is not turned about. */
export function axisOnScreen(
  dir: readonly [number, number, number],
  scale: number,
  turns: boolean,
): { ux: number; uy: number; len: number; flat: boolean } | null {
  const len = Math.hypot(dir[0], dir[1]);
  // Such an axis has no length on the screen: its handle stands apart, so that it can still be turned about.
  const flat = len < 0.15 * scale;
  if (flat && !turns) return null;
  return { ux: flat ? -0.7 : dir[0] / len, uy: flat ? 0.7 : dir[1] / len, len, flat };
}
