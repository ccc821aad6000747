import { knownIds } from '@apple-tick/core/model';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { Link, useParams } from 'react-router';
import { commandFor } from '../commands/registry.ts';
import { Details } from '../features/details/Details.tsx';
import { Objects } from '../features/objects/Objects.tsx';
import { RunSide } from '../features/run/RunSide.tsx';
import { View } from '../features/view/View.tsx';
import { addThings } from '../session/arrange.ts';
import { SessionContext, useSession, useUi } from '../session/hooks.ts';
import { loadHistory } from '../session/keeping.ts';
import { keepBytes } from '../session/pictures.ts';
import { Session } from '../session/session.ts';
import { ImportDialog } from '../ui/ImportDialog.tsx';
import type { ReadJob, ReadThings } from '../ui/import-worker.ts';
import { Splitter, useSizes } from '../ui/Splitter.tsx';
import { listenToClipboard, measured } from './bring-in.ts';
import { Commands } from './Commands.tsx';
import { Deck } from './Deck.tsx';
import { TopBar } from './TopBar.tsx';

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
    const leave = () => current?.keeper.leave();
    addEventListener('pagehide', leave);
    return () => {
      left = true;
      removeEventListener('pagehide', leave);
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
  // Files that are brought in, one after the other.
  const [files, setFiles] = useState<readonly File[]>([]);
  const picker = useRef<HTMLInputElement>(null);
  const bringIn = useCallback((more: Iterable<File>) => setFiles((now) => [...now, ...more]), []);
  const [file] = files;
  const next = useCallback(() => setFiles((now) => (now[0] === file ? now.slice(1) : now)), [file]);
  const job = useMemo<ReadJob | null>(
    () => (file ? { as: 'things', file, known: [...knownIds(s.store)], room: s.store.head.frame } : null),
    [s, file],
  );
  const broughtIn = useCallback(
    async (things: ReadThings) => {
      await keepBytes(things.bytes);
      addThings(s, things);
      next();
    },
    [s, next],
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
        if (!readOnly) bringIn([...e.dataTransfer.files]);
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
        multiple
        className="sr-only"
        tabIndex={-1}
        onChange={(e) => {
          bringIn([...(e.target.files ?? [])]);
          e.target.value = '';
        }}
      />
      <ImportDialog job={job} onDone={broughtIn} check={measured} onClose={next} />
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

/** What was typed is kept before anything else begins: a drag's step of the history must not swallow it. */
function leaveField(e: PointerEvent): void {
  const field = document.activeElement;
  if (field instanceof HTMLElement && field.matches('input, textarea') && field !== e.target) field.blur();
}
