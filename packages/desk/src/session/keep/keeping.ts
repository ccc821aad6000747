/**
 * Where pieces are kept: in this browser's IndexedDB, whole pieces as strings and since then a journal of steps; undo
 * history is part of both. `loading.ts` reads them.
 */
import { historyText, type Piece } from '@apple-tick/core/model';
import { forgetLeft } from './left-behind.ts';
import { copyAfter, copyGone } from './second-copy.ts';
import { askToLast, db, entriesIn, putWhole, takeRow, wholeRow } from './storage.ts';

const NOTHING_TO_UNDO = historyText({ undo: [], redo: [] });

export async function addPiece(piece: Piece): Promise<void> {
  await db.transaction('rw', db.pieces, db.heads, () => putWhole(wholeRow(piece, NOTHING_TO_UNDO, 0)));
  await copyAfter(piece.id);
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
  await db.transaction('rw', db.pieces, db.heads, db.bin, async () => {
    const row = await takeRow(id);
    if (row) await db.bin.put({ ...row, deleted: Date.now() });
  });
  void copyGone(id);
  tell(id, 'deleted');
}

export async function putBack(id: string): Promise<void> {
  await db.transaction('rw', db.pieces, db.heads, db.bin, async () => {
    const binned = await db.bin.get(id);
    if (!binned) return;
    const { deleted: _, ...row } = binned;
    await putWhole(row);
    await db.bin.delete(id);
  });
  void copyGone(id);
  tell(id, 'back');
}

/** Deletes a piece for good, from the shelf or the bin, with all that belongs to it; that needs no room. */
export async function dropPiece(id: string): Promise<void> {
  await db.transaction('rw', db.pieces, db.heads, db.bin, db.journal, db.last, async () => {
    await takeRow(id);
    await db.bin.delete(id);
    await entriesIn(db.journal, id).delete();
    await entriesIn(db.last, id).delete();
  });
  forgetLeft(id);
  void copyGone(id);
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
  const there = new Set(await db.pieces.toCollection().primaryKeys());
  await db.thumbs.filter((t) => !there.has(t.id)).delete();
  return db.transaction('rw', db.pieces, db.bin, db.journal, db.last, db.assets, async () => {
    const used = new Set<string>();
    const use = (text: unknown) => {
      for (const h of hashesIn(text)) used.add(h);
    };
    for (const table of [db.pieces, db.bin]) await table.each((r) => use(`${r.piece} ${r.history}`));
    for (const table of [db.journal, db.last]) await table.each((r) => use(r.event));
    return db.assets.filter((a) => !used.has(a.hash) && (a.at ?? 0) < now - GRACE).delete();
  });
}
