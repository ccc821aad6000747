/**
 * Writes each step of a history down as it happens, and says what is kept: nothing is called kept before it is. A write
 * that fails is tried again until it succeeds; what was done meanwhile waits, in order.
 */
import { entryText, type HistoryEvent, historyText } from '@apple-tick/core/model';
import type { Transaction } from 'dexie';
import { forgetLeft, leaveBehind, leftBehind } from './left-behind.ts';
import type { Kept } from './loading.ts';
import { beginCopies, copyAfter } from './second-copy.ts';
import {
  askToLast,
  db,
  entriesIn,
  type JournalRow,
  type PieceRow,
  putWhole,
  wholeRow,
  whyNotKept,
} from './storage.ts';

export type KeepState =
  | { readonly kind: 'kept'; readonly at: number }
  | { readonly kind: 'waiting' }
  | { readonly kind: 'failed'; readonly why: string }
  /** The piece was deleted in another tab. */
  | { readonly kind: 'gone' };

/** Steps after which the whole is written anew, when the journal has also grown to a part of it. */
const WHOLE_AFTER = 60;
const PART_OF_WHOLE = 0.25;
const WAIT = 250;
/** In the middle of a drag each move writes its whole step anew, so it waits longer: still less than a second is lost. */
const WAIT_IN_DRAG = 500;
const TRY_AGAIN = 2000;

class Gone extends Error {}

export class Keeper {
  private events: HistoryEvent[] = [];
  /** Written as journal entries, or being written: kept until the database has confirmed them. */
  private rows: JournalRow[] = [];
  private timer: ReturnType<typeof setTimeout> | null = null;
  private running: Promise<void> | null = null;
  private steps = 0;
  private journalChars = 0;
  private wholeChars: number;
  private wantsWhole: boolean;
  /** A write has failed: nothing is kept until there is a second copy. */
  private wantsCopy = false;
  private seq: number;
  private gone = false;
  private readonly kept: Kept;
  private readonly onState: (state: KeepState) => void;
  private readonly unsubscribe: () => void;

  constructor(kept: Kept, onState: (state: KeepState) => void) {
    this.kept = kept;
    this.seq = kept.seq;
    // What the page before left behind is in the piece as it was opened, and is yet to be kept.
    this.rows = leftBehind(kept.store.head.id);
    this.wholeChars = kept.history.pieceChars;
    // What was left out of a broken keeping must not be met again; an older form is kept no longer.
    this.wantsWhole = kept.left.length > 0 || kept.isOlder === true;
    this.onState = onState;
    this.unsubscribe = kept.history.subscribe((e) => {
      this.note(e);
      if (this.gone) return;
      this.onState({ kind: 'waiting' });
      this.timer ??= setTimeout(() => void this.flush(), e.kind === 'amend' ? WAIT_IN_DRAG : WAIT);
    });
  }

  /** While a drag waits to be written, only its newest form counts. */
  private note(e: HistoryEvent): void {
    const last = this.events.at(-1);
    if (e.kind === 'amend' && last && (last.kind === 'push' || last.kind === 'amend')) {
      this.events.pop();
      if (e.entry) this.events.push({ kind: last.kind, entry: e.entry });
      else if (last.kind === 'amend') this.events.push(e);
    } else this.events.push(e);
  }

  /** Writes all that waits; resolves when it is kept, or has failed and is to be tried again later. */
  flush(): Promise<void> {
    if (this.timer !== null) clearTimeout(this.timer);
    this.timer = null;
    this.stage();
    this.running ??= this.run().finally(() => {
      this.running = null;
    });
    return this.running;
  }

  /** Nothing of the piece waits any more, or there is no place for it since it was deleted; false after a failure. */
  get isKept(): boolean {
    return this.gone || (this.events.length === 0 && this.rows.length === 0 && !this.wantsCopy);
  }

  /** The transaction that is under way, to be given up when the page is left in the middle of it. */
  private writing: Transaction | null = null;

  private async run(): Promise<void> {
    try {
      while (this.rows.length > 0 || this.wantsWhole || this.wantsCopy) {
        if (this.gone) return;
        if (this.rows.length > 0 || this.wantsWhole) await this.write();
        this.stage();
        if (this.rows.length > 0) continue;
        // After a failure the database alone is not trusted: kept is what has been read back from elsewhere, too.
        await copyAfter(this.kept.store.head.id);
        this.wantsCopy = false;
        if (this.rows.length === 0) this.onState({ kind: 'kept', at: Date.now() });
      }
    } catch (e) {
      this.failed(e);
    }
  }

