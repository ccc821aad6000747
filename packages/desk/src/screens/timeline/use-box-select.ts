/** A box drawn over rows chooses the keys in it. */
import { type Clip, keyFinder, type Track } from '@apple-tick/core/model';
import { type RefObject, useState } from 'react';
import { useSession } from '../../session/hooks.ts';
import { chosenKeys, selectKeys } from '../../session/motion/keys.ts';
import { track as followPointer } from '../../session/view/drag-gesture.ts';
import { RULER } from './Ruler.tsx';
import type { TimelineRow } from './rows.ts';
import { HEAD, type TimeScale, timeAt } from './scale.ts';

/** `top`: where the first row stands, px. */
export function useBoxSelect(
  clip: Clip,
  box: RefObject<HTMLElement | null>,
  scale: TimeScale,
  rows: readonly TimelineRow[],
  top: number,
) {
  const s = useSession();
  const [marquee, setMarquee] = useState<{ x0: number; y0: number; x1: number; y1: number } | null>(null);
  /** The keys of the tracks in a part of the canvas, px. */
  const keysIn = (x0: number, x1: number, y0: number, y1: number) => {
    const [t0, t1] = [timeAt(scale, x0 - HEAD - 4), timeAt(scale, x1 - HEAD + 4)];
    return tracksAt(rows, top).flatMap(({ track, y, height: h }) => {
      const t = clip.tracks[track] as Track;
      return y + h > y0 && y < y1
        ? t.keys
            .filter((k) => k.t >= t0 && k.t <= t1)
            .map((k) => ({ object: t.object, property: t.property, t: k.t }))
        : [];
    });
  };
  /** A box from where the pointer was pressed, or, pressed on the ruler, from below it. */
  const boxFrom = (e: { clientX: number; clientY: number; shiftKey: boolean }) => {
    const el = box.current as HTMLElement;
    const r = el.getBoundingClientRect();
    const at = (ev: { clientX: number; clientY: number }) => ({
      x: ev.clientX - r.left,
      y: ev.clientY - r.top + el.scrollTop,
    });
    const pressed = at(e);
    const start = { x: Math.max(HEAD, pressed.x), y: Math.max(RULER + el.scrollTop, pressed.y) };
    const before = e.shiftKey && s.state.selected?.kind === 'keys' ? (chosenKeys(s)?.keys ?? []) : [];
    let moved = false;
    // Of several moves before a frame of the screen only the last counts.
    let waiting: { x: number; y: number } | null = null;
    let frame = 0;
    const choose = () => {
      const to = waiting;
      waiting = null;
      if (!to) return;
      const [x0, x1] = [Math.max(HEAD, Math.min(start.x, to.x)), Math.max(start.x, to.x)];
      const [y0, y1] = [Math.min(start.y, to.y), Math.max(start.y, to.y)];
      setMarquee({ x0, y0, x1, y1 });
      const within = keysIn(x0, x1, y0, y1);
      const isWithin = keyFinder(within);
      const others = before.filter((k) => !isWithin(k)?.(k.t));
      selectKeys(s, clip.id, [...others, ...within]);
    };
    followPointer(
      (ev) => {
        const to = at(ev);
        if (!moved && Math.hypot(to.x - start.x, to.y - start.y) < 4) return;
        moved = true;
        if (!waiting) frame = requestAnimationFrame(choose);
        waiting = to;
      },
      () => {
        cancelAnimationFrame(frame);
        choose();
        setMarquee(null);
        if (!moved && s.state.selected?.kind === 'keys') selectKeys(s, clip.id, before);
      },
    );
  };
  const boxSelect = (e: React.PointerEvent) => {
    if (e.button !== 0 || (e.target as Element).closest('button, [role="button"], input')) return;
    const r = (box.current as HTMLElement).getBoundingClientRect();
    const [x, y] = [e.clientX - r.left, e.clientY - r.top];
    if (x >= HEAD && y >= RULER) boxFrom(e);
  };
  return { marquee, boxFrom, boxSelect };
}

/** Where the rows of tracks stand, px from the top. */
function tracksAt(rows: readonly TimelineRow[], top: number): { track: number; y: number; height: number }[] {
  const out: { track: number; y: number; height: number }[] = [];
  let y = top;
  for (const r of rows) {
    if (r.kind === 'track') out.push({ track: r.track, y, height: r.height });
    y += r.height;
  }
  return out;
}
