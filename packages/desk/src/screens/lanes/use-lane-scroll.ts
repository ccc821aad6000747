/** The part of a lane that is in sight: what is chosen comes into it, and stays under the pointer while it is zoomed. */
import { type RefObject, useEffect, useLayoutEffect, useRef } from 'react';
import type { LaneLayout } from './layout.ts';

/** The least and the greatest zoom. */
const [LEAST, MOST] = [0.5, 4];
export const zoomed = (zoom: number, by: number) => Math.max(LEAST, Math.min(MOST, zoom * by));

export function useLaneScroll(
  box: RefObject<HTMLDivElement | null>,
  layout: LaneLayout,
  chosen: string | null,
  zoom: number,
  onZoom: (zoom: number) => void,
): void {
  // What is chosen, and so what is new, comes into sight.
  useEffect(() => {
    const el = box.current;
    const r =
      chosen === null
        ? undefined
        : (layout.panels[chosen] ?? layout.arcs.find((a) => a.id === chosen)?.ticket);
    if (!el || !r) return;
    const [from, to] = [el.scrollLeft, el.scrollLeft + el.clientWidth];
    if (r.x < from + 20 || r.x + r.w > to - 20) el.scrollTo({ left: r.x + r.w / 2 - el.clientWidth / 2 });
  }, [box, chosen, layout]);

  /** The place under the pointer, as a part of the whole, that stays there while it is zoomed. */
  const anchor = useRef<{ part: number; px: number } | null>(null);
  useLayoutEffect(() => {
    const el = box.current;
    if (!el || !anchor.current) return;
    el.scrollLeft = anchor.current.part * layout.width - anchor.current.px;
    anchor.current = null;
  }, [box, layout.width]);
  useEffect(() => {
    const el = box.current;
    if (!el) return;
    // Not passive: a wheel with Ctrl would zoom the page.
    const wheel = (e: WheelEvent) => {
      if (e.ctrlKey || e.metaKey) {
        e.preventDefault();
        const px = e.clientX - el.getBoundingClientRect().left;
        anchor.current = { part: (el.scrollLeft + px) / el.scrollWidth, px };
        onZoom(zoomed(zoom, Math.exp(-e.deltaY / 300)));
      } else if (e.deltaX === 0 && el.scrollHeight <= el.clientHeight && el.scrollWidth > el.clientWidth) {
        e.preventDefault();
        el.scrollLeft += e.deltaY;
      }
    };
    el.addEventListener('wheel', wheel, { passive: false });
    return () => el.removeEventListener('wheel', wheel);
  }, [box, zoom, onZoom]);
}
