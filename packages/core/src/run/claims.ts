/**
 * What of a piece a build can run. Each feature claims its own: kinds of actions, events and facts, tables, roles of
 * colliders, fields. A piece with something that nobody claims is refused, with a sentence, before anything of it runs.
 */
import type { On, Piece, TableName } from '../model/index.ts';

export interface Claims {
  readonly tables?: readonly TableName[];
  /** Kinds of objects. */
  readonly kinds?: readonly string[];
  /** Of colliders. */
  readonly roles?: readonly string[];
  /** Of objects, and of the piece itself. */
  readonly fields?: readonly string[];
}

/** What claims nobody but a feature: the rest of an object, and of a piece, is the spine's. */
const OF_OBJECTS = ['drag'] as const;
const OF_PIECE = ['visitor'] as const;

/** A piece has something that this build cannot run. */
export class NotInThisBuild extends Error {
  constructor(what: string, place: string) {
    super(`This build cannot run ${what}, which ${place} has.`);
  }
}

export class Claimed {
  readonly #tables: ReadonlySet<string>;
  readonly #events: ReadonlyMap<string, unknown>;
  readonly #kinds: ReadonlySet<string>;
  readonly #roles: ReadonlySet<string>;
  readonly #fields: ReadonlySet<string>;

  /** `events`: those that anybody raises, by name. */
  constructor(all: readonly Claims[], events: ReadonlyMap<string, unknown>) {
    const gathered = (of: (c: Claims) => readonly string[] | undefined) =>
      new Set(all.flatMap((c) => of(c) ?? []));
    this.#tables = gathered((c) => c.tables);
    this.#events = events;
    this.#kinds = gathered((c) => c.kinds);
    this.#roles = gathered((c) => c.roles);
    this.#fields = gathered((c) => c.fields);
  }

  /** Throws `NotInThisBuild` for what is listened to at `place` and nobody raises. */
  event(on: On | null | undefined, place: string): void {
    if (on && !this.#events.has(on.event)) throw new NotInThisBuild(`the event "${on.event}"`, place);
  }

  /** Throws `NotInThisBuild` for the first record or field that nobody claims. */
  check(piece: Piece): void {
    for (const field of OF_PIECE)
      if (piece[field] && !this.#fields.has(field)) throw new NotInThisBuild(`"${field}"`, 'the piece');
    for (const [table, records] of Object.entries(piece)) {
      if (this.#tables.has(table) || !isTable(records)) continue;
      const [first] = Object.keys(records);
      throw new NotInThisBuild(`"${table}"`, `${table}.${first}`);
    }
    for (const o of Object.values(piece.objects)) {
      for (const field of OF_OBJECTS)
        if (o[field] && !this.#fields.has(field)) throw new NotInThisBuild(`"${field}"`, `objects.${o.id}`);
      for (const { kind } of [o, ...(o.looks ?? [])])
        if (kind !== undefined && !this.#kinds.has(kind))
          throw new NotInThisBuild(`the kind "${kind}"`, `objects.${o.id}`);
    }
    for (const c of Object.values(piece.colliders))
      if (!this.#roles.has(c.role)) throw new NotInThisBuild(`the role "${c.role}"`, `colliders.${c.id}`);
    for (const r of Object.values(piece.reactions)) {
      this.event(r.on, `reactions.${r.id}`);
      if (typeof r.limit === 'object') this.event(r.limit.onceUntil, `reactions.${r.id}`);
    }
    for (const m of Object.values(piece.machines))
      for (const l of m.lanes) for (const t of l.transitions) this.event(t.on, `machines.${m.id}`);
  }
}

/** Whether these are records by id, and there are any. */
function isTable(x: unknown): x is object {
  const first: unknown = typeof x === 'object' && x !== null ? Object.values(x)[0] : undefined;
  return typeof first === 'object' && first !== null && 'id' in first;
}
