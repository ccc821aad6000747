import { emptyPiece, type Piece, readPieceJson } from '@apple-tick/core/model';
import { useQuery } from '@tanstack/react-query';
import { useLiveQuery } from 'dexie-react-hooks';
import { DropdownMenu } from 'radix-ui';
import { useCallback, useEffect, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { addPiece, db, deletePiece, loadHistory, type PieceRow } from '../../session/keeping.ts';
import { copyOf, newPieceId } from '../../session/model-help.ts';
import { keepBytes } from '../../session/pictures.ts';
import { ImportDialog } from '../../ui/ImportDialog.tsx';
import type { ReadJob, ReadPieceFile } from '../../ui/import-worker.ts';
import { Mark } from '../../ui/Mark.tsx';
import { PieceThumb } from '../../ui/PieceThumb.tsx';
import { toggleTheme } from '../../ui/theme.ts';

/** Besides the demo, the starter that lies on the shelf on the first visit. */
const FIRST = 'Hinge that turns back';
const WELCOMED = 'apple-tick-welcomed';

export function Shelf() {
  const go = useNavigate();
  const rows = useLiveQuery(() => db.pieces.orderBy('changed').reverse().toArray());
  const starters = useQuery({
    queryKey: ['starters'],
    queryFn: async () => {
      const all = (await (await fetch('/api/starters')).json()) as {
        demo: unknown[];
        starters: { title: string; piece: unknown }[];
      };
      const read = (title: string, json: unknown) => {
        const r = readPieceJson(json);
        return r.ok ? [{ title, piece: r.value }] : [];
      };
      return {
        demo: all.demo.flatMap((j) => read('', j)),
        starters: all.starters.flatMap((x) => read(x.title, x.piece)),
      };
    },
  });
  const [job, setJob] = useState<ReadJob | null>(null);
  const take = (file: File | undefined) => setJob(file ? { as: 'piece', file } : null);
  const [gone, setGone] = useState<PieceRow | null>(null);
  const input = useRef<HTMLInputElement>(null);

  // On the first visit the demo and a small piece lie on the shelf, as pieces of one's own.
  useEffect(() => {
    if (!starters.data || localStorage.getItem(WELCOMED)) return;
    localStorage.setItem(WELCOMED, '1');
    const hinge = starters.data.starters.filter((x) => x.title === FIRST);
    for (const { piece } of [...hinge, ...starters.data.demo]) void addPiece(copyOf(piece, piece.name));
  }, [starters.data]);

  const open = async (piece: Piece) => {
    await addPiece(piece);
    await go(`/piece/${piece.id}`);
  };
  const imported = useCallback(
    async ({ piece, bytes }: ReadPieceFile) => {
      setJob(null);
      await keepBytes(bytes);
      const taken = await db.pieces.get(piece.id);
      const own = taken ? { ...piece, id: newPieceId() } : piece;
      await addPiece(own);
      await go(`/piece/${own.id}`);
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
          accept=".json"
          onChange={(e) => {
            take(e.target.files?.[0]);
            e.target.value = '';
          }}
        />
      </header>
      <main className="px-11 py-6">
        <h1 className="text-[23px]">Your pieces</h1>
        <p className="text-ink-2 mb-3">Kept in this browser</p>
        {rows?.length === 0 && <p>Nothing here yet: make a new piece, or start from one below.</p>}
        <ul className="grid grid-cols-[repeat(auto-fill,226px)] gap-4 mb-8">
          {rows?.map((r) => (
            <Card key={r.id} row={r} onDeleted={setGone} />
          ))}
        </ul>
        <h2 className="text-[23px]">Start from</h2>
        <p className="text-ink-2 mb-3">Small finished things, one technique each. Take one apart.</p>
        {starters.isError && (
          <p className="text-apple">The starters could not be fetched: is the server still running?</p>
        )}
        <ul className="grid grid-cols-[repeat(auto-fill,226px)] gap-4">
          {starters.data?.starters.map(({ title, piece }) => (
            <li key={piece.id}>
              <button
                type="button"
                className="bg-card border border-line rounded-[9px] overflow-hidden text-left w-full"
                onClick={() => void open(copyOf(piece, piece.name))}
              >
                <PieceThumb piece={piece} width={224} height={108} />
                <span className="block px-3 py-2 font-semibold">{title}</span>
              </button>
            </li>
          ))}
        </ul>
      </main>
      {gone && (
        <div
          role="status"
          className="fixed bottom-4 left-1/2 -translate-x-1/2 menu flex gap-3 items-center !p-3"
        >
          {gone.name} was deleted.
          <button
            type="button"
            className="btn"
            onClick={async () => {
              await db.pieces.put(gone);
              setGone(null);
            }}
          >
            Undo
          </button>
        </div>
      )}
      <ImportDialog job={job} onDone={imported} onClose={() => setJob(null)} />
    </div>
  );
}

function Card(props: { row: PieceRow; onDeleted: (r: PieceRow) => void }) {
  const { row } = props;
  const go = useNavigate();
  const [piece, setPiece] = useState<Piece | null>(null);
  useEffect(() => {
    void loadHistory(row.id).then((k) => setPiece(k?.store.toPiece() ?? null));
  }, [row]);
  const when = new Date(row.changed).toLocaleString('en-GB', {
    day: 'numeric',
    month: 'short',
    hour: '2-digit',
    minute: '2-digit',
  });
  return (
    <li className="bg-card border border-line rounded-[9px] overflow-hidden relative">
      <button type="button" className="w-full text-left" onClick={() => void go(`/piece/${row.id}`)}>
        {piece ? <PieceThumb piece={piece} width={224} height={126} /> : <span className="block h-[126px]" />}
        <span className="block px-3 pt-2 font-serif text-[15px] font-semibold truncate">{row.name}</span>
        <span className="block px-3 pb-3 text-ink-2">
          {row.objects} {row.objects === 1 ? 'object' : 'objects'} · {when}
        </span>
      </button>
      <DropdownMenu.Root>
        <DropdownMenu.Trigger
          className="absolute right-2 bottom-2 px-2 rounded-md hover:bg-paper"
          aria-label={`More for ${row.name}`}
        >
          •••
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content className="menu">
            <DropdownMenu.Item onSelect={() => piece && void addPiece(copyOf(piece, `${row.name} copy`))}>
              Duplicate
            </DropdownMenu.Item>
            <DropdownMenu.Item
              onSelect={async () => {
                const old = await deletePiece(row.id);
                if (old) props.onDeleted(old);
              }}
            >
              Delete
            </DropdownMenu.Item>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
    </li>
  );
}
