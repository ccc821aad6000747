/** The piece as a whole: its sheets, its file, its pages. */
import { addSheet } from '../features/sheets/edit.ts';
import type { Page } from '../session/session.ts';
import { exportPiece, exportWords } from '../ui/export-piece.ts';
import { toggleTheme } from '../ui/theme.ts';
import type { CommandInfo } from './command.ts';

/** What the page that shows the piece does; nothing where none does. */
const ofPage = (
  id: string,
  name: string,
  act: (page: Page) => void,
  more: Partial<CommandInfo> = {},
): CommandInfo => ({
  ...{ id: `piece.${id}`, name, keys: [], place: 'piece' },
  enabled: (s) => s.page !== null,
  run: (s) => s.page && act(s.page),
  ...more,
});

export const PIECE: readonly CommandInfo[] = [
  {
    ...{ id: 'deck.sheets', place: 'piece', name: 'Show the cue sheets', keys: [] },
    run: (s) => s.set({ deck: 'sheets', openState: null, openClip: null }),
  },
  {
    ...{ id: 'sheet.add', place: 'piece', name: 'Add a cue sheet', keys: [] },
    run: (s) => s.set({ sheet: addSheet(s), deck: 'sheets', openState: null, openClip: null }),
  },
  ofPage('handover', 'Hand over…', (page) => page.go('hand-over')),
  {
    ...{ id: 'piece.export', name: 'Export the file', keys: [], place: 'piece' },
    run: (s) => void exportPiece(s.piece()).then((name) => s.set({ notice: exportWords(name) })),
  },
  ofPage('bring', 'Bring in a picture, model or sound…', (page) => page.bringIn()),
  ofPage('shelf', 'Go to the shelf', (page) => page.go('/')),
  {
    ...{ id: 'piece.frame', name: 'Change the frame, the ground and the light', keys: [], place: 'piece' },
    run: (s) => s.selectMany([]),
  },
  ofPage('guide', 'Open the guide', (page) => page.go('/guide')),
  { id: 'piece.theme', name: 'Light or dark', keys: [], place: 'piece', run: toggleTheme },
  ofPage('keys', 'Shortcuts', (page) => page.show('keys'), { keys: ['?'] }),
  ofPage('search', 'Find a command', (page) => page.show('search'), { keys: ['Mod+k'], everywhere: true }),
];
