/** Sounds that were brought in: measured once, heard when a run plays them or somebody wants to know them. */
import { SoundPlayer } from '@apple-tick/player';
import { db } from './storage.ts';

/** Longer ones belong beside a piece, not into it. */
export const MAX_SECONDS = 600;

/** How long the sound lasts, or null when it cannot be decoded. */
export async function secondsOf(bytes: ArrayBuffer): Promise<number | null> {
  try {
    // Decoding takes the bytes away, and they are still to be kept.
    return (await new OfflineAudioContext(1, 1, 44100).decodeAudioData(bytes.slice(0))).duration;
  } catch {
    return null;
  }
}

/** All sounds of this page, from the bytes that this browser keeps. */
export const sounds = new SoundPlayer(async (hash) => {
  const kept = await db.assets.get(hash);
  return kept?.bytes.slice(0) ?? null;
});
