import type { Lane, Machine, State } from '@apple-tick/core/model';
import { placeIn, type Run } from '@apple-tick/core/run';
import { memo, useMemo, useRef, useState } from 'react';
import { CLIP_TYPE } from '../../session/dragged.ts';
import { useCalmTable, useCalmVersion, useRun, useSession, useUi } from '../../session/hooks.ts';
import { addMachine, addState, addTransition, moveState, openPanel } from '../../session/machines.ts';
import { ticketWords } from '../../session/words.ts';
import { useLanePoses } from '../../ui/lane-poses.tsx';
import { Ticket } from '../../ui/Ticket.tsx';
import { useWidth } from '../../ui/use-width.ts';
import { LaneHead } from './LaneHead.tsx';
import { layoutLane } from './layout.ts';
import { Panel } from './Panel.tsx';
import { StatesSoFar } from './StatesSoFar.tsx';
import { WireMenu } from './WireMenu.tsx';

/** The lanes of one machine: panels joined by arcs with tickets. */
export const Lanes = memo(function Lanes() {
  const s = useSession();
  const machines = useCalmTable('machines');
  const id = useUi((u) => u.machine);
  const object = useUi((u) => u.object);
  const laneId = useUi((u) => u.lane);
  const machine = machines.find((m) => m.id === id) ?? machines[0];
  if (!machine) {
    const chosen = object ? s.store.get('objects', object) : undefined;
    return (
      <div className="p-6">
        <p className="mb-2">
          {chosen
            ? 'A machine says which states a thing has and what leads from one to another.'
            : 'Select the object that is to behave, then give it a machine.'}
        </p>
        {chosen && (
          <button type="button" className="btn btn-ink" onClick={() => addMachine(s, chosen.id)}>
            Add a machine to {chosen.name}
          </button>
        )}
      </div>
    );
  }
  const tall = machine.lanes.find((l) => l.id === laneId) ?? machine.lanes[0];
  return (
    <div
      className="h-full overflow-auto flex flex-col"
      onDragOver={(e) => {
        if (!e.dataTransfer.types.includes(CLIP_TYPE)) return;
        e.preventDefault();
        e.stopPropagation();
      }}
      onDrop={(e) => {
        const clip = e.dataTransfer.getData(CLIP_TYPE);
        if (!tall || !s.store.has('clips', clip)) return;
        e.preventDefault();
        e.stopPropagation();
        addState(s, machine.id, tall, { clip, speed: 1 });
      }}
    >
      {machine.lanes.map((lane) =>
        lane === tall ? (
          <LaneRow key={lane.id} machine={machine} lane={lane} />
        ) : (
          <LaneChips key={lane.id} machine={machine} lane={lane} />
        ),
      )}
    </div>
  );
});

/** A lane that is not worked on: its states as a line of chips, the active one lit. */
function LaneChips({ machine, lane }: { machine: Machine; lane: Lane }) {
  const s = useSession();
  const active = useRun((run) => activeIn(run, lane)) ?? -1;
  return (
    <div className="flex items-center gap-2 h-[44px] px-3 border-b border-line bg-paper flex-none">
      <button
        type="button"
        className="font-serif font-semibold text-[14px] w-[140px] text-left truncate flex-none"
        onClick={() => s.set({ lane: lane.id })}
      >
        {lane.name}
      </button>
      <div className="flex gap-1.5 overflow-x-auto">
        {lane.states.map((x, i) => (
          <button
            key={x.id}
            type="button"
            className={`btn ${i === active ? '!border-leaf text-leaf font-semibold' : ''}`}
            onClick={() => s.select({ kind: 'state', machine: machine.id, lane: lane.id, id: x.id })}
          >
            {x.name}
          </button>
        ))}
      </div>
    </div>
  );
}

/** A panel's edge is taken to make a transition; its middle to put it elsewhere in the row. */
interface Drag {
  kind: 'join' | 'move';
  from: string;
  x0: number;
  x: number;
  y: number;
}

