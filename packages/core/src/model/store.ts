/**
 * The piece being edited: per table an array of ids in document order and an index by id. One edit costs the
 * records it touches, not the size of the table. Records are plain data and never changed in place.
 */

import { withinBounds } from './objects.ts';
import { patched, reversed } from './patch.ts';
import {
  type AnyRecord,
  FORMAT_VERSION,
  type Piece,
  type PieceHead,
  type RecordOf,
  TABLES,
  type TableName,
} from './piece.ts';
import { keyOf, type RecordChange, type RecordsDiff, Update, type UpdateChange } from './record-diff.ts';
import type { SceneObject } from './scene-object.ts';

interface Table {
  ids: string[];
  byId: Map<string, AnyRecord>;
  version: number;
}

export type StoreListener = (diff: RecordsDiff) => void;

export class PieceStore {
  private readonly tables = {} as Record<TableName, Table>;
  private headRecord: PieceHead;
  private readonly listeners = new Set<StoreListener>();
  private changes = 0;

  constructor(piece: Piece) {
    this.headRecord = headOf(piece);
    for (const name of TABLES) {
      const entries = Object.entries(piece[name]) as [string, AnyRecord][];
      this.tables[name] = { ids: entries.map((e) => e[0]), byId: new Map(entries), version: 0 };
    }
  }

  get head(): PieceHead {
    return this.headRecord;
  }

  /** Counts every applied diff; equal numbers mean equal contents. */
  get version(): number {
    return this.changes;
  }

  tableVersion(table: TableName): number {
    return this.tables[table].version;
  }

  get<T extends TableName>(table: T, id: string): RecordOf<T> | undefined {
    return this.tables[table].byId.get(id) as RecordOf<T> | undefined;
  }

  ids(table: TableName): readonly string[] {
    return this.tables[table].ids;
  }

  /** All records of a table in document order; a new array each call. */
  all<T extends TableName>(table: T): RecordOf<T>[] {
    const t = this.tables[table];
    return t.ids.map((id) => t.byId.get(id) as RecordOf<T>);
  }

  subscribe(listener: StoreListener): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  /** Applies a diff made against the present contents, in order, then tells the listeners once. */
  apply(diff: RecordsDiff): void {
    if (diff.length === 0) return;
    this.wholly(diff, 1);
    this.tell(diff);
  }

  /** All changes of a diff or, when one of them cannot be made, none: then it throws. */
  private wholly(diff: RecordsDiff, way: 1 | -1): void {
    const n = diff.length;
    let done = 0;
    try {
      for (; done < n; done++) this.one(diff[way > 0 ? done : n - 1 - done] as RecordChange, way);
    } catch (e) {
      for (done--; done >= 0; done--)
        this.one(diff[way > 0 ? done : n - 1 - done] as RecordChange, way > 0 ? -1 : 1);
      throw e;
    }
  }

  private one(c: RecordChange, way: 1 | -1): void {
    if (way > 0) this.applyChange(c);
    else if (c.op === 'update') this.update(c, false);
    else if (c.op === 'head') this.headRecord = c.from;
    else this.applyChange({ ...c, op: c.op === 'add' ? 'remove' : 'add' });
  }

  /** Takes a diff back that was applied last: its changes undone, the last first. */
  revert(diff: RecordsDiff): void {
    this.wholly(diff, -1);
    this.tell(diff);
  }

  private update(c: UpdateChange, forward: boolean): void {
    const record = this.tables[c.table].byId.get(c.id);
    if (!record) throw new Error(`update of ${c.table}.${c.id}, which is not there`);
    const known = c instanceof Update ? c.other(record, forward) : null;
    this.putQuietly(c.table, known ?? (patched(record, forward ? c.patch : reversed(c.patch)) as AnyRecord));
  }

