/** Captions: what things say, and how they are answered. */

import { compileValue } from '../../logic/index.ts';
import { CAPTION_SECONDS, wordsOf } from '../../model/index.ts';
import type { ActionTable, Feature, InputTable, LastingTable } from '../../run/feature.ts';
import type { Hearing } from '../../run/hearing.ts';
import { thing } from '../../run/things.ts';
import { migrateCaptions } from './migrate.ts';
import { CompilingCaptions } from './program.ts';
import { readCaption } from './read.ts';
import { type CaptionRows, captionRows } from './rows.ts';
import { Captions } from './run.ts';

/** Of a caption: without a name, of the one that the listener's own object has. */
const OF_CAPTION: Hearing = {
  subject: (on, owner) => on.answer ?? on.object ?? owner.object,
  subjects: (r) => [r.answer, r.object],
  means: ({ objects }, on, { rec }, { object }) => {
    if (on.answer !== undefined && on.answer !== rec.answer) return false;
    const own = object === null || on.answer !== undefined ? rec.object : objects[object]?.id;
    return (on.object ?? own) === rec.object;
  },
};

const actions: ActionTable<'caption'> = {
  caption: (a, names, stream) => {
    const [the, words] = [thing(names, a.object), compileValue(a.text, names, stream)];
    const how = {
      seconds: a.seconds === null ? -1 : (a.seconds ?? CAPTION_SECONDS),
      answers: a.answers ? (names.parts.captions?.number(a.answers) ?? -1) : -1,
      again: a.again ?? 'restart',
    };
    return (d, cause) => d.parts.captions?.say(the(cause), wordsOf(words(d)), how, cause);
  },
};

const lasting: LastingTable<'caption'> = {
  caption: () => ({
    seconds: 0,
    goesOn: (_, state, _t, _began, token) => {
      const { list } = state.parts.captions as CaptionRows;
      for (let k = 0; k < list.count; k++) if (list.at(k, 4) === token) return true;
      return false;
    },
  }),
};

const inputs: InputTable<'say' | 'answer'> = {
  say: ({ say: { object, text } }, { context }) => {
    const [id, at] = context.find(object);
    const missed = at < 0 ? { missed: true } : {};
    const cause = context.recordInput({ input: 'say', object: id, text, ...missed });
    const how = { seconds: CAPTION_SECONDS, answers: -1, again: 'restart' } as const;
    if (at >= 0) context.parts.captions?.say(at, text, how, cause);
  },
  answer: ({ answer: { object, answer } }, { context }) => {
    const [id, at] = context.find(object);
    const given = context.parts.captions?.answerOf(at, answer) ?? null;
    const missed = given === null ? { missed: true } : {};
    const cause = context.recordInput({ input: 'answer', object: id, answer: given ?? answer, ...missed });
    if (given !== null) context.parts.captions?.answer(at, given, cause);
  },
};

export const captions: Feature = {
  name: 'captions',
  events: { 'caption.answer': OF_CAPTION, 'caption.gone': OF_CAPTION },
  actions,
  lasting,
  inputs,
  scheduled: {
    'end of a caption': {
      run: (item, cause, { context }) => context.parts.captions?.over(item.index, cause),
      migrate: (_, item) => item,
    },
  },
  compile: () => new CompilingCaptions(),
  read: readCaption,
  rows: captionRows,
  run: (base) => new Captions(base),
  migrate: migrateCaptions,
};
