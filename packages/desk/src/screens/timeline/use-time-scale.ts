/** Which part of a clip the timeline shows, and how it is moved and zoomed. */
import type { Clip } from '@apple-tick/core/model';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { HEAD, snapTime, timeAt, wholeClip } from './scale.ts';

/** `width`: of the timeline with the heads of its rows, px. */
export function useTimeScale(
  clip: Clip,
  box: React.RefObject<HTMLElement | null>,
  width: number,
  fps: number,
) {
  const [zoomed, setZoomed] = useState<{ from: number; span: number } | null>(null);
  const whole = wholeClip(clip);
  const from = zoomed?.from ?? whole.from;
  const span = zoomed?.span ?? whole.span;
  const scale = useMemo(() => ({ from, span, width: Math.max(100, width - HEAD) }), [from, span, width]);
  const localX = useCallback(
    (clientX: number) => clientX - (box.current as HTMLElement).getBoundingClientRect().left - HEAD,
    [box],
  );
  /** The time under the pointer, seconds, at one of the targets where it is near. */
  const timeUnder = useCallback(
    (clientX: number, targets: readonly number[]) => snapTime(scale, localX(clientX), targets, fps),
    [scale, fps, localX],
  );
  const zoomAbout = (t: number, factor: number) => {
    const next = Math.max(0.05, Math.min(whole.span * 1.5, span * factor));
    if (next >= whole.span) return setZoomed(null);
    setZoomed({ span: next, from: Math.max(0, t - ((t - from) / span) * next) });
  };
  useWheel(box, (e) => {
    if (e.ctrlKey || e.metaKey) zoomAbout(timeAt(scale, localX(e.clientX)), e.deltaY > 0 ? 1.2 : 1 / 1.2);
    else if (e.shiftKey || Math.abs(e.deltaX) > Math.abs(e.deltaY))
      setZoomed({
        span,
        from: Math.max(0, from + ((e.deltaX || e.deltaY) / scale.width) * span),
      });
    else return false;
    return true;
  });
  return { scale, localX, timeUnder, zoomAbout, showAll: () => setZoomed(null) };
}

/** React's own wheel events cannot be kept from scrolling the page. */
function useWheel(box: React.RefObject<HTMLElement | null>, act: (e: WheelEvent) => boolean): void {
  const latest = useRef(act);
  latest.current = act;
  useEffect(() => {
    const el = box.current;
    const hear = (e: WheelEvent) => {
      if (latest.current(e)) e.preventDefault();
    };
    el?.addEventListener('wheel', hear, { passive: false });
    return () => el?.removeEventListener('wheel', hear);
  }, [box]);
}
