import { useState, useSyncExternalStore } from 'react';
import { readPref, writePref } from '../session/prefs.ts';

export interface Sizes {
  /** Px of the side panels and of the deck. 0 is folded. */
  left: number;
  right: number;
  deck: number;
}
const FIRST: Sizes = { left: 190, right: 300, deck: 326 };
const LEAST: Sizes = { left: 150, right: 250, deck: 170 };
const MOST: Sizes = { left: 380, right: 520, deck: 620 };
const KEY = 'apple-tick-sizes';

/** What the view between the parts keeps of a small window, px; the bar at the top takes its own. */
const VIEW = { width: 430, height: 240 };
const BAR = 44;

/** The sizes of the screen's parts, as this browser last had them, but for what a small window has no room for. */
export function useSizes(): [Sizes, (part: keyof Sizes, px: number) => void] {
  const [sizes, setSizes] = useState<Sizes>(() => {
    try {
      const kept = JSON.parse(readPref(KEY) ?? '{}') as Partial<Record<keyof Sizes, unknown>>;
      const read = (k: keyof Sizes) => (typeof kept[k] === 'number' ? within(k, kept[k]) : FIRST[k]);
      return { left: read('left'), right: read('right'), deck: read('deck') };
    } catch {
      return FIRST;
    }
  });
  const set = (part: keyof Sizes, px: number) =>
    setSizes((old) => {
      const next = { ...old, [part]: within(part, px) };
      writePref(KEY, JSON.stringify(next));
      return next;
    });
  const [w, h] = useSyncExternalStore(
    (l) => {
      addEventListener('resize', l);
      return () => removeEventListener('resize', l);
    },
    () => `${innerWidth} ${innerHeight}`,
  )
    .split(' ')
    .map(Number) as [number, number];
  const beside = sizes.left + sizes.right;
  const k = Math.min(1, Math.max(0, w - VIEW.width) / Math.max(1, beside));
  const deck = Math.min(sizes.deck, Math.max(38, h - BAR - VIEW.height));
  return [{ left: Math.round(sizes.left * k), right: Math.round(sizes.right * k), deck }, set];
}

/** A size that the part may have: pushed well below its least it folds away. */
export function within(part: keyof Sizes, px: number): number {
  if (px < LEAST[part] * 0.6) return 0;
  return Math.round(Math.max(LEAST[part], Math.min(MOST[part], px)));
}

/** The line between two parts: dragged, or moved with the arrow keys; double-click or Enter folds and unfolds. */
export function Splitter(props: {
  part: keyof Sizes;
  label: string;
  size: number;
  className: string;
  /** Where the line lies, beside what the class says. */
  at: React.CSSProperties;
  onSize: (px: number) => void;
}) {
  const { part, size, onSize } = props;
  const across = part === 'deck';
  // Growing is toward the middle of the screen: right for the left panel, left for the right one, up for the deck.
  const sign = part === 'left' ? 1 : -1;
  const fold = () => onSize(size === 0 ? FIRST[part] : 0);
  return (
    <div
      role="separator"
      tabIndex={0}
      aria-label={props.label}
      aria-orientation={across ? 'horizontal' : 'vertical'}
      aria-valuenow={size}
      aria-valuemin={0}
      aria-valuemax={MOST[part]}
      className={`absolute z-20 touch-none hover:bg-brass/40 ${across ? 'h-[7px] cursor-row-resize' : 'w-[7px] cursor-col-resize'} ${props.className}`}
      style={props.at}
      onDoubleClick={fold}
      onPointerDown={(e) => {
        e.preventDefault();
        const el = e.currentTarget;
        el.setPointerCapture(e.pointerId);
        const from = across ? e.clientY : e.clientX;
        const move = (ev: PointerEvent) => onSize(size + sign * ((across ? ev.clientY : ev.clientX) - from));
        el.addEventListener('pointermove', move);
        el.addEventListener('pointerup', () => el.removeEventListener('pointermove', move), { once: true });
      }}
      onKeyDown={(e) => {
        const by = { ArrowRight: sign, ArrowLeft: -sign, ArrowUp: 1, ArrowDown: -1 }[e.key];
        if (e.key === 'Enter') fold();
        else if (by !== undefined && across === (e.key === 'ArrowUp' || e.key === 'ArrowDown'))
          onSize(size === 0 ? FIRST[part] : size + by * 20);
        else return;
        e.preventDefault();
        e.stopPropagation();
      }}
    />
  );
}
