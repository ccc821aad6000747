/** Piece → text. */

import { treeOrder } from './objects.ts';
import type { Piece } from './piece.ts';

/** The piece as text: objects in the order of the tree, two spaces of indent when `pretty`. */
export function writePiece(piece: Piece, pretty = false): string {
  const objects = Object.fromEntries(treeOrder(Object.values(piece.objects)).map((o) => [o.id, o]));
  return JSON.stringify({ ...piece, objects }, null, pretty ? 2 : undefined);
}
