/** How long actions take, by their kind: those that are not in a table take no time. */
import type { Action } from './action.ts';
import type { Clip } from './clip.ts';

/** Seconds that an action takes once it acts; infinite where only the person knows. */
export type LengthTable<K extends Action['do']> = {
  readonly [D in K]: (a: Extract<Action, { do: D }>, clipOf: (id: string) => Clip | undefined) => number;
};
