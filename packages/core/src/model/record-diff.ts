/**
 * An edit is a list of what happened to records: added, changed, removed. Reversed, it is the undo. Places in
 * document order are kept, so that undoing a removal brings the record back to where it was (`PieceStore.revert`).
 * Of a record that changed only what changed in it is kept.
 */
import { diff, isWide, type Patch } from './patch.ts';
import type { AnyRecord, PieceHead, TableName } from './piece.ts';

export interface UpdateChange {
  readonly op: 'update';
  readonly table: TableName;
  readonly id: string;
  readonly patch: Patch;
}
interface PlaceChange {
  readonly op: 'add' | 'remove';
  readonly table: TableName;
  /** Its place in its table. */
  readonly at: number;
  readonly record: AnyRecord;
  /** The template in whose table it lies; absent: the piece's own. */
  readonly within?: string;
}
/** One record's change. The head of the piece is changed as a whole. */
export type RecordChange =
  | PlaceChange
  | UpdateChange
  | { readonly op: 'head'; readonly from: PieceHead; readonly to: PieceHead };

/**
 * An update that is made here. What it changes is worked out when somebody asks (it is kept, taken back), not at each
 * move of a drag; where that leads into a long list, the records themselves are then let go. As JSON it is an
 * `UpdateChange`.
 */
export class Update implements UpdateChange {
  readonly op = 'update';
  readonly table: TableName;
  readonly id: string;
  private from: AnyRecord | null;
  private to: AnyRecord | null;
  private changes: Patch | null = null;

  constructor(table: TableName, from: AnyRecord, to: AnyRecord) {
    this.table = table;
    this.id = from.id;
    this.from = from;
    this.to = to;
  }

  get patch(): Patch {
    if (this.changes === null) {
      this.changes = diff(this.from, this.to);
      if (isWide(this.changes)) {
        this.from = null;
        this.to = null;
      }
    }
    return this.changes;
  }

  /** The record at the other end, when `record` is the one at this end and the other is at hand. */
  other(record: AnyRecord, forward: boolean): AnyRecord | null {
    if (record !== (forward ? this.from : this.to)) return null;
    return forward ? this.to : this.from;
  }

  toJSON(): UpdateChange {
    return { op: 'update', table: this.table, id: this.id, patch: this.patch };
  }
}

/** Changes in the order in which they are made. */
export type RecordsDiff = readonly RecordChange[];

/** Records by `keyOf`. */
export type RecordsByKey = ReadonlyMap<string, AnyRecord>;

/**
 * `first` followed by `then` as one diff. Updates are folded into what `first` already did to the record, so a
 * drag of a thousand moves is as large as its first and last; all else is appended. `before` has the updated records as
 * they were before `first`, `now` as they are after `then`.
 */
export function squash(
  first: RecordsDiff,
  then: RecordsDiff,
  before: RecordsByKey,
  now: (table: TableName, id: string) => AnyRecord | undefined,
): RecordsDiff {
  const out: (RecordChange | null)[] = [...first];
  /** Where each record was touched last: a drag of many objects asks this for each of them at every move. */
  const last = new Map<string, number>();
  /** Where it was touched before that: one edit may change a record several times. */
  const earlier = new Map<string, number[]>();
  const note = (key: string, i: number) => {
    const before = last.get(key);
    if (before !== undefined) earlier.set(key, [...(earlier.get(key) ?? []), before]);
    last.set(key, i);
  };
  first.forEach((p, i) => {
    note(keyOf(p), i);
  });
  for (const c of then) {
    const key = keyOf(c);
    const i = last.get(key);
    const p = i === undefined ? undefined : out[i];
    const others = (earlier.get(key) ?? []).filter((k) => out[k]);
    const folded = p && updatesLast(others, out) ? fold(p, c, before.get(key), now) : null;
    if (i !== undefined && folded) {
      out[i] = folded;
      // It leads from before the first of them, which would make what they did a second time.
      if (folded.op === 'update') for (const k of others) if (out[k]?.op === 'update') out[k] = null;
      continue;
    }
    note(key, out.length);
    out.push(c);
  }
  return out.filter((c) => c !== null);
}

/** Whether a record, touched at these places, was only updated from its first update on. */
function updatesLast(places: readonly number[], out: readonly (RecordChange | null)[]): boolean {
  const first = places.findIndex((k) => out[k]?.op === 'update');
  return first < 0 || places.slice(first).every((k) => out[k]?.op === 'update');
}

export function keyOf(c: RecordChange): string {
  if (c.op === 'head') return '';
  return `${c.table}/${c.op === 'update' ? c.id : c.record.id}`;
}

function fold(
  p: RecordChange,
  c: RecordChange,
  before: AnyRecord | undefined,
  now: (table: TableName, id: string) => AnyRecord | undefined,
): RecordChange | null {
  if (p.op === 'head' && c.op === 'head') return { ...p, to: c.to };
  if (c.op !== 'update') return null;
  const record = now(c.table, c.id);
  if (!record) return null;
  if (p.op === 'update' && before) return new Update(c.table, before, record);
  return p.op === 'add' ? { ...p, record } : null;
}

/** The ids of the records that a diff touches, for showing where a change was. */
export function touchedIds(diff: RecordsDiff): string[] {
  const ids = new Set<string>();
  for (const c of diff) if (c.op !== 'head') ids.add(c.op === 'update' ? c.id : c.record.id);
  return [...ids];
}
