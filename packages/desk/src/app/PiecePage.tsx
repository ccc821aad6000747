import type { Result } from '@apple-tick/core/base';
import { knownIds } from '@apple-tick/core/model';
import { Redo2, Undo2 } from 'lucide-react';
import { Dialog, DropdownMenu } from 'radix-ui';
import { useCallback, useEffect, useRef, useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { COMMANDS, commandFor, runCommand, tellOutside } from '../commands/registry.ts';
import { Details } from '../features/details/Details.tsx';
import { Objects } from '../features/objects/Objects.tsx';
import { RunSide } from '../features/run/RunSide.tsx';
import { View } from '../features/view/View.tsx';
import { addThings, copyChosen, pasteExcerpt } from '../session/arrange.ts';
import { excerptText, readExcerpt } from '../session/clipboard.ts';
import { SessionContext, useHead, useSession, useUi, useVersion } from '../session/hooks.ts';
import { loadHistory } from '../session/keeping.ts';
import { keepBytes } from '../session/pictures.ts';
import { Session } from '../session/session.ts';
import { MAX_SECONDS, secondsOf } from '../session/sounds.ts';
import { exportPiece } from '../ui/export-piece.ts';
import { TextField } from '../ui/fields.tsx';
import { ImportDialog } from '../ui/ImportDialog.tsx';
import type { ReadJob, ReadThings } from '../ui/import-worker.ts';
import { Mark } from '../ui/Mark.tsx';
import { Splitter, useSizes } from '../ui/Splitter.tsx';
import { toggleTheme } from '../ui/theme.ts';
import { Deck } from './Deck.tsx';

/** One editor at a time: the tab that holds the piece's lock. Others read along. */
export function PiecePage() {
  const { id = '' } = useParams();
  const [session, setSession] = useState<Session | null | undefined>(undefined);
  useEffect(() => {
    let left = false;
    let release = () => {};
    let current: Session | null = null;
    const news = new BroadcastChannel(`apple-tick/${id}`);
    const load = async (readOnly: boolean) => {
      const kept = await loadHistory(id);
      if (left) return;
      current?.stopRun();
      current = kept ? new Session(kept, readOnly) : null;
      if (current && !readOnly) {
        let told = current.state.keptAt;
        current.ui.subscribe((u) => {
          if (u.keptAt === told) return;
          told = u.keptAt;
          news.postMessage('kept');
        });
      }
      setSession(current);
    };
    let owner = false;
    news.onmessage = () => {
      if (!owner) void load(true);
    };
    void navigator.locks.request(`apple-tick/${id}`, { ifAvailable: true }, async (lock) => {
      if (lock) return;
      await load(true);
    });
    void navigator.locks.request(`apple-tick/${id}`, async () => {
      if (left) return;
      owner = true;
      await load(false);
      await new Promise<void>((resolve) => {
        release = resolve;
      });
    });
    const flush = () => void current?.keeper.flush();
    addEventListener('pagehide', flush);
    return () => {
      left = true;
      removeEventListener('pagehide', flush);
      news.close();
      current?.stopRun();
      void current?.keeper.flush().then(() => release());
      if (!current) release();
    };
  }, [id]);
  if (session === undefined) return <p className="p-6">Opening…</p>;
  if (session === null)
    return (
      <p className="p-6">
        There is no such piece in this browser, or it cannot be read. <Link to="/">Back to the shelf</Link>
      </p>
    );
  return (
    <SessionContext.Provider value={session}>
      <Screen />
    </SessionContext.Provider>
  );
}

function Screen() {
  const s = useSession();
  const running = useUi((u) => u.running);
  const selected = useUi((u) => u.selected);
  const readOnly = useUi((u) => u.readOnly);
  const [dialog, setDialog] = useState<'keys' | 'search' | null>(null);
  const [sizes, setSize] = useSizes();
  const [job, setJob] = useState<ReadJob | null>(null);
  const picker = useRef<HTMLInputElement>(null);
  const bringIn = useCallback(
    (file: File | undefined) =>
      setJob(file ? { as: 'things', file, known: [...knownIds(s.store)], room: s.store.head.frame } : null),
    [s],
  );
  const broughtIn = useCallback(
    async (things: ReadThings) => {
      setJob(null);
      await keepBytes(things.bytes);
      addThings(s, things);
    },
    [s],
  );
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      const typing =
        e.target instanceof HTMLElement &&
        e.target.closest('input, select, textarea, [role="dialog"], [role="menu"]');
      if ((e.ctrlKey || e.metaKey) && e.key.toLowerCase() === 'k') {
        e.preventDefault();
        setDialog('search');
        return;
      }
      // In a field whose text is as kept, undo means the piece; otherwise it belongs to the text.
      const undoes = (e.ctrlKey || e.metaKey) && e.key.toLowerCase() === 'z';
      const clean = e.target instanceof HTMLElement && e.target.dataset['clean'] !== 'false';
      if (typing && !(undoes && clean && !typing.matches('[role]'))) return;
      if (e.key === '?') setDialog('keys');
      const c = commandFor(e);
      if (!c || !(c.enabled?.(s) ?? true)) return;
      e.preventDefault();
      c.run(s);
    };
    addEventListener('keydown', onKey);
    addEventListener('pointerdown', leaveField, true);
    const leave = listenToClipboard(s, bringIn);
    return () => {
      removeEventListener('keydown', onKey);
      removeEventListener('pointerdown', leaveField, true);
      leave();
    };
  }, [s, bringIn]);
  return (
    <div
      onDragOver={(e) => e.preventDefault()}
      onDrop={(e) => {
        e.preventDefault();
        if (!readOnly) bringIn(e.dataTransfer.files[0]);
      }}
      className="h-full grid grid-cols-[minmax(0,1fr)]"
      style={{ gridTemplateRows: `44px minmax(0,1fr) ${sizes.deck || 38}px` }}
    >
      <TopBar
        onSearch={() => setDialog('search')}
        onKeys={() => setDialog('keys')}
        onBringIn={() => picker.current?.click()}
      />
      <input
        ref={picker}
        type="file"
        accept=".svg,.png,.jpg,.jpeg,.webp,.glb,.gltf,.wav,.mp3,.ogg,.m4a,image/*,audio/*"
        aria-label="File to bring in"
        className="sr-only"
        tabIndex={-1}
        onChange={(e) => {
          bringIn(e.target.files?.[0]);
          e.target.value = '';
        }}
      />
      <ImportDialog job={job} onDone={broughtIn} check={measured} onClose={() => setJob(null)} />
      <main
        className="grid min-h-0 relative"
        style={{ gridTemplateColumns: `${sizes.left}px minmax(0,1fr) ${sizes.right}px` }}
      >
        <div className={`min-w-0 min-h-0 grid ${sizes.left === 0 ? 'invisible' : ''}`}>
          <Objects />
        </div>
        <View />
        <Splitter
          part="left"
          label="Width of the objects"
          size={sizes.left}
          className="inset-y-0"
          at={{ left: Math.max(0, sizes.left - 4) }}
          onSize={(px) => setSize('left', px)}
        />
        <Splitter
          part="right"
          label="Width of the properties"
          size={sizes.right}
          className="inset-y-0"
          at={{ right: Math.max(0, sizes.right - 4) }}
          onSize={(px) => setSize('right', px)}
        />
        <Splitter
          part="deck"
          label="Height of the deck"
          size={sizes.deck}
          className="inset-x-0 -bottom-1"
          at={{}}
          onSize={(px) => setSize('deck', px)}
        />
        <aside
          className={`bg-card border-l border-line overflow-auto min-w-0 ${sizes.right === 0 ? 'invisible' : ''}`}
          aria-label="Properties"
        >
          {readOnly && (
            <p role="status" className="bg-chosen p-3">
              This piece is being edited in another tab. Here you can look and run; it follows along.
            </p>
          )}
          {running && selected && <Details />}
          {running ? <RunSide /> : <Details />}
        </aside>
      </main>
      <Deck />
      <Commands which={dialog} onClose={() => setDialog(null)} />
    </div>
  );
}

