/**
 * The database in which this browser keeps pieces, or, where it keeps none, one in the page's memory: then everything
 * works until the page is closed, and one sentence says so.
 */
import { type Piece, writePiece } from '@apple-tick/core/model';
import Dexie, { type Collection, type DexieOptions, type Table } from 'dexie';
import { createStore } from 'zustand/vanilla';

export interface PieceRow {
  id: string;
  name: string;
  objects: number;
  changed: number;
  /** Journal entries up to this number are part of `piece` and `history`. */
  seq: number;
  piece: string;
  history: string;
}
/** What has changed of a piece's row since it was written whole: small, so that a step need not write all of it anew. */
export type HeadRow = Pick<PieceRow, 'id' | 'name' | 'objects' | 'changed'>;
/** A piece that was deleted and may be put back; its journal stays until it is dropped for good. */
export interface BinRow extends PieceRow {
  deleted: number;
}
export interface JournalRow {
  piece: string;
  seq: number;
  event: string;
}
/** The bytes of a picture or sound, by their SHA-256. */
interface AssetRow {
  hash: string;
  bytes: ArrayBuffer;
  /** When it was last brought in, or taken from a piece with the piece itself. */
  at?: number;
}

/** The still picture of a piece as the shelf showed it last: it is there at once, whatever has changed since. */
interface ThumbRow {
  id: string;
  /** When the piece that it shows was changed last. */
  changed: number;
  picture: Blob;
}

class Keeping extends Dexie {
  pieces!: Table<PieceRow, string>;
  heads!: Table<HeadRow, string>;
  bin!: Table<BinRow, string>;
  journal!: Table<JournalRow, [string, number]>;
  /** What a page wrote while it was left: apart from the journal, so that it need not wait for a write under way. */
  last!: Table<JournalRow, [string, number]>;
  assets!: Table<AssetRow, string>;
  thumbs!: Table<ThumbRow, string>;
  constructor(options: DexieOptions = {}) {
    // What is told to be kept is on the disk, not on its way there.
    super('apple-tick', { chromeTransactionDurability: 'strict', ...options });
    this.version(1).stores({ pieces: 'id, changed', journal: '[piece+seq]' });
    this.version(2).stores({ assets: 'hash' });
    this.version(3).stores({ bin: 'id, deleted' });
    this.version(4).stores({ heads: 'id', last: '[piece+seq]' });
    this.version(5).stores({ thumbs: 'id' });
  }
}

/** Opened by `openStorage`. */
export let db = new Keeping();

export interface StorageState {
  /** Whether what is done outlives the page. */
  readonly lasts: boolean;
}
export const storage = createStore<StorageState>(() => ({ lasts: true }));

/** So long a database may take to open, ms; one that never answers must not leave the page empty. */
const PATIENCE = 8000;

/** Opens the database; when the browser has none, or refuses it, one in memory. Never fails. */
export async function openStorage(): Promise<void> {
  try {
    const late = new Promise<never>((_, fail) => setTimeout(() => fail(new Error('no answer')), PATIENCE));
    await Promise.race([db.open(), late]);
    return;
  } catch {
    // Private windows, a denied permission, a broken profile: the reason does not matter, the consequence does.
  }
  const { indexedDB, IDBKeyRange } = await import('fake-indexeddb');
  // Dexie asks for them outside of its databases, too, where it tells what has changed.
  Object.assign(Dexie.dependencies, { indexedDB, IDBKeyRange });
  db = new Keeping({ indexedDB, IDBKeyRange });
  await db.open();
  storage.setState({ lasts: false });
}

let asked = false;

/** Asks that the browser does not clear what is kept when it runs short of room; it may say no. */
export async function askToLast(): Promise<void> {
  if (asked) return;
  asked = true;
  try {
    if (!(await navigator.storage.persisted())) await navigator.storage.persist();
  } catch {
    // Not every browser can be asked.
  }
}

export interface Space {
  readonly used: number;
  readonly room: number | null;
  readonly safe: boolean;
}

/** Bytes used and to be had, and whether the browser promises to keep them; null when it does not tell. */
export async function spaceUsed(): Promise<Space | null> {
  try {
    const { usage, quota } = await navigator.storage.estimate();
    return { used: usage ?? 0, room: quota ?? null, safe: await navigator.storage.persisted() };
  } catch {
    return null;
  }
}

/** Whether a write failed because there is no room left. */
export function isFull(e: unknown): boolean {
  for (let x = e as { name?: string; inner?: unknown } | undefined; x; x = x.inner as typeof x)
    if (x.name === 'QuotaExceededError') return true;
  return false;
}

/** Why something was not kept, and what to do, as one sentence. */
export function whyNotKept(e: unknown): string {
  return isFull(e)
    ? 'There is no room left in this browser: delete pieces for good on the shelf, or export this one as a file.'
    : 'This browser does not keep what you do just now: export the piece as a file before you leave.';
}

/** A piece's entries up to a number, by default all. */
export function entriesIn(
  table: Table<JournalRow, [string, number]>,
  id: string,
  upTo: number = Number.POSITIVE_INFINITY,
): Collection<JournalRow, [string, number]> {
  return table.where('[piece+seq]').between([id, Dexie.minKey], [id, upTo], true, true);
}

/** Puts a whole row in its place; within a transaction over `pieces` and `heads`. */
export async function putWhole(row: PieceRow): Promise<void> {
  await db.pieces.put(row);
  await db.heads.delete(row.id);
}

/** Takes a piece's row out, as the shelf tells it; within a transaction over `pieces` and `heads`. */
export async function takeRow(id: string): Promise<PieceRow | undefined> {
  const [row, head] = [await db.pieces.get(id), await db.heads.get(id)];
  await db.pieces.delete(id);
  await db.heads.delete(id);
  return row && { ...row, ...head };
}

/** All pieces as the shelf tells them, in no order. */
export function keptRows(): Promise<PieceRow[]> {
  return db.transaction('r', db.pieces, db.heads, async () => {
    const heads = new Map((await db.heads.toArray()).map((h) => [h.id, h]));
    return (await db.pieces.toArray()).map((row) => ({ ...row, ...heads.get(row.id) }));
  });
}

/** A piece as a row of the database. */
export function wholeRow(piece: Piece, history: string, seq: number): PieceRow {
  return {
    id: piece.id,
    name: piece.name,
    objects: Object.keys(piece.objects).length,
    changed: Date.now(),
    seq,
    piece: writePiece(piece),
    history,
  };
}