function LaneRow({ machine, lane }: { machine: Machine; lane: Lane }) {
  const s = useSession();
  const version = useCalmVersion();
  const box = useRef<HTMLDivElement>(null);
  const width = useWidth(box, 1000);
  const selected = useUi((u) => u.selected);
  const poses = useLanePoses(machine, lane);
  // biome-ignore lint/correctness/useExhaustiveDependencies: words depend on names anywhere in the piece
  const layout = useMemo(
    () =>
      layoutLane(
        {
          states: lane.states,
          transitions: lane.transitions.map((t) => ({
            ...t,
            words: ticketWords(s.store, t, machine.object),
          })),
        },
        width,
      ),
    [lane, width, machine.object, version],
  );
  /** The transition from anywhere that is pointed at in the lane's head. */
  const [pointed, setPointed] = useState<string | null>(null);
  const [drag, setDrag] = useState<Drag | null>(null);
  /** A transition that has been drawn, and waits to be told what sets it off. */
  const [drawn, setDrawn] = useState<{ from: string; to: string; x: number; y: number } | null>(null);
  const activeState = lane.states[useRun((run) => activeIn(run, lane)) ?? -1];
  /** The transition that was taken a moment ago. */
  const lit = useRun((run) => {
    const last = s.log.records.findLast((r) => r.kind === 'transition' && r.lane === lane.id);
    return last?.transition !== undefined && run.time - last.t < 1.5 ? last.transition : '';
  });
  const at = (e: React.PointerEvent) => {
    const r = (box.current as HTMLElement).getBoundingClientRect();
    return { x: e.clientX - r.left + (box.current as HTMLElement).scrollLeft, y: e.clientY - r.top };
  };
  const panelUnder = (e: React.PointerEvent) => {
    const p = at(e);
    return lane.states.find((x) => {
      const r = layout.panels[x.id];
      return r && p.x >= r.x && p.x <= r.x + r.w && p.y >= r.y && p.y <= r.y + r.h;
    });
  };
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
  const anywhere = lane.transitions.filter(
    (t) =>
      t.from === '*' &&
      (t.id === pointed || (selected?.kind === 'transition' && t.id === selected.id) || t.id === lit),
  );
  return (
    <div className="flex flex-1 border-b border-line">
      <div className="w-[164px] flex-none bg-paper border-r border-line p-3">
        <LaneHead machine={machine} lane={lane} onPoint={setPointed} />
        <p className="font-semibold text-ink-2 mt-4">Right now</p>
        <p className={activeState ? 'text-leaf' : 'text-ink-2'}>
          {activeState ? (
            <>
              {activeState.name} · <Age lane={lane} />
            </>
          ) : (
            'not running'
          )}
        </p>
      </div>
      <div className="flex-1 min-w-0 flex flex-col">
        <StatesSoFar lane={lane} />
        <div
          ref={box}
          className="relative flex-1 min-w-0 overflow-x-auto"
          onPointerMove={(e) => drag && setDrag({ ...drag, ...at(e) })}
          onPointerUp={(e) => {
            const to = drag?.kind === 'join' ? panelUnder(e) : undefined;
            if (drag && to && to.id !== drag.from && !s.state.readOnly)
              setDrawn({ from: drag.from, to: to.id, ...at(e) });
            if (drag?.kind === 'move' && Math.abs(drag.x - drag.x0) > 8)
              moveState(s, machine.id, lane, drag.from, slotAt(drag) - indexOf(drag.from));
            setDrag(null);
          }}
        >
          <div className="relative" style={{ width: layout.width, height: layout.height }}>
            <svg
              className="absolute inset-0 pointer-events-none"
              width={layout.width}
              height={layout.height}
              aria-hidden="true"
            >
              {layout.arcs.map((a) => {
                const isLit = lit === a.id;
                const color = isLit ? 'var(--leaf)' : 'var(--ink)';
                const d = a.head.up ? 1 : -1;
                return (
                  <g key={a.id} fill="none" stroke={color} strokeWidth={isLit ? 2.5 : 1.4}>
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
                const x = r.x + 26;
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
              {drag?.kind === 'move' && Math.abs(drag.x - drag.x0) > 8 && (
                <path d={slotMark(slotAt(drag))} stroke="var(--brass)" strokeWidth="3" />
              )}
              {drawn && layout.panels[drawn.from] && (
                <line
                  x1={center(layout.panels[drawn.from]).x}
                  y1={center(layout.panels[drawn.from]).y}
                  x2={drawn.x}
                  y2={drawn.y}
                  stroke="var(--brass)"
                  strokeWidth="2"
                  strokeDasharray="5 4"
                />
              )}
              {drag?.kind === 'join' && (
                <line
                  x1={center(layout.panels[drag.from]).x}
                  y1={center(layout.panels[drag.from]).y}
                  x2={drag.x}
                  y2={drag.y}
                  stroke="var(--brass)"
                  strokeWidth="2"
                  strokeDasharray="5 4"
                />
              )}
            </svg>
            {drawn &&
              lane.states.some((x) => x.id === drawn.from) &&
              lane.states.some((x) => x.id === drawn.to) && (
                <WireMenu
                  machine={machine}
                  lane={lane}
                  from={drawn.from}
                  to={drawn.to}
                  at={drawn}
                  onClose={() => setDrawn(null)}
                />
              )}
            {layout.arcs.map((a) => {
              const t = lane.transitions.find((x) => x.id === a.id);
              const chosen = selected?.kind === 'transition' && selected.id === a.id;
              return (
                <Ticket
                  key={a.id}
                  words={a.text}
                  label={`Transition: ${a.text}`}
                  rect={a.ticket}
                  chosen={chosen}
                  isSet={t?.set !== false}
                  onSelect={() =>
                    s.select({ kind: 'transition', machine: machine.id, lane: lane.id, id: a.id })
                  }
                />
              );
            })}
            {lane.states.map((state) => (
              <Panel
                key={state.id}
                machine={machine}
                lane={lane}
                state={state}
                rect={layout.panels[state.id] as { x: number; y: number; w: number; h: number }}
                active={activeState?.id === state.id}
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
        </div>
      </div>
    </div>
  );
}

const NO_POSES: readonly ImageBitmap[] = [];

/** Number of the lane's active state; −1 before there is one. */
function activeIn(run: Run, lane: Lane): number {
  const at = run.program.laneIndex.get(lane.id);
  return at === undefined ? -1 : placeIn(run, at).state;
}

/** How long the lane's state has been active. */
function Age({ lane }: { lane: Lane }) {
  return useRun((run) => {
    const at = run.program.laneIndex.get(lane.id);
    return at === undefined ? '' : `${placeIn(run, at).age.toFixed(2)} s`;
  });
}

function center(r: { x: number; y: number; w: number; h: number } | undefined) {
  return r ? { x: r.x + r.w / 2, y: r.y + r.h / 2 } : { x: 0, y: 0 };
}
