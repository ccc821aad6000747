/** Cue sheets: scripted scenes. */
import type { ActionTable, Feature, InputTable, ScheduledKind } from '../../run/feature.ts';
import { NAMED } from '../../run/hearing.ts';
import { idOf } from '../../run/input.ts';
import type { Program } from '../../run/program.ts';
import { cueAfter, migrateSheets } from './migrate.ts';
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

const scheduled: Record<string, ScheduledKind> = {
  cue: {
    run: (item, cause, { context }) => context.parts.sheets?.item(item, cause),
    list: listOfCue,
    place: placeOfCue,
    migrate: cueAfter,
  },
  'action of a cue': {
    run: (item, cause, { context }) => context.parts.sheets?.runDelayedAction(item, cause),
    list: listOfCue,
    place: placeOfCue,
    migrate: (migration, item) => {
      const after = cueAfter(migration, item);
      const acts = migration.next.parts.sheets?.cues[after?.index ?? -1]?.lasting.length ?? 0;
      return item.action < acts ? after : undefined;
    },
  },
  'round of a sheet': {
    run: (item, cause, { context }) => context.parts.sheets?.beginNextRound(item, cause),
    list: (program, sheet) => listOfCue(program, program.parts.sheets?.sheets[sheet]?.first ?? -1),
    place: placeOfSheet,
    migrate: ({ old, next }, item) => {
      const index = next.parts.sheets?.index.get(old.parts.sheets?.sheets[item.index]?.sheet.id ?? '');
      return index === undefined ? undefined : { ...item, index };
    },
  },
  /** Nothing acts then: it is looked whether cues have ended. */
  'look at cues': { run: () => {}, migrate: (_, item) => item },
};

export const sheets: Feature = {
  name: 'sheets',
  claims: { tables: ['cueSheets'] },
  events: { 'sheet.start': NAMED, 'sheet.done': NAMED },
  actions,
  inputs,
  scheduled,
  compile: compileSheets,
  rows: sheetRows,
  run: (base) => new Sheets(base),
  migrate: migrateSheets,
};
