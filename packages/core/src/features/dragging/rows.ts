/** What a state has of dragging. */
import type { Program } from '../../run/program.ts';
import type { RowMaker } from '../../run/rows.ts';

/** Way from base along x, y, z; where it stood when it was taken hold of, x, y, z; the instant since which it goes back, or −1. */
export const DRAG_ROW = 7;
export const BACK_SINCE = 6;

/** Which of the things that can be dragged the pointer holds, −1 for none; whether it is dragged; where it was taken hold of. */
export const HELD = 0;
export const DRAGS = 1;
export const HELD_X = 2;
export const HELD_Y = 3;
/** Tick of the last `drag.move`. */
export const DRAG_TICK = 4;
/** Which is to be logged as dropped, −1 for none, the record that let it go, the tick, and how far the pointer had gone, px on the screen. */
export const DROPPED = 5;
export const DROPPED_REC = 6;
export const DROPPED_TICK = 7;
export const DROPPED_DX = 8;
export const DROPPED_DY = 9;
const HAND = 10;

export interface DraggingRows {
  readonly drags: Float64Array;
  readonly hand: Float64Array;
}
export function draggingRows({ parts }: Program, make: RowMaker): DraggingRows {
  const drags = make.floats((parts.dragging?.drags.length ?? 0) * DRAG_ROW);
  for (let o = BACK_SINCE; o < drags.length; o += DRAG_ROW) drags[o] = -1;
  const hand = make.floats(HAND);
  hand[HELD] = -1;
  hand[DROPPED] = -1;
  return { drags, hand };
}
