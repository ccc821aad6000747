/** Compiling an edited piece: while no object is made, deleted or moved in the tree, its order and numbers serve again. */
import type { Piece, SceneObject } from '../model/index.ts';
import { compileExpansion, type Order } from './compile.ts';
import type { FeatureSet } from './feature.ts';
import type { Program } from './program.ts';

/**
 * As `compilePiece`; `like` is a program of an earlier state of the piece, if there is one. `open`: the way to the instance that
 * is worked in, or the template, whose ids are then as the template has them.
 */
export function compilePieceAgain(
  piece: Piece,
  features: FeatureSet,
  like: Program | undefined,
  open: string | null = null,
): Program {
  const expansion = features.expand(piece, open);
  const order = like ? sameOrder(expansion.piece.objects, like) : null;
  return compileExpansion(expansion, features, order, [], like);
}

/** The order that the objects have in `like`, or null when the tree is another. */
function sameOrder(objects: Piece['objects'], like: Program): Order | null {
  if (objects === like.piece.objects) return like;
  const list: SceneObject[] = [];
  for (const before of like.objects) {
    const o = objects[before.id];
    if (!o || o.parent !== before.parent || o.order !== before.order) return null;
    list.push(o);
  }
  const same = Object.keys(objects).length === list.length;
  return same ? { objects: list, objectIndex: like.objectIndex } : null;
}
