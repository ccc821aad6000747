/** Undo and redo with names, outside the store. A drag is one step: its edits are squashed while it is open. */
import type { Patch } from './patch.ts';
import type { AnyRecord, TableName } from './piece.ts';
import { type RecordsDiff, squash } from './record-diff.ts';
import { Editor, type PieceStore } from './store.ts';

export interface HistoryEntry {
  /** What was done, as in `Moved Flap`. */
  readonly name: string;
  readonly diff: RecordsDiff;
}

/** Whether a record has the schema that its table's records have; of one that was sound before `patch`, quickly. */
export type SoundCheck = (table: TableName, record: AnyRecord, patch: Patch | null) => boolean;

export interface HistoryState {
  readonly undo: readonly HistoryEntry[];
  readonly redo: readonly HistoryEntry[];
}

/** What changed, for whoever keeps the piece: each is enough to repeat the step on a copy. */
export type HistoryEvent =
  | { readonly kind: 'push'; readonly entry: HistoryEntry }
  /** The newest entry grew (a drag goes on) or shrank to nothing (`entry` null: it was cancelled). */
  | { readonly kind: 'amend'; readonly entry: HistoryEntry | null }
  /** The steps that could be undone or redone are dropped: one of them cannot be taken. */
  | { readonly kind: 'forget' }
  | { readonly kind: 'undo' }
  | { readonly kind: 'redo' };

/** Steps that are kept at most, and characters of their JSON: so many, or so many times those of the piece. */
const MAX_STEPS = 5000;
const MAX_CHARS = 32 * 1024 * 1024;
const TIMES_PIECE = 8;

const texts = new WeakMap<HistoryEntry, string>();

/** The entry as JSON. Entries never change, so each is written once however often it is kept. */
export function entryText(entry: HistoryEntry): string {
  let text = texts.get(entry);
  if (text === undefined) {
    text = JSON.stringify(entry);
    texts.set(entry, text);
  }
  return text;
}

/** What can be undone and redone as JSON, as `History` takes it when it is parsed. */
export function historyText(state: HistoryState): string {
  const list = (entries: readonly HistoryEntry[]) => `[${entries.map(entryText).join()}]`;
  return `{"undo":${list(state.undo)},"redo":${list(state.redo)}}`;
}

/** A step that was made here, so that it leads from and to what this piece has been. */
class Step implements HistoryEntry {
  readonly name: string;
  readonly diff: RecordsDiff;
  constructor(name: string, diff: RecordsDiff) {
    this.name = name;
    this.diff = diff;
  }
}

export class History {
  private undoStack: HistoryEntry[];
  private redoStack: HistoryEntry[];
  /** What could be redone before the newest step was made: so it is again when that is taken back unseen. */
  private redoUnder: HistoryEntry[] = [];
  private open: string | null = null;
  private openPushed = false;
  /** The records that the open step changed, as they were before it. */
  private before = new Map<string, AnyRecord>();
  /** Characters of the piece's JSON when it was last written or read. */
  pieceChars = 0;
  private readonly listeners = new Set<(e: HistoryEvent) => void>();
  readonly store: PieceStore;

  private readonly isSound: SoundCheck;

  /** `isSound`: asked of what a kept step has made, when `state` was read from a keeping that may be spoilt. */
  constructor(
    store: PieceStore,
    state: HistoryState = { undo: [], redo: [] },
    isSound: SoundCheck = () => true,
  ) {
    this.store = store;
    this.isSound = isSound;
    this.undoStack = [...state.undo];
    this.redoStack = [...state.redo];
  }

  get state(): HistoryState {
    return { undo: this.undoStack, redo: this.redoStack };
  }
  get undoName(): string | null {
    return this.undoStack.at(-1)?.name ?? null;
  }
  get redoName(): string | null {
    return this.redoStack.at(-1)?.name ?? null;
  }

  subscribe(listener: (e: HistoryEvent) => void): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  /** Opens a mark: until `end` or `cancel` all edits become one step of this name. */
  begin(name: string): void {
    this.end();
    this.open = name;
  }

  end(): void {
    this.open = null;
    this.openPushed = false;
    this.before.clear();
  }

  /** Takes back everything since `begin`, leaving no step. */
  cancel(): void {
    if (this.open !== null && this.openPushed) {
      const entry = this.undoStack.pop();
      if (entry) this.store.revert(entry.diff);
      this.redoStack = this.redoUnder;
      this.tell({ kind: 'amend', entry: null });
    }
    this.end();
  }

