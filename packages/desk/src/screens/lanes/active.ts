import type { Lane } from '@apple-tick/core/model';
import { placeIn, type Run } from '@apple-tick/core/run';
import type { Session } from '../../session/session.ts';

/** Number of the lane's active state; −1 before there is one. */
export function activeIn(s: Session, run: Run, lane: Lane): number {
  const at = run.program.laneIndex.get(s.inRun(lane.id));
  return at === undefined ? -1 : placeIn(run, at).state;
}
