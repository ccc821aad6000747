/**
 * An edit is a list of what happened to records: added, changed, removed. Reversed, it is the undo. Places in
 * document order are kept, so that undoing a removal brings the record back to where it was (`PieceStore.revert`).
 */
import type { AnyRecord, PieceHead, TableName } from './piece.ts';

/** One record's change. `at` is its place in its table. The head of the piece is changed as a whole. */
export type RecordChange =
  | { readonly op: 'add'; readonly table: TableName; readonly at: number; readonly record: AnyRecord }
  | { readonly op: 'remove'; readonly table: TableName; readonly at: number; readonly record: AnyRecord }
  | { readonly op: 'update'; readonly table: TableName; readonly from: AnyRecord; readonly to: AnyRecord }
  | { readonly op: 'head'; readonly from: PieceHead; readonly to: PieceHead };

/** Changes in the order in which they are made. */
export type RecordsDiff = readonly RecordChange[];

/**
 * `first` followed by `then` as one diff. Updates are folded into what `first` already did to the record, so a
 * drag of a thousand moves is as large as its first and last; all else is appended.
 */
export function squash(first: RecordsDiff, then: RecordsDiff): RecordsDiff {
  const out = [...first];
  /** Where each record was touched last: a drag of many objects asks this for each of them at every move. */
  const last = new Map<string, number>();
  out.forEach((p, i) => {
    last.set(keyOf(p), i);
  });
  for (const c of then) {
    const key = keyOf(c);
    const i = last.get(key);
    const earlier = i === undefined ? undefined : out[i];
    if (i !== undefined && earlier && foldInto(out, i, earlier, c)) continue;
    last.set(key, out.length);
    out.push(c);
  }
  return out;
}

function keyOf(c: RecordChange): string {
  if (c.op === 'head') return '';
  return `${c.table}/${c.op === 'update' ? c.to.id : c.record.id}`;
}

function foldInto(out: RecordChange[], i: number, p: RecordChange, c: RecordChange): boolean {
  if (p.op === 'head' && c.op === 'head') out[i] = { ...p, to: c.to };
  else if (p.op === 'update' && c.op === 'update') out[i] = { ...p, to: c.to };
  else if (p.op === 'add' && c.op === 'update') out[i] = { ...p, record: c.to };
  else return false;
  return true;
}

/** The ids of the records that a diff touches, for showing where a change was. */
export function touchedIds(diff: RecordsDiff): string[] {
  const ids = new Set<string>();
  for (const c of diff) if (c.op !== 'head') ids.add(c.op === 'update' ? c.to.id : c.record.id);
  return [...ids];
}