  /** One edit. Under an open mark it joins that step; otherwise it is a step of its own. */
  edit(name: string, change: (e: Editor) => void): RecordsDiff {
    const editor = new Editor(this.store, this.open === null ? null : this.before);
    try {
      change(editor);
    } catch (e) {
      // A programmer's mistake must not leave half an edit behind.
      this.store.revert(editor.done());
      throw e;
    }
    const diff = editor.done();
    if (diff.length === 0) return diff;
    const last = this.undoStack.at(-1);
    if (this.open !== null && this.openPushed && last) {
      const entry = new Step(
        this.open,
        squash(last.diff, diff, this.before, (table, id) => this.store.get(table, id)),
      );
      this.undoStack[this.undoStack.length - 1] = entry;
      this.tell({ kind: 'amend', entry });
    } else {
      this.redoUnder = this.redoStack;
      this.redoStack = [];
      const entry = new Step(this.open ?? name, diff);
      this.undoStack.push(entry);
      this.openPushed = this.open !== null;
      this.tell({ kind: 'push', entry });
    }
    return diff;
  }

  /** Takes back the newest step and returns it, or null when there is none. */
  undo(): HistoryEntry | null {
    this.end();
    const entry = this.undoStack.at(-1);
    if (!entry) return null;
    if (!this.take(entry, false)) return this.forget();
    this.undoStack.pop();
    this.redoStack.push(entry);
    this.tell({ kind: 'undo' });
    return entry;
  }

  redo(): HistoryEntry | null {
    this.end();
    const entry = this.redoStack.at(-1);
    if (!entry) return null;
    if (!this.take(entry, true)) return this.forget();
    this.redoStack.pop();
    this.undoStack.push(entry);
    this.tell({ kind: 'redo' });
    return entry;
  }

  /**
   * Makes an entry's changes, or takes them back; false, and nothing has changed, when that cannot be. What was made
   * here can; what a broken keeping held may lead from or to what no piece may hold.
   */
  private take(entry: HistoryEntry, forward: boolean): boolean {
    if (entry instanceof Step) {
      if (forward) this.store.apply(entry.diff);
      else this.store.revert(entry.diff);
      return true;
    }
    try {
      if (forward) this.store.apply(entry.diff);
      else this.store.revert(entry.diff);
    } catch {
      return false;
    }
    const sound = entry.diff.every((c) => {
      if (c.op === 'head') return true;
      const record = this.store.get(c.table, c.op === 'update' ? c.id : c.record.id);
      return record === undefined || this.isSound(c.table, record, c.op === 'update' ? c.patch : null);
    });
    if (sound) return true;
    if (forward) this.store.revert(entry.diff);
    else this.store.apply(entry.diff);
    return false;
  }

  /** Whether steps had to be dropped since this was asked last. */
  forgot = false;

  private forget(): null {
    this.undoStack = [];
    this.redoStack = [];
    this.forgot = true;
    this.tell({ kind: 'forget' });
    return null;
  }

  /** Repeats on this copy what another history reported; false, and nothing has changed, when that cannot be. */
  replay(e: HistoryEvent): boolean {
    if (e.kind === 'undo') return this.undo() !== null;
    if (e.kind === 'redo') return this.redo() !== null;
    if (e.kind === 'forget') {
      this.forget();
      return true;
    }
    const old = e.kind === 'amend' ? this.undoStack.at(-1) : undefined;
    if (old && !this.take(old, false)) return false;
    if (e.entry && !this.take(e.entry, true)) {
      if (old) this.store.apply(old.diff);
      return false;
    }
    if (old) this.undoStack.pop();
    if (e.entry) this.undoStack.push(e.entry);
    if (e.kind === 'push') {
      this.redoUnder = this.redoStack;
      this.redoStack = [];
    } else if (!e.entry) this.redoStack = this.redoUnder;
    return true;
  }

  /**
   * Drops the oldest steps beyond what is kept; the newest always stays. For whoever keeps the history: it has to be
   * written then anyway, and an edit does not wait for it.
   */
  trim(): void {
    const room = Math.max(MAX_CHARS, TIMES_PIECE * this.pieceChars);
    const stack = this.undoStack;
    let first = stack.length;
    for (let chars = 0; first > 0 && stack.length - first < MAX_STEPS; first--) {
      chars += entryText(stack[first - 1] as HistoryEntry).length;
      if (chars > room && first < stack.length) break;
    }
    if (first > 0) stack.splice(0, first);
  }

  private tell(e: HistoryEvent): void {
    for (const l of this.listeners) l(e);
  }
}
