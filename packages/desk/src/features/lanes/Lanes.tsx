import type { Lane, Machine, State } from '@apple-tick/core/model';
import { DropdownMenu } from 'radix-ui';
import { useMemo, useRef, useState } from 'react';
import { useSession, useTable, useUi, useVersion } from '../../session/hooks.ts';
import { addMachine, addState, addTransition, openPanel } from '../../session/machines.ts';
import { ticketWords } from '../../session/words.ts';
import { useWidth } from '../../ui/use-width.ts';
import { layoutLane } from './layout.ts';
import { Panel } from './Panel.tsx';
import { StatesSoFar } from './StatesSoFar.tsx';

/** The lanes of one machine: panels joined by arcs with tickets. */
export function Lanes() {
  const s = useSession();
  const machines = useTable('machines');
  const id = useUi((u) => u.machine);
  const object = useUi((u) => u.object);
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
  return (
    <div className="h-full overflow-auto">
      {machine.lanes.map((lane) => (
        <LaneRow key={lane.id} machine={machine} lane={lane} />
      ))}
    </div>
  );
}

function LaneRow({ machine, lane }: { machine: Machine; lane: Lane }) {
  const s = useSession();
  const version = useVersion();
  const box = useRef<HTMLDivElement>(null);
  const width = useWidth(box, 1000);
  const selected = useUi((u) => u.selected);
  useUi((u) => u.tick);
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
  const [drag, setDrag] = useState<{ from: string; x: number; y: number } | null>(null);
  const run = s.player?.run;
  const now = run ? (run.program.laneIndex.get(lane.id) ?? -1) : -1;
  const active = run && now >= 0 ? run.motion.placeIn(now) : null;
  const lit = s.log.findLast((r) => r.kind === 'transition' && r.lane === lane.id);
  const litFor = lit && run ? run.time - lit.t : 9;
  const activeState = active ? lane.states[active.state] : undefined;
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
  const clipOf = lane.states.map((x) => x.play).find((p) => typeof p === 'object');
  return (
    <div className="flex min-h-full border-b border-line">
      <div className="w-[150px] flex-none bg-paper border-r border-line p-3">
        <h3 className="text-[14px]">{lane.name}</h3>
        <p className="text-ink-2">unkeyed → {lane.unkeyed === 'base' ? 'back to base' : 'stays'}</p>
        <DropdownMenu.Root>
          <DropdownMenu.Trigger className="btn mt-3">Add a state ▾</DropdownMenu.Trigger>
          <DropdownMenu.Portal>
            <DropdownMenu.Content className="menu">
              <DropdownMenu.Item onSelect={() => addState(s, machine.id, lane, 'clip')}>
                That plays a new clip
              </DropdownMenu.Item>
              {typeof clipOf === 'object' && (
                <DropdownMenu.Item
                  onSelect={() => addState(s, machine.id, lane, { clip: clipOf.clip, speed: -1 })}
                >
                  That plays the clip backwards
                </DropdownMenu.Item>
              )}
              <DropdownMenu.Item onSelect={() => addState(s, machine.id, lane, 'hold')}>
                That holds
              </DropdownMenu.Item>
              <DropdownMenu.Item onSelect={() => addState(s, machine.id, lane, 'rest')}>
                That rests
              </DropdownMenu.Item>
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
        <p className="font-semibold text-ink-2 mt-4">Right now</p>
        <p className={activeState ? 'text-leaf' : 'text-ink-2'}>
          {activeState && active ? `${activeState.name} · ${active.age.toFixed(2)} s` : 'not running'}
        </p>
      </div>
      <div className="flex-1 min-w-0 flex flex-col">
        <StatesSoFar lane={lane} />
        <div
          ref={box}
          className="relative flex-1 min-w-0 overflow-x-auto"
          onPointerMove={(e) => drag && setDrag({ ...drag, ...at(e) })}
          onPointerUp={(e) => {
            const to = drag && panelUnder(e);
            if (drag && to && to.id !== drag.from) addTransition(s, machine.id, lane, drag.from, to.id);
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
                const isLit = lit?.transition === a.id && litFor < 1.5;
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
              {drag && (
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
            {layout.arcs.map((a) => {
              const t = lane.transitions.find((x) => x.id === a.id);
              const isSet = t?.set !== false && a.text !== 'not yet set';
              const chosen = selected?.kind === 'transition' && selected.id === a.id;
              return (
                <button
                  key={a.id}
                  type="button"
                  title={a.text}
                  aria-label={`Transition: ${a.text}`}
                  aria-pressed={chosen}
                  className={`absolute bg-card truncate px-2.5 text-[11.5px] ticket ${chosen ? 'ticket-chosen' : ''} ${isSet ? '' : 'ticket-unset'}`}
                  style={{ left: a.ticket.x, top: a.ticket.y, width: a.ticket.w, height: a.ticket.h }}
                  onClick={() =>
                    s.select({ kind: 'transition', machine: machine.id, lane: lane.id, id: a.id })
                  }
                >
                  {a.text}
                </button>
              );
            })}
            {lane.states.map((state) => (
              <Panel
                key={state.id}
                machine={machine}
                lane={lane}
                state={state}
                rect={layout.panels[state.id] as { x: number; y: number; w: number; h: number }}
                active={activeState?.id === state.id ? active : null}
                onTake={(e) => setDrag({ from: state.id, ...at(e) })}
                onOpen={() => openPanel(s, machine.id, lane, state)}
                onJoin={(to: State) => addTransition(s, machine.id, lane, state.id, to.id)}
              />
            ))}
          </div>
        </div>
      </div>
    </div>
  );
}

function center(r: { x: number; y: number; w: number; h: number } | undefined) {
  return r ? { x: r.x + r.w / 2, y: r.y + r.h / 2 } : { x: 0, y: 0 };
}
