/** Running. */
import { doneByHand, sheetOfHand } from '../features/sheets/edit.ts';
import type { Session } from '../session/session.ts';
import type { CommandInfo } from './command.ts';

const running = (s: Session) => s.state.running;

export const RUN: readonly CommandInfo[] = [
  {
    id: 'run',
    place: 'run',
    name: 'Run or stop',
    keys: ['r'],
    run: (s) => (running(s) ? s.stopRun() : s.startRun()),
  },
  {
    id: 'restart',
    place: 'run',
    name: 'Start over',
    keys: ['Shift+r'],
    run: (s) => {
      s.stopRun();
      s.startRun();
    },
  },
  {
    ...{ id: 'sheet.hand', place: 'run', name: 'Make a cue sheet of what I did', keys: [] },
    needs: 'set a signal or send a message in a run first',
    run: sheetOfHand,
    enabled: (s) => doneByHand(s.log.records).length > 0,
  },
];
