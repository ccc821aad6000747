/** Undo and redo with names, outside the store. A drag is one step: its edits are squashed while it is open. */
import { type RecordsDiff, squash } from './record-diff.ts';
import { Editor, type PieceStore } from './store.ts';

export interface HistoryEntry {
  /** What was done, as in `Moved Flap`. */
  readonly name: string;
  readonly diff: RecordsDiff;
}

export interface HistoryState {
  readonly undo: readonly HistoryEntry[];
  readonly redo: readonly HistoryEntry[];
}

/** What changed, for whoever keeps the piece: each is enough to repeat the step on a copy. */
export type HistoryEvent =
  | { readonly kind: 'push'; readonly entry: HistoryEntry }
  /** The newest entry grew (a drag goes on) or shrank to nothing (`entry` null: it was cancelled). */
  | { readonly kind: 'amend'; readonly entry: HistoryEntry | null }
  | { readonly kind: 'undo' }
  | { readonly kind: 'redo' };

const LIMIT = 500;

export class History {
  private undoStack: HistoryEntry[];
  private redoStack: HistoryEntry[];
  private open: string | null = null;
  private openPushed = false;
  private readonly listeners = new Set<(e: HistoryEvent) => void>();
  readonly store: PieceStore;

  constructor(store: PieceStore, state: HistoryState = { undo: [], redo: [] }) {
    this.store = store;
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
    this.openPushed = false;
  }

  end(): void {
    this.open = null;
    this.openPushed = false;
  }

  /** Takes back everything since `begin`, leaving no step. */
  cancel(): void {
    if (this.open !== null && this.openPushed) {
      const entry = this.undoStack.pop();
      if (entry) this.store.revert(entry.diff);
      this.tell({ kind: 'amend', entry: null });
    }
    this.end();
  }

  /** One edit. Under an open mark it joins that step; otherwise it is a step of its own. */
  edit(name: string, change: (e: Editor) => void): RecordsDiff {
    const editor = new Editor(this.store);
    try {
      change(editor);
    } catch (e) {
      // A programmer's mistake must not leave half an edit behind.
      this.store.revert(editor.done());
      throw e;
    }
    const diff = editor.done();
    if (diff.length === 0) return diff;
    this.redoStack = [];
    const last = this.undoStack.at(-1);
    if (this.open !== null && this.openPushed && last) {
      const entry = { name: this.open, diff: squash(last.diff, diff) };
      this.undoStack[this.undoStack.length - 1] = entry;
      this.tell({ kind: 'amend', entry });
    } else {
      const entry = { name: this.open ?? name, diff };
      this.undoStack.push(entry);
      if (this.undoStack.length > LIMIT) this.undoStack.shift();
      this.openPushed = this.open !== null;
      this.tell({ kind: 'push', entry });
    }
    return diff;
  }

  /** Takes back the newest step and returns it, or null when there is none. */
  undo(): HistoryEntry | null {
    this.end();
    const entry = this.undoStack.pop();
    if (!entry) return null;
    this.store.revert(entry.diff);
    this.redoStack.push(entry);
    this.tell({ kind: 'undo' });
    return entry;
  }

  redo(): HistoryEntry | null {
    this.end();
    const entry = this.redoStack.pop();
    if (!entry) return null;
    this.store.apply(entry.diff);
    this.undoStack.push(entry);
    this.tell({ kind: 'redo' });
    return entry;
  }

  /** Repeats on this copy what another history reported. */
  replay(e: HistoryEvent): void {
    if (e.kind === 'undo') this.undo();
    else if (e.kind === 'redo') this.redo();
    else {
      if (e.kind === 'amend') {
        const old = this.undoStack.pop();
        if (old) this.store.revert(old.diff);
      }
      if (e.entry) {
        this.store.apply(e.entry.diff);
        this.undoStack.push(e.entry);
        if (this.undoStack.length > LIMIT) this.undoStack.shift();
      }
      this.redoStack = [];
    }
  }

  private tell(e: HistoryEvent): void {
    for (const l of this.listeners) l(e);
  }
}