function TopBar(props: { onSearch: () => void; onKeys: () => void; onBringIn: () => void }) {
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
            <DropdownMenu.Item
              onSelect={() =>
                s.edit('Changed the view of the piece', (e) =>
                  e.head((h) => ({ ...h, view: { azimuth: s.state.azimuth, elevation: s.state.elevation } })),
                )
              }
            >
              Keep this view angle
            </DropdownMenu.Item>
            <DropdownMenu.Sub>
              <DropdownMenu.SubTrigger>How the frame fits its space ▸</DropdownMenu.SubTrigger>
              <DropdownMenu.Portal>
                <DropdownMenu.SubContent className="menu">
                  {(
                    [
                      ['contain', 'All of it, with bars'],
                      ['cover', 'No bars, cut at the edges'],
                      ['widen', 'No bars, more is seen'],
                    ] as const
                  ).map(([fit, words]) => (
                    <DropdownMenu.Item
                      key={fit}
                      onSelect={() =>
                        s.edit('Changed how the frame fits', (e) =>
                          e.head((h) => ({ ...h, frame: { ...h.frame, fit } })),
                        )
                      }
                    >
                      {words}
                      {head.frame.fit === fit && <span aria-hidden="true">✓</span>}
                    </DropdownMenu.Item>
                  ))}
                </DropdownMenu.SubContent>
              </DropdownMenu.Portal>
            </DropdownMenu.Sub>
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

function Commands({ which, onClose }: { which: 'keys' | 'search' | null; onClose: () => void }) {
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

/** What was typed is kept before anything else begins: a drag's step of the history must not swallow it. */
function leaveField(e: PointerEvent): void {
  const field = document.activeElement;
  if (field instanceof HTMLElement && field.matches('input, textarea') && field !== e.target) field.blur();
}

/** How long a sound is that was read; workers cannot decode one. */
async function measured(things: ReadThings): Promise<Result<ReadThings>> {
  const no = (message: string) => ({ ok: false as const, problems: [{ code: 'sound', path: '', message }] });
  const assets = [];
  for (const a of things.assets) {
    if (a.kind !== 'sound') {
      assets.push(a);
      continue;
    }
    const bytes = things.bytes.find((b) => b.hash === a.hash)?.bytes;
    const seconds = bytes ? await secondsOf(bytes) : null;
    if (seconds === null) return no('The sound is broken: it cannot be decoded.');
    if (seconds > MAX_SECONDS) return no('The sound is longer than ten minutes.');
    assets.push({ ...a, seconds: Math.round(seconds * 1000) / 1000 });
  }
  return { ok: true, value: { ...things, assets } };
}

/** Copy, cut and paste as the browser means them: they reach other pieces and other tabs. */
function listenToClipboard(s: Session, bringIn: (file: File) => void): () => void {
  const elsewhere = (e: Event) =>
    (e.target instanceof HTMLElement && e.target.closest('input, textarea, [role="dialog"]') !== null) ||
    s.state.selected?.kind !== 'object';
  const copy = (e: ClipboardEvent) => {
    if (elsewhere(e) || s.chosen.length === 0) return;
    e.clipboardData?.setData('text/plain', excerptText(copyChosen(s)));
    e.preventDefault();
    if (e.type === 'cut') runCommand(s, 'delete');
  };
  const paste = (e: ClipboardEvent) => {
    if (e.target instanceof HTMLElement && e.target.closest('input, textarea, [role="dialog"]')) return;
    const file = e.clipboardData?.files[0];
    const text = e.clipboardData?.getData('text/plain') ?? '';
    if (file || /^\s*(<\?xml|<svg)/.test(text)) {
      e.preventDefault();
      bringIn(file ?? new File([text], 'Picture.svg', { type: 'image/svg+xml' }));
      return;
    }
    const x = readExcerpt(text);
    if (!x) return;
    e.preventDefault();
    tellOutside(s, pasteExcerpt(s, x));
  };
  addEventListener('copy', copy);
  addEventListener('cut', copy);
  addEventListener('paste', paste);
  return () => {
    removeEventListener('copy', copy);
    removeEventListener('cut', copy);
    removeEventListener('paste', paste);
  };
}
