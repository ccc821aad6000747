import { type RefObject, useLayoutEffect, useState } from 'react';

/** The inner width of an element, px, as it changes; `first` until it is known. */
export const useWidth = (box: RefObject<HTMLElement | null>, first: number) =>
  useInner(box, first, 'clientWidth');
/** The inner height, likewise. */
export const useHeight = (box: RefObject<HTMLElement | null>, first: number) =>
  useInner(box, first, 'clientHeight');

function useInner(
  box: RefObject<HTMLElement | null>,
  first: number,
  side: 'clientWidth' | 'clientHeight',
): number {
  const [length, setLength] = useState(first);
  useLayoutEffect(() => {
    const el = box.current;
    if (!el) return;
    const watch = new ResizeObserver(() => setLength(el[side]));
    watch.observe(el);
    return () => watch.disconnect();
  }, [box, side]);
  return length;
}
