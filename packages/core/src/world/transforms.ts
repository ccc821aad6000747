/** World matrices of all objects: world = parent's world · local, parents before children. */
import { composeLocal, MAT, multiply } from '../base/index.ts';
import { CHANNELS } from '../model/index.ts';
import type { OverlayPlace } from './geometry.ts';

const local = new Float64Array(MAT);

/** Puts objects on top in their places: see `worldMatrices`. */
export interface Fixing {
  readonly overlays: readonly (OverlayPlace | null)[];
  /** Half the width and height of the frame that people see, px. */
  readonly halfWidth: number;
  readonly halfHeight: number;
  /** The inverse of the view's matrix: what is on top ignores the angle. */
  readonly unview: Float64Array;
}

/**
 * Fills `world` (12 numbers an object). `parent[i] < i`, or −1 for a root; `values` are the objects' channels. An
 * object on top stands at its anchor in the frame, its own place added, as if its parent were the frame seen straight.
 */
export function worldMatrices(
  world: Float64Array,
  parent: Int32Array,
  values: Float64Array,
  fixing: Fixing | null = null,
): void {
  for (let i = 0; i < parent.length; i++) worldMatrix(world, parent, values, i, fixing);
}

/** As `worldMatrices` for object `i` alone; that of its parent must be there already. */
export function worldMatrix(
  world: Float64Array,
  parent: Int32Array,
  values: Float64Array,
  i: number,
  fixing: Fixing | null,
): void {
  const p = parent[i] as number;
  const fixed = fixing?.overlays[i];
  if (fixing && fixed) {
    composeLocal(local, 0, values, i * CHANNELS);
    local[9] = (local[9] as number) + fixed.ax * fixing.halfWidth + fixed.x;
    local[10] = (local[10] as number) + fixed.ay * fixing.halfHeight + fixed.y;
    multiply(world, i * MAT, fixing.unview, 0, local, 0);
  } else if (p < 0) composeLocal(world, i * MAT, values, i * CHANNELS);
  else {
    composeLocal(local, 0, values, i * CHANNELS);
    multiply(world, i * MAT, world, p * MAT, local, 0);
  }
}
