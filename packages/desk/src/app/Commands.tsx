import { Dialog } from 'radix-ui';
import { useState } from 'react';
import { COMMANDS, runCommand } from '../commands/registry.ts';
import { useSession } from '../session/hooks.ts';

/** The sheet of shortcuts, or the search of commands: both read the one table. */
export function Commands({ which, onClose }: { which: 'keys' | 'search' | null; onClose: () => void }) {
  const s = useSession();
  const [text, setText] = useState('');
  const wanted = text.toLowerCase();
  // Words that begin with what is typed come before words that only hold it.
  const begins = (c: (typeof COMMANDS)[number]) => ` ${c.name.toLowerCase()}`.includes(` ${wanted}`);
  const found = COMMANDS.filter((c) => c.name.toLowerCase().includes(wanted)).sort(
    (a, b) => Number(begins(b)) - Number(begins(a)),
  );
  const pick = (id: string) => {
    onClose();
    setText('');
    runCommand(s, id);
  };
  return (
    <Dialog.Root open={which !== null} onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-black/30 z-40" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed z-50 top-24 left-1/2 -translate-x-1/2 w-[420px] bg-card border border-line rounded-[9px] p-4"
        >
          <Dialog.Title className="text-[16px] font-serif mb-2">
            {which === 'keys' ? 'Shortcuts' : 'Commands'}
          </Dialog.Title>
          {which === 'search' && (
            <input
              className="field w-full mb-2"
              aria-label="Search commands"
              value={text}
              onChange={(e) => setText(e.target.value)}
              onKeyDown={(e) => e.key === 'Enter' && found[0] && pick(found[0].id)}
            />
          )}
          <ul className="max-h-80 overflow-auto">
            {(which === 'keys' ? COMMANDS.filter((c) => c.keys.length > 0) : found).map((c) => (
              <li key={c.id}>
                <button
                  type="button"
                  className="flex justify-between w-full px-2 py-1 rounded hover:bg-chosen"
                  onClick={() => pick(c.id)}
                >
                  <span>{c.name}</span>
                  <span className="num text-ink-2">{c.keys.join(', ').replaceAll('Mod', 'Ctrl/⌘')}</span>
                </button>
              </li>
            ))}
          </ul>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
