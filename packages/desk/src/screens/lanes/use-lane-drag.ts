/** Hands on the lanes: panels joined by a line, moved in their row, and the ground moved under them all. */
import type { Lane, Machine, State } from '@apple-tick/core/model';
import { type RefObject, useEffect, useState } from 'react';
import { useSession } from '../../session/hooks.ts';
import { addState, copyStateTo, moveState } from '../../session/motion/machines.ts';
import { center, type LaneLayout } from './layout.ts';

/** A panel's edge is taken to make a transition; its middle to put it elsewhere in the row; the ground to move it all. */
export interface Drag {
  kind: 'join' | 'move' | 'pan';
  from: string;
  x0: number;
  x: number;
  y: number;
}

/** How far the pointer goes before a press is a drag, px. */
const BEGINS = 8;
/** A transition that has been drawn, and waits to be told what sets it off: px of the canvas. */
export interface Drawn {
  readonly from: string;
  readonly to: string;
  readonly x: number;
  readonly y: number;
}

export function useLaneDrag(
  machine: Machine,
  lane: Lane,
  layout: LaneLayout,
  box: RefObject<HTMLDivElement | null>,
) {
  const s = useSession();
  const [drag, setDrag] = useState<Drag | null>(null);
  const [drawn, setDrawn] = useState<Drawn | null>(null);
  const at = (e: { clientX: number; clientY: number }) => {
    const el = box.current as HTMLElement;
    const r = el.getBoundingClientRect();
    return { x: e.clientX - r.left + el.scrollLeft, y: e.clientY - r.top + el.scrollTop };
  };
  const panelUnder = (p: { x: number; y: number }) =>
    lane.states.find((x) => {
      const r = layout.panels[x.id];
      return r && p.x >= r.x && p.x <= r.x + r.w && p.y >= r.y && p.y <= r.y + r.h;
    });

  const indexOf = (id: string) => lane.states.findIndex((x) => x.id === id);
  /** The place in the row that a dragged panel would take: how many others have their middle left of the pointer. */
  const slotAt = (d: Drag) =>
    lane.states.filter((x) => x.id !== d.from && center(layout.panels[x.id]).x < d.x).length;
  const drop = (d: Drag, e: React.PointerEvent) => {
    const state = lane.states[indexOf(d.from)];
    if (d.kind === 'move' && state && Math.abs(d.x - d.x0) > BEGINS) {
      if (e.altKey && !s.state.readOnly) copyStateTo(s, machine.id, lane, state, slotAt(d));
      else moveState(s, machine.id, lane, d.from, slotAt(d) - indexOf(d.from));
    }
    if (d.kind !== 'join' || s.state.readOnly) return;
    const p = at(e);
    const to = panelUnder(p);
    if (to) {
      if (to.id !== d.from) setDrawn({ from: d.from, to: to.id, ...p });
      return;
    }
    const r = layout.panels[d.from];
    const far = r && (p.x < r.x - 20 || p.x > r.x + r.w + 20 || p.y < r.y - 20 || p.y > r.y + r.h + 20);
    const made = far ? addState(s, machine.id, lane, 'clip') : undefined;
    if (made !== undefined) setDrawn({ from: d.from, to: made, ...p });
  };
  // Let go outside, it is let go all the same.
  const isDragging = drag !== null;
  useEffect(() => {
    if (!isDragging) return;
    const end = (e: PointerEvent) => {
      if (!box.current?.contains(e.target as Node)) setDrag(null);
    };
    addEventListener('pointerup', end);
    addEventListener('pointercancel', end);
    return () => {
      removeEventListener('pointerup', end);
      removeEventListener('pointercancel', end);
    };
  }, [isDragging, box]);
  const isThere = (id: string) => lane.states.some((x) => x.id === id);
  const drawnStill = drawn && isThere(drawn.from) && isThere(drawn.to) ? drawn : null;
  return {
    drag,
    drawn: drawnStill,
    /** The place in the row that the dragged panel would take, or null while it is none. */
    slot: drag?.kind === 'move' && Math.abs(drag.x - drag.x0) > BEGINS ? slotAt(drag) : null,
    forget: () => setDrawn(null),
    take: (e: React.PointerEvent, kind: 'join' | 'move', state: State) => {
      const p = at(e);
      setDrag({ kind, from: state.id, x0: p.x, ...p });
    },
    hands: {
      onPointerDown: (e: React.PointerEvent) => {
        if ((e.target as HTMLElement).closest('button, [role=button]')) return;
        const el = e.currentTarget;
        if (el.scrollWidth <= el.clientWidth && el.scrollHeight <= el.clientHeight) return;
        el.setPointerCapture(e.pointerId);
        setDrag({ kind: 'pan', from: '', x0: e.clientX, x: e.clientX, y: e.clientY });
      },
      onPointerMove: (e: React.PointerEvent) => {
        if (!drag) return;
        if (drag.kind !== 'pan') return setDrag({ ...drag, ...at(e) });
        e.currentTarget.scrollLeft -= e.clientX - drag.x;
        e.currentTarget.scrollTop -= e.clientY - drag.y;
        setDrag({ ...drag, x: e.clientX, y: e.clientY });
      },
      onPointerUp: (e: React.PointerEvent) => {
        if (drag) drop(drag, e);
        setDrag(null);
      },
      onPointerCancel: () => setDrag(null),
    },
  };
}
