import { type Lane, type Machine, onePlay } from '@apple-tick/core/model';
import { ContextMenu } from 'radix-ui';
import { type ReactNode, useRef, useState } from 'react';
import { runCommand } from '../../commands/registry.ts';
import { useSession } from '../../session/hooks.ts';
import {
  addTransition,
  duplicateState,
  duplicateWithClip,
  editLane,
  openPanel,
} from '../../session/motion/machines.ts';

/**
 * What is done with a state where it stands: one menu for all panels in `children`, which are pressed with the other
 * button, or by its key.
 */
export function StateMenu(props: { machine: Machine; lane: Lane; children: ReactNode }) {
  const { machine, lane, children } = props;
  const s = useSession();
  const [of, setOf] = useState<string | null>(null);
  // What opens it is told in the same event, before it is drawn anew.
  const pressed = useRef<string | null>(null);
  const state = lane.states.find((x) => x.id === of);
  const item = (words: string, act: () => void) => (
    <ContextMenu.Item key={words} onSelect={act}>
      {words}
    </ContextMenu.Item>
  );
  const point = (e: React.SyntheticEvent) => {
    pressed.current = (e.target as Element).closest<HTMLElement>('[data-panel]')?.dataset['panel'] ?? null;
    setOf(pressed.current);
    return pressed.current !== null;
  };
  return (
    <ContextMenu.Root
      onOpenChange={(open) =>
        open &&
        pressed.current !== null &&
        s.select({ kind: 'state', machine: machine.id, lane: lane.id, id: pressed.current })
      }
    >
      <ContextMenu.Trigger
        asChild
        disabled={s.state.readOnly}
        onPointerDownCapture={point}
        // Beside the panels there is nothing to do.
        onContextMenuCapture={(e) => !point(e) && e.stopPropagation()}
      >
        {children}
      </ContextMenu.Trigger>
      <ContextMenu.Portal>
        {state && (
          <ContextMenu.Content
            className="menu"
            aria-label={`With ${state.name}`}
            // A portal bubbles through React: without this the canvas would take the click, the press and the keys.
            onClick={(e) => e.stopPropagation()}
            onPointerDown={(e) => e.stopPropagation()}
            onKeyDown={(e) => e.stopPropagation()}
          >
            {onePlay(state.play) && item('Unfold its timeline', () => openPanel(s, machine.id, lane, state))}
            {/* Once the menu is gone, which gives the focus back to the panel. */}
            {item('Rename', () => setTimeout(() => s.set({ renaming: state.id })))}
            {item('Duplicate', () => duplicateState(s, machine.id, lane, state, false))}
            {onePlay(state.play) &&
              item('Duplicate with a clip of its own', () => duplicateWithClip(s, machine.id, lane, state))}
            {item('Duplicate with its transitions', () => duplicateState(s, machine.id, lane, state, true))}
            {lane.initial !== state.id &&
              item('Starts here', () =>
                editLane(s, `${state.name} comes first`, machine.id, lane.id, (l) => ({
                  ...l,
                  initial: state.id,
                })),
              )}
            {lane.states.length > 1 && (
              <ContextMenu.Sub>
                <ContextMenu.SubTrigger>A transition to ▸</ContextMenu.SubTrigger>
                <ContextMenu.Portal>
                  <ContextMenu.SubContent className="menu">
                    {lane.states
                      .filter((x) => x !== state)
                      .map((x) => (
                        <ContextMenu.Item
                          key={x.id}
                          onSelect={() => addTransition(s, machine.id, lane, state.id, x.id)}
                        >
                          {x.name}
                        </ContextMenu.Item>
                      ))}
                  </ContextMenu.SubContent>
                </ContextMenu.Portal>
              </ContextMenu.Sub>
            )}
            {lane.states.length > 1 && item('Delete', () => runCommand(s, 'delete'))}
          </ContextMenu.Content>
        )}
      </ContextMenu.Portal>
    </ContextMenu.Root>
  );
}
