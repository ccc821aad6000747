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

/**
 * Two fingers take the view along and zoom it about what lies between them; what the first one had begun is taken back. In a
 * run fingers are the piece's.
 */
export function usePinch(s: Session, box: RefObject<HTMLElement | null>): void {
  useEffect(() => {
    const el = box.current;
    if (!el) return;
    const gone = new AbortController();
    const { signal } = gone;
    const fingers = new Map<number, { x: number; y: number }>();
    let last: { x: number; y: number; apart: number } | null = null;
    const between = () => {
      const [a, b] = [...fingers.values()] as [{ x: number; y: number }, { x: number; y: number }];
      const r = el.getBoundingClientRect();
      const x = (a.x + b.x) / 2 - r.left - r.width / 2;
      return { x, y: (a.y + b.y) / 2 - r.top - r.height / 2, apart: Math.hypot(a.x - b.x, a.y - b.y) || 1 };
    };
    const down = (e: PointerEvent) => {
      if (e.pointerType !== 'touch' || s.state.running) return;
      fingers.set(e.pointerId, { x: e.clientX, y: e.clientY });
      if (fingers.size < 2) return;
      e.preventDefault();
      e.stopPropagation();
      if (fingers.size > 2) return;
      s.gesture?.cancel();
      // What changes nothing, a box of choosing, ends.
      dispatchEvent(new PointerEvent('pointercancel'));
      last = between();
    };
    const move = (e: PointerEvent) => {
      if (!fingers.has(e.pointerId)) return;
      fingers.set(e.pointerId, { x: e.clientX, y: e.clientY });
      if (!last || fingers.size !== 2) return;
      const now = between();
      const { zoom, pan } = zoomedAt(s.state.zoom, s.state.pan, now.apart / last.apart, last.x, last.y);
      s.set({ zoom, pan: { x: pan.x + now.x - last.x, y: pan.y + now.y - last.y } });
      last = now;
    };
    const up = (e: PointerEvent) => {
      if (fingers.delete(e.pointerId)) last = null;
    };
    el.addEventListener('pointerdown', down, { signal, capture: true });
    addEventListener('pointermove', move, { signal });
    addEventListener('pointerup', up, { signal });
    addEventListener('pointercancel', up, { signal });
    return () => gone.abort();
  }, [s, box]);
}

/** Zoom and pan after zooming by a factor about a point, px from the middle of the view; that point stays. */
function zoomedAt(
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