  /** For `Editor`: one change of several that the listeners hear of together, in `tell`. */
  applyQuietly(c: RecordChange): void {
    this.applyChange(c);
  }
  /** For `Editor`: a record in place of the one with its id. */
  putQuietly(table: TableName, record: AnyRecord): void {
    const t = this.tables[table];
    t.version++;
    t.byId.set(record.id, record);
  }
  tell(diff: RecordsDiff): void {
    if (diff.length === 0) return;
    this.changes++;
    for (const l of this.listeners) l(diff);
  }

  private applyChange(c: RecordChange): void {
    if (c.op === 'head') {
      this.headRecord = c.to;
      return;
    }
    if (c.op === 'update') {
      this.update(c, true);
      return;
    }
    const t = this.tables[c.table];
    t.version++;
    if (c.op === 'add') {
      if (t.byId.has(c.record.id)) throw new Error(`${c.table}.${c.record.id} is there already`);
      t.ids.splice(c.at, 0, c.record.id);
      t.byId.set(c.record.id, c.record);
    } else {
      if (t.ids[c.at] !== c.record.id) throw new Error(`${c.table}.${c.record.id} is not at ${c.at}`);
      t.ids.splice(c.at, 1);
      t.byId.delete(c.record.id);
    }
  }

  /** The whole as plain data; records are shared, not copied. */
  toPiece(): Piece {
    const tables = {} as Record<TableName, Record<string, AnyRecord>>;
    for (const name of TABLES) {
      const t = this.tables[name];
      const out: Record<string, AnyRecord> = {};
      for (const id of t.ids) out[id] = t.byId.get(id) as AnyRecord;
      tables[name] = out;
    }
    return {
      format: 'apple-tick',
      version: FORMAT_VERSION,
      ...this.headRecord,
      ...tables,
    } as Piece;
  }

  has(table: TableName, id: string): boolean {
    return this.tables[table].byId.has(id);
  }

  indexOf(table: TableName, id: string): number {
    return this.tables[table].ids.indexOf(id);
  }
}

function headOf(p: Piece): PieceHead {
  const { id, name, frame, view, fps, seed, light, visitor } = p;
  return { id, name, frame, view, fps, seed, light, visitor };
}

/** Collects changes against a store and applies each at once, so that later steps of one edit see earlier ones. */
export class Editor {
  private readonly diff: RecordChange[] = [];
  private readonly before: Map<string, AnyRecord> | null;
  readonly store: PieceStore;
  /** `before` is given the updated records, by `keyOf`, as they were before, unless it has them. */
  constructor(store: PieceStore, before: Map<string, AnyRecord> | null = null) {
    this.store = store;
    this.before = before;
  }

  private push(change: RecordChange): void {
    this.store.applyQuietly(change);
    this.diff.push(change);
  }

  add<T extends TableName>(table: T, record: RecordOf<T>, at = this.store.ids(table).length): RecordOf<T> {
    this.push({ op: 'add', table, at, record: keepable(table, record) });
    return record;
  }

  /** Replaces fields of a record; does nothing when the record is gone. */
  update<T extends TableName>(table: T, id: string, change: (r: RecordOf<T>) => RecordOf<T>): void {
    const from = this.store.get(table, id);
    if (!from) return;
    const to = keepable(table, change(from));
    if (to === from) return;
    const c = new Update(table, from, to);
    if (this.before) {
      const key = keyOf(c);
      if (!this.before.has(key)) this.before.set(key, from);
    }
    this.store.putQuietly(table, to);
    this.diff.push(c);
  }

  remove(table: TableName, id: string): void {
    const record = this.store.get(table, id);
    if (record) this.push({ op: 'remove', table, at: this.store.indexOf(table, id), record });
  }

  head(change: (h: PieceHead) => PieceHead): void {
    const from = this.store.head;
    this.push({ op: 'head', from, to: change(from) });
  }

  /** Ends the edit: the listeners of the store hear of all its changes at once. */
  done(): RecordsDiff {
    this.store.tell(this.diff);
    return this.diff;
  }
}

/** A record as a file can hold it. */
function keepable<T extends TableName>(table: T, record: RecordOf<T>): RecordOf<T> {
  return table === 'objects' ? (withinBounds(record as SceneObject) as RecordOf<T>) : record;
}
