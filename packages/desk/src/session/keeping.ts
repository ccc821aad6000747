/**
 * Where pieces are kept: in this browser's IndexedDB, whole pieces as strings and since then a journal of steps.
 * Opening reads the whole and repeats the journal; undo history is part of both. What is broken is opened from what is
 * sound, and said.
 */
import { bringUp, isSoundRecord, readEvents, readHistory, salvagePiece } from '@apple-tick/core/check';
import { History, historyText, type Piece, PieceStore } from '@apple-tick/core/model';
import Dexie from 'dexie';
import { askToLast, db, dropJournal, type JournalRow, type PieceRow, wholeRow } from './storage.ts';

const NOTHING_TO_UNDO = historyText({ undo: [], redo: [] });

export async function addPiece(piece: Piece): Promise<void> {
  await db.pieces.put(wholeRow(piece, NOTHING_TO_UNDO, 0));
  void askToLast();
  tell(piece.id, 'kept');
}

/** News of a piece for the other tabs: it was written, deleted, or put back. */
export type News = 'kept' | 'deleted' | 'back';

/** Hears of what other tabs do with a piece; null where the browser has no channels. */
export function newsOf(id: string): BroadcastChannel | null {
  return typeof BroadcastChannel === 'undefined' ? null : new BroadcastChannel(`apple-tick/${id}`);
}

function tell(id: string, news: News): void {
  const channel = newsOf(id);
  channel?.postMessage(news);
  channel?.close();
}

/** Puts a piece into the bin; whatever can be undone in it, and its files, stay with it. */
export async function deletePiece(id: string): Promise<void> {
  await db.transaction('rw', db.pieces, db.bin, async () => {
    const row = await db.pieces.get(id);
    if (row) await db.bin.put({ ...row, deleted: Date.now() });
    await db.pieces.delete(id);
  });
  tell(id, 'deleted');
}

export async function putBack(id: string): Promise<void> {
  await db.transaction('rw', db.pieces, db.bin, async () => {
    const binned = await db.bin.get(id);
    if (!binned) return;
    const { deleted: _, ...row } = binned;
    await db.pieces.put(row);
    await db.bin.delete(id);
  });
  tell(id, 'back');
}

/** Deletes a piece for good, from the shelf or the bin, with all that belongs to it; that needs no room. */
export async function dropPiece(id: string): Promise<void> {
  await db.transaction('rw', db.pieces, db.bin, db.journal, async () => {
    await db.pieces.delete(id);
    await db.bin.delete(id);
    await dropJournal(id, Number.POSITIVE_INFINITY);
  });
  tell(id, 'deleted');
}

function hashesIn(text: unknown): Set<string> {
  return new Set(Array.from(String(text).matchAll(/[0-9a-f]{64}/g), (m) => m[0]));
}

/** Files that have just been brought in belong to no piece yet. */
const GRACE = 24 * 3600 * 1000;
/** How long a deleted piece can be put back. */
const IN_BIN = 30 * GRACE;

/** Drops pieces that were deleted long ago, and files that no piece names, nor anything that can be undone. */
export async function tidyUp(now = Date.now()): Promise<number> {
  for (const r of await db.bin
    .where('deleted')
    .below(now - IN_BIN)
    .toArray())
    await dropPiece(r.id);
  return db.transaction('rw', db.pieces, db.bin, db.journal, db.assets, async () => {
    const used = new Set<string>();
    const use = (text: unknown) => {
      for (const h of hashesIn(text)) used.add(h);
    };
    for (const table of [db.pieces, db.bin]) await table.each((r) => use(`${r.piece} ${r.history}`));
    await db.journal.each((r) => use(r.event));
    return db.assets.filter((a) => !used.has(a.hash) && (a.at ?? 0) < now - GRACE).delete();
  });
}

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
  | { readonly ok: false; readonly why: 'missing' | 'deleted' | 'broken'; readonly text: string };

/** The piece as it was last kept. */
export async function loadPiece(id: string): Promise<Loaded> {
  let row: PieceRow | undefined;
  try {
    const [kept, journal, binned] = await db.transaction('r', db.pieces, db.journal, db.bin, async () => [
      await db.pieces.get(id),
      await db.journal.where('[piece+seq]').between([id, Dexie.minKey], [id, Dexie.maxKey]).toArray(),
      await db.bin.where('id').equals(id).count(),
    ]);
    row = kept;
    if (!row) return { ok: false, why: binned > 0 ? 'deleted' : 'missing', text: '' };
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
