/** Compiling an edited piece: while no object is made, deleted or moved in the tree, its order and numbers serve again. */
import type { Piece, SceneObject } from '../model/index.ts';
import { compile, type Order } from './compile.ts';
import type { Program } from './program.ts';

/** As `compile`; `like` is a program of an earlier state of the piece, if there is one. */
export function compileAgain(piece: Piece, like: Program | undefined): Program {
  return compile(piece, like ? sameOrder(piece.objects, like) : null);
}

/** The order that the objects have in `like`, or null when the tree is another. */
function sameOrder(objects: Piece['objects'], like: Program): Order | null {
  const list: SceneObject[] = [];
  for (const before of like.objects) {
    const o = objects[before.id];
    if (!o || o.parent !== before.parent || o.order !== before.order) return null;
    list.push(o);
  }
  const same = Object.keys(objects).length === list.length;
  return same ? { objects: list, objectIndex: like.objectIndex } : null;
}
