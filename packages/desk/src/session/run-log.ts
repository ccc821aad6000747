/** What happened in a run: its records, and each that tells something as a line, worded once, when it came. */
import type { TraceRecord } from '@apple-tick/core/run';
import type { PieceStore } from './model-help.ts';
import { happened } from './words.ts';

export interface LogLine {
  readonly id: number;
  readonly t: number;
  readonly words: string;
  /** The nearest cause that is a line, too. */
  readonly cause: LogLine | undefined;
}

/** So many of the newest records and lines stay. */
const MAX = 2000;

export class RunLog {
  private readonly store: PieceStore;
  records: readonly TraceRecord[] = [];
  /** The oldest first. */
  lines: readonly LogLine[] = [];
  /** By the id of a record: its line, or that of its nearest cause that has one. */
  private readonly lineOf = new Map<number, LogLine>();

  constructor(store: PieceStore) {
    this.store = store;
  }

  add(more: readonly TraceRecord[]): void {
    const lines = [...this.lines];
    for (const r of more) {
      const cause = r.cause === null ? undefined : this.lineOf.get(r.cause);
      const words = happened(this.store, r);
      const line = words === null ? cause : { id: r.id, t: r.t, words, cause };
      if (line) this.lineOf.set(r.id, line);
      if (words !== null && line) lines.push(line);
    }
    this.lines = lines.slice(-MAX);
    this.records = [...this.records, ...more].slice(-MAX);
    // What no later record can name any more; a map lists its oldest first.
    for (const id of this.lineOf.keys()) {
      if (this.lineOf.size <= 2 * MAX) break;
      this.lineOf.delete(id);
    }
  }
}
