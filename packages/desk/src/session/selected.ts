/** What can be selected, one of it at a time; of objects and keys several. */
import { cuesIn, type KeyId } from '@apple-tick/core/model';
import type { PieceStore } from './model-help.ts';
import { chosenKeysOf } from './motion/chosen-keys.ts';

export type Selected =
  | { kind: 'object'; id: string }
  | { kind: 'state'; machine: string; lane: string; id: string }
  | { kind: 'transition'; machine: string; lane: string; id: string }
  /** Keys by what they key and when, so that each is the same one whatever is added beside it. */
  | { kind: 'keys'; clip: string; keys: readonly KeyId[] }
  | { kind: 'cue'; clip: string; id: string }
  | { kind: 'signal'; id: string }
  | { kind: 'message'; id: string }
  | { kind: 'sound'; id: string }
  | { kind: 'effect'; id: string }
  | { kind: 'template'; id: string }
  | { kind: 'sheetCue'; sheet: string; id: string }
  | null;

/** Whether the piece still has what was selected. */
export function isThere(store: PieceStore, sel: NonNullable<Selected>): boolean {
  switch (sel.kind) {
    case 'object':
      return store.has('objects', sel.id);
    case 'keys':
      return chosenKeysOf(store, sel) !== null;
    case 'cue':
      return store.get('clips', sel.clip)?.cues.some((q) => q.id === sel.id) ?? false;
    case 'signal':
      return store.has('signals', sel.id);
    case 'message':
      return store.has('messages', sel.id);
    case 'sound':
      return store.has('sounds', sel.id);
    case 'sheetCue': {
      const sheet = store.get('cueSheets', sel.sheet);
      return sheet !== undefined && cuesIn(sheet).some((c) => c.id === sel.id);
    }
    case 'effect':
      return store.has('effects', sel.id);
    case 'template':
      return store.has('templates', sel.id);
    default: {
      const lane = store.get('machines', sel.machine)?.lanes.find((l) => l.id === sel.lane);
      return lane?.[sel.kind === 'state' ? 'states' : 'transitions'].some((x) => x.id === sel.id) ?? false;
    }
  }
}
