import type { Lane, Machine, State } from '@apple-tick/core/model';
import { useMemo, useRef, useState } from 'react';
import { localKey } from '../../commands/local-keys.ts';
import { useIdleVersion, useRun, useSession, useUi } from '../../session/hooks.ts';
import { addTransition, moveState, openPanel } from '../../session/motion/machines.ts';
import { ticketWords } from '../../session/words/words.ts';
import { useLanePoses } from '../../ui/lane-poses.tsx';
import { Ticket } from '../../ui/Ticket.tsx';
import { useHeight, useWidth } from '../../ui/use-width.ts';
import { Arcs } from './Arcs.tsx';
import { activeIn } from './active.ts';
import { type LaneLayout, layoutLane, NOTCH, panelParts, type Rect, wholeTickets } from './layout.ts';
import { Overview } from './Overview.tsx';
import { Panel } from './Panel.tsx';
import { StateMenu } from './StateMenu.tsx';
import { useLaneDrag } from './use-lane-drag.ts';
import { useLaneScroll, zoomed } from './use-lane-scroll.ts';
import { WireMenu } from './WireMenu.tsx';

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
  const box = useRef<HTMLDivElement>(null);
  const width = useWidth(box, 1000);
  const height = useHeight(box, 250);
  const selected = useUi((u) => u.selected);
  const layout = useLayout(machine, lane, { width, height, zoom });
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

  useLaneScroll(box, layout, chosen, zoom, onZoom);
  const hand = useLaneDrag(machine, lane, layout, box);
  const { drag, drawn } = hand;
  const anywhere = lane.transitions.filter(
    (t) => t.from === '*' && (t.id === pointed || t.id === chosen || t.id === lit),
  );
  return (
    <div
      className="flex-1 min-h-0 flex flex-col"
      onKeyDown={(e) => {
        const key = localKey('lanes', e);
        if (!key) return;
        e.preventDefault();
        e.stopPropagation();
        onZoom(key === 'whole' ? 1 : zoomed(zoom, key === 'nearer' ? 1.25 : 0.8));
      }}
    >
      {layout.width > width && (
        <Overview lane={lane} layout={layout} box={box} active={active?.id ?? null} chosen={chosen} />
      )}
      <div
        ref={box}
        className={`relative flex-1 min-h-0 overflow-auto ${drag?.kind === 'pan' ? 'cursor-grabbing' : ''}`}
        {...hand.hands}
      >
        <StateMenu machine={machine} lane={lane}>
          <div className="relative" style={{ width: layout.width, height: layout.height }}>
            <Arcs
              layout={layout}
              lit={lit ?? ''}
              read={read}
              anywhere={anywhere}
              wire={drag?.kind === 'join' ? drag : drawn}
              slot={hand.slot === null ? null : slotMark(lane, layout, drag?.from, hand.slot)}
            />
            {drawn && (
              <WireMenu
                machine={machine}
                lane={lane}
                from={drawn.from}
                to={drawn.to}
                at={drawn}
                onClose={hand.forget}
              />
            )}
            <Tickets
              machine={machine}
              lane={lane}
              layout={layout}
              whole={wholeTickets(layout, read)}
              read={read}
              chosen={chosen}
              onPoint={(id, on) => setHovered((was) => (on ? id : was === id ? null : was))}
            />
            <Panels
              machine={machine}
              lane={lane}
              layout={layout}
              active={active?.id ?? null}
              onTake={hand.take}
            />
          </div>
        </StateMenu>
      </div>
    </div>
  );
}

/** Where panels, arcs and tickets lie: worked out anew when the lane, the room or a name in the piece is another. */
function useLayout(machine: Machine, lane: Lane, room: { width: number; height: number; zoom: number }) {
  const s = useSession();
  const version = useIdleVersion();
  const { width, height, zoom } = room;
  // biome-ignore lint/correctness/useExhaustiveDependencies: words depend on names anywhere in the piece
  return useMemo(() => {
    const transitions = lane.transitions.map((t) => ({
      ...t,
      words: ticketWords(s.store, t, machine, lane),
    }));
    return layoutLane({ states: lane.states, transitions }, { width, height, zoom });
  }, [lane, width, height, zoom, machine.object, version]);
}

/** The states, each with pictures of what it shows. */
function Panels(props: {
  machine: Machine;
  lane: Lane;
  layout: LaneLayout;
  active: string | null;
  onTake: (e: React.PointerEvent, kind: 'join' | 'move', state: State) => void;
}) {
  const { machine, lane, layout, active } = props;
  const s = useSession();
  const least = Math.min(...Object.values(layout.panels).map((p) => p.w));
  const parts = panelParts({ w: least, h: Object.values(layout.panels)[0]?.h ?? 0 });
  const poses = useLanePoses(machine, lane, parts.poses, parts.wide);
  return lane.states.map((state) => (
    <Panel
      key={state.id}
      machine={machine}
      lane={lane}
      state={state}
      rect={layout.panels[state.id] as Rect}
      active={active === state.id}
      poses={poses.get(state.id) ?? NO_POSES}
      onTake={(e, kind) => props.onTake(e, kind, state)}
      onOpen={() => openPanel(s, machine.id, lane, state)}
      onMove={(by) => moveState(s, machine.id, lane, state.id, by)}
      onJoin={(to: State) => addTransition(s, machine.id, lane, state.id, to.id)}
    />
  ));
}

/** What sets each transition off, on its line. */
function Tickets(props: {
  machine: Machine;
  lane: Lane;
  layout: LaneLayout;
  /** Where those stand that are read whole. */
  whole: ReadonlyMap<string, Rect>;
  read: ReadonlySet<string>;
  chosen: string | null;
  onPoint: (id: string, on: boolean) => void;
}) {
  const { machine, lane, layout, whole, read, chosen } = props;
  const s = useSession();
  return layout.arcs.map((a) => {
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
        onSelect={() => s.select({ kind: 'transition', machine: machine.id, lane: lane.id, id: a.id })}
        onPoint={(on) => props.onPoint(a.id, on)}
      />
    );
  });
}

const NO_POSES: readonly ImageBitmap[] = [];

/** A line beside the panel before which a dragged one would come to stand. */
function slotMark(lane: Lane, layout: LaneLayout, dragged: string | undefined, slot: number): string {
  const rest = lane.states.filter((x) => x.id !== dragged).map((x) => layout.panels[x.id]);
  const [before, after] = [rest[slot - 1], rest[slot]];
  const r = after ?? before;
  const x = after ? after.x - 8 : before ? before.x + before.w + 8 : 0;
  return r ? `M${x} ${r.y}V${r.y + r.h}` : '';
}
