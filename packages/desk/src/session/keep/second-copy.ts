/**
 * A second copy of every piece, outside of the database, from the first write on that failed: a disk that was full may have
 * torn the database without its knowing, and the browser throws a torn one away when it is next started. The copies lie in
 * the origin's private files; each is read back before anything is called kept. They go when a later start, a day after
 * the last failure, has found the database whole.
 */
import { liveQuery } from 'dexie';
import { createStore } from 'zustand/vanilla';
import {
  type BinRow,
  db,
  entriesIn,
  type HeadRow,
  type JournalRow,
  keptRows,
  type PieceRow,
  storage,
} from './storage.ts';

/** All that the database has of one piece, as it is. */
interface Copy {
  readonly row: PieceRow | null;
  readonly bin: BinRow | null;
  readonly head: HeadRow | null;
  readonly journal: readonly JournalRow[];
  readonly last: readonly JournalRow[];
}

export interface Lost {
  /** The names of the pieces that were here and are not, and of those the ids of which there is a copy. */
  readonly names: readonly string[];
  readonly copies: readonly string[];
}
export const lost = createStore<{ readonly lost: Lost | null }>(() => ({ lost: null }));

/** How long after the last failed write copies stay, though the database was found whole, ms. */
const DAY = 24 * 3600 * 1000;
const FAILED = 'failed';
const PIECE = '.piece';
const FILE = '.file';

/** Whether copies are made: a write of this page, or of one before it, has failed. */
let isOn = false;
/** The pieces that were copied since. */
const copied = new Set<string>();

async function folder(): Promise<FileSystemDirectoryHandle> {
  return (await navigator.storage.getDirectory()).getDirectoryHandle('second-copy', { create: true });
}

async function write(name: string, data: string | ArrayBuffer): Promise<void> {
  const dir = await folder();
  const out = await (await dir.getFileHandle(name, { create: true })).createWritable();
  await out.write(data);
  await out.close();
  // What was read back is kept, nothing else.
  const back = await (await dir.getFileHandle(name)).getFile();
  const same =
    typeof data === 'string'
      ? (await back.text()) === data
      : isSame(new Uint8Array(await back.arrayBuffer()), new Uint8Array(data));
  if (!same) throw new Error('the copy is not what was written');
}

const isSame = (a: Uint8Array, b: Uint8Array) => a.length === b.length && a.every((n, i) => n === b[i]);

async function names(ending: string): Promise<string[]> {
  const out: string[] = [];
  for await (const name of (await folder()).keys())
    if (name.endsWith(ending)) out.push(name.slice(0, -ending.length));
  return out;
}

async function read(name: string): Promise<File | null> {
  try {
    return await (await (await folder()).getFileHandle(name)).getFile();
  } catch {
    return null;
  }
}

async function remove(name: string): Promise<void> {
  try {
    await (await folder()).removeEntry(name);
  } catch {
    // It was not there.
  }
}

async function copyPiece(id: string): Promise<void> {
  const copy: Copy = await db.transaction(
    'r',
    db.pieces,
    db.bin,
    db.heads,
    db.journal,
    db.last,
    async () => ({
      row: (await db.pieces.get(id)) ?? null,
      bin: (await db.bin.get(id)) ?? null,
      head: (await db.heads.get(id)) ?? null,
      journal: await entriesIn(db.journal, id).toArray(),
      last: await entriesIn(db.last, id).toArray(),
    }),
  );
  if (!copy.row && !copy.bin) return remove(id + PIECE);
  await write(id + PIECE, JSON.stringify(copy));
  copied.add(id);
}

async function copyFiles(): Promise<void> {
  const there = new Set(await names(FILE));
  for (const hash of (await db.assets.toCollection().primaryKeys()) as string[]) {
    const asset = there.has(hash) ? undefined : await db.assets.get(hash);
    if (asset) await write(hash + FILE, asset.bytes);
  }
}

/** A write has failed: from now on there is a second copy. */
export function beginCopies(): void {
  isOn = true;
}

/**
 * After something of a piece was written: where a write had failed before, resolves once all pieces, and all files, have
 * been copied and read back; rejects when they could not be, as when there is no room.
 */
export function copyAfter(id: string): Promise<void> {
  if (!isOn || typeof navigator.storage?.getDirectory !== 'function') return Promise.resolve();
  return inTurn(() => copyAll(id));
}

