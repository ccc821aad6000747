/** Editing what is selected. */
import { mayBeScene, sheetOfThing } from '../features/sheets/edit.ts';
import { deleteSelected } from '../session/doings/deleting.ts';
import { duplicateChosen } from '../session/doings/duplicating.ts';
import { workedReaction } from '../session/doings/worked.ts';
import { allKeys, selectKeys } from '../session/motion/keys.ts';
import type { Session } from '../session/session.ts';
import { anyChosen, type CommandInfo } from './command.ts';

const ONCE_MORE = new Set(['state', 'transition', 'cue', 'sheetCue']);

const mayDuplicate = (s: Session) =>
  anyChosen(s) || ONCE_MORE.has(s.selected?.kind ?? '') || workedReaction() !== null;

export const EDIT: readonly CommandInfo[] = [
  {
    id: 'undo',
    place: 'edit',
    needs: 'nothing has been done yet',
    name: 'Undo',
    keys: ['Mod+z'],
    run: (s) => s.undo(),
    enabled: (s) => s.history.undoName !== null,
  },
  {
    id: 'redo',
    place: 'edit',
    needs: 'nothing was undone',
    name: 'Redo',
    keys: ['Mod+Shift+z'],
    run: (s) => s.redo(),
    enabled: (s) => s.history.redoName !== null,
  },
  {
    id: 'delete',
    place: 'edit',
    needs: 'choose something first',
    name: 'Delete what is selected',
    keys: ['Delete', 'Backspace'],
    run: deleteSelected,
    enabled: (s) => s.selected !== null,
  },
  {
    ...{
      id: 'rename',
      place: 'edit',
      name: 'Rename the object',
      keys: ['F2'],
      needs: 'choose an object first',
    },
    run: (s) => s.set({ renaming: s.state.object }),
    enabled: (s) => s.exists('objects', s.state.object),
  },
  {
    id: 'duplicate',
    place: 'edit',
    needs: 'choose an object, a state, a transition, a cue or a reaction first',
    name: 'Duplicate with behaviour, a state with its transitions',
    keys: ['Mod+d'],
    run: (s) => duplicateChosen(s, true),
    enabled: mayDuplicate,
  },
  {
    id: 'duplicate.drawing',
    place: 'edit',
    needs: 'choose an object or a state first',
    name: 'Duplicate the drawing only, a state alone',
    keys: ['Mod+Shift+d'],
    run: (s) => duplicateChosen(s, false),
    enabled: (s) => anyChosen(s) || s.selected?.kind === 'state',
  },
  {
    id: 'all',
    place: 'edit',
    name: 'Select all objects; in a timeline, all keys',
    keys: ['Mod+a'],
    // In a timeline it is the keys that are meant.
    run: (s) =>
      s.state.inTimeline && s.open
        ? selectKeys(s, s.open.clip.id, allKeys(s.open.clip))
        : s.selectMany(s.store.ids('objects')),
  },
  {
    ...{ id: 'sheet.thing', place: 'edit', name: 'Make a scene of what it does, in order', keys: [] },
    needs: 'choose a thing that has a motion or a look first',
    run: (s) => s.state.object !== null && sheetOfThing(s, s.state.object),
    enabled: (s) => mayBeScene(s, s.state.object),
  },
];
