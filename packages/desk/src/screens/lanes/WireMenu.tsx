import type { Lane, Machine } from '@apple-tick/core/model';
import { Popover } from 'radix-ui';
import { useRef } from 'react';
import { useSession } from '../../session/hooks.ts';
import { addTransition } from '../../session/motion/machines.ts';
import { WhenList } from './WhenList.tsx';

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
          className="menu w-[330px]"
          aria-label="What sets it off"
          side="right"
          sideOffset={14}
          collisionPadding={8}
          onEscapeKeyDown={() => {
            escaped.current = true;
          }}
        >
          <WhenList
            machine={machine}
            lane={lane}
            from={from}
            to={to}
            onDone={onClose}
            onElse={() => {
              open();
              onClose();
            }}
          />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
