/**
 * The piece being edited: per table an array of ids in document order and an index by id. One edit costs the
 * records it touches, not the size of the table. Records are plain data and never changed in place.
 */

import type { TemplateHead } from '../features/templates/schema.ts';
import { CONTENTS, isContent } from './contents.ts';
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
  type Template,
} from './piece.ts';
import { keyOf, type RecordChange, type RecordsDiff, Update, type UpdateChange } from './record-diff.ts';
import type { SceneObject } from './scene-object.ts';

interface Table {
  byId: Map<string, AnyRecord>;
  /** The ids in document order: the piece's own under null, those of templates under theirs. */
  ids: Map<string | null, string[]>;
  version: number;
}

export type StoreListener = (diff: RecordsDiff) => void;

export class PieceStore {
  private readonly tables = {} as Record<TableName, Table>;
  /** The template in which a record lies; what is not here is the piece's own. */
  private readonly homes = new Map<string, string>();
  /** Templates as the piece writes them, while nothing in them changes. */
  private readonly whole = new Map<string, Template>();
  /** The tables of the piece itself, as they were last asked for. */
  private readonly written = new Map<TableName, { version: number; records: Record<string, AnyRecord> }>();
  private headRecord: PieceHead;
  private readonly listeners = new Set<StoreListener>();
  private changes = 0;
  private entered: string | null = null;

  constructor(piece: Piece) {
    this.headRecord = headOf(piece);
    for (const name of TABLES) {
      const entries: [string, AnyRecord][] =
        name === 'templates'
          ? Object.values(piece.templates).map((t) => [t.id, headOfTemplate(t)])
          : Object.entries(piece[name]);
      this.tables[name] = {
        ids: new Map([[null, entries.map((e) => e[0])]]),
        byId: new Map(entries),
        version: 0,
      };
    }
    for (const t of Object.values(piece.templates)) {
      this.whole.set(t.id, t);
      for (const name of CONTENTS) {
        const records = Object.entries(t[name]) as [string, AnyRecord][];
        this.tables[name].ids.set(
          t.id,
          records.map((r) => r[0]),
        );
        for (const [id, r] of records) {
          this.tables[name].byId.set(id, r);
          this.homes.set(id, t.id);
        }
      }
    }
  }

  get head(): PieceHead {
    return this.headRecord;
  }

  /** Counts every applied diff, and every entering of a template; equal numbers mean that all reads as it did. */
  get version(): number {
    return this.changes;
  }

  tableVersion(table: TableName): number {
    return this.tables[table].version;
  }

  /**
   * The template that is worked in, if it is there still: then `ids` and `all` give what lies in it (of signals what
   * lies in it, then the piece's own), and what is added is added to it. Null: the piece.
   */
  get scope(): string | null {
    return this.entered !== null && this.has('templates', this.entered) ? this.entered : null;
  }
  enter(template: string | null): void {
    if (template === this.entered) return;
    this.entered = template;
    this.scopeChanged();
    this.changes++;
    for (const l of this.listeners) l([]);
  }
  private scopeChanged(): void {
    for (const name of CONTENTS) this.tables[name].version++;
  }

  /** A record by its id, wherever it lies. */
  get<T extends TableName>(table: T, id: string): RecordOf<T> | undefined {
    return this.tables[table].byId.get(id) as RecordOf<T> | undefined;
  }

  /** The template in which a record lies; null for the piece itself. */
  homeOf(id: string): string | null {
    return this.homes.get(id) ?? null;
  }

  /** The ids of the records of what is worked in, in document order. */
  ids(table: TableName): readonly string[] {
    const { scope } = this;
    const { ids } = this.tables[table];
    const outer = ids.get(null) as string[];
    if (scope === null || !isContent(table)) return outer;
    const own = ids.get(scope) ?? [];
    return table === 'signals' ? [...own, ...outer] : own;
  }

  /** The records of what is worked in, in document order; a new array each call. */
  all<T extends TableName>(table: T): RecordOf<T>[] {
    const { byId } = this.tables[table];
    return this.ids(table).map((id) => byId.get(id) as RecordOf<T>);
  }

