import { Redo2, Undo2 } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { Link } from 'react-router';
import { useStore } from 'zustand';
import { runCommand } from '../commands/registry.ts';
import { useHead, useIdleVersion, useSession, useUi } from '../session/hooks.ts';
import { storage } from '../session/keep/storage.ts';
import { TextField } from '../ui/fields.tsx';
import { Mark } from '../ui/Mark.tsx';

/** The commands of the piece's menu, in shorter words where it stands beside its name. */
const MENU = [
  ['piece.shelf', 'Shelf'],
  ['piece.bring', 'Bring in a picture, model or sound…'],
  ['piece.export', 'Export the file'],
  ['piece.frame', 'Frame, ground and light'],
  ['piece.theme', 'Light or dark'],
  ['piece.keys', 'Shortcuts'],
  ['piece.guide', 'Guide'],
] as const;

/** The piece's name and menu, undo and redo with what they do, when it was kept, and the command search. */
export function TopBar() {
  const s = useSession();
  useIdleVersion();
  const head = useHead();
  const readOnly = useUi((u) => u.readOnly);
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
        readOnly={readOnly}
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
            {MENU.map(([id, name]) => (
              <DropdownMenu.Item key={id} onSelect={() => runCommand(s, id)}>
                {name}
              </DropdownMenu.Item>
            ))}
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
      <KeptSign />
      <button type="button" className="btn" onClick={() => runCommand(s, 'piece.search')}>
        Search commands
      </button>
    </header>
  );
}

/** Whether all is kept. Only what is kept is called so. */
function KeptSign() {
  const s = useSession();
  const keep = useUi((u) => u.keep);
  const readOnly = useUi((u) => u.readOnly);
  const lasts = useStore(storage, (x) => x.lasts);
  if (readOnly) return <span className="text-ink-2 whitespace-nowrap">looking on</span>;
  if (!lasts)
    return (
      <span role="status" className="text-apple truncate min-w-0" title={NOT_KEPT}>
        {NOT_KEPT}
      </span>
    );
  if (keep.kind === 'kept') {
    const at = new Date(keep.at).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' });
    return <span className="text-leaf whitespace-nowrap">✓ kept {at}</span>;
  }
  if (keep.kind === 'waiting') return <span className="text-ink-2 whitespace-nowrap">keeping…</span>;
  if (keep.kind === 'failed')
    return (
      <span role="alert" className="text-apple truncate min-w-0" title={keep.why}>
        Not kept. {keep.why}
      </span>
    );
  return (
    <span role="alert" className="text-apple whitespace-nowrap flex items-center gap-1.5">
      Deleted in another tab
      <button type="button" className="btn" onClick={() => void s.keeper.keepAgain()}>
        Keep it again
      </button>
    </span>
  );
}

const NOT_KEPT = 'This browser keeps nothing: export the piece as a file before you leave.';
