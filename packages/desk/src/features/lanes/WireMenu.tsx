import type { Lane, Machine } from '@apple-tick/core/model';
import { Popover } from 'radix-ui';
import { useRef, useState } from 'react';
import { useSession } from '../../session/hooks.ts';
import { addTransition } from '../../session/machines.ts';
import { likelyEvents, wire } from '../../session/wiring.ts';

/** Where a transition was dropped: what sets it off stands there to be chosen. Escape makes none. */
export function WireMenu(props: {
  machine: Machine;
  lane: Lane;
  from: string;
  to: string;
  at: { x: number; y: number };
  onClose: () => void;
}) {
  const { machine, lane, from, to, at, onClose } = props;
  const s = useSession();
  const [back, setBack] = useState(false);
  const escaped = useRef(false);
  const open = () => addTransition(s, machine.id, lane, from, to);
  return (
    <Popover.Root
      open
      onOpenChange={(stays) => {
        if (stays) return;
        // Whoever goes elsewhere has drawn it all the same: it is set later.
        if (!escaped.current) open();
        onClose();
      }}
    >
      <Popover.Anchor className="absolute" style={{ left: at.x, top: at.y }} />
      <Popover.Portal>
        <Popover.Content
          className="menu w-[220px]"
          aria-label="What sets it off"
          side="right"
          sideOffset={14}
          collisionPadding={8}
          onEscapeKeyDown={() => {
            escaped.current = true;
          }}
        >
          {likelyEvents(s, machine, lane, from).map((likely) => (
            <button
              key={likely.words}
              type="button"
              className="block w-full text-left px-2 py-1 rounded-[5px] hover:bg-chosen focus-visible:bg-chosen truncate"
              onClick={() => {
                wire(s, machine, lane, from, to, likely, back);
                onClose();
              }}
            >
              {likely.words}
            </button>
          ))}
          <label className="flex items-center gap-2 px-2 py-1.5 border-t border-line mt-1">
            <input type="checkbox" checked={back} onChange={(e) => setBack(e.target.checked)} />
            and back again
          </label>
          <button
            type="button"
            className="block w-full text-left px-2 py-1 rounded-[5px] text-ink-2 hover:bg-chosen focus-visible:bg-chosen"
            onClick={() => {
              open();
              onClose();
            }}
          >
            something else…
          </button>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
