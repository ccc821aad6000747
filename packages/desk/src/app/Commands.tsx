import { Dialog } from 'radix-ui';
import { useId, useState } from 'react';
import { useNavigate } from 'react-router';
import { COMMANDS, type CommandInfo, PLACES, type Place } from '../commands/registry.ts';
import { GUIDE } from '../features/guide/pages.ts';
import { useSession } from '../session/hooks.ts';
import { exportPiece, exportWords } from '../ui/export-piece.ts';
import { isFound } from '../ui/find.ts';
import { toggleTheme } from '../ui/theme.ts';
import { CLIPBOARD } from './bring-in.ts';

/** The sheet of shortcuts, or the search of commands: both list all that can be done, by where it belongs. */
export function Commands(props: {
  which: 'keys' | 'search' | null;
  onClose: () => void;
  onKeys: () => void;
  onBringIn: () => void;
}) {
  const { which, onClose } = props;
  return (
    <Dialog.Root open={which !== null} onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-black/30 z-40" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed z-50 top-16 left-1/2 -translate-x-1/2 w-[480px] max-w-[94vw] bg-card border border-line rounded-[9px] p-4"
        >
          <Dialog.Title className="text-[16px] font-serif mb-2">
            {which === 'keys' ? 'Shortcuts' : 'Commands'}
          </Dialog.Title>
          <List {...props} />
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function List(props: Parameters<typeof Commands>[0]) {
  const { which, onClose } = props;
  const s = useSession();
  const go = useNavigate();
  const list = useId();
  const [text, setText] = useState('');
  const [at, setAt] = useState(0);
  const ofPage: CommandInfo[] = [
    {
      ...{ id: 'piece.handover', name: 'Hand over…', keys: [], place: 'piece' },
      run: () => void go('hand-over'),
    },
    {
      ...{ id: 'piece.export', name: 'Export the file', keys: [], place: 'piece' },
      run: async () => s.set({ notice: exportWords(await exportPiece(s.piece())) }),
    },
    {
      ...{ id: 'piece.bring', name: 'Bring in a picture, model or sound…', keys: [], place: 'piece' },
      run: props.onBringIn,
    },
    ...CLIPBOARD.map(
      ({ id, name, keys, act }): CommandInfo => ({
        ...{ id: `clipboard.${id}`, name, keys, place: 'edit' },
        run: () =>
          void act(s).catch(() =>
            s.set({
              notice: `This browser lets a page do this by keys only: ${keys.join().replace('Mod+', 'Ctrl/⌘ ')}.`,
            }),
          ),
      }),
    ),
    { id: 'piece.shelf', name: 'Go to the shelf', keys: [], place: 'piece', run: () => void go('/') },
    { id: 'piece.theme', name: 'Light or dark', keys: [], place: 'piece', run: toggleTheme },
    ...GUIDE.map(
      ({ id, title, find }): CommandInfo => ({
        ...{ id: `guide.${id}`, name: title, find, keys: [], place: 'guide' },
        run: () => void go(`/guide/${id}`),
      }),
    ),
    { id: 'piece.keys', name: 'Shortcuts', keys: ['?'], place: 'piece', run: props.onKeys },
  ];
  const all = [...COMMANDS, ...ofPage];
  const wanted = text.trim().toLowerCase();
  // Words that begin with what is typed come before words that only hold it.
  const begins = (c: CommandInfo) => ` ${c.name.toLowerCase()}`.includes(` ${wanted}`);
  const fits = (c: CommandInfo) =>
    which === 'keys'
      ? c.keys.length > 0
      : c.name.toLowerCase().includes(wanted) || (wanted !== '' && isFound(wanted, c.find ?? ''));
  const byPlace = (Object.keys(PLACES) as Place[]).flatMap((place) =>
    all.filter((c) => c.place === place && fits(c)),
  );
  const found = wanted === '' ? byPlace : byPlace.sort((a, b) => Number(begins(b)) - Number(begins(a)));
  const active = Math.min(at, found.length - 1);
  const canDo = (c: CommandInfo) => c.enabled?.(s) ?? true;
  const pick = (c: CommandInfo | undefined) => {
    if (!c || !canDo(c)) return;
    onClose();
    c.run(s);
  };
  const move = (to: number) => {
    setAt(to);
    document.getElementById(`${list}-${to}`)?.scrollIntoView({ block: 'nearest' });
  };
  return (
    <>
      {which === 'search' && (
        <input
          className="field w-full mb-2"
          role="combobox"
          aria-label="Search commands"
          aria-expanded="true"
          aria-controls={list}
          aria-activedescendant={active >= 0 ? `${list}-${active}` : undefined}
          value={text}
          onChange={(e) => {
            setText(e.target.value);
            setAt(0);
          }}
          onKeyDown={(e) => {
            if (e.key === 'Enter') pick(found[active]);
            else if (e.key === 'ArrowDown') move(Math.min(found.length - 1, active + 1));
            else if (e.key === 'ArrowUp') move(Math.max(0, active - 1));
            else return;
            e.preventDefault();
          }}
        />
      )}
      {found.length === 0 && (
        <p role="status" className="text-ink-2 px-2 py-3">
          Nothing found for “{text}”.
        </p>
      )}
      <div id={list} role="listbox" aria-label="Commands" className="max-h-[60vh] overflow-auto">
        {found.map((c, i) => {
          const can = canDo(c);
          const isFirst = wanted === '' && found[i - 1]?.place !== c.place;
          return (
            <div key={c.id}>
              {isFirst && (
                <p className="font-serif font-semibold px-2 pt-2 pb-0.5" aria-hidden="true">
                  {PLACES[c.place]}
                </p>
              )}
              <button
                type="button"
                id={`${list}-${i}`}
                role="option"
                aria-selected={which === 'search' && i === active}
                aria-disabled={!can}
                tabIndex={which === 'search' ? -1 : 0}
                className={`flex justify-between gap-3 w-full px-2 py-1 rounded text-left hover:bg-chosen ${which === 'search' && i === active ? 'bg-chosen' : ''} ${can ? '' : 'text-ink-3'}`}
                onClick={() => pick(c)}
              >
                <span>
                  {c.name}
                  {!can && c.needs && <span className="text-[11.5px]"> · {c.needs}</span>}
                </span>
                <span className="num text-ink-2 whitespace-nowrap">
                  {c.keys.join(', ').replaceAll('Mod', 'Ctrl/⌘')}
                </span>
              </button>
            </div>
          );
        })}
      </div>
    </>
  );
}
