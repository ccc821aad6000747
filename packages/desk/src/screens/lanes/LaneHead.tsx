import { type Lane, type Machine, onePlay } from '@apple-tick/core/model';
import { DropdownMenu } from 'radix-ui';
import { useState } from 'react';
import { useIdleVersion, useSession, useUi } from '../../session/hooks.ts';
import {
  addLane,
  addState,
  addTransition,
  deleteLane,
  duplicateLane,
  editLane,
  writeStates,
} from '../../session/motion/machines.ts';
import { nameOf, ticketWords } from '../../session/words/words.ts';
import { Pick, TextField } from '../../ui/fields.tsx';
import { Ticket } from '../../ui/Ticket.tsx';

/** What holds for a whole lane: its name, what unkeyed properties do, transitions from anywhere, what can be added. */
export function LaneHead(props: {
  machine: Machine;
  lane: Lane;
  /** The transition from anywhere that is pointed at, whose arc is then drawn. */
  onPoint: (id: string | null) => void;
}) {
  const { machine, lane, onPoint } = props;
  const s = useSession();
  useIdleVersion();
  const selected = useUi((u) => u.selected);
  const [writing, setWriting] = useState(false);
  const anywhere = lane.transitions.filter((t) => t.from === '*');
  return (
    <>
      <TextField
        label="Name of the lane"
        className="font-serif font-semibold text-[14px] bg-transparent w-full min-w-0"
        value={lane.name}
        onChange={(name) =>
          name.trim() !== '' &&
          editLane(s, `Renamed ${lane.name}`, machine.id, lane.id, (l) => ({ ...l, name: name.trim() }))
        }
      />
      <p
        className="sentence text-ink-2 whitespace-nowrap"
        title={
          lane.unkeyed === 'base'
            ? 'What another state of this lane keys, but not the active one, goes back to what lies below.'
            : 'What another state of this lane keys, but not the active one, stays as it was.'
        }
      >
        unkeyed →{' '}
        <Pick
          label="Unkeyed properties"
          value={lane.unkeyed}
          options={[
            ['base', 'back to base'],
            ['keep', 'stays'],
          ]}
          onChange={(v) =>
            editLane(s, `Changed ${lane.name}`, machine.id, lane.id, (l) => ({
              ...l,
              unkeyed: v as Lane['unkeyed'],
            }))
          }
        />
      </p>
      <AddToLane machine={machine} lane={lane} writing={writing} onWrite={() => setWriting(true)} />
      {writing && (
        <input
          ref={(el) => el?.focus()}
          aria-label="States in a line"
          placeholder="shut > opening > open"
          title="A comma stands between states, an arrow where one leads to the next"
          className="field w-full mt-2"
          onBlur={() => setWriting(false)}
          onKeyDown={(e) => {
            if (e.key === 'Enter') writeStates(s, machine, lane, e.currentTarget.value);
            if (e.key === 'Enter' || e.key === 'Escape') setWriting(false);
            e.stopPropagation();
          }}
        />
      )}
      {anywhere.length > 0 && <p className="font-semibold text-ink-2 mt-3">From anywhere</p>}
      <ul className="mt-1 space-y-1">
        {anywhere.map((t) => {
          const words = `${nameOf(s.store, t.to)}: ${ticketWords(s.store, t, machine, lane)}`;
          const chosen = selected?.kind === 'transition' && selected.id === t.id;
          return (
            <li key={t.id}>
              <Ticket
                words={`→ ${words}`}
                label={`Transition from anywhere to ${words}`}
                rect={{ w: 138, h: 22 }}
                chosen={chosen}
                isSet={t.set}
                onSelect={() =>
                  s.select({ kind: 'transition', machine: machine.id, lane: lane.id, id: t.id })
                }
                onPoint={(on) => onPoint(on ? t.id : null)}
              />
            </li>
          );
        })}
      </ul>
    </>
  );
}

/** What can be added to a lane, and to its machine. */
function AddToLane({
  machine,
  lane,
  writing,
  onWrite,
}: {
  machine: Machine;
  lane: Lane;
  writing: boolean;
  onWrite: () => void;
}) {
  const s = useSession();
  const played = lane.states.flatMap((x) => onePlay(x.play) ?? [])[0];
  const item = (words: string, run: () => void) => (
    <DropdownMenu.Item key={words} onSelect={run}>
      {words}
    </DropdownMenu.Item>
  );
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="btn mt-2">Add ▾</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          className="menu"
          // The line that is written has the focus.
          onCloseAutoFocus={(e) => writing && e.preventDefault()}
        >
          {item('States, written in a line…', onWrite)}
          {item('A state that plays a new clip', () => addState(s, machine.id, lane, 'clip'))}
          {played &&
            item('A state that plays the clip backwards', () =>
              addState(s, machine.id, lane, { clip: played.clip, speed: -1 }),
            )}
          {item('A state that holds', () => addState(s, machine.id, lane, 'hold'))}
          {item('A state that rests', () => addState(s, machine.id, lane, 'rest'))}
          <DropdownMenu.Sub>
            <DropdownMenu.SubTrigger>A transition from anywhere to ▸</DropdownMenu.SubTrigger>
            <DropdownMenu.Portal>
              <DropdownMenu.SubContent className="menu">
                {lane.states.map((x) => (
                  <DropdownMenu.Item
                    key={x.id}
                    onSelect={() => addTransition(s, machine.id, lane, '*', x.id)}
                  >
                    {x.name}
                  </DropdownMenu.Item>
                ))}
              </DropdownMenu.SubContent>
            </DropdownMenu.Portal>
          </DropdownMenu.Sub>
          {item('Another lane', () => addLane(s, machine.id))}
          <DropdownMenu.Separator className="border-t border-line my-1" />
          {item('Duplicate this lane', () => duplicateLane(s, machine.id, lane))}
          {item(machine.lanes.length > 1 ? 'Delete this lane' : `Delete the machine ${machine.name}`, () =>
            deleteLane(s, machine, lane),
          )}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
