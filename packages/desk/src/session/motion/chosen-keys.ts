/** The keys that a selection names, as far as its clip has them. */
import { type Clip, hasTime, type KeyId, keysTrack } from '@apple-tick/core/model';
import type { PieceStore } from '../model-help.ts';
import type { Selected } from '../selected.ts';

export interface ChosenKeys {
  readonly clip: Clip;
  readonly keys: readonly KeyId[];
}

/** The chosen keys that are still there; null when there are none. */
export function chosenKeysOf(store: PieceStore, sel: Selected): ChosenKeys | null {
  const clip = sel?.kind === 'keys' ? store.get('clips', sel.clip) : undefined;
  if (sel?.kind !== 'keys' || !clip) return null;
  const last = known.get(clip);
  if (last?.of === sel.keys) return last.chosen;
  const tracks = new Map(clip.tracks.map((t) => [keysTrack(t), t]));
  const keys = sel.keys.filter((id) => hasTime(tracks.get(keysTrack(id))?.keys ?? [], id.t, (k) => k.t));
  const chosen = keys.length > 0 ? { clip, keys } : null;
  known.set(clip, { of: sel.keys, chosen });
  return chosen;
}
/** What was found last, by the clip as it was then: with thousands of keys it is asked for often. */
const known = new WeakMap<Clip, { of: readonly KeyId[]; chosen: ChosenKeys | null }>();