  private async write(): Promise<void> {
    const { store, history } = this.kept;
    const { id, name } = store.head;
    const batch = [...this.rows];
    const much = this.journalChars > this.wholeChars * PART_OF_WHOLE;
    const whole = this.wantsWhole || (this.steps >= WHOLE_AFTER && much) ? this.whole() : null;
    history.trim();
    await db.transaction('rw', db.pieces, db.heads, db.journal, async (writing) => {
      this.writing = writing;
      const there = await db.pieces.where('id').equals(id).count();
      if (there === 0) throw new Gone();
      if (whole) {
        await putWhole(whole);
        await entriesIn(db.journal, id, whole.seq).delete();
      } else {
        await db.journal.bulkPut(batch);
        await db.heads.put({ id, name, objects: store.count('objects', null), changed: Date.now() });
      }
    });
    this.rows = this.rows.filter((r) => !batch.includes(r));
    forgetLeft(id);
    void askToLast();
    if (!whole) return;
    // Nothing waits for it: until then they are passed over.
    void entriesIn(db.last, id, whole.seq).delete();
    this.wantsWhole = false;
    this.steps = 0;
    this.journalChars = 0;
    this.wholeChars = whole.piece.length;
    history.pieceChars = whole.piece.length;
  }

  private whole(): PieceRow {
    const { store, history } = this.kept;
    return wholeRow(store.toPiece(), historyText(history.state), this.seq);
  }

  private failed(e: unknown): void {
    if (e instanceof Gone || (e as { inner?: unknown }).inner instanceof Gone) {
      this.gone = true;
      this.onState({ kind: 'gone' });
      return;
    }
    beginCopies();
    this.wantsCopy = true;
    this.onState({ kind: 'failed', why: whyNotKept(e) });
    // A connection that was cut is made anew; when that fails too, the next try says so.
    if (!db.isOpen()) void db.open().catch(() => {});
    this.timer ??= setTimeout(() => void this.flush(), TRY_AGAIN);
  }

  /** Keeps a piece that was deleted in another tab again, with all that was done since. */
  async keepAgain(): Promise<void> {
    const { id } = this.kept.store.head;
    this.stage();
    this.gone = false;
    try {
      await db.transaction('rw', db.pieces, db.heads, db.bin, async () => {
        await putWhole(this.whole());
        await db.bin.delete(id);
      });
    } catch (e) {
      this.wantsWhole = true;
      return this.failed(e);
    }
    this.rows = [];
    this.wantsWhole = false;
    this.onState({ kind: 'kept', at: Date.now() });
    return this.flush();
  }

  /** Another tab has deleted the piece, or put it back. */
  setGone(gone: boolean): void {
    this.gone = gone;
    if (gone) this.onState({ kind: 'gone' });
    else void this.flush();
  }

  /** What waits becomes the journal's next entry. */
  private stage(): void {
    if (this.events.length === 0) return;
    const event = `[${this.events.map(eventText).join()}]`;
    this.events = [];
    this.rows.push({ piece: this.kept.store.head.id, seq: ++this.seq, event });
    this.steps += 1;
    this.journalChars += event.length;
  }

  /**
   * The page is being left: writes all that is not kept yet before this returns, so that the page that comes next finds it
   * at once (`left-behind.ts`), and asks the database, which has room for more. A transaction that nobody commits dies
   * with its page, one that waits for another too, and a promise is never heard of again: so this asks the database
   * directly, for a store that nobody else writes. What is in the journal or the whole as well is read once.
   */
  leave(): void {
    this.stage();
    if (this.rows.length === 0 || this.gone) return;
    const written = [...this.rows];
    leaveBehind(this.kept.store.head.id, written);
    try {
      // It dies with the page, and takes along what comes after it.
      if (this.writing?.active) this.writing.abort();
    } catch {
      // It is being committed just now, which no page can take back, and nothing waits for it any more.
    }
    try {
      const all = db.backendDB().transaction('last', 'readwrite', { durability: 'strict' });
      for (const r of written) all.objectStore('last').put(r);
      // A page that is only put aside may come back and go on.
      all.oncomplete = () => {
        this.rows = this.rows.filter((r) => !written.includes(r));
        if (this.isKept) this.onState({ kind: 'kept', at: Date.now() });
      };
      all.commit();
    } catch {
      // The connection is cut: the page that comes next finds what was kept before.
    }
  }

  /** Listens no more. Whoever lets go of a piece asks first whether all is kept. */
  close(): void {
    this.unsubscribe();
    if (this.timer !== null) clearTimeout(this.timer);
  }
}

function eventText(e: HistoryEvent): string {
  if (e.kind !== 'push' && e.kind !== 'amend') return JSON.stringify(e);
  return `{"kind":"${e.kind}","entry":${e.entry ? entryText(e.entry) : 'null'}}`;
}
