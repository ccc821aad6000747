/** What blockers do in each phase. */
import type { Phases } from '../../run/phases.ts';
import type { RunBase } from '../../run/run-base.ts';
import { Blocking } from './blocking.ts';
import { Contacts } from './contacts.ts';
import { Pushing } from './pushing.ts';

export function runBlockers({ context, scene, detections }: RunBase): Phases {
  const blocking = new Blocking(context);
  const pushing = new Pushing(context, scene, blocking);
  const contacts = new Contacts(context, blocking, detections);
  context.services.blocks = () => blocking.all.length > 0;
  context.services.stop = (object, displacement, along) => blocking.stop(object, displacement, along);
  return {
    detect: () => contacts.detect(),
    move: () => pushing.move(),
    settle: () => pushing.endTick(),
    leave: (objects) => contacts.leave(objects),
  };
}
