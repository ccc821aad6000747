import type { SceneObject } from '@apple-tick/core/model';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import { RecipeList } from '../../ui/RecipeList.tsx';

/** Ready-made behaviours for an object, where it is described. */
export function Recipes({ object }: { object: SceneObject }) {
  const [open, setOpen] = useState(false);
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger className="text-ink-2 underline decoration-dotted text-[12px]">
        recipes
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          className="menu w-[380px] max-h-[70vh] overflow-auto"
          align="end"
          collisionPadding={8}
          aria-label={`Recipes for ${object.name}`}
        >
          <RecipeList object={object} onPut={() => setOpen(false)} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
