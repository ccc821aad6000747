/**
 * What waits to be kept when a page is left, written where that is done at once. A page that comes next may read the database
 * before it has what the page before has just asked of it; this it finds.
 */
import type { JournalRow } from './storage.ts';

const keyOf = (piece: string) => `apple-tick-left/${piece}`;

/** Writes rows of the journal down before it returns; those that find no room are in the database's hands alone. */
export function leaveBehind(piece: string, rows: readonly JournalRow[]): void {
  try {
    localStorage.setItem(keyOf(piece), JSON.stringify(rows.map(({ seq, event }) => [seq, event])));
  } catch {
    forgetLeft(piece);
  }
}

/** The rows that were left behind, none if there are not any or they cannot be read. */
export function leftBehind(piece: string): JournalRow[] {
  try {
    const rows: unknown = JSON.parse(localStorage.getItem(keyOf(piece)) ?? '[]');
    if (!Array.isArray(rows)) return [];
    return rows.flatMap((r: unknown) =>
      Array.isArray(r) && Number.isInteger(r[0]) && typeof r[1] === 'string'
        ? [{ piece, seq: r[0] as number, event: r[1] }]
        : [],
    );
  } catch {
    return [];
  }
}

/** They are in the journal, or nobody wants them any more. */
export function forgetLeft(piece: string): void {
  try {
    localStorage.removeItem(keyOf(piece));
  } catch {
    // A browser that keeps nothing has nothing to forget.
  }
}
