/** How an object is dragged, and the events of that, as they stand in files and sentences. */
import {
  list,
  maybe,
  type Of,
  oneOf,
  orNull,
  record,
  ref,
  toggle,
  tuple,
  withDefault,
} from '../../grammar/index.ts';
import { length, seconds } from '../../model/common.ts';
import { tweenEasingSchema } from '../../model/easing.ts';
import { events as group } from '../../model/event-kind.ts';

const limits = maybe(tuple(length, length));
/** Taken hold of and pulled while it runs, along axes of its parent. */
export const dragSchema = record({
  along: oneOf(['x', 'y', 'z', 'xy', 'xz', 'yz']),
  /** How far it goes from its base, px, least and greatest. */
  limits: maybe(record({ x: limits, y: limits, z: limits })),
  /** False: it stays, and only the way is counted, for what follows it. */
  moves: withDefault(toggle, true),
  /** It goes back to its base when it is let go, unless it is dropped into one of these zones. */
  back: withDefault(
    orNull(
      record({
        seconds,
        easing: withDefault(tweenEasingSchema, 'linear'),
        unless: maybe(list(ref('colliders'), { max: 64 })),
      }),
    ),
    null,
  ),
});
export type Drag = Of<typeof dragSchema>;

export const events = group(
  'The person',
  {
    'drag.start': ['begins to be dragged', '{it} begins to be dragged', 'object'],
    'drag.move': ['is dragged', '{it} dragged', 'object'],
    'drag.drop': ['is dropped', '{it} dropped', 'object', 'collider'],
  },
  { told: { 'drag.start': '{object} is dragged', 'drag.drop': '{object} was dropped' } },
);
