/**
 * What a record names, and the ids of its own, worked out from its schema: integrity asks whether each is there, deletion
 * asks who still points at something.
 */
import { type RefKind, visitIds } from '../grammar/index.ts';
import { RECORDS, type RecordOf, type TableName } from './piece.ts';

export type { RefKind } from '../grammar/index.ts';
/** `path` is relative to the record, e.g. `.tracks[0].object`; `only`: what it must be besides, where that matters. */
export type RefVisitor = (kind: RefKind, id: string, path: string, only?: string) => void;

export function visitReferences<T extends TableName>(table: T, record: RecordOf<T>, visit: RefVisitor): void {
  visitIds(RECORDS[table], record, { ref: visit });
  if (table === 'clips') visitLookKeys(record as RecordOf<'clips'>, visit);
}

/** What the keys of the property `look` name: no schema can say that a value depends on its track's property. */
function visitLookKeys(clip: RecordOf<'clips'>, visit: RefVisitor): void {
  clip.tracks.forEach((t, i) => {
    if (t.property !== 'look') return;
    t.keys.forEach((k, n) => {
      if (k.value !== '') visit('looks', String(k.value), `.tracks[${i}].keys[${n}].value`);
    });
  });
}

/** The ids of what lies in a record, without its own. */
export function visitOwnIds<T extends TableName>(
  table: T,
  record: RecordOf<T>,
  visit: (kind: RefKind, id: string, path: string) => void,
): void {
  visitIds(RECORDS[table], record, {
    own: (kind, id, path) => {
      if (path !== '.id') visit(kind, id, path);
    },
  });
}
