/** The head of a template, and the actions and events of what is spawned, as they stand in files and sentences. */
import { maybe, number, type Of, orNull, own, record, ref, table, withDefault } from '../../grammar/index.ts';
import { kind, thing } from '../../model/action-kind.ts';
import { name, vec3 } from '../../model/common.ts';
import { events as group } from '../../model/event-kind.ts';
import { valueSchema } from '../../model/value.ts';

export const templateHead = {
  id: own('templates'),
  name,
  /** How many of it may have been spawned and be there at once: the oldest goes for a new one. */
  max: withDefault(number({ whole: 'must be a whole number', min: 1, max: 1000 }), 64),
};
export const templateHeadSchema = record(templateHead);
export type TemplateHead = Of<typeof templateHeadSchema>;

export const actions = {
  /** At the pivot of `object`, or at the middle of the piece, and so much beside. */
  spawn: kind('spawn', 'spawn {template}', {
    template: ref('templates'),
    object: maybe(thing),
    offset: maybe(vec3),
    /** What it lies in; the piece itself without one. */
    parent: maybe(orNull(ref('objects'))),
    /** Values for its signals. */
    signals: maybe(table(valueSchema)),
    /** How long it stays; without, until it is removed. */
    seconds: maybe(orNull(number({ min: 0.001, max: 86400, low: 'must be at least 0.001 seconds' }))),
  }),
  /** Any part of what is to go serves; what was not spawned stays. */
  remove: kind('remove what was spawned', 'remove {object}', { object: thing }),
} as const;

/** What its events can be told by. */
export const on = { template: maybe(ref('templates')) };

export const events = group(
  'Templates',
  {
    'spawn.start': ['one of a template is spawned', '{it} spawned', 'template'],
    'spawn.end': ['a spawned one goes', '{it} goes', 'template'],
  },
  { told: { 'spawn.start': '{object} was spawned', 'spawn.end': '{object} went{why}' } },
);
