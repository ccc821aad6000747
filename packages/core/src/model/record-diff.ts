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
  for (const c of then) {
    if (c.op === 'head' || c.op === 'update') {
      const i = out.findLastIndex((p) => touches(p, c));
      const earlier = out[i];
      if (earlier && foldInto(out, i, earlier, c)) continue;
    }
    out.push(c);
  }
  return out;
}

function touches(p: RecordChange, c: RecordChange): boolean {
  if (c.op === 'head' || p.op === 'head') return p.op === c.op;
  const id = p.op === 'update' ? p.to.id : p.record.id;
  const other = c.op === 'update' ? c.to.id : c.record.id;
  return p.table === c.table && id === other;
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
