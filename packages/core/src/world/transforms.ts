/** World matrices of all objects: world = parent's world · local, parents before children. */
import { composeLocal, MAT, multiply } from '../base/index.ts';
import { CHANNELS } from '../model/index.ts';

const local = new Float64Array(MAT);

/** Fills `world` (12 numbers an object). `parent[i] < i`, or −1 for a root; `values` are the objects' channels. */
export function worldMatrices(world: Float64Array, parent: Int32Array, values: Float64Array): void {
  for (let i = 0; i < parent.length; i++) {
    const p = parent[i] as number;
    if (p < 0) composeLocal(world, i * MAT, values, i * CHANNELS);
    else {
      composeLocal(local, 0, values, i * CHANNELS);
      multiply(world, i * MAT, world, p * MAT, local, 0);
    }
  }
}
