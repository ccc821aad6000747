/**
 * What older versions wrote is brought up step by step: files, and what a browser kept, its history and journal alike.
 * Migrations are named, append-only and gapless: entry i leads from version i to i + 1. Each changes records one by one,
 * so that a record in a step that can be undone is changed as one in the piece is.
 */
import {
  type AnyRecord,
  diff,
  FORMAT_VERSION,
  History,
  type HistoryEntry,
  historyText,
  type Piece,
  type PieceHead,
  PieceStore,
  type RecordChange,
  TABLES,
  type TableName,
  writePiece,
} from '../model/index.ts';
import { readEvents, readHistory } from './history-read.ts';

type Json = Record<string, unknown>;
export interface Migration {
  readonly name: string;
  /**
   * By table: changes a record of the version before in place. It may be malformed: touch only what is as expected. It
   * looks at nothing but its record.
   */
  readonly records?: Partial<Record<TableName, (record: Json) => void>>;
  /** The same for what a piece has besides its tables. */
  readonly head?: (head: Json) => void;
}

const isObject = (x: unknown): x is Json => typeof x === 'object' && x !== null && !Array.isArray(x);

export const MIGRATIONS: readonly Migration[] = [
  {
    // Version 0 said `loop: true | false` and had no way to play there and back.
    name: '0-to-1-loop-by-name',
    records: {
      clips: (clip) => {
        if (typeof clip['loop'] === 'boolean') clip['loop'] = clip['loop'] ? 'loop' : 'once';
      },
    },
  },
];

/** Applies every migration from the file's version on and sets the version. The version must be a known one. */
export function migrate(file: Json): void {
  for (let v = file['version'] as number; v < FORMAT_VERSION; v++) {
    const { records, head } = MIGRATIONS[v] as Migration;
    // What lies in templates is brought up like what lies in the piece.
    const templates = isObject(file['templates']) ? Object.values(file['templates']) : [];
    for (const of of [file, ...templates])
      for (const [table, up] of Object.entries(records ?? {})) {
        const all = isObject(of) ? of[table] : undefined;
        if (isObject(all)) for (const r of Object.values(all)) if (isObject(r)) up(r);
      }
    head?.(file);
  }
  file['version'] = FORMAT_VERSION;
}

/** A kept record, or head, of version `from` as it is now; the one given is left as it is. */
function up<T>(from: number, table: TableName | null, record: T): T {
  const copy = JSON.parse(JSON.stringify(record)) as Json;
  for (const m of MIGRATIONS.slice(from)) (table === null ? m.head : m.records?.[table])?.(copy);
  return copy as T;
}

/**
 * What a browser kept in an older version, whole, as the texts that this version would have kept: the piece with the
 * journal's steps in it, and its history. Null when it is of this version, or cannot be read whole: then what can be
 * read of it is salvaged.
 */
export function bringUp(
  piece: unknown,
  history: unknown,
  journal: readonly unknown[],
): { piece: string; history: string } | null {
  const old = olderPiece(piece);
  const read = readHistory(history);
  const events = journal.map(readEvents);
  if (!old || !read.whole) return null;
  const from = (old as { version: number }).version;
  const then = new History(new PieceStore(old), read.state);
  for (const list of events) if (!list?.every((e) => then.replay(e))) return null;
  const file = JSON.parse(writePiece(then.store.toPiece())) as Json;
  file['version'] = from;
  migrate(file);
  // Each step is led through from the present, backwards and forwards, with its records as they were.
  const { undo, redo } = then.state;
  const store = new PieceStore(then.store.toPiece());
  const back = undo.toReversed().map((e) => stepUp(from, store, e, false));
  for (const e of undo) store.apply(e.diff);
  const forth = redo.toReversed().map((e) => stepUp(from, store, e, true));
  const state = { undo: back.reverse(), redo: forth.reverse() };
  return { piece: JSON.stringify(file), history: historyText(state) };
}

function olderPiece(text: unknown): Piece | null {
  if (typeof text !== 'string') return null;
  try {
    const json: unknown = JSON.parse(text);
    const version = isObject(json) ? json['version'] : null;
    const older =
      Number.isInteger(version) && (version as number) >= 0 && (version as number) < FORMAT_VERSION;
    // Templates came later than the first versions.
    if (isObject(json)) json['templates'] ??= {};
    return older && TABLES.every((t) => isObject((json as Json)[t])) ? (json as Piece) : null;
  } catch {
    return null;
  }
}

/** A step of version `from` as it would have been made now; the store is led through it. */
function stepUp(from: number, store: PieceStore, entry: HistoryEntry, forward: boolean): HistoryEntry {
  const changes = forward ? [...entry.diff] : entry.diff.toReversed();
  const out = changes.map((c): RecordChange => {
    const there = () => (c.op === 'update' ? (store.get(c.table, c.id) as AnyRecord) : null);
    const one = there();
    if (forward) store.apply([c]);
    else store.revert([c]);
    if (c.op === 'head')
      return { ...c, from: up<PieceHead>(from, null, c.from), to: up<PieceHead>(from, null, c.to) };
    if (c.op !== 'update') return { ...c, record: up(from, c.table, c.record) };
    const other = there();
    const [a, b] = forward ? [one, other] : [other, one];
    return {
      op: 'update',
      table: c.table,
      id: c.id,
      patch: diff(up(from, c.table, a), up(from, c.table, b)),
    };
  });
  return { name: entry.name, diff: forward ? out : out.reverse() };
}
