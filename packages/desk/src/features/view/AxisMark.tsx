export const AXIS_COLORS = ['var(--apple)', 'var(--leaf)', 'var(--sky)'] as const;
/** How far from the pivot a handle stands, screen px. */
export const REACH = 62;

/** What is taken hold of for one axis: a line from `at` along (ux, uy) to a knob with the axis' letter. */
export function AxisMark(props: {
  k: number;
  at: readonly [number, number];
  ux: number;
  uy: number;
  handle: string;
  /** Drawn with a bow across its end, as what it does is a turn. */
  turns: boolean;
  onStart: (e: React.PointerEvent) => void;
}) {
  const { k, at, ux, uy } = props;
  const end = [at[0] + ux * REACH, at[1] + uy * REACH] as const;
  const color = AXIS_COLORS[k];
  return (
    <g
      data-handle={props.handle}
      className="pointer-events-auto cursor-grab"
      onPointerDown={(e) => {
        e.stopPropagation();
        props.onStart(e);
      }}
    >
      <line x1={at[0]} y1={at[1]} x2={end[0]} y2={end[1]} stroke={color} strokeWidth="2" />
      {props.turns && (
        <path
          d={`M${end[0] - uy * 12} ${end[1] + ux * 12}Q${end[0] + ux * 7} ${end[1] + uy * 7} ${end[0] + uy * 12} ${end[1] - ux * 12}`}
          fill="none"
          stroke={color}
          strokeWidth="2"
        />
      )}
      <circle cx={end[0]} cy={end[1]} r="8" fill="var(--card)" stroke={color} strokeWidth="2" />
      <text x={end[0]} y={end[1] + 3.5} textAnchor="middle" fontSize="10" fill="var(--ink)">
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
