/**
 * Opens what is kept: reads the whole and repeats the journal. What is broken is opened from what is sound, and said;
 * what an older version kept is brought up first.
 */
import { bringUp, isSoundRecord, readEvents, readHistory, salvagePiece } from '@apple-tick/core/check';
import { FORMAT_VERSION, History, PieceStore } from '@apple-tick/core/model';
import { leftBehind } from './left-behind.ts';
import { db, entriesIn, type JournalRow, type PieceRow } from './storage.ts';

export interface Kept {
  readonly store: PieceStore;
  readonly history: History;
  readonly seq: number;
  /** One sentence for each thing that could not be read and was left out. */
  readonly left: readonly string[];
  /** It was kept in an older form, and is to be written anew. */
  readonly isOlder?: boolean;
}
export type Loaded =
  | ({ readonly ok: true } & Kept)
  /** `text`: what is kept under this name, as it is, for whoever may still read it. */
  | { readonly ok: false; readonly why: 'missing' | 'deleted' | 'broken' | 'newer'; readonly text: string };

/** The piece as it was last kept. */
export async function loadPiece(id: string): Promise<Loaded> {
  let row: PieceRow | undefined;
  try {
    const [kept, journal, binned] = await db.transaction(
      'r',
      db.pieces,
      db.journal,
      db.last,
      db.bin,
      async () => [await db.pieces.get(id), await entriesOf(id), await db.bin.where('id').equals(id).count()],
    );
    row = kept;
    if (!row) return { ok: false, why: binned > 0 ? 'deleted' : 'missing', text: '' };
    if (isNewer(row.piece)) return { ok: false, why: 'newer', text: row.piece };
    const read = assemble(id, row, journal);
    if (read) return { ok: true, ...read };
  } catch {
    // A database that cannot be read, or data that no code foresaw: the other pieces are not touched by it.
  }
  return {
    ok: false,
    why: 'broken',
    text: typeof row?.piece === 'string' ? row.piece : JSON.stringify(row ?? null),
  };
}

/** Whether a newer version has kept it: what it holds is not known here, and is not touched. */
function isNewer(piece: unknown): boolean {
  try {
    return Number((JSON.parse(String(piece)) as { version?: unknown }).version) > FORMAT_VERSION;
  } catch {
    return false;
  }
}

/** The entries since the whole, in order; one that was written twice is there once. */
async function entriesOf(id: string): Promise<JournalRow[]> {
  const last = await entriesIn(db.last, id).toArray();
  const bySeq = new Map([...leftBehind(id), ...last].map((r) => [r.seq, r]));
  for (const r of await entriesIn(db.journal, id).toArray()) bySeq.set(r.seq, r);
  return [...bySeq.values()].sort((a, b) => a.seq - b.seq);
}

/** The whole and the journal together; null when not even the whole can be read. */
function assemble(id: string, kept: PieceRow, steps: readonly JournalRow[]): Kept | null {
  const from = Number.isInteger(kept.seq) ? kept.seq : 0;
  let journal = steps.filter((j) => j.seq > from);
  const seq = journal.at(-1)?.seq ?? from;
  let row = kept;
  const newer = bringUp(
    row.piece,
    row.history,
    journal.map((j) => j.event),
  );
  if (newer) {
    row = { ...row, ...newer };
    journal = [];
  }
  const salvaged = typeof row.piece === 'string' ? salvagePiece(row.piece, id) : null;
  if (!salvaged) return null;
  const left = [...salvaged.left];
  const read = readHistory(row.history);
  if (!read.whole) left.push('history: Some or all of what could be undone is broken.');
  const store = new PieceStore(salvaged.piece);
  const history = new History(store, read.state, isSoundRecord);
  history.pieceChars = row.piece.length;
  for (const j of journal) {
    if (readEvents(j.event)?.every((e) => history.replay(e))) continue;
    left.push('journal: The last steps cannot be read; the piece stands as it did before them.');
    break;
  }
  history.trim();
  return { store, history, seq, left, isOlder: newer !== null };
}
