/** Where things stand at an instant between ticks: asked by what begins there. */
import { composeLocal, MAT, transformPoint } from '../base/index.ts';
import { CHANNELS } from '../model/index.ts';
import type { Context } from './context.ts';
import { allOnScreen } from './on-screen.ts';
import { PLACE_CHANNELS } from './places.ts';
import type { Scene } from './scene.ts';

export class Standing {
  readonly #run: Context;
  readonly #scene: Scene;
  readonly #row = new Float64Array(CHANNELS);
  readonly #local = new Float64Array(MAT);

  constructor(run: Context, scene: Scene) {
    this.#run = run;
    this.#scene = scene;
  }

  /**
   * Where the pivot of an object is at the present instant, px: in the world, or, of one on top, in the frame; whether it is
   * on top. Written to `out`; `names.stands` must have been told of the object when the piece was compiled.
   */
  pivotAt(object: number, out: Float64Array): boolean {
    const { program, state, clock } = this.#run;
    const { parent, onTop } = program.geometry;
    if (onTop[object] === 1) {
      this.#scene.pivot(object, true, out);
      return true;
    }
    const row = this.#row;
    for (let i = object; i >= 0; i = parent[i] as number) {
      for (let k = 0; k < PLACE_CHANNELS; k++) row[k] = allOnScreen(program, state, i * CHANNELS + k, clock);
      composeLocal(this.#local, 0, row, 0);
      // First the pivot itself, then where that is in the parent of each.
      const from = i === object ? row.subarray(9, 12) : out;
      const [x, y, z] = from as unknown as [number, number, number];
      transformPoint(out, 0, this.#local, 0, x, y, z);
    }
    return false;
  }
}
