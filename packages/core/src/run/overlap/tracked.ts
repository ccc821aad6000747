/** What a program and a state have of what is tracked. */

export interface Tracked {
  /** The objects that are tracked, in the order of the tree, by number; and of each the node above it, or −1. */
  readonly nodes: Int32Array;
  readonly above: Int32Array;
  readonly nodeOf: ReadonlyMap<number, number>;
  readonly lanes: readonly TrackedLane[];
}

/** A lane that writes places, turns, sizes or pivots of nodes. */
export interface TrackedLane {
  readonly lane: number;
  /** Those values. */
  readonly places: readonly number[];
  /** By state where its clip makes one of them jump: seconds in the clip, null for the turn of a loop; null: nowhere. */
  readonly discontinuities: readonly (readonly { readonly t: number | null; readonly at: number }[])[] | null;
  /** The signals by which the lane counts, or its blends do. */
  readonly weighedBy: readonly number[];
}

/**
 * Of a node: its matrix in the world and the place of its pivot when zones last looked, whether it counted then, whether it
 * has jumped since, before this tick and in it.
 */
export const NODE_ROW = 18;
export const PIVOT = 12;
export const COUNTED = 15;
export const JUMPED = 16;
export const JUMPED_NOW = 17;

/** Values that differ by less did not jump. */
export const JUMP = 1e-6;

export interface TrackingRows {
  readonly nodes: Float64Array;
  /** By lane of `Tracked.lanes` the entry of its state at the end of the last tick, and the place in its clip. */
  readonly previous: Float64Array;
}

declare module '../parts.ts' {
  interface ProgramParts {
    readonly tracking?: Tracked;
  }
  interface StateParts {
    readonly tracking?: TrackingRows;
  }
}
