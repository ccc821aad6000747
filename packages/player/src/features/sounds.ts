/** Sounds that were brought in, decoded once by their hash, and those that are made by a name; several at once are mixed. */
import type { PagePart } from '../page-part.ts';
import { synthesized } from './synth.ts';

export class SoundPlayer {
  #context: AudioContext | null = null;
  /** By hash, or the name of its making; null while it cannot be heard. */
  readonly #decoded = new Map<string, Promise<AudioBuffer | null>>();
  readonly #load: (hash: string) => Promise<ArrayBuffer | null>;

  /** `load`: the bytes of a sound; they are taken away. */
  constructor(load: (hash: string) => Promise<ArrayBuffer | null>) {
    this.#load = load;
  }

  /** Plays the sound of a file from its start, as loud as `volume` says, 0–1. Returns whether it could be heard. */
  play(hash: string, volume = 1): Promise<boolean> {
    return this.#play(hash, volume, (to) => this.#decode(to, hash));
  }

  /** Plays a sound that is made by its name, likewise. */
  playMade(name: string, volume = 1): Promise<boolean> {
    return this.#play(`made/${name}`, volume, async (to) => {
      const samples = synthesized(name, to.sampleRate);
      if (!samples) return null;
      const buffer = new AudioBuffer({ length: samples.length, sampleRate: to.sampleRate });
      buffer.copyToChannel(samples, 0);
      return buffer;
    });
  }

  /** Stops a sound of a file, or one made by its name, wherever it is played. */
  stop(of: { readonly hash: string } | { readonly made: string }): void {
    const key = 'hash' in of ? of.hash : `made/${of.made}`;
    for (const source of this.#heard.get(key) ?? []) source.stop();
  }
  /** What is being heard. */
  readonly #heard = new Map<string, Set<AudioBufferSourceNode>>();

  async #play(
    key: string,
    volume: number,
    make: (to: AudioContext) => Promise<AudioBuffer | null>,
  ): Promise<boolean> {
    // A page may make sound only after somebody has done something on it, so this is made late.
    this.#context ??= new AudioContext();
    const context = this.#context;
    let buffer = this.#decoded.get(key);
    if (!buffer) {
      buffer = make(context);
      this.#decoded.set(key, buffer);
    }
    const data = await buffer;
    if (!data) {
      this.#decoded.delete(key);
      return false;
    }
    const source = new AudioBufferSourceNode(context, { buffer: data });
    const loud = new GainNode(context, { gain: volume });
    source.connect(loud).connect(context.destination);
    const heard = this.#heard.get(key) ?? new Set();
    this.#heard.set(key, heard.add(source));
    source.onended = () => heard.delete(source);
    source.start();
    return true;
  }

  async #decode(to: AudioContext, hash: string): Promise<AudioBuffer | null> {
    const bytes = await this.#load(hash);
    return bytes ? to.decodeAudioData(bytes).catch(() => null) : null;
  }
}

/** What a run plays and stops, heard by this player. */
export function sounds(player: SoundPlayer): PagePart {
  return {
    tell: (records, { program: { piece } }) => {
      for (const r of records) {
        const sound = r.sound === undefined ? undefined : piece.sounds[r.sound];
        const asset = piece.assets[sound?.asset ?? ''];
        const hash = asset?.kind === 'sound' ? asset.hash : undefined;
        if (r.kind === 'sound') {
          if (hash !== undefined) void player.play(hash, r.volume);
          else if (sound?.synth !== undefined) void player.playMade(sound.synth, r.volume);
        }
        if (r.action !== 'stopSound') continue;
        if (hash !== undefined) player.stop({ hash });
        else if (sound?.synth !== undefined) player.stop({ made: sound.synth });
      }
    },
  };
}
