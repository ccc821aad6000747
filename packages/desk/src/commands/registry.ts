/** Every command once: menus, shortcuts, search and the sheet of keys read this list. */
import type { Session } from '../session/session.ts';
import { CLIPBOARD } from './clipboard.ts';
import { type CommandInfo, keyText } from './command.ts';
import { EDIT } from './edit.ts';
import { GUIDE } from './guide.ts';
import { MOTION } from './motion.ts';
import { OBJECTS } from './objects.ts';
import { PIECE } from './piece.ts';
import { RUN } from './run.ts';
import { VIEW } from './view.ts';

export const COMMANDS: readonly CommandInfo[] = [
  ...[...RUN, ...EDIT, ...CLIPBOARD, ...OBJECTS],
  ...[...MOTION, ...VIEW, ...PIECE, ...GUIDE],
];

export const canRun = (s: Session, c: CommandInfo): boolean => c.enabled?.(s) ?? true;

export function runCommand(s: Session, id: string): void {
  const c = COMMANDS.find((x) => x.id === id);
  if (c && canRun(s, c)) c.run(s);
}

/** The command that a keyboard key stands for wherever one is, or undefined. */
export function commandFor(e: KeyboardEvent): CommandInfo | undefined {
  const text = keyText(e);
  return COMMANDS.find((c) => !c.byBrowser && c.keys.includes(text));
}
