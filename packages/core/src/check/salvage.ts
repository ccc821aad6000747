/**
 * A piece from what a broken keeping still holds. What is sound is taken, record by record; what is not is left out and
 * told. Files from outside are read by `read.ts`, which takes all or nothing.
 */
import type { z } from 'zod';
import type { Schema } from '../grammar/index.ts';
import {
  type AnyRecord,
  baseSchema,
  CONTENTS,
  Editor,
  emptyPiece,
  FORMAT_VERSION,
  HEAD,
  knownIds,
  type Patch,
  type Piece,
  PieceStore,
  RECORDS,
  removeWithReferences,
  type SceneObject,
  TABLES,
  type TableName,
  visitReferences,
} from '../model/index.ts';
import { checkIntegrity } from './integrity.ts';
import { migrate } from './migrate.ts';
import { findDanger, schemaProblems } from './read.ts';
import { toZod } from './to-zod.ts';

export interface Salvaged {
  readonly piece: Piece;
  /** One sentence for each thing that was left out; none when the piece is as it was kept. */
  readonly left: readonly string[];
}

type Json = Record<string, unknown>;
const isGroup = (x: unknown): x is Json => typeof x === 'object' && x !== null && !Array.isArray(x);

/** What is wrong with these only makes a reader of files refuse them: a name twice, a number or text too large. */
const HARMLESS = new Set(['name', 'size', 'range']);
const TOO_MUCH = new Set(['too_big', 'too_small']);

/** The piece in a text that this program once wrote, as far as it can be read; null when nothing of it can. */
export function salvagePiece(text: string, id: string): Salvaged | null {
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    return null;
  }
  if (!isGroup(json) || findDanger(json)) return null;
  const version = json['version'];
  if (typeof version !== 'number' || !(version <= FORMAT_VERSION) || !TABLES.some((t) => isGroup(json[t])))
    return null;
  if (Number.isInteger(version) && version >= 0) migrate(json);
  const left: string[] = [];
  const piece = withoutBroken(json, id, left);
  return { piece: mended(piece, left), left };
}

/** Each record by its own schema; what has the wrong schema is left out. */
function withoutBroken(json: Json, id: string, left: string[]): Piece {
  const piece = emptyPiece(id, 'Untitled piece') as Piece & Json;
  for (const [field, schema] of Object.entries(HEAD) as [string, Schema][]) {
    // What is not there stands as in a new piece.
    const read = json[field] === undefined ? null : accepted(schema, json[field]);
    if (read !== null) (piece as Json)[field] = read.value;
    else if (json[field] !== undefined) left.push(`${field}: it is broken, and stands as in a new piece.`);
  }
  for (const table of TABLES)
    if (table !== 'templates') (piece as Json)[table] = soundIn(table, json[table], '', left);
  const templates = isGroup(json['templates']) ? json['templates'] : {};
  for (const [key, raw] of Object.entries(templates)) {
    const of = isGroup(raw) ? raw : {};
    const head = { id: of['id'], name: of['name'], ...(of['max'] === undefined ? {} : { max: of['max'] }) };
    const read = accepted(RECORDS.templates, head);
    if (!read || (read.value as AnyRecord).id !== key) {
      left.push(`templates.${key}: ${firstProblem(RECORDS.templates, head)}`);
      continue;
    }
    const own = CONTENTS.map((t) => [t, soundIn(t, of[t], `templates.${key}.`, left)]);
    piece.templates[key] = {
      ...(read.value as object),
      ...Object.fromEntries(own),
    } as Piece['templates'][string];
  }
  return piece;
}

