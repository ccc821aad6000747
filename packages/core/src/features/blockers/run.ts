/** What blockers do in each phase. */
import type { Phases } from '../../run/phases.ts';
import type { RunBase } from '../../run/run-base.ts';
import { Blocking } from './blocking.ts';
import { Pushing } from './pushing.ts';
import { Touching } from './touching.ts';

export function runBlockers({ context, scene, notices }: RunBase): Phases {
  const blocking = new Blocking(context);
  const pushing = new Pushing(context, scene, blocking);
  const touching = new Touching(context, blocking, notices);
  context.services.blocks = () => blocking.all.length > 0;
  context.services.stop = (object, way, along) => blocking.stop(object, way, along);
  return {
    notice: () => touching.notice(),
    move: () => pushing.move(),
    settle: () => pushing.endTick(),
    leave: (objects) => touching.leave(objects),
  };
}
