import type { Transition } from '@apple-tick/core/model';
import { center, type LaneLayout } from './layout.ts';
import type { Drag, Drawn } from './use-lane-drag.ts';

/** The lines of a lane: its transitions, those from anywhere that are pointed at, and what a hand is drawing. */
export function Arcs(props: {
  layout: LaneLayout;
  /** The transition that was taken a moment ago; those that are read whole; those from anywhere that are shown. */
  lit: string;
  read: ReadonlySet<string>;
  anywhere: readonly Transition[];
  /** Where a line is being drawn from and to. */
  wire: Drag | Drawn | null;
  /** Where a dragged panel would come to stand: a path. */
  slot: string | null;
}) {
  const { layout, lit, read, anywhere, wire, slot } = props;
  const wireFrom = wire && layout.panels[wire.from];
  return (
    <svg
      className="absolute inset-0 pointer-events-none"
      width={layout.width}
      height={layout.height}
      aria-hidden="true"
    >
      {layout.arcs.map((a) => {
        const isLit = lit === a.id;
        const color = isLit ? 'var(--leaf)' : read.has(a.id) ? 'var(--ink)' : 'var(--ink-3)';
        const d = a.head.up ? 1 : -1;
        return (
          <g key={a.id} fill="none" stroke={color} strokeWidth={isLit ? 2.5 : read.has(a.id) ? 1.8 : 1.2}>
            <path d={a.path} />
            <path
              d={`M${a.head.x - 4} ${a.head.y + d * 8}L${a.head.x} ${a.head.y + d}L${a.head.x + 4} ${a.head.y + d * 8}`}
            />
          </g>
        );
      })}
      {anywhere.map((t) => {
        const r = layout.panels[t.to];
        if (!r) return null;
        const x = r.x + Math.min(26, r.w / 3);
        return (
          <g key={t.id} fill="none" stroke="var(--brass)" strokeWidth="2" strokeDasharray="6 4">
            <path d={`M0 7H${x - 10}Q${x} 7 ${x} 17V${r.y}`} />
            <path d={`M${x - 4} ${r.y - 8}L${x} ${r.y - 1}L${x + 4} ${r.y - 8}`} strokeDasharray="0" />
          </g>
        );
      })}
      {slot !== null && <path d={slot} stroke="var(--brass)" strokeWidth="3" />}
      {wire && wireFrom && (
        <line
          x1={center(wireFrom).x}
          y1={center(wireFrom).y}
          x2={wire.x}
          y2={wire.y}
          stroke="var(--brass)"
          strokeWidth="2"
          strokeDasharray="5 4"
        />
      )}
    </svg>
  );
}
