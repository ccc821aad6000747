/** Copy, cut and paste: by the browser's own events, and by name for whoever looks for them. */

import { deleteSelected } from '../session/doings/deleting.ts';
import { copyDoings, pasteDoings } from '../session/doings/doings.ts';
import { tellOutside } from '../session/doings/duplicating.ts';
import { workedReaction } from '../session/doings/worked.ts';
import { keysText, pasteKeysText, readKeys } from '../session/motion/keys.ts';
import type { Session } from '../session/session.ts';
import { copyChosen, pasteExcerpt } from '../session/things/arrange.ts';
import { areSoundKeys, excerptText, readExcerpt } from '../session/things/clipboard.ts';
import type { CommandInfo } from './command.ts';

/** What is copied of what is chosen or worked on, as text; null when that is nothing. */
export function copied(s: Session): string | null {
  const doings = copyDoings(s, workedReaction());
  if (doings) return excerptText(doings);
  return s.selected?.kind === 'object' && s.chosen.length > 0 ? excerptText(copyChosen(s)) : keysText(s);
}

/** Puts copied text where one works. Whether it was a copy of ours. */
export function pasted(s: Session, text: string): boolean {
  const keys = readKeys(text, areSoundKeys);
  const x = keys ? null : readExcerpt(text);
  if (keys) pasteKeysText(s, keys);
  else if (x) tellOutside(s, x.doings ? pasteDoings(s, x) : pasteExcerpt(s, x));
  return keys !== null || x !== null;
}

/** Deletes what was cut: the action or condition of a list that has the focus, else what is selected. */
export function takeAway(s: Session): void {
  if (s.worked?.action || s.worked?.condition) s.worked.take();
  else if (s.selected !== null) deleteSelected(s);
}

async function toClipboard(s: Session): Promise<void> {
  const text = copied(s);
  if (text === null) s.set({ notice: 'Choose what is to be copied first.' });
  else await navigator.clipboard.writeText(text);
}

/** A browser may ask before it gives a page its clipboard, or refuse: then the key is told, which it does not refuse. */
const byName = (id: string, name: string, key: string, act: (s: Session) => Promise<void>): CommandInfo => ({
  ...{ id: `clipboard.${id}`, name, keys: [`Mod+${key}`], place: 'edit', byBrowser: true },
  run: (s) =>
    void act(s).catch(() =>
      s.set({ notice: `This browser lets a page do this by keys only: Ctrl/⌘ ${key}.` }),
    ),
});

export const CLIPBOARD: readonly CommandInfo[] = [
  byName('copy', 'Copy what is chosen', 'c', toClipboard),
  byName('cut', 'Cut what is chosen', 'x', async (s) => {
    await toClipboard(s);
    takeAway(s);
  }),
  byName('paste', 'Paste', 'v', async (s) => {
    if (!pasted(s, await navigator.clipboard.readText()))
      s.set({ notice: 'There is nothing on the clipboard that can be pasted here.' });
  }),
];
