/** The visitor: the person as a figure of the piece, walked by keyboard keys or by dragging. */
import {
  list,
  number,
  type Of,
  oneOf,
  record,
  ref,
  text,
  toggle,
  union,
  withDefault,
} from '../../grammar/index.ts';
import { comparesOnce, counts, fact } from '../../model/fact-kind.ts';

const speed = number({ min: 0, max: 100000, low: 'must not be negative', high: 'must be at most 100000' });
/** `KeyboardEvent.key`s, letters in lower case. */
const keys = list(text({ min: 1, max: 40 }), { max: 8 });

export const VISITOR_KEYS = {
  left: ['ArrowLeft', 'a'],
  right: ['ArrowRight', 'd'],
  up: ['ArrowUp', 'w'],
  down: ['ArrowDown', 's'],
};
export const visitorSchema = record({
  object: ref('objects'),
  /** Px a second. */
  speed: withDefault(union(speed, record({ signal: ref('signals', 'number') })), 160),
  /** Where it walks: on the ground, along one line, or up and down a wall. */
  plane: withDefault(oneOf(['x', 'xy', 'xz']), 'xz'),
  keys: withDefault(record({ left: keys, right: keys, up: keys, down: keys }), VISITOR_KEYS),
  /** Whether it follows the pointer that is pressed on it. */
  drag: withDefault(toggle, true),
  /** Whether it turns to where it walks: mirrored to the left and right, or about its upright. */
  facing: withDefault(oneOf(['none', 'mirror', 'turn']), 'none'),
});
export type Visitor = Of<typeof visitorSchema>;

export const facts = {
  /** How fast the visitor walks, px a second. */
  speed: fact('How fast', 'the visitor walks {how}', counts, {
    ...{ rule: comparesOnce, any: 'the visitor walks', start: { above: 0 }, offeredWith: 'visitor' },
  }),
} as const;
