import { Redo2, Undo2 } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { Link, useNavigate } from 'react-router';
import { runCommand } from '../commands/registry.ts';
import { useHead, useSession, useUi, useVersion } from '../session/hooks.ts';
import { exportPiece } from '../ui/export-piece.ts';
import { TextField } from '../ui/fields.tsx';
import { Mark } from '../ui/Mark.tsx';
import { toggleTheme } from '../ui/theme.ts';

/** The piece's name and menu, undo and redo with what they do, when it was kept, and the command search. */
export function TopBar(props: { onSearch: () => void; onKeys: () => void; onBringIn: () => void }) {
  const { onSearch, onKeys, onBringIn } = props;
  const s = useSession();
  useVersion();
  const head = useHead();
  const go = useNavigate();
  const keptAt = useUi((u) => u.keptAt);
  const kept = new Date(keptAt).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' });
  return (
    <header className="bg-card border-b border-line flex items-center gap-2.5 px-3.5 min-w-0">
      <Link to="/" aria-label="Shelf">
        <Mark />
      </Link>
      <h1 className="text-[17px] whitespace-nowrap">Apple Tick</h1>
      <TextField
        label="Name of the piece"
        className="font-serif text-[15px] bg-transparent [field-sizing:content] min-w-10 max-w-44 text-ink-2"
        value={head.name}
        onChange={(name) =>
          name.trim() && s.edit('Renamed the piece', (e) => e.head((h) => ({ ...h, name: name.trim() })))
        }
      />
      <DropdownMenu.Root>
        <DropdownMenu.Trigger className="btn" aria-label="Menu of the piece">
          ▾
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content className="menu">
            <DropdownMenu.Item onSelect={() => void go('/')}>Shelf</DropdownMenu.Item>
            <DropdownMenu.Item onSelect={onBringIn}>Bring in a picture, model or sound…</DropdownMenu.Item>
            <DropdownMenu.Item onSelect={() => void exportPiece(s.piece())}>
              Export the file
            </DropdownMenu.Item>
            <DropdownMenu.Item onSelect={() => s.selectMany([])}>Frame, ground and light</DropdownMenu.Item>
            <DropdownMenu.Item onSelect={toggleTheme}>Light or dark</DropdownMenu.Item>
            <DropdownMenu.Item onSelect={onKeys}>Shortcuts</DropdownMenu.Item>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      <Link className="btn" to="hand-over">
        Hand over…
      </Link>
      <span className="flex-1" />
      <button
        type="button"
        className="flex items-center gap-1 min-w-0"
        disabled={!s.history.undoName}
        onClick={() => runCommand(s, 'undo')}
      >
        <Undo2 size={13} aria-hidden="true" />
        <span className="truncate">{s.history.undoName ? `Undo “${s.history.undoName}”` : 'Undo'}</span>
      </button>
      <button
        type="button"
        aria-label={s.history.redoName ? `Redo “${s.history.redoName}”` : 'Redo'}
        disabled={!s.history.redoName}
        onClick={() => runCommand(s, 'redo')}
      >
        <Redo2 size={13} aria-hidden="true" />
      </button>
      <span className="text-leaf whitespace-nowrap">✓ kept {kept}</span>
      <button type="button" className="btn" onClick={onSearch}>
        Search commands
      </button>
    </header>
  );
}
