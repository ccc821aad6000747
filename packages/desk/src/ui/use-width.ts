import { type RefObject, useLayoutEffect, useState } from 'react';

/** The inner width of an element, px, as it changes; `first` until it is known. */
export function useWidth(box: RefObject<HTMLElement | null>, first: number): number {
  const [width, setWidth] = useState(first);
  useLayoutEffect(() => {
    const el = box.current;
    if (!el) return;
    const watch = new ResizeObserver(() => setWidth(el.clientWidth));
    watch.observe(el);
    return () => watch.disconnect();
  }, [box]);
  return width;
}
