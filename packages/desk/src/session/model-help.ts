/** Small things about pieces that several features need. */
import { type IdKind, newId } from '@apple-tick/core/base';
import type { ObjectKind, Piece, PieceStore } from '@apple-tick/core/model';

export type { Editor, History, Piece, PieceStore, TableName } from '@apple-tick/core/model';

/** A new id that nothing in the piece has, whatever its kind. */
export function newIdFor(store: PieceStore, kind: IdKind): string {
  const text = JSON.stringify(store.toPiece());
  return newId(kind, (id) => text.includes(`"${id}"`), Math.random);
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
  box: 'box',
  cylinder: 'cylinder',
  ball: 'ball',
  prism: 'prism',
};

export function capital(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}

/** The kinds as a menu lists them. */
export const KIND_MENU = (Object.keys(KIND_WORDS) as ObjectKind[]).map(
  (kind) => [kind, capital(KIND_WORDS[kind])] as const,
);
