/** Which features a piece needs. */
import { ALL } from '../features/all.ts';
import type { Piece } from '../model/index.ts';
import { NotInThisBuild } from '../run/claims.ts';
import { compilePiece, withFeatures } from '../run/compile.ts';
import type { Feature } from '../run/feature.ts';

/** Those without which the piece is refused, in the order of `ALL`: each is left out in turn. */
export function neededBy(piece: Piece): Feature[] {
  return ALL.filter((f) => {
    try {
      compilePiece(piece, withFeatures(ALL.filter((x) => x !== f)));
      return false;
    } catch (e) {
      if (e instanceof NotInThisBuild) return true;
      throw e;
    }
  });
}
