import { useEffect, useRef, useState } from 'react';
import { Outlet, useNavigate, useParams } from 'react-router';
import { useStore } from 'zustand';
import { Details } from '../screens/details/Details.tsx';
import { Objects } from '../screens/objects/Objects.tsx';
import { RunSide } from '../screens/run/RunSide.tsx';
import { View } from '../screens/view/View.tsx';
import { Walk } from '../screens/walk/Walk.tsx';
import { SessionContext, useSession, useUi } from '../session/hooks.ts';
import { putBack } from '../session/keep/keeping.ts';
import { type OpenPiece, openPiece } from '../session/keep/open-piece.ts';
import { ImportDialog } from '../ui/ImportDialog.tsx';
import { Notice } from '../ui/Notice.tsx';
import { saveFile } from '../ui/save-file.ts';
import { listenToClipboard } from './bring-in.ts';
import { Commands } from './Commands.tsx';
import { Deck } from './Deck.tsx';
import { FinenessDialog } from './FinenessDialog.tsx';
import { keepFocus } from './focus-kept.ts';
import { NewerDialog } from './NewerDialog.tsx';
import { Parts } from './Parts.tsx';
import { useScreenKeys } from './screen-keys.ts';
import { TopBar } from './TopBar.tsx';
import { useBringIn } from './use-bring-in.ts';
import { useWatch } from './use-watch.ts';

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
  const readOnly = useUi((u) => u.readOnly);
  const [dialog, setDialog] = useState<'keys' | 'search' | null>(null);
  const coming = useBringIn(s);
  const { bringIn, newer, whole } = coming;
  const watch = useWatch(s, newer);
  const picker = useRef<HTMLInputElement>(null);
  const newerPicker = useRef<HTMLInputElement>(null);
  const newerOf = useRef<{ root: string; said: 'newer' | 'whole' } | null>(null);
  const screen = useRef<HTMLDivElement>(null);
  const go = useNavigate();
  useEffect(() => (screen.current ? keepFocus(screen.current) : undefined), []);
  // A run is looked at here: whoever goes to another page of the piece ends it.
  useEffect(() => () => s.stopRun(), [s]);
  useEffect(() => {
    s.page = {
      go: (path) => void go(path),
      show: setDialog,
      bringIn: () => picker.current?.click(),
      take: (files, place) => !s.state.readOnly && bringIn(files, place),
      newer: (root, asWatched) => {
        if (asWatched) return void watch(root);
        newerOf.current = { root, said: 'newer' };
        newerPicker.current?.click();
      },
      whole: (root) => {
        if (whole(root)) return;
        newerOf.current = { root, said: 'whole' };
        newerPicker.current?.click();
      },
    };
    return () => {
      s.page = null;
    };
  }, [s, go, bringIn, watch, whole]);
  useScreenKeys(s);
  useEffect(() => listenToClipboard(s, bringIn), [s, bringIn]);
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
      <TopBar />
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
      <input
        ref={newerPicker}
        type="file"
        aria-label="Newer file"
        className="sr-only"
        tabIndex={-1}
        onChange={(e) => {
          const file = e.target.files?.[0];
          const of = newerOf.current;
          if (file && of) newer(of.root, file, of.said);
          e.target.value = '';
        }}
      />
      <ImportDialog
        job={coming.job}
        check={coming.check}
        onDone={coming.take}
        onClose={coming.skip}
        more={coming.more}
        onRefused={coming.refuse}
      />
      {coming.fine && <FinenessDialog {...coming.fine} onTake={coming.takeFine} onClose={coming.skip} />}
      {coming.asked && (
        <NewerDialog
          asked={coming.asked}
          onTake={coming.replace}
          onBeside={coming.beside}
          onClose={coming.skip}
        />
      )}
      <Parts left={<Objects />} view={<View />} right={<Properties />} deck={<Deck />} />
      <Commands which={dialog} onClose={() => setDialog(null)} />
    </div>
  );
}

/** The right side: what is chosen; in a run its signals and log, under what was chosen since it began. */
function Properties() {
  const running = useUi((u) => u.running);
  const selected = useUi((u) => u.selected);
  const choseInRun = useUi((u) => u.choseInRun);
  const readOnly = useUi((u) => u.readOnly);
  return (
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
  );
}
