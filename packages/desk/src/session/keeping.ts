/**
 * Where pieces are kept: in this browser's IndexedDB, whole pieces as strings and since then a journal of steps.
 * Opening reads the whole and repeats the journal; undo history is part of both.
 */
import {
  FORMAT_VERSION,
  History,
  type HistoryEvent,
  type HistoryState,
  type Piece,
  PieceStore,
  readPiece,
  TABLES,
  writePiece,
} from '@apple-tick/core/model';
import Dexie, { type Table } from 'dexie';

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
interface JournalRow {
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

class Keeping extends Dexie {
  pieces!: Table<PieceRow, string>;
  journal!: Table<JournalRow, [string, number]>;
  assets!: Table<AssetRow, string>;
  constructor() {
    super('apple-tick');
    this.version(1).stores({ pieces: 'id, changed', journal: '[piece+seq]' });
    this.version(2).stores({ assets: 'hash' });
  }
}
export const db = new Keeping();

/** Steps after which the whole is written anew. */
const WHOLE_AFTER = 60;

export async function addPiece(piece: Piece): Promise<void> {
  await db.pieces.put(row(piece, { undo: [], redo: [] }, 0));
}

function row(piece: Piece, history: HistoryState, seq: number): PieceRow {
  return {
    id: piece.id,
    name: piece.name,
    objects: Object.keys(piece.objects).length,
    changed: Date.now(),
    seq,
    piece: writePiece(piece),
    history: JSON.stringify(history),
  };
}

export async function deletePiece(id: string): Promise<PieceRow | undefined> {
  const kept = await loadHistory(id);
  if (kept) await db.pieces.put(row(kept.store.toPiece(), kept.history.state, kept.seq));
  const old = await db.pieces.get(id);
  // The deleting may be undone: its files are not dropped for a while.
  if (old) await keepFiles(hashesIn(`${old.piece}${old.history}`));
  await db.pieces.delete(id);
  await dropJournal(id, Number.POSITIVE_INFINITY);
  return old;
}

function hashesIn(text: string): Set<string> {
  return new Set(Array.from(text.matchAll(/[0-9a-f]{64}/g), (m) => m[0]));
}

async function keepFiles(hashes: ReadonlySet<string>): Promise<void> {
  await db.assets
    .where('hash')
    .anyOf([...hashes])
    .modify({ at: Date.now() });
}

/** Files that have just been brought in belong to no piece yet, and a deleting may still be undone. */
const GRACE = 24 * 3600 * 1000;

/** Drops the files that no piece names any more, nor anything that can be undone. Returns how many. */
export async function dropUnusedFiles(now = Date.now()): Promise<number> {
  return db.transaction('rw', db.pieces, db.journal, db.assets, async () => {
    const used = new Set<string>();
    const use = (text: string) => {
      for (const h of hashesIn(text)) used.add(h);
    };
    await db.pieces.each((r) => use(`${r.piece} ${r.history}`));
    await db.journal.each((r) => use(r.event));
    return db.assets.filter((a) => !used.has(a.hash) && (a.at ?? 0) < now - GRACE).delete();
  });
}

function dropJournal(id: string, upTo: number): Promise<number> {
  return db.journal.where('[piece+seq]').between([id, Dexie.minKey], [id, upTo], true, true).delete();
}

export interface Kept {
  store: PieceStore;
  history: History;
  seq: number;
}

/** The piece as it was last kept, or null when there is none (or it cannot be read). */
export async function loadHistory(id: string): Promise<Kept | null> {
  const [kept, journal] = await db.transaction('r', db.pieces, db.journal, async () => [
    await db.pieces.get(id),
    await db.journal.where('[piece+seq]').between([id, Dexie.minKey], [id, Dexie.maxKey]).toArray(),
  ]);
  if (!kept) return null;
  const piece = ownPiece(kept.piece);
  if (!piece) return null;
  const store = new PieceStore(piece);
  const history = new History(store, JSON.parse(kept.history));
  let seq = kept.seq;
  for (const j of journal) {
    if (j.seq <= kept.seq) continue;
    for (const e of JSON.parse(j.event) as HistoryEvent[]) history.replay(e);
    seq = j.seq;
  }
  return { store, history, seq };
}

/**
 * A piece as this browser wrote it. What an edit let through that a reader of files would refuse (a name twice, a number
 * too large) must not cost the whole piece: when only that is wrong, it is opened as it was.
 */
function ownPiece(text: string): Piece | null {
  const read = readPiece(text);
  if (read.ok) return read.value;
  try {
    const json = JSON.parse(text) as Piece;
    const whole = json.version === FORMAT_VERSION && TABLES.every((t) => typeof json[t] === 'object');
    return whole ? json : null;
  } catch {
    return null;
  }
}

/** Writes each step of a history down as it happens. A drag's step is written over while it grows. */
export class Keeper {
  private waiting: HistoryEvent[] = [];
  private timer: ReturnType<typeof setTimeout> | null = null;
  private writing: Promise<void> = Promise.resolve();
  private sinceWhole = 0;
  /** What is being written, until it is: a page that is left at once writes it again, with what waits. */
  private inFlight: JournalRow[] = [];
  private seq: number;
  private readonly kept: Kept;
  private readonly onKept: () => void;

