import { emptyPiece, type Piece } from '@apple-tick/core/model';
import { useLiveQuery } from 'dexie-react-hooks';
import { DropdownMenu } from 'radix-ui';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { addPiece, deletePiece, dropPiece } from '../../session/keep/keeping.ts';
import type { Loaded } from '../../session/keep/loading.ts';
import { keepBytes } from '../../session/keep/pictures.ts';
import { readPref, writePref } from '../../session/keep/prefs.ts';
import { db, isFull, keptRows, type PieceRow, whyNotKept } from '../../session/keep/storage.ts';
import { copyOf, newPieceId } from '../../session/model-help.ts';
import { exportPiece, exportWords } from '../../ui/export-piece.ts';
import { TextField } from '../../ui/fields.tsx';
import { ImportDialog } from '../../ui/ImportDialog.tsx';
import type { ReadJob, ReadPieceFile } from '../../ui/import-worker.ts';
import { Mark } from '../../ui/Mark.tsx';
import { PieceThumb } from '../../ui/PieceThumb.tsx';
import { saveFile } from '../../ui/save-file.ts';
import { type Starter, takeStarter, useStarters } from '../../ui/starters.ts';
import { toggleTheme } from '../../ui/theme.ts';
import { Bin, KeptHere } from './KeptHere.tsx';
import { Starters } from './Starters.tsx';

/** What reads pieces is not needed to show the shelf, and comes after it. */
const load = async (id: string) => (await import('../../session/keep/loading.ts')).loadPiece(id);

const rename = async (id: string, name: string) =>
  (await import('../../session/keep/open-piece.ts')).renameKept(id, name);

/** Besides the demo, the starter that lies on the shelf on the first visit. */
const FIRST = 'Hinge that turns back';
/** The keys of what came on the first visit so far, or that all of it did. */
const WELCOMED = 'apple-tick-welcomed';
const WELCOMED_ALL = '1';

export function Shelf() {
  const go = useNavigate();
  // Sorted here: an index would leave out a row whose date is broken.
  const rows = useLiveQuery(async () =>
    (await keptRows()).sort((a, b) => (Number(b.changed) || 0) - (Number(a.changed) || 0)),
  );
  const file = useStarters();
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
  useWelcome(file.data, setProblem);

  const open = async (piece: Piece) => {
    if (await add(piece)) await go(`/piece/${piece.id}`);
  };
  const imported = useCallback(
    async (read: ReadPieceFile) => {
      const { refused, id } = await keepImported(read);
      if (refused !== null) return refused;
      setJob(null);
      await go(`/piece/${id}`);
      return null;
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
      <Top onFile={take} onNew={() => void open(emptyPiece(newPieceId(), 'Untitled piece'))} />
      <main className="px-11 py-6">
        <h1 className="text-[23px]">Your pieces</h1>
        <KeptHere />
        {stuck && <NoRoom stuck={stuck} onDone={() => setStuck(null)} />}
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
        <Starters
          all={file.data?.starters ?? []}
          onTake={async (starter) => {
            try {
              const id = await takeStarter(starter);
              if (id === null) setProblem(`${starter.title} cannot be read.`);
              else await go(`/piece/${id}?walk=${starter.key}`);
            } catch (e) {
              setProblem(whyNotKept(e));
            }
          }}
        />
      </main>
      <ImportDialog job={job} onDone={imported} onClose={() => setJob(null)} />
    </div>
  );
}

/** On the first visit the demo and a small piece lie on the shelf, as pieces of one's own. */
function useWelcome(file: ReturnType<typeof useStarters>['data'], onProblem: (words: string) => void): void {
  const [first] = useState(() => readPref(WELCOMED) !== WELCOMED_ALL);
  useEffect(() => {
    if (!first || !file) return;
    const { demo, starters } = file;
    const small = starters.filter((x) => x.title === FIRST);
    const welcome = () => bringOnce([...small, ...demo]);
    // Two tabs that are opened at once take turns: each piece comes once.
    const turn = 'locks' in navigator ? navigator.locks.request(WELCOMED, welcome) : welcome();
    turn.catch((e: unknown) => onProblem(whyNotKept(e)));
  }, [first, file, onProblem]);
}

/** Keeps what did not come yet, and writes down each as soon as it is kept: a reload between two loses none. */
async function bringOnce(all: readonly Pick<Starter, 'key' | 'piece'>[]): Promise<void> {
  if (readPref(WELCOMED) === WELCOMED_ALL) return;
  const came = (readPref(WELCOMED) ?? '').split(' ');
  for (const starter of all) {
    if (came.includes(starter.key)) continue;
    await takeStarter(starter);
    came.push(starter.key);
    writePref(WELCOMED, came.join(' ').trim());
  }
  writePref(WELCOMED, WELCOMED_ALL);
}

/** Keeps a piece that was read from a file, beside one of the same id; a sentence when it cannot. */
async function keepImported({
  piece,
  bytes,
}: ReadPieceFile): Promise<{ refused: string | null; id: string }> {
  const { id } = piece;
  const refused = await keepBytes(bytes);
  if (refused !== null) return { refused, id };
  try {
    const taken = (await db.pieces.get(id)) ?? (await db.bin.get(id));
    const own = taken ? { ...piece, id: newPieceId() } : piece;
    await addPiece(own);
    return { refused: null, id: own.id };
  } catch (e) {
    return { refused: whyNotKept(e), id };
  }
}

function Top({ onFile, onNew }: { onFile: (file: File | undefined) => void; onNew: () => void }) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <header className="h-11 bg-card border-b border-line flex items-center px-4 gap-2">
      <Mark />
      <span className="font-serif text-[17px] font-semibold">Apple Tick</span>
      <span className="flex-1" />
      <Link className="btn" to="/guide">
        Guide
      </Link>
      <button type="button" className="btn" onClick={toggleTheme}>
        Light or dark
      </button>
      <button type="button" className="btn" onClick={() => input.current?.click()}>
        Import a file
      </button>
      <button type="button" className="btn btn-ink" onClick={onNew}>
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
          onFile(e.target.files?.[0]);
          e.target.value = '';
        }}
      />
    </header>
  );
}