/** The records of a table that have the right shape; `at`: where the table is, for who is told of the others. */
function soundIn(table: TableName, records: unknown, at: string, left: string[]): Record<string, AnyRecord> {
  const out: Record<string, AnyRecord> = {};
  if (!isGroup(records)) {
    if (records !== undefined) left.push(`${at}${table}: all of them are broken.`);
    return out;
  }
  for (const [key, raw] of Object.entries(records)) {
    const read = accepted(RECORDS[table], raw);
    if (read && (read.value as AnyRecord).id === key) out[key] = read.value as AnyRecord;
    else left.push(`${at}${table}.${key}: ${firstProblem(RECORDS[table], raw)}`);
  }
  return out;
}

/**
 * Whether a record has the schema that its table's records have; a number or a text in it may be too large. Of one that
 * was sound before `patch` only what that may have spoilt is looked at: not 20,000 points for each nudge of a path.
 */
export function isSoundRecord(table: TableName, record: AnyRecord, patch: Patch | null): boolean {
  if (table === 'objects' && patch?.every((c) => c.p[0] === 'base'))
    return accepted(baseSchema, (record as SceneObject).base) !== null;
  return accepted(RECORDS[table], record) !== null;
}

/** The value when it has the right schema, in defaults filled; also when only a number or a text in it is too large. */
function accepted(schema: Schema, raw: unknown): { value: unknown } | null {
  const r = toZod(schema).safeParse(raw);
  if (r.success) return { value: r.data };
  return r.error.issues.every(isHarmless) ? { value: raw } : null;
}

function isHarmless(issue: z.core.$ZodIssue): boolean {
  if (issue.code === 'invalid_union')
    return issue.errors.some((branch) => branch.length > 0 && branch.every(isHarmless));
  return TOO_MUCH.has(issue.code);
}

function firstProblem(schema: Schema, raw: unknown): string {
  const r = toZod(schema).safeParse(raw);
  if (r.success) return 'It is kept under another id.';
  const p = schemaProblems(r.error.issues)[0];
  return p ? `${p.path === '' ? '' : `${p.path}: `}${p.message}` : 'It is broken.';
}

/** Takes out what names what is not there, until all that is left holds together. */
function mended(from: Piece, left: string[]): Piece {
  let piece = from;
  // Each round takes something away or moves it to the root, so there are not many.
  for (let round = 0; round < 50; round++) {
    const problems = checkIntegrity(piece).filter((p) => !HARMLESS.has(p.code));
    if (problems.length === 0) return piece;
    const missing = round === 0 ? missingIds(piece) : new Set<string>();
    const store = new PieceStore(piece);
    const e = new Editor(store);
    if (missing.size > 0) {
      for (const p of problems) if (p.code === 'reference') left.push(`${p.path}: ${p.message}`);
      // A parent that is not there is no reason to lose an object, nor is a mask.
      for (const o of store.everywhere('objects'))
        if (o.parent !== null && missing.has(o.parent))
          e.update('objects', o.id, (x) => ({ ...x, parent: null }));
      removeWithReferences(e, missing);
    } else
      for (const p of problems) {
        const way = p.path.split(/[.[]/);
        // What is wrong within a template is put right there, what is wrong with one as a whole takes it away.
        const isInner = way[0] === 'templates' && way.length > 3;
        const [table, id] = (isInner ? way.slice(2) : way) as [TableName, string];
        left.push(`${p.path}: ${p.message}`);
        if (p.code === 'cycle' || p.code === 'depth')
          e.update('objects', id, (o) => ({ ...o, parent: null }));
        else removeWithReferences(e, [id]);
        if (store.has(table, id) && p.code !== 'cycle' && p.code !== 'depth') e.remove(table, id);
      }
    e.done();
    piece = store.toPiece();
  }
  return piece;
}

/** The ids of records that others name and that are not there. */
function missingIds(piece: Piece): Set<string> {
  const store = new PieceStore(piece);
  const known = knownIds(store);
  const missing = new Set<string>();
  for (const table of TABLES)
    for (const r of store.everywhere(table))
      visitReferences(table, r as never, (_, id) => {
        if (!id.split('/').every((part) => known.has(part))) missing.add(id);
      });
  return missing;
}