  constructor(kept: Kept, onKept: () => void) {
    this.kept = kept;
    this.seq = kept.seq;
    this.onKept = onKept;
    kept.history.subscribe((e) => {
      // While a drag waits to be written, only its newest form counts.
      if (e.kind === 'amend' && this.waiting.length > 0 && this.waiting.at(-1)?.kind !== 'undo') {
        const first = this.waiting.pop() as HistoryEvent;
        if (e.entry) this.waiting.push({ kind: first.kind === 'amend' ? 'amend' : 'push', entry: e.entry });
        else if (first.kind === 'amend') this.waiting.push(e);
      } else this.waiting.push(e);
      this.timer ??= setTimeout(() => this.flush(), 250);
    });
  }

  flush(): Promise<void> {
    if (this.timer !== null) clearTimeout(this.timer);
    this.timer = null;
    const entry = this.next();
    if (!entry) return this.writing;
    const { seq } = entry;
    this.sinceWhole += 1;
    const whole = this.sinceWhole >= WHOLE_AFTER;
    if (whole) this.sinceWhole = 0;
    const id = this.kept.store.head.id;
    const all = whole ? row(this.kept.store.toPiece(), this.kept.history.state, seq) : null;
    const head = { name: this.kept.store.head.name, objects: this.kept.store.ids('objects').length };
    this.writing = this.writing.then(async () => {
      await db.transaction('rw', db.pieces, db.journal, async () => {
        if (all) {
          await db.pieces.put(all);
          await dropJournal(id, seq);
        } else {
          await db.journal.put(entry);
          await db.pieces.update(id, { ...head, changed: Date.now() });
        }
      });
      this.inFlight = this.inFlight.filter((r) => r !== entry);
      this.onKept();
    });
    return this.writing;
  }

  /** What waits, as the journal's next entry; null when nothing does. */
  private next(): JournalRow | null {
    const events = this.waiting;
    this.waiting = [];
    if (events.length === 0) return null;
    const entry = { piece: this.kept.store.head.id, seq: ++this.seq, event: JSON.stringify(events) };
    this.inFlight.push(entry);
    return entry;
  }

  /**
   * The page is being left: writes all that is not kept yet before this returns. A transaction that nobody commits dies
   * with its page, and a promise is never heard of again, so this asks the database directly. An entry that is already
   * part of the whole is passed over when the piece is opened.
   */
  leave(): void {
    this.next();
    if (this.inFlight.length === 0) return;
    const all = db.backendDB().transaction('journal', 'readwrite');
    const written = [...this.inFlight];
    for (const r of written) all.objectStore('journal').put(r);
    // A page that is only put aside may come back and go on.
    all.oncomplete = () => {
      this.inFlight = this.inFlight.filter((r) => !written.includes(r));
      this.onKept();
    };
    all.commit();
  }
}
