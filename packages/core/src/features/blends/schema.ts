/** Plays of several clips at once, as they stand in files. */
import { elseBecomes, list, number, oneOf, record, ref, union, withDefault } from '../../grammar/index.ts';
import { bySignal } from '../../model/by-signal.ts';

/** Clips by the place of a number among theirs: between two of them both, beyond the last of them that one. */
export const rangePlaySchema = record({
  range: record({
    signal: ref('signals', 'number'),
    points: list(record({ clip: ref('clips'), at: number() }), { min: 1, max: 50, needed: true }),
    /** Whether all of them go through their clips together, each at its own length, or each by itself. */
    phase: withDefault(oneOf(['own', 'common']), 'own'),
  }),
});
/** Clips added to what lies below, each by its amount: how far it leads from the base. */
export const stackPlaySchema = record({
  stack: list(
    record({
      clip: ref('clips'),
      amount: elseBecomes(withDefault(union(number({ min: 0, max: 1 }), bySignal), 1), 1),
    }),
    { min: 1, max: 50, needed: true },
  ),
});
