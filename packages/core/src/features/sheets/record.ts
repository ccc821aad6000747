/** Cue sheets: scripted scenes. A tree of cues, each timed from the sheet's start, or from another's start or end. */
import {
  elseAbsent,
  lazy,
  list,
  type Of,
  oneOf,
  own,
  record,
  type Schema,
  union,
  withDefault,
} from '../../grammar/index.ts';
import { type Action, actionsSchema } from '../../model/action.ts';
import { name, seconds } from '../../model/common.ts';
import { type On, onSchema } from '../../model/event.ts';

export interface SheetCue {
  id: string;
  name: string;
  /** Seconds after the start of the sheet, or after what it hangs on. */
  t: number;
  /** From its time on it waits for this; it begins when that comes. */
  wait?: On | undefined;
  actions: Action[];
  /** Those timed from its start, and from its end. */
  then: SheetCue[];
  thenAfter: SheetCue[];
}
const cueSchema: Schema<SheetCue> = lazy(() => cue);
const below = list(cueSchema, { max: 500 });
const cue = record({
  id: own('cues'),
  name,
  t: seconds,
  wait: elseAbsent(onSchema),
  actions: actionsSchema,
  then: withDefault(below, []),
  thenAfter: withDefault(below, []),
}) as Schema<SheetCue>;

export const cueSheetSchema = record({
  id: own('cueSheets'),
  name,
  cues: list(cueSchema, { max: 500 }),
  /** What happens when it is asked for while it runs. */
  again: withDefault(oneOf(['restart', 'ignore', 'queue']), 'restart'),
  /** It stops with its last cue, or begins anew so many seconds later. */
  end: withDefault(union(oneOf(['stop']), record({ loop: seconds })), 'stop'),
});
export type CueSheet = Of<typeof cueSheetSchema>;
