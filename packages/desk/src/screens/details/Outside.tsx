import type { SceneObject } from '@apple-tick/core/model';
import { Popover } from 'radix-ui';
import { useSession } from '../../session/hooks.ts';
import { outsideAt, type Side } from '../../session/things/outside.ts';

const WORDS: readonly (readonly [side: Side, words: string])[] = [
  [[-1, 1], 'above on the left'],
  [[0, 1], 'above'],
  [[1, 1], 'above on the right'],
  [[-1, 0], 'on the left'],
  [[0, 0], 'in its own place'],
  [[1, 0], 'on the right'],
  [[-1, -1], 'below on the left'],
  [[0, -1], 'below'],
  [[1, -1], 'below on the right'],
];

/** The frame and the eight places round it: where the object waits is pressed; while keying that is a key. */
export function Outside(props: {
  object: SceneObject;
  onPlace: (place: readonly [x: number, y: number]) => void;
}) {
  const { object, onPlace } = props;
  const s = useSession();
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <button type="button" className="underline text-ink-2 text-[11.5px]">
          wait outside the frame…
        </button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          className="menu !p-2"
          aria-label="Where it waits"
          collisionPadding={8}
          sideOffset={4}
        >
          <div className="grid grid-cols-[34px_72px_34px] grid-rows-[26px_44px_26px] gap-1">
            {WORDS.map(([side, words]) => (
              <Popover.Close key={words} asChild>
                <button
                  type="button"
                  aria-label={`Waits ${words}`}
                  title={words}
                  className={`grid place-items-center rounded-[4px] hover:bg-chosen focus-visible:bg-chosen ${side[0] === 0 && side[1] === 0 ? 'border border-ink-3 bg-paper' : ''}`}
                  onClick={() => onPlace(outsideAt(s, object, side))}
                >
                  <span className="w-4 h-3 rounded-[2px] bg-brass" />
                </button>
              </Popover.Close>
            ))}
          </div>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
