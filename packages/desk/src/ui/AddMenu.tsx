import { DropdownMenu } from 'radix-ui';
import type { ReactNode } from 'react';

/** A button that opens a list of kinds to add. */
export function AddMenu(props: {
  label?: string;
  className: string;
  children: ReactNode;
  kinds: readonly (readonly [kind: string, name: string])[];
  onPick: (kind: string) => void;
}) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger aria-label={props.label} className={props.className}>
        {props.children}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className="menu">
          {props.kinds.map(([kind, name]) => (
            <DropdownMenu.Item key={kind} onSelect={() => props.onPick(kind)}>
              {name}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
