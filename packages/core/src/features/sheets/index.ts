/** Cue sheets: scripted scenes. */
import type { ActionTable, DueKind, Feature, InputTable } from '../../run/feature.ts';
import { NAMED } from '../../run/hearing.ts';
import { idOf } from '../../run/input.ts';
import type { Program } from '../../run/program.ts';
import { carrySheets, cueAfter } from './carry.ts';
import { compileSheets } from './program.ts';
import { sheetRows } from './rows.ts';
import { Sheets } from './run.ts';

const actions: ActionTable<'sheet' | 'stopSheet'> = {
  sheet: (a, names) => {
    const sheet = names.record('cueSheets', a.sheet);
    return (d, cause) => sheet >= 0 && d.parts.sheets?.ask(sheet, cause);
  },
  stopSheet: (a, names) => {
    const sheet = names.record('cueSheets', a.sheet);
    return (d, cause) => sheet >= 0 && d.parts.sheets?.stop(sheet, cause);
  },
};

const inputs: InputTable<'sheet'> = {
  sheet: ({ sheet, skip }, { context }) => {
    const { piece, parts } = context.program;
    const id = idOf(piece.cueSheets, sheet);
    const cause = context.recordInput({ input: 'sheet', sheet: id });
    const i = parts.sheets?.index.get(id);
    if (i !== undefined) context.parts.sheets?.ask(i, cause, skip ?? 0);
  },
};

const placeOfSheet = ({ parts }: Program, sheet: number) => parts.sheets?.sheets[sheet]?.place ?? -1;
const placeOfCue = (program: Program, cue: number) =>
  placeOfSheet(program, program.parts.sheets?.cues[cue]?.sheet ?? -1);
const listOfCue = ({ parts }: Program, cue: number) => parts.sheets?.cues[cue]?.list ?? -1;

const dues: Record<string, DueKind> = {
  cue: {
    act: (due, cause, { context }) => context.parts.sheets?.due(due, cause),
    list: listOfCue,
    place: placeOfCue,
    carry: cueAfter,
  },
  'action of a cue': {
    act: (due, cause, { context }) => context.parts.sheets?.dueAction(due, cause),
    list: listOfCue,
    place: placeOfCue,
    carry: (carrying, due) => {
      const after = cueAfter(carrying, due);
      const acts = carrying.next.parts.sheets?.cues[after?.index ?? -1]?.acts.length ?? 0;
      return due.action < acts ? after : undefined;
    },
  },
  'round of a sheet': {
    act: (due, cause, { context }) => context.parts.sheets?.dueRound(due, cause),
    list: (program, sheet) => listOfCue(program, program.parts.sheets?.sheets[sheet]?.first ?? -1),
    place: placeOfSheet,
    carry: ({ old, next }, due) => {
      const index = next.parts.sheets?.index.get(old.parts.sheets?.sheets[due.index]?.sheet.id ?? '');
      return index === undefined ? undefined : { ...due, index };
    },
  },
  /** Nothing acts then: it is looked whether cues have ended. */
  'look at cues': { act: () => {}, carry: (_, due) => due },
};

export const sheets: Feature = {
  name: 'sheets',
  claims: { tables: ['cueSheets'] },
  events: { 'sheet.start': NAMED, 'sheet.done': NAMED },
  actions,
  inputs,
  dues,
  compile: compileSheets,
  rows: sheetRows,
  run: (base) => new Sheets(base),
  carry: carrySheets,
};
