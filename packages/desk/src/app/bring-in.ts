/** What comes in from outside while a piece is open: copies from the clipboard, and files read by the worker. */
import type { Result } from '@apple-tick/core/base';
import type { Remote } from 'comlink';
import { copied, pasted, takeAway } from '../commands/clipboard.ts';
import { MAX_SECONDS, secondsOf } from '../features/sounds/edit.ts';
import type { Session } from '../session/session.ts';
import type { Reader, ReadThings } from '../ui/import-worker.ts';
import { paintPart } from '../ui/paint-part.ts';

/** What only the page can do of what was read: paint parts of drawings, find out how long sounds are. */
export async function finished(things: ReadThings, reader: Remote<Reader>): Promise<Result<ReadThings>> {
  const read = await measured(await painted(things, reader));
  return read.ok ? { ok: true, value: { ...read.value, objects: await reader.marked(read.value) } } : read;
}

/** Parts of a drawing as pictures; one that cannot be painted is taken out, and told. */
async function painted(things: ReadThings, reader: Remote<Reader>): Promise<ReadThings> {
  const [assets, bytes, lost] = [[...things.assets], [...things.bytes], new Set<string>()];
  for (const part of things.parts) {
    const png = await paintPart(part);
    const read = png ? await reader.picture(png, part.id, part.name) : null;
    if (!read?.ok) {
      lost.add(part.id);
      continue;
    }
    assets.push(read.value.asset);
    if (!bytes.some((b) => b.hash === read.value.kept.hash)) bytes.push(read.value.kept);
  }
  const objects = things.objects.filter((o) => o.kind !== 'image' || !lost.has(o.asset));
  const notes = lost.size === 0 ? things.notes : [...things.notes, `${lost.size} that could not be painted`];
  return { ...things, objects, assets, bytes, notes };
}

/** How long a sound is that was read; workers cannot decode one. */
async function measured(things: ReadThings): Promise<Result<ReadThings>> {
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

/** The name of a drawing that is pasted, which says nothing of it. */
export const PASTED = 'Picture.svg';

/** Whether a text is an SVG, whatever stands before its root: a declaration, comments, a DOCTYPE. */
function isSvg(text: string): boolean {
  const start = text.replace(/^(?:\s|<\?[^>]*\?>|<!--[\s\S]*?-->|<!DOCTYPE[^>[]*(?:\[[^\]]*\])?\s*>)+/, '');
  return /^<(?:\w+:)?svg[\s>]/.test(start);
}

/** Copy, cut and paste as the browser means them: they reach other pieces and other tabs. */
export function listenToClipboard(s: Session, bringIn: (files: Iterable<File>) => void): () => void {
  const elsewhere = (e: Event) =>
    e.target instanceof Element && e.target.closest('input, textarea, [role="dialog"]') !== null;
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
    if (files?.length || isSvg(text)) {
      e.preventDefault();
      bringIn(files?.length ? [...files] : [new File([text], PASTED, { type: 'image/svg+xml' })]);
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
