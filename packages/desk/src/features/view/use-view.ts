import { type RefObject, useEffect, useLayoutEffect, useState } from 'react';
import type { Session } from '../../session/session.ts';

/** Width and height of an element, px, as they change. */
export function useSize(box: RefObject<HTMLElement | null>): { w: number; h: number } {
  const [size, setSize] = useState({ w: 700, h: 400 });
  useLayoutEffect(() => {
    const el = box.current;
    if (!el) return;
    const watch = new ResizeObserver(() => setSize({ w: el.clientWidth, h: el.clientHeight }));
    watch.observe(el);
    return () => watch.disconnect();
  }, [box]);
  return size;
}

/** The wheel pans the view; with Ctrl or ⌘ (a pinch counts as that) it zooms about the pointer. */
export function useWheelZoom(s: Session, box: RefObject<HTMLElement | null>): void {
  useEffect(() => {
    const el = box.current;
    if (!el) return;
    // Not React's own listener: that one may not keep the page from zooming.
    const wheel = (e: WheelEvent) => {
      e.preventDefault();
      const { zoom, pan } = s.state;
      if (!e.ctrlKey && !e.metaKey) return s.set({ pan: { x: pan.x - e.deltaX, y: pan.y - e.deltaY } });
      const r = el.getBoundingClientRect();
      s.set(
        zoomedAt(
          zoom,
          pan,
          2 ** (-e.deltaY / 240),
          e.clientX - r.left - r.width / 2,
          e.clientY - r.top - r.height / 2,
        ),
      );
    };
    el.addEventListener('wheel', wheel, { passive: false });
    return () => el.removeEventListener('wheel', wheel);
  }, [s, box]);
}

/** Zoom and pan after zooming by a factor about a point, px from the middle of the view; that point stays. */
export function zoomedAt(
  zoom: number,
  pan: { x: number; y: number },
  factor: number,
  x: number,
  y: number,
): { zoom: number; pan: { x: number; y: number } } {
  const to = Math.max(0.1, Math.min(16, zoom * factor));
  const k = to / zoom;
  return { zoom: to, pan: { x: x - (x - pan.x) * k, y: y - (y - pan.y) * k } };
}
