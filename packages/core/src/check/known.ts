/** What a piece has, by kind, for what refers to it. */
import {
  type AnyRecord,
  type Asset,
  CONTENTS,
  type Collider,
  type ContentName,
  type Piece,
  partOf,
  type RecordOf,
  type RefKind,
  type SceneObject,
  type Signal,
  TABLES,
  type TableName,
  type Template,
  visitOwnIds,
} from '../model/index.ts';

export const KIND_WORD: Record<RefKind, string> = {
  objects: 'object',
  tags: 'tag',
  clips: 'clip',
  signals: 'signal',
  messages: 'message',
  machines: 'machine',
  reactions: 'reaction',
  follows: 'follow',
  sounds: 'sound',
  colliders: 'zone',
  effects: 'effect',
  cueSheets: 'cue sheet',
  templates: 'template',
  answers: 'answer',
  lanes: 'lane',
  states: 'state',
  transitions: 'transition',
  cues: 'cue',
  looks: 'look',
  assets: 'asset',
};

export const ASSET_WORD: Record<Asset['kind'], string> = { image: 'picture', sound: 'sound', mesh: 'mesh' };

export const contentsOf = (t: Template): Pick<Piece, ContentName> =>
  Object.fromEntries(CONTENTS.map((name) => [name, t[name]])) as Pick<Piece, ContentName>;

/** The piece itself, or a template in it. */
export interface Scope {
  readonly piece: Piece;
  /** The records that can be named here, by table. */
  readonly all: Piece;
  readonly template: Template | null;
  readonly known: Known;
  readonly at: string;
}

export type Add = (code: string, path: string, message: string) => void;

/** The ids that there are, by what has them and where; an id that is used twice is a problem. */
export class Known {
  readonly #piece: Piece;
  /** By kind, the template in which each lies, null for the piece. */
  readonly #homes: Record<RefKind, Map<string, string | null>>;

  constructor(piece: Piece, add: Add) {
    this.#piece = piece;
    const kinds = Object.keys(KIND_WORD) as RefKind[];
    this.#homes = Object.fromEntries(kinds.map((k) => [k, new Map()])) as never;
    const note = (kind: RefKind, id: string, home: string | null, path: string) => {
      if (this.#homes[kind].has(id)) add('id', path, `The id "${id}" is used twice.`);
      this.#homes[kind].set(id, home);
    };
    const scopes: [string | null, string, Piece | Template, readonly TableName[]][] = [
      [null, '', piece, TABLES],
      ...Object.values(piece.templates).map(
        (t) => [t.id, `templates.${t.id}.`, t, CONTENTS] as [string, string, Template, readonly TableName[]],
      ),
    ];
    for (const [home, at, of, tables] of scopes)
      for (const t of tables)
        for (const id of Object.keys((of as Piece)[t])) note(t, id, home, `${at}${t}.${id}`);
    for (const [home, at, of, tables] of scopes)
      for (const t of tables)
        for (const r of Object.values((of as Piece)[t]) as AnyRecord[])
          visitOwnIds(t, r as never, (kind, id, path) => note(kind, id, home, `${at}${t}.${r.id}${path}`));
  }

  /**
   * Where what is named lies: in a template (its id) or (null) in the piece; undefined when nothing has that id that may be
   * named in `scope`. What lies in an instance is named `INSTANCE/id`.
   */
  homeOf(kind: RefKind, id: string, scope: string | null): string | null | undefined {
    const [first = '', ...rest] = id.split('/');
    if (rest.length === 0) {
      const home = this.#homes[kind].get(first);
      return home === null || home === scope ? home : undefined;
    }
    const home = this.#homes.objects.get(first);
    if (home !== null && home !== scope) return undefined;
    const o = this.#object(first, home);
    return o?.kind === 'instance' ? this.homeIn(kind, rest, o.template) : undefined;
  }
  private homeIn(kind: RefKind, way: readonly string[], template: string): string | undefined {
    const [first = '', ...rest] = way;
    if (rest.length === 0) return this.#homes[kind].get(first) === template ? template : undefined;
    if (this.#homes.objects.get(first) !== template) return undefined;
    const o = this.#object(first, template);
    return o?.kind === 'instance' ? this.homeIn(kind, rest, o.template) : undefined;
  }
  #object(id: string, home: string | null): SceneObject | undefined {
    return home === null ? this.#piece.objects[id] : this.#piece.templates[home]?.objects[id];
  }

  /** A record that is there: `home` as `homeOf` gives it. */
  record<T extends Exclude<TableName, 'templates'>>(table: T, id: string, home: string | null): RecordOf<T> {
    const own = id.slice(id.lastIndexOf('/') + 1);
    const of = home === null ? this.#piece : (this.#piece.templates[home] as Template);
    return (of as Piece)[table][own] as RecordOf<T>;
  }

  /** The record of a property's part, and what it is a part of: as `signal.ID` of an instance, or `collider.ID` of an owner. */
  part(object: string, property: string, scope: string | null): Signal | Collider | undefined {
    const part = partOf(property);
    const home = part ? this.homeOf('objects', object, scope) : undefined;
    if (!part || home === undefined) return undefined;
    const o = this.record('objects', object, home);
    if (part.of !== 'signal')
      return o.colliders?.includes(part.what) ? this.record('colliders', part.what, home) : undefined;
    return o.kind === 'instance' ? this.#piece.templates[o.template]?.signals[part.what] : undefined;
  }
}