/** One after the other: two that write one file at once would read back each other's. */
function inTurn(work: () => Promise<void>): Promise<void> {
  const mine = queue.catch(() => {}).then(work);
  queue = mine;
  return mine;
}
let queue: Promise<void> = Promise.resolve();

async function copyAll(id: string): Promise<void> {
  await write(FAILED, String(Date.now()));
  const all = [
    ...(await db.pieces.toCollection().primaryKeys()),
    ...(await db.bin.toCollection().primaryKeys()),
  ];
  for (const other of all as string[]) if (other === id || !copied.has(other)) await copyPiece(other);
  await copyFiles();
}

/** A piece was deleted, put back or dropped; its copy says the same. */
export async function copyGone(id: string): Promise<void> {
  if (isOn) await inTurn(() => copyPiece(id)).catch(() => {});
}

const KNOWN = 'apple-tick-pieces';
/** The pieces that were here when the shelf was last looked at, by id with their names. */
function knownBefore(): Record<string, string> {
  try {
    return JSON.parse(localStorage.getItem(KNOWN) ?? '{}') as Record<string, string>;
  } catch {
    return {};
  }
}

/** Remembers which pieces there are, so that a start that finds fewer can say so. */
function remember(rows: readonly { readonly id: string; readonly name: string }[]): void {
  try {
    localStorage.setItem(KNOWN, JSON.stringify(Object.fromEntries(rows.map((r) => [r.id, r.name]))));
  } catch {
    // It is only for the worst case.
  }
}

/** At the start: whether the database has all that was copied, and all that was known. Says what it has not. */
async function lookForLost(): Promise<void> {
  try {
    const failed = await read(FAILED);
    const here = new Set([
      ...(await db.pieces.toCollection().primaryKeys()),
      ...(await db.bin.toCollection().primaryKeys()),
    ] as string[]);
    const known = knownBefore();
    const missing = new Map(Object.entries(known).filter(([id]) => !here.has(id)));
    if (failed) {
      isOn = true;
      for (const id of await names(PIECE)) {
        copied.add(id);
        const copy = here.has(id) ? null : await readCopy(id);
        if (copy) missing.set(id, (copy.row ?? copy.bin)?.name ?? known[id] ?? '');
      }
    }
    if (missing.size > 0) {
      const copies = failed ? [...missing.keys()].filter((id) => copied.has(id)) : [];
      lost.setState({ lost: { names: [...missing.values()], copies } });
    } else if (failed && Number(await failed.text()) < Date.now() - DAY) await endCopies();
  } catch {
    // Without private files there are no copies.
  }
}

/** Looks for what is lost, and from then on remembers which pieces there are. */
export async function watchForLost(): Promise<void> {
  if (!storage.getState().lasts) return;
  await lookForLost();
  liveQuery(async () => [...(await keptRows()), ...(await db.bin.toArray())]).subscribe({
    next: remember,
    error: () => {},
  });
}

async function readCopy(id: string): Promise<Copy | null> {
  const file = await read(id + PIECE);
  try {
    return file ? (JSON.parse(await file.text()) as Copy) : null;
  } catch {
    return null;
  }
}

async function endCopies(): Promise<void> {
  isOn = false;
  copied.clear();
  await (await navigator.storage.getDirectory()).removeEntry('second-copy', { recursive: true });
}

/** Puts the pieces of which there is a copy back, with all that could be undone, and the files that they need. */
export async function restoreLost(): Promise<void> {
  const now = lost.getState().lost;
  for (const hash of await names(FILE)) {
    const file = (await db.assets.get(hash)) ? null : await read(hash + FILE);
    if (file) await db.assets.put({ hash, bytes: await file.arrayBuffer(), at: Date.now() });
  }
  for (const id of now?.copies ?? []) {
    const copy = await readCopy(id);
    if (!copy) continue;
    await db.transaction('rw', db.pieces, db.bin, db.heads, db.journal, db.last, async () => {
      if (copy.row) await db.pieces.put(copy.row);
      if (copy.bin) await db.bin.put(copy.bin);
      if (copy.head) await db.heads.put(copy.head);
      await db.journal.bulkPut([...copy.journal]);
      await db.last.bulkPut([...copy.last]);
    });
  }
  forgetLost();
}

/** It was read. What has no copy is not told again; what has one is, at the next start, until it is put back. */
export function forgetLost(): void {
  lost.setState({ lost: null });
}
