/** What features work with while a piece runs. */
import type { ActionRunner } from './action-runner.ts';
import type { Context } from './context.ts';
import type { Detections } from './detections.ts';
import type { Pointer } from './pointer.ts';
import type { Scene } from './scene.ts';
import type { Standing } from './standing.ts';
import type { Cause } from './trace.ts';

export interface RunBase {
  readonly context: Context;
  readonly scene: Scene;
  readonly standing: Standing;
  readonly detections: Detections;
  readonly pointer: Pointer;
  readonly runner: ActionRunner;
  readonly lanes: {
    enterInitial(lane: number, cause: Cause): void;
    /** The number by which a lane blends may have changed. */
    reweigh(lane: number): void;
    /** The place of a lane's clip went from one to another: what lies between is served, `to` included. */
    passed(lane: number, from: number, to: number): void;
  };
}
