/** Sounds that were brought in: measured once, heard when a run plays them or somebody wants to know them. */
import type { SoundAsset } from '@apple-tick/core/model';
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

let context: AudioContext | null = null;
/** By hash; null while it cannot be heard. */
const decoded = new Map<string, Promise<AudioBuffer | null>>();

async function decode(to: AudioContext, hash: string): Promise<AudioBuffer | null> {
  const kept = await db.assets.get(hash);
  return kept ? to.decodeAudioData(kept.bytes.slice(0)).catch(() => null) : null;
}

/** Plays the sound from its start; several at once are mixed. Returns whether it could be heard. */
export async function playSound(asset: SoundAsset): Promise<boolean> {
  // A page may make sound only after somebody has done something on it, so this is made late.
  context ??= new AudioContext();
  let buffer = decoded.get(asset.hash);
  if (!buffer) {
    buffer = decode(context, asset.hash);
    decoded.set(asset.hash, buffer);
  }
  const data = await buffer;
  if (!data) {
    decoded.delete(asset.hash);
    return false;
  }
  const source = new AudioBufferSourceNode(context, { buffer: data });
  source.connect(context.destination);
  source.start();
  return true;
}
