/** Dragging: things that the person takes hold of and pulls. */

import type { Feature } from '../../run/feature.ts';
import { AT_POINT } from '../../run/hearing.ts';
import type { Migration } from '../../run/migration.ts';
import { compileDragging } from './program.ts';
import { DRAG_ROW, DRAGS, DROPPED, type DraggingRows, draggingRows, HELD } from './rows.ts';
import { Dragging } from './run.ts';

function migrateDragging({ old, next, before, state, objectOf }: Migration): void {
  const [from, to] = [before.parts.dragging as DraggingRows, state.parts.dragging as DraggingRows];
  const [was, is] = [old.parts.dragging, next.parts.dragging];
  const dragOf = (k: number) => is?.ofObject.get(objectOf(was?.drags[k]?.object ?? -1)) ?? -1;
  was?.drags.forEach((_, k) => {
    const row = dragOf(k);
    if (row >= 0) to.drags.set(from.drags.subarray(k * DRAG_ROW, (k + 1) * DRAG_ROW), row * DRAG_ROW);
  });
  to.hand.set(from.hand);
  for (const at of [HELD, DROPPED]) to.hand[at] = dragOf(from.hand[at] as number);
  if (to.hand[HELD] === -1) to.hand[DRAGS] = 0;
}

export const dragging: Feature = {
  name: 'dragging',
  claims: { fields: ['drag'] },
  events: { 'drag.start': AT_POINT, 'drag.move': AT_POINT, 'drag.drop': AT_POINT },
  compile: compileDragging,
  rows: draggingRows,
  run: (base) => new Dragging(base),
  migrate: migrateDragging,
};
