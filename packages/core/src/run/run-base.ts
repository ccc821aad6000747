/** What features work with while a piece runs. */

import type { Acting } from './acting.ts';
import type { Context } from './context.ts';
import type { Notices } from './notices.ts';
import type { Pointer } from './pointer.ts';
import type { Scene } from './scene.ts';
import type { Standing } from './standing.ts';
import type { Cause } from './trace.ts';

export interface RunBase {
  readonly context: Context;
  readonly scene: Scene;
  readonly standing: Standing;
  readonly notices: Notices;
  readonly pointer: Pointer;
  readonly acting: Acting;
  readonly lanes: {
    enterInitial(lane: number, cause: Cause): void;
    /** The number by which a lane blends may have changed. */
    reweigh(lane: number): void;
    /** The place of a lane's clip went from one to another: what lies between is served, `to` included. */
    passed(lane: number, from: number, to: number): void;
  };
}