/** A piece that there was no room to put into the bin: deleted for good, or left. */
function NoRoom({ stuck, onDone }: { stuck: PieceRow; onDone: () => void }) {
  return (
    <p role="alert" className="text-apple mb-3 flex gap-2 items-center">
      There is no room to put {stuck.name} into the bin.
      <button
        type="button"
        className="btn"
        onClick={async () => {
          await dropPiece(stuck.id);
          onDone();
        }}
      >
        Delete it for good
      </button>
      <button type="button" className="btn" onClick={() => onDone()}>
        Leave it
      </button>
    </p>
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
        <Picture row={row} piece={piece} broken={loaded !== null && !loaded.ok} />
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

/** The picture that was kept with the piece, at once; a new one where the piece has changed since. */
function Picture({ row, piece, broken }: { row: PieceRow; piece: Piece | null; broken: boolean }) {
  const kept = useLiveQuery(async () => (await db.thumbs.get(row.id)) ?? null, [row.id]);
  const url = useMemo(() => kept && URL.createObjectURL(kept.picture), [kept]);
  useEffect(() => () => void (url && URL.revokeObjectURL(url)), [url]);
  const isNew = kept?.changed === row.changed;
  return (
    <span className="block relative overflow-hidden aspect-video">
      {url && <img src={url} alt="" className="absolute inset-0 w-full h-full" draggable={false} />}
      {piece && kept !== undefined && !isNew && (
        <span className="absolute inset-0">
          <PieceThumb
            piece={piece}
            width={240}
            height={135}
            fills
            onPainted={(canvas) =>
              canvas.toBlob(
                // Without room for it the picture is painted anew the next time.
                (picture) =>
                  picture &&
                  void db.thumbs.put({ id: row.id, changed: row.changed, picture }).catch(() => {}),
                'image/webp',
                0.85,
              )
            }
          />
        </span>
      )}
      {broken && !url && (
        <span className="absolute inset-0 grid place-items-center text-ink-2">
          It cannot be shown: what is kept is broken.
        </span>
      )}
    </span>
  );
}