  /** The records of a template alone, or (null) of the piece alone. */
  within<T extends TableName>(table: T, template: string | null): RecordOf<T>[] {
    const { byId, ids } = this.tables[table];
    return (ids.get(template) ?? []).map((id) => byId.get(id) as RecordOf<T>);
  }

  /** All records of a table, those of the piece first, then those of its templates. */
  everywhere<T extends TableName>(table: T): RecordOf<T>[] {
    const { byId, ids } = this.tables[table];
    return [...ids.values()].flatMap((list) => list.map((id) => byId.get(id) as RecordOf<T>));
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
    this.touched(table === 'templates' ? record.id : this.homeOf(record.id));
  }
  private touched(template: string | null): void {
    if (template !== null) this.whole.delete(template);
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
    const { id } = c.record;
    const within = c.within ?? null;
    const ids = t.ids.get(within) ?? [];
    t.ids.set(within, ids);
    t.version++;
    if (c.op === 'add') {
      if (t.byId.has(id)) throw new Error(`${c.table}.${id} is there already`);
      ids.splice(c.at, 0, id);
      t.byId.set(id, c.record);
      if (within !== null) this.homes.set(id, within);
    } else {
      if (ids[c.at] !== id) throw new Error(`${c.table}.${id} is not at ${c.at}`);
      ids.splice(c.at, 1);
      t.byId.delete(id);
      this.homes.delete(id);
    }
    this.touched(within);
    if (c.table !== 'templates') return;
    this.touched(id);
    if (id === this.entered) this.scopeChanged();
  }

  /** The whole as plain data; records are shared, not copied, and so is a table for as long as nothing in it changes. */
  toPiece(): Piece {
    const tables = {} as Record<TableName, Record<string, AnyRecord>>;
    for (const name of TABLES) {
      const { version } = this.tables[name];
      let kept = this.written.get(name);
      if (kept?.version !== version) {
        kept = { version, records: this.records(name, null) };
        this.written.set(name, kept);
      }
      tables[name] = kept.records;
    }
    return {
      format: 'apple-tick',
      version: FORMAT_VERSION,
      ...this.headRecord,
      ...tables,
      templates: Object.fromEntries(this.within('templates', null).map((t) => [t.id, this.template(t.id)])),
    } as unknown as Piece;
  }

  /** A template with all that lies in it. */
  template(id: string): Template | undefined {
    const head = this.get('templates', id);
    if (!head) return undefined;
    let whole = this.whole.get(head.id);
    if (!whole) {
      const own = CONTENTS.map((name) => [name, this.records(name, head.id)]);
      whole = { ...head, ...Object.fromEntries(own) } as Template;
      this.whole.set(head.id, whole);
    }
    return whole;
  }

  private records(table: TableName, template: string | null): Record<string, AnyRecord> {
    const { ids, byId } = this.tables[table];
    const out: Record<string, AnyRecord> = {};
    for (const id of ids.get(template) ?? []) out[id] = byId.get(id) as AnyRecord;
    return out;
  }

  has(table: TableName, id: string): boolean {
    return this.tables[table].byId.has(id);
  }

  /** Its place among the records of its table where it lies; −1 for what is not there. */
  indexOf(table: TableName, id: string): number {
    return this.tables[table].ids.get(this.homeOf(id))?.indexOf(id) ?? -1;
  }
  /** How many records of a table a template has, or (null) the piece itself. */
  count(table: TableName, template: string | null): number {
    return this.tables[table].ids.get(template)?.length ?? 0;
  }
}

function headOfTemplate({ id, name, max }: Template): TemplateHead {
  return { id, name, max };
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

  /** Adds a record, last in its table if `at` does not say where; to the template that is worked in, or to another. */
  add<T extends TableName>(
    table: T,
    record: RecordOf<T>,
    at?: number,
    within: string | null = this.store.scope,
  ): RecordOf<T> {
    const home = isContent(table) ? within : null;
    const place = { op: 'add', table, at: at ?? this.store.count(table, home) } as const;
    this.push({ ...place, record: keepable(table, record), ...(home === null ? {} : { within: home }) });
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
    if (!record) return;
    const home = isContent(table) ? this.store.homeOf(id) : null;
    const place = { op: 'remove', table, at: this.store.indexOf(table, id), record } as const;
    this.push(home === null ? place : { ...place, within: home });
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
