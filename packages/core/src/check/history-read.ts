/** A kept history, read back. It is our own, but it may be cut or spoilt, or of a schema that was written before. */
import {
  diff,
  type HistoryEntry,
  type HistoryEvent,
  type HistoryState,
  type RecordChange,
  TABLES,
  type TableName,
} from '../model/index.ts';

type Json = Record<string, unknown>;
const isGroup = (x: unknown): x is Json => typeof x === 'object' && x !== null && !Array.isArray(x);
const isTable = (x: unknown): x is TableName => TABLES.includes(x as TableName);
const isRecord = (x: unknown): boolean => isGroup(x) && typeof x['id'] === 'string';

/** The history in a text, and whether it is whole: steps beyond a spoilt one cannot be reached and are left out. */
export function readHistory(text: unknown): { state: HistoryState; whole: boolean } {
  const none = { state: { undo: [], redo: [] }, whole: false };
  if (typeof text !== 'string') return none;
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    return none;
  }
  if (!isGroup(json) || !Array.isArray(json['undo']) || !Array.isArray(json['redo'])) return none;
  const undo = reachable(json['undo']);
  const redo = reachable(json['redo']);
  const whole = undo.length === json['undo'].length && redo.length === json['redo'].length;
  return { state: { undo, redo }, whole };
}

/** Of a stack whose last entry is the next, the entries after the last spoilt one. */
function reachable(stack: readonly unknown[]): HistoryEntry[] {
  const out: HistoryEntry[] = [];
  for (let i = stack.length - 1; i >= 0; i--) {
    const entry = readEntry(stack[i]);
    if (!entry) break;
    out.unshift(entry);
  }
  return out;
}

/** The events of one journal entry; null when any of them cannot be read. */
export function readEvents(text: unknown): HistoryEvent[] | null {
  if (typeof text !== 'string') return null;
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    return null;
  }
  if (!Array.isArray(json)) return null;
  const out: HistoryEvent[] = [];
  for (const e of json) {
    const kind = isGroup(e) ? e['kind'] : null;
    if (kind === 'undo' || kind === 'redo' || kind === 'forget') out.push({ kind });
    else if (kind === 'amend' && e.entry === null) out.push({ kind, entry: null });
    else if (kind === 'push' || kind === 'amend') {
      const entry = readEntry(e.entry);
      if (!entry) return null;
      out.push({ kind, entry });
    } else return null;
  }
  return out;
}

function readEntry(x: unknown): HistoryEntry | null {
  if (!isGroup(x) || typeof x['name'] !== 'string' || !Array.isArray(x['diff'])) return null;
  const changes = x['diff'].map(readChange);
  return changes.every((c) => c !== null) ? { name: x['name'], diff: changes } : null;
}

function readChange(x: unknown): RecordChange | null {
  if (!isGroup(x)) return null;
  const { op, table, at, record, from, to, patch, id } = x;
  if (op === 'head') return isGroup(from) && isGroup(to) ? (x as unknown as RecordChange) : null;
  if (!isTable(table)) return null;
  if (op === 'add' || op === 'remove')
    return Number.isInteger(at) && isRecord(record) ? (x as unknown as RecordChange) : null;
  if (op !== 'update') return null;
  // Before, both states of the record were written.
  if (patch === undefined)
    return isRecord(from) && isRecord(to)
      ? { op, table, id: (from as { id: string }).id, patch: diff(from, to) }
      : null;
  const sound = Array.isArray(patch) && patch.every((c) => isGroup(c) && Array.isArray(c['p']));
  return sound && typeof id === 'string' ? (x as unknown as RecordChange) : null;
}
