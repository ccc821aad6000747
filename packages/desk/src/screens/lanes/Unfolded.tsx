import type { Lane, Machine, State, Transition } from '@apple-tick/core/model';
import { Popover } from 'radix-ui';
import { type ReactNode, useState } from 'react';
import { useSession, useUi, useVersion } from '../../session/hooks.ts';
import { waits } from '../../session/motion/machines.ts';
import { nameOf, ticketWords } from '../../session/words/words.ts';
import { PosePicture, useLanePoses } from '../../ui/lane-poses.tsx';
import { Ticket } from '../../ui/Ticket.tsx';
import { WhenList } from './WhenList.tsx';

const TICKET = 20;
const MOST_WIDTH = 190;
const CHIP_POSE = { w: 64, h: 40 };

/**
 * The open panel in its lane: its neighbours have shrunk to chips with their poses, and the transitions between them and
 * it stand over it, on the side of the neighbour. `children` is its timeline.
 */
export function Unfolded(props: { machine: Machine; lane: Lane; state: State; children: ReactNode }) {
  const { machine, lane, state } = props;
  const s = useSession();
  useVersion();
  const at = lane.states.indexOf(state);
  const poses = useLanePoses(machine, lane, CHIP_POSE, false);
  const chip = (x: State) => (
    <button
      key={x.id}
      type="button"
      className="btn w-full truncate relative"
      onClick={() => {
        s.set({ openState: x.id, playhead: 0 });
        s.select({ kind: 'state', machine: machine.id, lane: lane.id, id: x.id });
      }}
    >
      {lane.initial === x.id && <Pennant />}
      <span className="flex justify-center overflow-hidden rounded-[5px]" style={{ background: '#e9e8d4' }}>
        {poses
          .get(x.id)
          ?.slice(-1)
          .map((bitmap) => (
            <PosePicture key={x.id} bitmap={bitmap} />
          ))}
      </span>
      <span className="block truncate">{x.name}</span>
    </button>
  );
  const isLeft = (id: string) => lane.states.findIndex((x) => x.id === id) < at;
  const joins = lane.transitions.filter((t) => t.from === state.id || t.to === state.id);
  const side = (left: boolean) =>
    joins
      .filter((t) => t.from !== '*' && isLeft(t.from === state.id ? t.to : t.from) === left)
      .map((t) => (
        <Join key={t.id} machine={machine} lane={lane} t={t} out={t.from === state.id} left={left} />
      ));
  return (
    <div className="h-full flex gap-2 p-2 bg-paper">
      <div className="w-20 flex-none space-y-1.5 overflow-y-auto overflow-x-hidden">
        <h3 className="font-serif font-semibold text-[13px] truncate" title={lane.name}>
          {lane.name}
        </h3>
        {lane.states.slice(0, at).map(chip)}
      </div>
      <div className="flex-1 min-w-0 flex flex-col">
        {joins.length > 0 && (
          <div
            className="flex justify-between gap-6 h-[26px] flex-none"
            role="group"
            aria-label="Ways in and out"
          >
            <div className="flex gap-3 min-w-0 overflow-hidden">{side(true)}</div>
            <div className="flex gap-3 min-w-0 overflow-hidden justify-end">{side(false)}</div>
          </div>
        )}
        <div className="relative flex-1 min-h-0 border border-line rounded-[9px] overflow-hidden">
          {lane.initial === state.id && <Pennant />}
          {props.children}
        </div>
      </div>
      <div className="w-20 flex-none space-y-1.5 overflow-y-auto overflow-x-hidden pt-[26px]">
        {lane.states.slice(at + 1).map(chip)}
      </div>
    </div>
  );
}

/** The first state's mark. */
function Pennant() {
  return (
    <svg className="absolute top-0 left-1 z-10" width="12" height="13" role="img" aria-label="starts here">
      <path d="M1.5 13V1L11 4.5L1.5 8" fill="var(--ink)" stroke="var(--ink)" />
    </svg>
  );
}

/** A transition between the open state and a neighbour: an arrow that begins or ends at the neighbour's side. */
function Join(props: { machine: Machine; lane: Lane; t: Transition; out: boolean; left: boolean }) {
  const { machine, lane, t, out, left } = props;
  const s = useSession();
  const selected = useUi((u) => u.selected);
  const words = ticketWords(s.store, t, machine, lane);
  const other = lane.states.find((x) => x.id === (out ? t.to : t.from))?.name ?? nameOf(s.store, t.to);
  const text = out ? `to ${other}: ${words}` : `from ${other}: ${words}`;
  // An arrow points to the side where it leads: away from the panel's middle when it leads out.
  const toLeft = out === left;
  const arrow = (head: boolean) => (
    <svg width="16" height={TICKET} className="flex-none" aria-hidden="true">
      <path
        d={`M0 ${TICKET / 2}H16${head ? (toLeft ? `M6 ${TICKET / 2 - 4}L1 ${TICKET / 2}L6 ${TICKET / 2 + 4}` : `M10 ${TICKET / 2 - 4}L15 ${TICKET / 2}L10 ${TICKET / 2 + 4}`) : ''}`}
        fill="none"
        stroke="var(--ink)"
        strokeWidth="1.3"
      />
    </svg>
  );
  if (!out && waits(t, t.from, t.to))
    return (
      <span className="flex items-center flex-none">
        {arrow(toLeft)}
        <When machine={machine} lane={lane} t={t} other={other} />
        {arrow(!toLeft)}
      </span>
    );
  return (
    <span className="flex items-center flex-none">
      {arrow(toLeft)}
      <Ticket
        words={text}
        label={`Transition: ${text}`}
        rect={{ w: Math.min(MOST_WIDTH, 26 + text.length * 6), h: TICKET }}
        chosen={selected?.kind === 'transition' && selected.id === t.id}
        isSet={t.set}
        onSelect={() => s.select({ kind: 'transition', machine: machine.id, lane: lane.id, id: t.id })}
      />
      {arrow(!toLeft)}
    </span>
  );
}

/** What does not yet know when it comes asks here. */
function When({ machine, lane, t, other }: { machine: Machine; lane: Lane; t: Transition; other: string }) {
  const s = useSession();
  const [open, setOpen] = useState(false);
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger asChild>
        <button
          type="button"
          data-when
          className="btn btn-brass h-5 px-2 py-0 text-[11.5px] whitespace-nowrap"
        >
          from {other}: when?
        </button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          className="menu w-[330px]"
          aria-label="What sets it off"
          sideOffset={4}
          collisionPadding={8}
        >
          <WhenList
            machine={machine}
            lane={lane}
            from={t.from}
            to={t.to}
            onDone={() => setOpen(false)}
            onElse={() => s.select({ kind: 'transition', machine: machine.id, lane: lane.id, id: t.id })}
          />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
