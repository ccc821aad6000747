/** Several objects placed, turned or scaled as one thing: about one point, along the piece's own axes. */
import { composeLocal, MAT, multiply } from '@apple-tick/core/base';
import type { Base, Vec3 } from '@apple-tick/core/model';
import { baseIn } from './arrange.ts';
import type { Change } from './properties.ts';

/** An object as it is on the screen: its placement, its matrix in the piece, and its parent's (none: the piece itself). */
export interface Placed {
  readonly id: string;
  readonly base: Base;
  readonly world: Float64Array;
  readonly space: Float64Array | undefined;
}

/** What all of them undergo: moved by px, turned by degrees, scaled by factors, about `centre` in the piece. */
export interface CommonMove {
  readonly centre: Vec3;
  readonly by?: Vec3;
  readonly turn?: Vec3;
  readonly scale?: Vec3;
}

/**
 * The placements after the move. What would be sheared (a turned object scaled along one axis of the piece) keeps its
 * right angles, as one object cannot hold a shear. Angles go on from those before, so that two turns are two turns.
 */
export function movedTogether(list: readonly Placed[], move: CommonMove): { id: string; base: Base }[] {
  const turn = move.turn ?? [0, 0, 0];
  const m = new Float64Array(MAT);
  const row = [...(move.by ?? [0, 0, 0]), ...turn, ...(move.scale ?? [1, 1, 1]), ...move.centre];
  composeLocal(m, 0, Float64Array.from(row), 0);
  const world = new Float64Array(MAT);
  return list.map(({ id, base, world: before, space }) => {
    multiply(world, 0, m, 0, before, 0);
    const next = baseIn(base, world, space);
    const rotation = next.rotation.map((angle, k) => {
      const goal = (base.rotation[k] as number) + (turn[k] as number);
      return angle + 360 * Math.round((goal - angle) / 360);
    }) as Vec3;
    return { id, base: { ...next, rotation } };
  });
}

const PLACEMENT = ['position', 'rotation', 'scale'] as const;
const AXES = ['x', 'y', 'z'] as const;

/** What differs between two placements, one axis at a time; the values are those of `to`. */
export function placementChanges(from: Base, to: Base): Change[] {
  return PLACEMENT.flatMap((field) =>
    AXES.flatMap((axis, k): Change[] => {
      const value = to[field][k] as number;
      return Math.abs(value - (from[field][k] as number)) < 1e-6
        ? []
        : [[`${field}.${axis}`, Math.round(value * 1000) / 1000]];
    }),
  );
}
