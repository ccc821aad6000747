/** What the descriptor of a fact is made with. */
import { type Fields, maybe, number, type Rule } from '../grammar/index.ts';
import type { Said } from './common.ts';
import { COMPARISONS, type Comparison } from './comparisons.ts';

export const comparesOnce = {
  predicate: (c: { readonly [K in Comparison]?: unknown }) =>
    COMPARISONS.filter((k) => c[k] !== undefined).length === 1,
  says: 'must compare in exactly one way (is, not, atLeast, atMost, above or below)',
};
export interface FactKind extends Said {
  readonly fields: Fields;
  // biome-ignore lint/suspicious/noExplicitAny: what it holds for is its fact's own
  readonly rule?: Rule<any>;
}
export const fact = <const F extends Fields>(
  pick: string,
  says: string,
  fields: F,
  rule?: FactKind['rule'],
) => ({
  pick,
  says,
  fields,
  ...(rule ? { rule } : {}),
});

/** A number that is compared in one way. */
const so = maybe(number({ min: 0, max: 1e6 }));
export const counts = { is: so, not: so, atLeast: so, atMost: so, above: so, below: so };
