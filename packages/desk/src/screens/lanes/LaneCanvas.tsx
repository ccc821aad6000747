import type { Lane, Machine, State } from '@apple-tick/core/model';
import { useEffect, useLayoutEffect, useMemo, useRef, useState } from 'react';
import { useIdleVersion, useRun, useSession, useUi } from '../../session/hooks.ts';
import { addState, addTransition, copyStateTo, moveState, openPanel } from '../../session/motion/machines.ts';
import { ticketWords } from '../../session/words/words.ts';
import { useLanePoses } from '../../ui/lane-poses.tsx';
import { Ticket } from '../../ui/Ticket.tsx';
import { useHeight, useWidth } from '../../ui/use-width.ts';
import { activeIn } from './active.ts';
import { layoutLane, NOTCH, panelParts, type Rect, wholeTickets } from './layout.ts';
import { Overview } from './Overview.tsx';
import { Panel } from './Panel.tsx';
import { StateMenu } from './StateMenu.tsx';
import { WireMenu } from './WireMenu.tsx';

/** A panel's edge is taken to make a transition; its middle to put it elsewhere in the row; the ground to move it all. */
interface Drag {
  kind: 'join' | 'move' | 'pan';
  from: string;
  x0: number;
  x: number;
  y: number;
}

/** How far the pointer goes before a press is a drag, px. */
const BEGINS = 8;
/** The least and the greatest zoom. */
const [LEAST, MOST] = [0.5, 4];
export const zoomed = (zoom: number, by: number) => Math.max(LEAST, Math.min(MOST, zoom * by));

