/** What the descriptor of a kind of action is made with. */
import { type Fields, oneOf, type Rule, ref, type Schema, union } from '../grammar/index.ts';
import type { Said } from './common.ts';

/** A rule on an action, or on a part of one, whatever kind it is of. */
// biome-ignore lint/suspicious/noExplicitAny: what it holds for is its kind's own
export type ActionRule = Rule<any>;
export interface ActionKind extends Said {
  readonly fields: Fields;
  /** What its fields must hold together. */
  readonly rules?: readonly ActionRule[];
}
export const kind = <const F extends Fields>(
  pick: string,
  says: string,
  fields: F,
  { rules = [], told }: Pick<ActionKind, 'rules' | 'told'> = {},
) => ({ pick, says, fields, rules, ...(told === undefined ? {} : { told }) });

/** An object, or the thing of the event: what a zone has noticed, or what was dropped into it. */
export const thing = union(oneOf(['other']), ref('objects')) as Schema<string>;
