/** What the schemas of colliders are made with. */
import {
  list,
  maybe,
  number,
  oneOf,
  own,
  record,
  ref,
  toggle,
  tuple,
  withDefault,
} from '../grammar/index.ts';
import { length, name, vec3 } from './common.ts';

export const extent = number({ min: 0, max: 1e6, low: 'must not be negative', high: 'is too large' });

export const common = {
  id: own('colliders'),
  name,
  /** It notices the things that have one of these tags. */
  tags: withDefault(list(ref('tags'), { max: 64 }), []),
  /** Whether it notices the visitor, too. */
  visitor: withDefault(toggle, true),
  on: withDefault(toggle, true),
};

/** The place that a zone or a blocker takes; in its object's space, px; a size, depth or radius below 1 counts as 1. */
export const shaped = <const R extends string>(role: R) =>
  record(
    {
      ...common,
      role: oneOf([role]),
      shape: oneOf(['box', 'ball', 'outline']),
      at: withDefault(vec3, [0, 0, 0]),
      size: maybe(tuple(extent, extent, extent)),
      radius: maybe(extent),
      /** Corners of an outline, which reaches half of `depth` to each side of its plane. */
      points: maybe(
        list(tuple(length, length), { min: 3, max: 500, few: 'must hold at least three points' }),
      ),
      depth: maybe(extent),
      /** Endless along its own z. */
      through: withDefault(toggle, false),
    },
    {
      predicate: (z) =>
        (z.size !== undefined) === (z.shape === 'box') &&
        (z.radius !== undefined) === (z.shape === 'ball') &&
        (z.points !== undefined) === (z.shape === 'outline'),
      says: 'must have "size" for a box, "radius" for a ball, "points" for an outline, and no other of them',
    },
  );
