/** Following: a property, or the place of a clip in a lane, goes after a value that changes while the piece runs. */
import {
  maybe,
  number,
  type Of,
  oneOf,
  own,
  property,
  record,
  ref,
  toggle,
  tuple,
  union,
  withDefault,
} from '../../grammar/index.ts';
import { seconds } from '../../model/common.ts';

const range = tuple(number(), number());
const end = union(oneOf(['pointer', 'visitor']), ref('objects'));

export const followSchema = record(
  {
    id: own('follows'),
    /** A property of an object, or a clip that states of the lane play: `to` is then in seconds of the clip. */
    target: union(
      record({ object: ref('objects'), property }),
      record({ lane: ref('lanes'), clip: ref('clips') }),
      /** The number by which states of the lane blend. */
      record({ lane: ref('lanes'), blend: oneOf([true]) }),
    ),
    source: union(
      record({ signal: ref('signals') }),
      /** Px from the frame's middle, or on the screen from the object's pivot, y up. */
      record({ pointer: oneOf(['x', 'y']), object: maybe(ref('objects')) }),
      /** How far the object was dragged from its base along an axis of its parent, px. */
      record({ drag: ref('objects'), axis: oneOf(['x', 'y', 'z']) }),
      /** Between two pivots, px; from the pointer: px on the screen. */
      record({ distance: tuple(end, end) }),
    ),
    /** From this range of the source to this one of the target; without them the source's own value. */
    from: maybe(range),
    to: maybe(range),
    /** Whether what lies outside `from` stays at the ends of `to`. */
    clamp: withDefault(toggle, true),
    /** Seconds after which all but 1/e of the way is made up; 0 is at once. */
    smooth: withDefault(seconds, 0),
  },
  {
    predicate: (f) => (f.from === undefined) === (f.to === undefined),
    says: 'must have both "from" and "to", or neither',
  },
);
export type Follow = Of<typeof followSchema>;
