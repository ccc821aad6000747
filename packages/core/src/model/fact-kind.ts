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
  /** The word after "is" or "is not". */
  readonly is?: string;
  /** How it is picked where it is of nothing certain. */
  readonly any?: string;
  /** Of colliders, the role of those that it is asked of. */
  readonly role?: string;
  /** What a new one holds besides what it is of; plain fields that are needed hold what suits them. */
  readonly start?: Readonly<Record<string, unknown>>;
  /** It is offered where the piece has this. */
  readonly offeredWith?: 'visitor';
}

/** `pick`: the heading under which it is picked, by what it is of. */
export const fact = <const F extends Fields>(
  pick: string,
  says: string,
  fields: F,
  more: Omit<FactKind, 'pick' | 'says' | 'fields'> = {},
) => ({ pick, says, fields, ...more });

/** A number that is compared in one way. */
const so = maybe(number({ min: 0, max: 1e6 }));
export const counts = { is: so, not: so, atLeast: so, atMost: so, above: so, below: so };
