import { knownIds } from '@apple-tick/core/model';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { Outlet, useParams } from 'react-router';
import { useStore } from 'zustand';
import { commandFor } from '../commands/registry.ts';
import { Details } from '../features/details/Details.tsx';
import { Objects } from '../features/objects/Objects.tsx';
import { RunSide } from '../features/run/RunSide.tsx';
import { View } from '../features/view/View.tsx';
import { Walk } from '../features/walk/Walk.tsx';
import { addThings, noRoomFor } from '../session/arrange.ts';
import { SessionContext, useSession, useUi } from '../session/hooks.ts';
import { putBack } from '../session/keeping.ts';
import { type OpenPiece, openPiece } from '../session/open-piece.ts';
import { keepBytes } from '../session/pictures.ts';
import { ImportDialog } from '../ui/ImportDialog.tsx';
import type { ReadJob, ReadThings } from '../ui/import-worker.ts';
import { Notice } from '../ui/Notice.tsx';
import { saveFile } from '../ui/save-file.ts';
import { listenToClipboard, measured } from './bring-in.ts';
import { Commands } from './Commands.tsx';
import { Deck } from './Deck.tsx';
import { keepFocus } from './focus-kept.ts';
import { Parts } from './Parts.tsx';
import { TopBar } from './TopBar.tsx';

/** The page of a piece, whatever of it is shown: it owns the open piece while somebody is on it. */
export function PiecePage() {
  const { id = '' } = useParams();
  const [open, setOpen] = useState<OpenPiece | null>(null);
  useEffect(() => {
    const mine = openPiece(id);
    setOpen(mine);
    return () => {
      setOpen(null);
      mine.leave();
    };
  }, [id]);
  return open && <Opened open={open} id={id} />;
}

function Opened({ open, id }: { open: OpenPiece; id: string }) {
  const now = useStore(open.state);
  if (now.kind === 'opening') return <p className="p-6">Opening…</p>;
  if (now.kind === 'closed')
    return <Closed why={now.why} text={now.text} id={id} onAgain={() => open.again()} />;
  return (
    <SessionContext.Provider value={now.session} key={id}>
      <Outlet />
    </SessionContext.Provider>
  );
}

const WHY = {
  missing: [
    'There is no such piece in this browser',
    'It may lie in another browser, or its address is mistyped.',
  ],
  deleted: ['This piece was deleted', 'It can be put back as it was, with all that could be undone.'],
  newer: [
    'This piece was made by a newer Apple Tick',
    'It stays here untouched: open it with that one, or save it as a file for it.',
  ],
  broken: [
    'This piece cannot be opened',
    'What this browser keeps of it is broken. Your other pieces are not touched by it.',
  ],
} as const;

/** There is nothing to open under this address: why, and the ways on. */
function Closed(props: { why: keyof typeof WHY; text: string; id: string; onAgain: () => void }) {
  const { why, text, id } = props;
  return (
    <Notice title={WHY[why][0]} words={WHY[why][1]}>
      {why === 'deleted' && (
        <button
          type="button"
          className="btn btn-ink"
          onClick={async () => {
            await putBack(id);
            props.onAgain();
          }}
        >
          Put it back
        </button>
      )}
      {(why === 'broken' || why === 'newer') && (
        <button
          type="button"
          className="btn btn-ink"
          onClick={() =>
            why === 'newer'
              ? saveFile('Newer.tick.json', text, 'application/json')
              : saveFile('What is kept.txt', text, 'text/plain')
          }
        >
          Save what is kept as a file
        </button>
      )}
    </Notice>
  );
}

