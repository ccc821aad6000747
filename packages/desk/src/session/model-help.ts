/** Small things about pieces that several features need. */
import { type IdKind, newId } from '@apple-tick/core/base';
import type { Piece, PieceStore } from '@apple-tick/core/model';

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
