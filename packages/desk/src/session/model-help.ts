/** Small things about pieces that several features need. */
import { type IdKind, newId } from '@apple-tick/core/base';
import { knownIds, type ObjectKind, type Piece, type PieceStore, subtreeOf } from '@apple-tick/core/model';

export type { Editor, History, Piece, PieceStore, TableName } from '@apple-tick/core/model';

/** Gives ids that nothing in the piece has, whatever its kind, nor was given one before. */
export class IdSource {
  private readonly given = new Set<string>();
  private known = new Set<string>();
  private version = -1;
  private readonly store: PieceStore;
  constructor(store: PieceStore) {
    this.store = store;
  }

  next(kind: IdKind): string {
    if (this.version !== this.store.version) {
      this.version = this.store.version;
      this.known = knownIds(this.store);
    }
    const id = newId(kind, (x) => this.known.has(x) || this.given.has(x), Math.random);
    this.given.add(id);
    return id;
  }
}

/** The piece with one object and what lies below it shown, and only the machines and reactions of these. */
export function onlyThis(store: PieceStore, id: string): Piece {
  const piece = store.toPiece();
  const inside = subtreeOf(store, id);
  const above = new Set<string>();
  for (let o = store.get('objects', id); o?.parent; o = store.get('objects', o.parent)) above.add(o.parent);
  const objects = Object.values(piece.objects).map((o) => {
    if (inside.has(o.id)) return o;
    // What is above keeps its place for what is below, but draws nothing itself.
    if (above.has(o.id)) return { ...o, kind: 'group' as const };
    return { ...o, base: { ...o.base, shown: false } };
  });
  const has = (x: { object: string }) => inside.has(x.object);
  return {
    ...piece,
    objects: Object.fromEntries(objects.map((o) => [o.id, o])) as Piece['objects'],
    machines: Object.fromEntries(Object.entries(piece.machines).filter(([, m]) => has(m))),
    reactions: Object.fromEntries(Object.entries(piece.reactions).filter(([, r]) => has(r))),
  };
}

export function newPieceId(): string {
  return crypto.randomUUID();
}

export function copyOf(piece: Piece, name: string): Piece {
  return { ...piece, id: newPieceId(), name };
}

/** The kinds of objects, as the interface calls them, in the order of its menus. */
export const KIND_WORDS: Record<ObjectKind, string> = {
  group: 'group',
  rect: 'rectangle',
  ellipse: 'ellipse',
  polygon: 'polygon',
  path: 'path',
  text: 'text',
  image: 'picture',
  box: 'box',
  cylinder: 'cylinder',
  ball: 'ball',
  prism: 'prism',
  mesh: 'mesh',
  instance: 'instance',
};

/** What a hand can draw. */
export type DrawnKind = Exclude<ObjectKind, 'image' | 'mesh' | 'instance'>;

/** Whether an object draws nothing itself. */
export const isBare = (o: { readonly kind: ObjectKind }): boolean =>
  o.kind === 'group' || o.kind === 'instance';

/** What new things that lie in nothing else lie in: within a template its one topmost object. */
export function topOf(store: PieceStore): string | null {
  if (store.scope === null) return null;
  return store.within('objects', store.scope).find((o) => o.parent === null)?.id ?? null;
}

export function capital(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}

/** The kinds that can be made from nothing: pictures and meshes are brought in, and an instance needs its template. */
export const DRAWN_KINDS = (Object.keys(KIND_WORDS) as ObjectKind[]).filter(
  (k): k is DrawnKind => k !== 'image' && k !== 'mesh' && k !== 'instance',
);

/** The letters with which those are taken that are drawn most. */
export const DRAW_KEYS: Partial<Record<DrawnKind, string>> = {
  rect: 's',
  ellipse: 'd',
  text: 'l',
  box: 'b',
  cylinder: 'y',
};

/** These kinds as a menu lists them. */
export const KIND_MENU = DRAWN_KINDS.map((kind) => [kind, capital(KIND_WORDS[kind])] as const);

/** The ids of what lies above an object, the nearest first. */
export function ancestorsOf(store: PieceStore, id: string): string[] {
  const out: string[] = [];
  for (let o = store.get('objects', id); o?.parent; o = store.get('objects', o.parent)) out.push(o.parent);
  return out;
}
