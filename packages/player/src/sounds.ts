/** Sounds that were brought in, decoded once by their hash; several at once are mixed. */

export class SoundPlayer {
  #context: AudioContext | null = null;
  /** By hash; null while it cannot be heard. */
  readonly #decoded = new Map<string, Promise<AudioBuffer | null>>();
  readonly #load: (hash: string) => Promise<ArrayBuffer | null>;

  /** `load`: the bytes of a sound; they are taken away. */
  constructor(load: (hash: string) => Promise<ArrayBuffer | null>) {
    this.#load = load;
  }

  /** Plays the sound from its start. Returns whether it could be heard. */
  async play(hash: string): Promise<boolean> {
    // A page may make sound only after somebody has done something on it, so this is made late.
    this.#context ??= new AudioContext();
    const context = this.#context;
    let buffer = this.#decoded.get(hash);
    if (!buffer) {
      buffer = this.#decode(context, hash);
      this.#decoded.set(hash, buffer);
    }
    const data = await buffer;
    if (!data) {
      this.#decoded.delete(hash);
      return false;
    }
    const source = new AudioBufferSourceNode(context, { buffer: data });
    source.connect(context.destination);
    source.start();
    return true;
  }

  async #decode(to: AudioContext, hash: string): Promise<AudioBuffer | null> {
    const bytes = await this.#load(hash);
    return bytes ? to.decodeAudioData(bytes).catch(() => null) : null;
  }
}