/** A lane's panels, joined by arcs with tickets, as large as the room allows. */
export function LaneCanvas(props: {
  machine: Machine;
  lane: Lane;
  zoom: number;
  onZoom: (zoom: number) => void;
  /** The transition from anywhere that is pointed at in the lane's head. */
  pointed: string | null;
}) {
  const { machine, lane, zoom, onZoom, pointed } = props;
  const s = useSession();
  const version = useIdleVersion();
  const box = useRef<HTMLDivElement>(null);
  const width = useWidth(box, 1000);
  const height = useHeight(box, 250);
  const selected = useUi((u) => u.selected);
  // biome-ignore lint/correctness/useExhaustiveDependencies: words depend on names anywhere in the piece
  const layout = useMemo(() => {
    const transitions = lane.transitions.map((t) => ({
      ...t,
      words: ticketWords(s.store, t, machine, lane),
    }));
    return layoutLane({ states: lane.states, transitions }, { width, height, zoom });
  }, [lane, width, height, zoom, machine.object, version]);
  const least = Math.min(...Object.values(layout.panels).map((p) => p.w));
  const parts = panelParts({ w: least, h: Object.values(layout.panels)[0]?.h ?? 0 });
  const poses = useLanePoses(machine, lane, parts.poses, parts.wide);
  const [drag, setDrag] = useState<Drag | null>(null);
  /** A transition that has been drawn, and waits to be told what sets it off. */
  const [drawn, setDrawn] = useState<{ from: string; to: string; x: number; y: number } | null>(null);
  const [hovered, setHovered] = useState<string | null>(null);
  const active = lane.states[useRun((run) => activeIn(s, run, lane)) ?? -1];
  /** The transition that was taken a moment ago. */
  const lit = useRun((run) => {
    const last = s.log.records.findLast((r) => r.kind === 'transition' && r.lane === lane.id);
    return last?.transition !== undefined && run.time - last.t < 1.5 ? last.transition : '';
  });
  const chosen = selected?.kind === 'state' || selected?.kind === 'transition' ? selected.id : null;
  // The tickets of what is chosen or pointed at are read whole.
  const read = new Set(
    lane.transitions
      .filter((t) => t.id === chosen || t.from === chosen || t.to === chosen || t.id === hovered)
      .map((t) => t.id),
  );
  const whole = wholeTickets(layout, read);

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
  }, [chosen, layout]);

  /** The place under the pointer, as a part of the whole, that stays there while it is zoomed. */
  const anchor = useRef<{ part: number; px: number } | null>(null);
  useLayoutEffect(() => {
    const el = box.current;
    if (!el || !anchor.current) return;
    el.scrollLeft = anchor.current.part * layout.width - anchor.current.px;
    anchor.current = null;
  }, [layout.width]);
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
  }, [zoom, onZoom]);

  const indexOf = (id: string) => lane.states.findIndex((x) => x.id === id);
  /** The place in the row that a dragged panel would take: how many others have their middle left of the pointer. */
  const slotAt = (d: Drag) =>
    lane.states.filter((x) => x.id !== d.from && center(layout.panels[x.id]).x < d.x).length;
  const slotMark = (slot: number) => {
    const rest = lane.states.filter((x) => x.id !== drag?.from).map((x) => layout.panels[x.id]);
    const [before, after] = [rest[slot - 1], rest[slot]];
    const r = after ?? before;
    const x = after ? after.x - 8 : before ? before.x + before.w + 8 : 0;
    return r ? `M${x} ${r.y}V${r.y + r.h}` : '';
  };
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
  }, [isDragging]);
  const anywhere = lane.transitions.filter(
    (t) => t.from === '*' && (t.id === pointed || t.id === chosen || t.id === lit),
  );
  const isThere = (id: string) => lane.states.some((x) => x.id === id);
  const drawnStill = drawn && isThere(drawn.from) && isThere(drawn.to) ? drawn : null;
  const wire = drag?.kind === 'join' ? drag : drawnStill;
  const wireFrom = wire && layout.panels[wire.from];
  return (
    <div
      className="flex-1 min-h-0 flex flex-col"
      onKeyDown={(e) => {
        const by = e.key === '+' ? 1.25 : e.key === '-' ? 0.8 : null;
        if (by === null && e.key !== '0') return;
        e.preventDefault();
        e.stopPropagation();
        onZoom(by === null ? 1 : zoomed(zoom, by));
      }}
    >
      {layout.width > width && (
        <Overview lane={lane} layout={layout} box={box} active={active?.id ?? null} chosen={chosen} />
      )}
      <div
        ref={box}
        className={`relative flex-1 min-h-0 overflow-auto ${drag?.kind === 'pan' ? 'cursor-grabbing' : ''}`}
        onPointerDown={(e) => {
          if ((e.target as HTMLElement).closest('button, [role=button]')) return;
          const el = e.currentTarget;
          if (el.scrollWidth <= el.clientWidth && el.scrollHeight <= el.clientHeight) return;
          el.setPointerCapture(e.pointerId);
          setDrag({ kind: 'pan', from: '', x0: e.clientX, x: e.clientX, y: e.clientY });
        }}
        onPointerMove={(e) => {
          if (!drag) return;
          if (drag.kind !== 'pan') return setDrag({ ...drag, ...at(e) });
          e.currentTarget.scrollLeft -= e.clientX - drag.x;
          e.currentTarget.scrollTop -= e.clientY - drag.y;
          setDrag({ ...drag, x: e.clientX, y: e.clientY });
        }}
        onPointerUp={(e) => {
          if (drag) drop(drag, e);
          setDrag(null);
        }}
        onPointerCancel={() => setDrag(null)}
      >
        <StateMenu machine={machine} lane={lane}>
          <div className="relative" style={{ width: layout.width, height: layout.height }}>
            <svg
              className="absolute inset-0 pointer-events-none"
              width={layout.width}
              height={layout.height}
              aria-hidden="true"
            >
              {layout.arcs.map((a) => {
                const isLit = lit === a.id;
                const color = isLit ? 'var(--leaf)' : read.has(a.id) ? 'var(--ink)' : 'var(--ink-3)';
                const d = a.head.up ? 1 : -1;
                return (
                  <g
                    key={a.id}
                    fill="none"
                    stroke={color}
                    strokeWidth={isLit ? 2.5 : read.has(a.id) ? 1.8 : 1.2}
                  >
                    <path d={a.path} />
                    <path
                      d={`M${a.head.x - 4} ${a.head.y + d * 8}L${a.head.x} ${a.head.y + d}L${a.head.x + 4} ${a.head.y + d * 8}`}
                    />
                  </g>
                );
              })}
              {anywhere.map((t) => {
                const r = layout.panels[t.to];
                if (!r) return null;
                const x = r.x + Math.min(26, r.w / 3);
                return (
                  <g key={t.id} fill="none" stroke="var(--brass)" strokeWidth="2" strokeDasharray="6 4">
                    <path d={`M0 7H${x - 10}Q${x} 7 ${x} 17V${r.y}`} />
                    <path
                      d={`M${x - 4} ${r.y - 8}L${x} ${r.y - 1}L${x + 4} ${r.y - 8}`}
                      strokeDasharray="0"
                    />
                  </g>
                );
              })}
              {drag?.kind === 'move' && Math.abs(drag.x - drag.x0) > BEGINS && (
                <path d={slotMark(slotAt(drag))} stroke="var(--brass)" strokeWidth="3" />
              )}
              {wire && wireFrom && (
                <line
                  x1={center(wireFrom).x}
                  y1={center(wireFrom).y}
                  x2={wire.x}
                  y2={wire.y}
                  stroke="var(--brass)"
                  strokeWidth="2"
                  strokeDasharray="5 4"
                />
              )}
            </svg>
            {drawnStill && (
              <WireMenu
                machine={machine}
                lane={lane}
                from={drawnStill.from}
                to={drawnStill.to}
                at={drawnStill}
                onClose={() => setDrawn(null)}
              />
            )}
            {layout.arcs.map((a) => {
              const t = lane.transitions.find((x) => x.id === a.id);
              const rect = whole.get(a.id) ?? a.ticket;
              return (
                <Ticket
                  key={a.id}
                  words={a.text}
                  short={rect.w <= NOTCH}
                  small={layout.small}
                  label={`Transition: ${a.text}`}
                  rect={rect}
                  chosen={chosen === a.id}
                  raised={read.has(a.id)}
                  isSet={t?.set !== false}
                  onSelect={() =>
                    s.select({ kind: 'transition', machine: machine.id, lane: lane.id, id: a.id })
                  }
                  onPoint={(on) => setHovered((was) => (on ? a.id : was === a.id ? null : was))}
                />
              );
            })}
            {lane.states.map((state) => (
              <Panel
                key={state.id}
                machine={machine}
                lane={lane}
                state={state}
                rect={layout.panels[state.id] as Rect}
                active={active?.id === state.id}
                poses={poses.get(state.id) ?? NO_POSES}
                onTake={(e, kind) => {
                  const p = at(e);
                  setDrag({ kind, from: state.id, x0: p.x, ...p });
                }}
                onOpen={() => openPanel(s, machine.id, lane, state)}
                onMove={(by) => moveState(s, machine.id, lane, state.id, by)}
                onJoin={(to: State) => addTransition(s, machine.id, lane, state.id, to.id)}
              />
            ))}
          </div>
        </StateMenu>
      </div>
    </div>
  );
}

const NO_POSES: readonly ImageBitmap[] = [];

function center(r: Rect | undefined) {
  return r ? { x: r.x + r.w / 2, y: r.y + r.h / 2 } : { x: 0, y: 0 };
}
