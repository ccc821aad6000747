import { emptyPiece, type Piece } from '@apple-tick/core/model';
import { useQuery } from '@tanstack/react-query';
import { useLiveQuery } from 'dexie-react-hooks';
import { DropdownMenu } from 'radix-ui';
import { lazy, Suspense, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { useStore } from 'zustand';
import { addPiece, deletePiece, dropPiece, putBack } from '../../session/keeping.ts';
import type { Loaded } from '../../session/loading.ts';
import { copyOf, newPieceId } from '../../session/model-help.ts';
import { keepBytes } from '../../session/pictures.ts';
import { readPref, writePref } from '../../session/prefs.ts';
import { forgetLost, lost, restoreLost } from '../../session/second-copy.ts';
import {
  db,
  isFull,
  keptRows,
  type PieceRow,
  type Space,
  spaceUsed,
  storage,
  whyNotKept,
} from '../../session/storage.ts';
import { unkept } from '../../session/unkept.ts';
import { exportPiece, exportWords } from '../../ui/export-piece.ts';
import { TextField } from '../../ui/fields.tsx';
import { ImportDialog } from '../../ui/ImportDialog.tsx';
import type { ReadJob, ReadPieceFile } from '../../ui/import-worker.ts';
import { Mark } from '../../ui/Mark.tsx';
import { PieceThumb } from '../../ui/PieceThumb.tsx';
import { saveFile } from '../../ui/save-file.ts';
import { toggleTheme } from '../../ui/theme.ts';

/** What reads pieces is not needed to show the shelf, and comes after it. */
const load = async (id: string) => (await import('../../session/loading.ts')).loadPiece(id);

const rename = async (id: string, name: string) =>
  (await import('../../session/open-piece.ts')).renameKept(id, name);

/** What runs pieces comes when a starter is first pointed at. */
const ClipReel = lazy(() => import('../../ui/ClipReel.tsx'));

/** Besides the demo, the starter that lies on the shelf on the first visit. */
const FIRST = 'Hinge that turns back';
const WELCOMED = 'apple-tick-welcomed';

interface Starter<P> {
  readonly title: string;
  readonly piece: P;
}
interface StartersFile {
  readonly demo: readonly unknown[];
  readonly starters: readonly Starter<unknown>[];
}

/** Those of them that are sound. */
async function readStarters(
  list: readonly Starter<unknown>[],
  signal: AbortSignal,
): Promise<Starter<Piece>[]> {
  const { readPieceJson } = await import('@apple-tick/core/check');
  const out: Starter<Piece>[] = [];
  for (const { title, piece } of list) {
    const r = readPieceJson(piece);
    if (r.ok) out.push({ title, piece: r.value });
    // A click is heard between two of them, and who has left the shelf waits for none.
    await new Promise((goOn) => setTimeout(goOn));
    signal.throwIfAborted();
  }
  return out;
}

export function Shelf() {
  const go = useNavigate();
  // Sorted here: an index would leave out a row whose date is broken.
  const rows = useLiveQuery(async () =>
    (await keptRows()).sort((a, b) => (Number(b.changed) || 0) - (Number(a.changed) || 0)),
  );
  const file = useQuery({
    queryKey: ['starters', 'file'],
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: async ({ signal }) => (await (await fetch('/api/starters', { signal })).json()) as StartersFile,
  });
  // On the first visit the demo and a small piece lie on the shelf, as pieces of one's own: these are read first.
  const [first] = useState(() => !readPref(WELCOMED));
  const welcome = useQuery({
    queryKey: ['starters', 'welcome'],
    staleTime: Number.POSITIVE_INFINITY,
    enabled: first && file.data !== undefined,
    queryFn: ({ signal }) => {
      const { demo, starters: all } = file.data as StartersFile;
      const hinge = all.filter((x) => x.title === FIRST);
      return readStarters([...hinge, ...demo.map((piece) => ({ title: '', piece }))], signal);
    },
  });
  const starters = useQuery({
    queryKey: ['starters', 'all'],
    staleTime: Number.POSITIVE_INFINITY,
    enabled: file.data !== undefined && (!first || welcome.isFetched),
    queryFn: ({ signal }) => readStarters((file.data as StartersFile).starters, signal),
  });
  const [job, setJob] = useState<ReadJob | null>(null);
  const take = (file: File | undefined) => setJob(file ? { as: 'piece', file } : null);
  const [problem, setProblem] = useState('');
  /** A piece that there was no room to put into the bin. */
  const [stuck, setStuck] = useState<PieceRow | null>(null);
  const add = useCallback(async (piece: Piece) => {
    try {
      await addPiece(piece);
      return true;
    } catch (e) {
      setProblem(whyNotKept(e));
      return false;
    }
  }, []);
  const input = useRef<HTMLInputElement>(null);

  useEffect(() => {
    if (!welcome.data || readPref(WELCOMED)) return;
    writePref(WELCOMED, '1');
    for (const { piece } of welcome.data) void add(copyOf(piece, piece.name));
  }, [welcome.data, add]);

  const open = async (piece: Piece) => {
    if (await add(piece)) await go(`/piece/${piece.id}`);
  };
  const imported = useCallback(
    async ({ piece, bytes }: ReadPieceFile) => {
      const refused = await keepBytes(bytes);
      if (refused !== null) return refused;
      try {
        const taken = (await db.pieces.get(piece.id)) ?? (await db.bin.get(piece.id));
        const own = taken ? { ...piece, id: newPieceId() } : piece;
        await addPiece(own);
        setJob(null);
        await go(`/piece/${own.id}`);
        return null;
      } catch (e) {
        return whyNotKept(e);
      }
    },
    [go],
  );
  return (
    <div
      className="h-full overflow-auto"
      onDragOver={(e) => e.preventDefault()}
      onDrop={(e) => {
        e.preventDefault();
        take(e.dataTransfer.files[0]);
      }}
    >
      <header className="h-11 bg-card border-b border-line flex items-center px-4 gap-2">
        <Mark />
        <span className="font-serif text-[17px] font-semibold">Apple Tick</span>
        <span className="flex-1" />
        <button type="button" className="btn" onClick={toggleTheme}>
          Light or dark
        </button>
        <button type="button" className="btn" onClick={() => input.current?.click()}>
          Import a file
        </button>
        <button
          type="button"
          className="btn btn-ink"
          onClick={() => void open(emptyPiece(newPieceId(), 'Untitled piece'))}
        >
          New piece
        </button>
        <input
          ref={input}
          type="file"
          aria-label="File to import"
          className="sr-only"
          tabIndex={-1}
          accept=".json,.tickpack"
          onChange={(e) => {
            take(e.target.files?.[0]);
            e.target.value = '';
          }}
        />
      </header>
      <main className="px-11 py-6">
        <h1 className="text-[23px]">Your pieces</h1>
        <KeptHere />
        {stuck && (
          <p role="alert" className="text-apple mb-3 flex gap-2 items-center">
            There is no room to put {stuck.name} into the bin.
            <button
              type="button"
              className="btn"
              onClick={async () => {
                await dropPiece(stuck.id);
                setStuck(null);
              }}
            >
              Delete it for good
            </button>
            <button type="button" className="btn" onClick={() => setStuck(null)}>
              Leave it
            </button>
          </p>
        )}
        {problem !== '' && (
          <p role="alert" className="text-apple mb-3">
            {problem}
          </p>
        )}
        {rows?.length === 0 && <p>Nothing here yet: make a new piece, or start from one below.</p>}
        <ul className="grid grid-cols-[repeat(auto-fill,minmax(210px,1fr))] gap-4 mb-8">
          {rows?.map((r) => (
            <Card key={r.id} row={r} onProblem={setProblem} onStuck={setStuck} onCopy={add} />
          ))}
        </ul>
        <Bin />
        <h2 className="text-[23px]">Start from</h2>
        <p className="text-ink-2 mb-3">Small finished things, one technique each. Take one apart.</p>
        {file.isError && (
          <p className="text-apple">The starters could not be fetched: is the server still running?</p>
        )}
        <ul className="grid grid-cols-[repeat(auto-fill,minmax(210px,1fr))] gap-4">
          {starters.data?.map(({ title, piece }) => (
            <li key={piece.id}>
              <button
                type="button"
                className="bg-card border border-line rounded-[9px] overflow-hidden text-left w-full"
                onClick={() => void open(copyOf(piece, piece.name))}
              >
                <Moving piece={piece} />
                <span className="block px-3 py-2 font-semibold">{title}</span>
              </button>
            </li>
          ))}
        </ul>
      </main>
      <ImportDialog job={job} onDone={imported} onClose={() => setJob(null)} />
    </div>
  );
}

/** A starter whose clips are seen while the pointer is on it, or the focus; else its still picture. */
function Moving({ piece }: { piece: Piece }) {
  const [on, setOn] = useState(false);
  const box = useRef<HTMLSpanElement>(null);
  useEffect(() => {
    const card = box.current?.closest('button');
    if (!card || matchMedia('(prefers-reduced-motion: reduce)').matches) return;
    const show = () => setOn(true);
    const rest = () => setOn(false);
    card.addEventListener('pointerenter', show);
    card.addEventListener('focus', show);
    card.addEventListener('pointerleave', rest);
    card.addEventListener('blur', rest);
    return () => {
      card.removeEventListener('pointerenter', show);
      card.removeEventListener('focus', show);
      card.removeEventListener('pointerleave', rest);
      card.removeEventListener('blur', rest);
    };
  }, []);
  return (
    <span ref={box} className="block relative overflow-hidden">
      <PieceThumb piece={piece} width={240} height={120} fills />
      {on && (
        <Suspense>
          <ClipReel piece={piece} width={240} height={120} />
        </Suspense>
      )}
    </span>
  );
}

function Card(props: {
  row: PieceRow;
  onProblem: (sentence: string) => void;
  onStuck: (row: PieceRow) => void;
  onCopy: (p: Piece) => Promise<boolean>;
}) {
  const { row, onProblem } = props;
  const go = useNavigate();
  const [loaded, setLoaded] = useState<Loaded | null>(null);
  useEffect(() => {
    let left = false;
    void load(row.id).then((l) => !left && setLoaded(l));
    return () => {
      left = true;
    };
  }, [row]);
  const piece = useMemo(() => (loaded?.ok ? loaded.store.toPiece() : null), [loaded]);
  // What is broken in the row must not take the shelf along.
  const name = typeof row.name === 'string' && row.name !== '' ? row.name : 'Without a name';
  const changed = new Date(row.changed);
  const when = Number.isNaN(changed.getTime())
    ? 'some time ago'
    : changed.toLocaleString('en-GB', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' });
  const n = piece ? Object.keys(piece.objects).length : Number(row.objects) || 0;
  return (
    <li className="bg-card border border-line rounded-[9px] overflow-hidden relative">
      <button
        type="button"
        className="block w-full"
        aria-label={`${name} ${n} ${n === 1 ? 'object' : 'objects'}`}
        onClick={() => void go(`/piece/${row.id}`)}
      >
        {piece ? (
          <PieceThumb piece={piece} width={240} height={135} fills />
        ) : (
          <span className="grid place-items-center h-[135px] text-ink-2">
            {loaded ? 'It cannot be shown: what is kept is broken.' : ''}
          </span>
        )}
      </button>
      <div className="px-3 pt-2 pb-3 pr-11">
        <TextField
          label={`Name of ${name}`}
          className="block w-full bg-transparent font-serif text-[15px] font-semibold truncate"
          value={name}
          onChange={(to) =>
            to.trim() !== '' && void rename(row.id, to.trim()).then((why) => why !== null && onProblem(why))
          }
        />
        <p className="text-ink-2">
          {n} {n === 1 ? 'object' : 'objects'} · {when}
        </p>
      </div>
      <DropdownMenu.Root>
        <DropdownMenu.Trigger
          className="absolute right-2 bottom-2 px-2 rounded-md hover:bg-paper"
          aria-label={`More for ${name}`}
        >
          •••
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content className="menu">
            <DropdownMenu.Item
              disabled={!piece}
              onSelect={() => piece && void props.onCopy(copyOf(piece, `${name} copy`))}
            >
              Duplicate
            </DropdownMenu.Item>
            <DropdownMenu.Item
              onSelect={async () => {
                if (piece) onProblem(exportWords(await exportPiece(piece)));
                else if (loaded && !loaded.ok) saveFile(`${name}.txt`, loaded.text, 'text/plain');
              }}
            >
              Export the file
            </DropdownMenu.Item>
            <DropdownMenu.Item
              onSelect={() =>
                void deletePiece(row.id).catch((e: unknown) =>
                  isFull(e) ? props.onStuck(row) : onProblem(whyNotKept(e)),
                )
              }
            >
              Delete
            </DropdownMenu.Item>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
    </li>
  );
}

/** Where pieces are kept, how much room they take, and whether the browser promises to keep them. */
function KeptHere() {
  const lasts = useStore(storage, (x) => x.lasts);
  const waiting = useStore(unkept, (x) => x.list);
  const [space, setSpace] = useState<Space | null>(null);
  // Asked again whenever a piece came or went.
  const count = useLiveQuery(() => db.pieces.count());
  useEffect(() => {
    if (count !== undefined) void spaceUsed().then(setSpace);
  }, [count]);
  const mb = (n: number) => (n < 1e9 ? `${(n / 1e6).toFixed(1)} MB` : `${(n / 1e9).toFixed(1)} GB`);
  if (!lasts)
    return (
      <p role="alert" className="text-apple mb-3">
        This browser keeps nothing: what you make is gone when the page is closed. Export it as a file before
        you leave.
      </p>
    );
  return (
    <div className="text-ink-2 mb-3">
      <Missing />
      <p>
        Kept in this browser
        {space && ` · ${mb(space.used)}${space.room ? ` of ${mb(space.room)}` : ''} used`}
        {space && !space.safe && ' · the browser may clear it when it runs short of room'}
      </p>
      {waiting.map((x) => (
        <p key={x.id} role="alert" className="text-apple">
          {x.name} is not kept yet. {x.why}
        </p>
      ))}
    </div>
  );
}

/** Pieces that were kept here and are not there any more, and which of them can be had again. */
function Missing() {
  const gone = useStore(lost, (x) => x.lost);
  if (!gone) return null;
  const { names, copies } = gone;
  const list =
    names.length > 6 ? `${names.slice(0, 6).join(', ')} and ${names.length - 6} more` : names.join(', ');
  return (
    <div
      role="alert"
      className="border border-apple rounded-[9px] p-3 mb-2 text-ink flex gap-3 items-center flex-wrap"
    >
      <p className="flex-1 min-w-[260px]">
        This browser has lost {names.length === 1 ? 'a piece that was' : `${names.length} pieces that were`}{' '}
        kept here: {list}.{' '}
        {copies.length === names.length
          ? 'A second copy of all that was done is still there.'
          : copies.length > 0
            ? `Of ${copies.length} there is a second copy.`
            : 'There is no second copy: what was exported as a file can be imported.'}
      </p>
      {copies.length > 0 && (
        <button type="button" className="btn btn-ink" onClick={() => void restoreLost()}>
          Put {copies.length === 1 ? 'it' : 'them'} back
        </button>
      )}
      <button type="button" className="underline" onClick={forgetLost}>
        Good
      </button>
    </div>
  );
}

/** Pieces that were deleted lately: each can be put back, also after a reload. */
function Bin() {
  const rows = useLiveQuery(async () =>
    (await db.bin.toArray()).sort((a, b) => (Number(b.deleted) || 0) - (Number(a.deleted) || 0)),
  );
  if (!rows || rows.length === 0) return null;
  return (
    <details className="mb-8" open={Date.now() - (rows[0]?.deleted ?? 0) < 60_000}>
      <summary className="cursor-pointer text-ink-2">
        Deleted lately: {rows.length} · kept for a month, then gone
      </summary>
      <ul className="mt-2 space-y-1" aria-label="Deleted lately">
        {rows.map((r) => (
          <li key={r.id} className="flex gap-2 items-center">
            <span className="truncate min-w-0">{String(r.name)}</span>
            <button type="button" className="btn" onClick={() => void putBack(r.id)}>
              Put back
            </button>
            <button type="button" className="btn" onClick={() => void dropPiece(r.id)}>
              Delete for good
            </button>
          </li>
        ))}
      </ul>
    </details>
  );
}
