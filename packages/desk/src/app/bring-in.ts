/** What comes in from outside while a piece is open: copies from the clipboard, and files read by the worker. */
import type { Result } from '@apple-tick/core/base';
import { type CommandInfo, runCommand, tellOutside, workedReaction } from '../commands/registry.ts';
import { copyChosen, pasteExcerpt } from '../session/arrange.ts';
import { areSoundKeys, excerptText, readExcerpt } from '../session/clipboard.ts';
import { copyDoings, pasteDoings } from '../session/doings.ts';
import { keysText, pasteKeysText, readKeys } from '../session/keys.ts';
import type { Session } from '../session/session.ts';
import { MAX_SECONDS, secondsOf } from '../session/sounds.ts';
import type { ReadThings } from '../ui/import-worker.ts';

/** How long a sound is that was read; workers cannot decode one. */
export async function measured(things: ReadThings): Promise<Result<ReadThings>> {
  const no = (message: string) => ({ ok: false as const, problems: [{ code: 'sound', path: '', message }] });
  const assets = [];
  for (const a of things.assets) {
    if (a.kind !== 'sound') {
      assets.push(a);
      continue;
    }
    const bytes = things.bytes.find((b) => b.hash === a.hash)?.bytes;
    const seconds = bytes ? await secondsOf(bytes) : null;
    if (seconds === null) return no('The sound is broken: it cannot be decoded.');
    if (seconds > MAX_SECONDS) return no('The sound is longer than ten minutes.');
    assets.push({ ...a, seconds: Math.round(seconds * 1000) / 1000 });
  }
  return { ok: true, value: { ...things, assets } };
}

/** What is copied of what is chosen or worked on, as text; null when that is nothing. */
function copied(s: Session): string | null {
  const doings = copyDoings(s, workedReaction());
  if (doings) return excerptText(doings);
  return s.selected?.kind === 'object' && s.chosen.length > 0 ? excerptText(copyChosen(s)) : keysText(s);
}

/** Puts copied text where one works. Whether it was a copy of ours. */
function pasted(s: Session, text: string): boolean {
  const keys = readKeys(text, areSoundKeys);
  const x = keys ? null : readExcerpt(text);
  if (keys) pasteKeysText(s, keys);
  else if (x) tellOutside(s, x.doings ? pasteDoings(s, x) : pasteExcerpt(s, x));
  return keys !== null || x !== null;
}

function takeAway(s: Session): void {
  if (s.worked?.action || s.worked?.condition) s.worked.take();
  else runCommand(s, 'delete');
}

/** The same by their names, for whoever looks for them: there a browser may ask first, or refuse. */
export const CLIPBOARD: readonly (Pick<CommandInfo, 'id' | 'name' | 'keys'> & {
  readonly act: (s: Session) => Promise<void>;
})[] = [
  { id: 'copy', name: 'Copy what is chosen', keys: ['Mod+c'], act: (s) => toClipboard(s) },
  {
    ...{ id: 'cut', name: 'Cut what is chosen', keys: ['Mod+x'] },
    act: async (s) => {
      await toClipboard(s);
      takeAway(s);
    },
  },
  {
    ...{ id: 'paste', name: 'Paste', keys: ['Mod+v'] },
    act: async (s) => {
      if (!pasted(s, await navigator.clipboard.readText()))
        s.set({ notice: 'There is nothing on the clipboard that can be pasted here.' });
    },
  },
];
async function toClipboard(s: Session): Promise<void> {
  const text = copied(s);
  if (text === null) s.set({ notice: 'Choose what is to be copied first.' });
  else await navigator.clipboard.writeText(text);
}

/** Copy, cut and paste as the browser means them: they reach other pieces and other tabs. */
export function listenToClipboard(s: Session, bringIn: (files: Iterable<File>) => void): () => void {
  const elsewhere = (e: Event) =>
    e.target instanceof HTMLElement && e.target.closest('input, textarea, [role="dialog"]') !== null;
  const copy = (e: ClipboardEvent) => {
    if (elsewhere(e)) return;
    const text = copied(s);
    if (text === null) return;
    e.clipboardData?.setData('text/plain', text);
    e.preventDefault();
    if (e.type === 'cut') takeAway(s);
  };
  const paste = (e: ClipboardEvent) => {
    if (elsewhere(e)) return;
    if (s.state.readOnly)
      return s.set({ notice: 'This tab only looks on: paste where the piece is edited.' });
    const files = e.clipboardData?.files;
    const text = e.clipboardData?.getData('text/plain') ?? '';
    if (files?.length || /^\s*(<\?xml|<svg)/.test(text)) {
      e.preventDefault();
      bringIn(files?.length ? [...files] : [new File([text], 'Picture.svg', { type: 'image/svg+xml' })]);
      return;
    }
    if (pasted(s, text)) e.preventDefault();
  };
  addEventListener('copy', copy);
  addEventListener('cut', copy);
  addEventListener('paste', paste);
  return () => {
    removeEventListener('copy', copy);
    removeEventListener('cut', copy);
    removeEventListener('paste', paste);
  };
}
