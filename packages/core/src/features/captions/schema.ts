/** Actions and events of captions, as they stand in files and sentences. */
import { list, maybe, oneOf, orNull, own, record, ref, text } from '../../grammar/index.ts';
import { kind, thing } from '../../model/action-kind.ts';
import { seconds } from '../../model/common.ts';
import { events as group } from '../../model/event-kind.ts';
import { valueSchema } from '../../model/value.ts';

const ANSWERS = 'must hold two to four answers';
const answerSchema = record({
  id: own('answers'),
  text: text({ min: 1, max: 200, short: 'must not be empty' }),
});

export const actions = {
  /** Above the object, 3 seconds without `seconds`; null: until it is answered, or another takes its place. */
  caption: kind('show a caption', '{object} says {text}', {
    object: thing,
    text: valueSchema,
    seconds: maybe(orNull(seconds)),
    answers: maybe(list(answerSchema, { min: 2, max: 4, few: ANSWERS, many: ANSWERS })),
    /** What happens to one that the object has already; without it, this one takes its place. */
    again: maybe(oneOf(['restart', 'ignore', 'queue'])),
  }),
} as const;

/** What its events can be told by. */
export const on = { answer: maybe(ref('answers')) };

export const events = group(
  'Captions',
  {
    'caption.answer': ['is answered', '{it} answered', 'object', 'answer'],
    'caption.gone': ['stops saying it', '{it} stops saying it', 'object'],
  },
  { told: { 'caption.answer': '{object} was answered “{answer}”' } },
);
