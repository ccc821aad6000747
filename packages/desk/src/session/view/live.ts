/** What the live frame says of itself: what answers to a click or can be dragged there, and whether keys are heard. */
import { heardBy, type Piece, type SceneObject } from '@apple-tick/core/model';

export function hearsKeys(piece: Piece): boolean {
  const { keys } = heardBy(piece);
  return keys === null || keys.size > 0;
}

export type Hand = '' | 'click' | 'drag';

/** What a hand can do with what it is over, or with what that belongs to. */
export function handOver(piece: Piece, over: SceneObject | undefined): Hand {
  const { clicked } = heardBy(piece);
  for (let o = over; o; o = o.parent === null ? undefined : piece.objects[o.parent]) {
    if (o.drag || (piece.visitor?.drag && piece.visitor.object === o.id)) return 'drag';
    if (clicked.has(o.id)) return 'click';
  }
  return '';
}
