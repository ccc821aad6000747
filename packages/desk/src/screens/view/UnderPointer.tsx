import type { SceneObject } from '@apple-tick/core/model';
import { DropdownMenu } from 'radix-ui';
import { memo } from 'react';
import { useSession } from '../../session/hooks.ts';

/** The list of what lies under the pointer, topmost first: a cover over everything is no obstacle. */
export const UnderPointer = memo(function UnderPointer(props: {
  list: { x: number; y: number; objects: SceneObject[] } | null;
  onClose: () => void;
}) {
  const s = useSession();
  const { list, onClose } = props;
  return (
    <DropdownMenu.Root open={list !== null} onOpenChange={(open) => !open && onClose()}>
      <DropdownMenu.Trigger asChild>
        <span className="absolute w-0 h-0" style={{ left: list?.x, top: list?.y }} aria-hidden="true" />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className="menu" align="start" aria-label="Under the pointer">
          {list?.objects.map((o) => (
            <DropdownMenu.Item key={o.id} onSelect={() => s.select({ kind: 'object', id: o.id })}>
              {o.name}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
});
