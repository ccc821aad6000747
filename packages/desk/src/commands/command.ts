/** What a command is, where it belongs, and how its keys are written. */
import type { Session } from '../session/session.ts';

export interface CommandInfo {
  readonly id: string;
  readonly name: string;
  /** Other words by which it is found. */
  readonly find?: string;
  /** As in `KeyboardEvent`: "Mod+z" is Ctrl or ⌘ with z. */
  readonly keys: readonly string[];
  readonly place: Place;
  readonly run: (s: Session) => void;
  readonly enabled?: (s: Session) => boolean;
  /** What has to be done first where it cannot be done. */
  readonly needs?: string;
  /** Its key is heard in fields and dialogs, too. */
  readonly everywhere?: boolean;
  /** Its key is the browser's, which tells the page by an event of its own. */
  readonly byBrowser?: boolean;
}

/** A key as commands write it. Shift counts with letters alone: signs differ by it already, arrows go farther with it. */
export function keyText(
  e: Pick<KeyboardEvent, 'key' | 'ctrlKey' | 'metaKey' | 'shiftKey'> & { readonly altKey?: boolean },
): string {
  const key = e.key.length === 1 ? e.key.toLowerCase() : e.key;
  const mod = e.ctrlKey || e.metaKey ? 'Mod+' : '';
  const alt = e.altKey && key.length > 1 ? 'Alt+' : '';
  return `${mod}${alt}${e.shiftKey && /^[a-z]$/.test(key) ? 'Shift+' : ''}${key}`;
}

/** Where commands belong, in the order in which they are listed. */
export const PLACES = {
  run: 'Running',
  edit: 'Editing',
  objects: 'Objects',
  motion: 'Motion',
  view: 'View',
  piece: 'The piece',
  guide: 'Guide',
} as const;

export type Place = keyof typeof PLACES;

export const anyChosen = (s: Session) => s.selected?.kind === 'object' && s.chosen.length > 0;
