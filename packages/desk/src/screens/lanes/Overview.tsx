import type { Lane } from '@apple-tick/core/model';
import { type RefObject, useEffect, useState } from 'react';
import type { LaneLayout } from './layout.ts';

/** The whole lane as a line: each state a stroke, what is in sight in a bracket. Pressed or dragged it leads there. */
export function Overview(props: {
  lane: Lane;
  layout: LaneLayout;
  /** What scrolls. */
  box: RefObject<HTMLDivElement | null>;
  active: string | null;
  chosen: string | null;
}) {
  const { lane, layout, box, active, chosen } = props;
  const [seen, setSeen] = useState({ left: 0, width: 1 });
  // biome-ignore lint/correctness/useExhaustiveDependencies: another layout is seen in part anew
  useEffect(() => {
    const el = box.current;
    if (!el) return;
    const look = () =>
      setSeen({ left: el.scrollLeft / el.scrollWidth, width: el.clientWidth / el.scrollWidth });
    look();
    el.addEventListener('scroll', look);
    return () => el.removeEventListener('scroll', look);
  }, [box, layout]);
  const go = (e: React.PointerEvent<HTMLElement>) => {
    const r = e.currentTarget.getBoundingClientRect();
    const el = box.current;
    if (el) el.scrollLeft = ((e.clientX - r.left) / r.width) * el.scrollWidth - el.clientWidth / 2;
  };
  const part = (px: number) => `${(px / layout.width) * 100}%`;
  return (
    <div
      className="relative h-[18px] flex-none bg-paper border-b border-line cursor-pointer touch-none"
      aria-hidden="true"
      data-overview
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        go(e);
      }}
      onPointerMove={(e) => e.buttons === 1 && go(e)}
    >
      {lane.states.map((x) => {
        const r = layout.panels[x.id];
        const color = x.id === active ? 'var(--leaf)' : x.id === chosen ? 'var(--brass)' : 'var(--ink-3)';
        return (
          r && (
            <span
              key={x.id}
              className="absolute top-[6px] h-[6px] rounded-[2px]"
              style={{ left: part(r.x), width: part(r.w), background: color }}
            />
          )
        );
      })}
      <span
        className="absolute inset-y-[1px] border-x-2 border-ink rounded-[3px]"
        style={{ left: `${seen.left * 100}%`, width: `${seen.width * 100}%` }}
      />
    </div>
  );
}
