/** Actions and events of cue sheets, as they stand in files and sentences; the sheets themselves: `record.ts`. */
import { maybe, ref } from '../../grammar/index.ts';
import { kind } from '../../model/action-kind.ts';
import { events as group } from '../../model/event-kind.ts';

export const actions = {
  sheet: kind('start the cue sheet', 'start {sheet}', { sheet: ref('cueSheets') }),
  stopSheet: kind(
    'stop the cue sheet',
    'stop {sheet}',
    { sheet: ref('cueSheets') },
    { told: '{sheet} was stopped' },
  ),
} as const;

/** What its events can be told by. */
export const on = { sheet: maybe(ref('cueSheets')) };

export const events = group(
  'Cue sheets',
  {
    'sheet.start': ['a cue sheet starts', '{it} starts', 'sheet'],
    'sheet.done': ['a cue sheet is done', '{it} done', 'sheet'],
  },
  { told: { 'sheet.start': '{sheet} starts', 'sheet.done': '{sheet} is done' } },
);