/** The piece on one screen. */
export function Screen() {
  const s = useSession();
  const running = useUi((u) => u.running);
  const selected = useUi((u) => u.selected);
  const choseInRun = useUi((u) => u.choseInRun);
  const readOnly = useUi((u) => u.readOnly);
  const [dialog, setDialog] = useState<'keys' | 'search' | null>(null);
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
      const refused = (await keepBytes(things.bytes)) ?? noRoomFor(s, things.objects.length);
      if (refused !== null) return refused;
      addThings(s, things);
      next();
      return null;
    },
    [s, next],
  );
  const screen = useRef<HTMLDivElement>(null);
  useEffect(() => (screen.current ? keepFocus(screen.current) : undefined), []);
  // A run is looked at here: whoever goes to another page of the piece ends it.
  useEffect(() => () => s.stopRun(), [s]);
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      const typing =
        e.target instanceof HTMLElement &&
        // A list hears letters; what is done with Ctrl or ⌘ is the desk's.
        e.target.closest(
          `input, textarea, [role="dialog"], [role="menu"]${e.ctrlKey || e.metaKey ? '' : ', select'}`,
        );
      if ((e.ctrlKey || e.metaKey) && e.key.toLowerCase() === 'k') {
        e.preventDefault();
        setDialog('search');
        return;
      }
      // In a field whose text is as kept, undo means the piece; otherwise it belongs to the text.
      const undoes = (e.ctrlKey || e.metaKey) && e.key.toLowerCase() === 'z';
      const clean = e.target instanceof HTMLElement && e.target.dataset['clean'] !== 'false';
      if (typing && !(undoes && clean && !typing.matches('[role]'))) return;
      // Letters right after drawing are the name of what was drawn.
      const { naming } = s.state;
      if (naming !== null && !e.ctrlKey && !e.metaKey && !e.altKey && /^\p{L}$/u.test(e.key)) {
        e.preventDefault();
        s.set({ naming: null, renaming: naming, renamesWith: e.key });
        return;
      }
      if (naming !== null && e.key !== 'Shift') s.set({ naming: null });
      if (e.key === '?') setDialog('keys');
      const c = commandFor(e);
      if (!c || !(c.enabled?.(s) ?? true)) return;
      // In the middle of a drag nothing else is done to the piece; an undo takes the drag back.
      if (s.gesture && c.id !== 'undo') return;
      e.preventDefault();
      c.run(s);
    };
    addEventListener('keydown', onKey);
    const place = (e: Event) => {
      const inTimeline = e.target instanceof Element && e.target.closest('[data-timeline]') !== null;
      if (inTimeline !== s.state.inTimeline) s.set({ inTimeline });
    };
    const onPress = (e: PointerEvent) => {
      leaveField(e);
      place(e);
      if (s.state.naming !== null) s.set({ naming: null });
    };
    addEventListener('pointerdown', onPress, true);
    addEventListener('focusin', place);
    const leave = listenToClipboard(s, bringIn);
    return () => {
      removeEventListener('keydown', onKey);
      removeEventListener('pointerdown', onPress, true);
      removeEventListener('focusin', place);
      leave();
    };
  }, [s, bringIn]);
  return (
    <div
      ref={screen}
      onDragOver={(e) => e.preventDefault()}
      onDrop={(e) => {
        e.preventDefault();
        if (!readOnly) bringIn([...e.dataTransfer.files]);
      }}
      className="h-full grid grid-cols-[minmax(0,1fr)] grid-rows-[44px_auto_minmax(0,1fr)]"
    >
      <TopBar
        onSearch={() => setDialog('search')}
        onKeys={() => setDialog('keys')}
        onBringIn={() => picker.current?.click()}
      />
      <div>
        <Walk />
      </div>
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
      <Parts
        left={<Objects />}
        view={<View onBringIn={() => picker.current?.click()} />}
        right={
          <aside
            className={`bg-card border-l border-line min-w-0 ${running ? 'flex flex-col overflow-hidden' : 'overflow-auto'}`}
            aria-label="Properties"
          >
            {readOnly && (
              <p role="status" className="bg-chosen p-3">
                This piece is being edited in another tab. Here you can look and run; it follows along.
              </p>
            )}
            {running && selected && choseInRun && (
              <fieldset
                disabled={readOnly}
                className="max-h-[33%] min-w-0 overflow-auto border-b-2 border-line flex-none"
              >
                <Details />
              </fieldset>
            )}
            {running ? (
              <div className="flex-1 min-h-0 overflow-auto">
                <RunSide />
              </div>
            ) : (
              <fieldset disabled={readOnly} className="min-w-0">
                <Details />
              </fieldset>
            )}
          </aside>
        }
        deck={<Deck />}
      />
      <Commands
        which={dialog}
        onClose={() => setDialog(null)}
        onKeys={() => setDialog('keys')}
        onBringIn={() => picker.current?.click()}
      />
    </div>
  );
}

/** What was typed is kept before anything else begins: a drag's step of the history must not swallow it. */
function leaveField(e: PointerEvent): void {
  const field = document.activeElement;
  if (field instanceof HTMLElement && field.matches('input, textarea') && field !== e.target) field.blur();
}
