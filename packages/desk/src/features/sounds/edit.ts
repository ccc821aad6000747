/** Sounds that were brought in: measured once, heard when a run plays them or somebody wants to know them. */
import { type Sound, uniqueName } from '@apple-tick/core/model';
import { SoundPlayer } from '@apple-tick/player';
import { db } from '../../session/keep/storage.ts';
import type { Session } from '../../session/session.ts';

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

/** Lets a sound be heard. Returns whether it could be. */
export function listen(s: Session, sound: Sound): Promise<boolean> {
  const asset = sound.asset === undefined ? undefined : s.store.get('assets', sound.asset);
  if (asset?.kind === 'sound') return sounds.play(asset.hash);
  return sound.synth === undefined ? Promise.resolve(false) : sounds.playMade(sound.synth);
}

/** Adds a sound that is made by its name. Returns its id. */
export function addMade(s: Session, synth: string): string {
  const id = s.newId('sounds');
  const name = uniqueName(synth, new Set(s.store.all('sounds').map((x) => x.name)));
  s.edit(`Added the sound ${name}`, (e) => e.add('sounds', { id, name, synth }));
  return id;
}
