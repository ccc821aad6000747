/** What the command line writes: sentences without control characters, and lines that reach a file or a pipe at once. */
import { closeSync, openSync, writeSync } from 'node:fs';

/** What a person or a script did wrong; told in one sentence, exit code 2. */
export class UsedWrongly extends Error {}

/** Whoever reads the output has gone (as `head` does): there is nobody left to tell. */
export class Unheard extends Error {}

// biome-ignore lint/suspicious/noControlCharactersInRegex: these are what is looked for.
const CONTROLS = /[\u0000-\u001f\u007f-\u009f\u200e\u200f\u2028-\u202e\u2066-\u2069]/g;

/** A text from a file or an argument as one line that no terminal takes for a command. */
export function plainText(text: string): string {
  return text.replace(CONTROLS, (c) => `\\u${c.charCodeAt(0).toString(16).padStart(4, '0')}`);
}

const SENTENCES: Record<string, string> = {
  ENOENT: 'there is no such file or folder',
  EISDIR: 'this is a folder, not a file',
  ENOTDIR: 'a part of this path is not a folder',
  EACCES: 'this may not be used here',
  EPERM: 'this may not be used here',
  EROFS: 'this disk can only be read',
  ENOSPC: 'the disk is full',
  EFBIG: 'the file becomes too large',
  EMFILE: 'too many files are open',
};

/** Why the system refused something, as part of a sentence. */
export function systemReason(e: unknown): string {
  const { code } = e as NodeJS.ErrnoException;
  return SENTENCES[code ?? ''] ?? `the system refuses it${code ? ` (${code})` : ''}`;
}

const CHUNK = 64 * 1024;

/** Writes lines to a file, or to standard output when `file` is null; what is written is not gathered in memory. */
export class Lines {
  private readonly fd: number;
  private readonly name: string;
  private waiting: string[] = [];
  private length = 0;

  constructor(file: string | null) {
    this.name = file ?? 'standard output';
    try {
      this.fd = file === null ? 1 : openSync(file, 'w');
    } catch (e) {
      throw new UsedWrongly(`${this.name}: cannot be written, ${systemReason(e)}.`);
    }
  }

  /** `json` is one line; control characters that JSON leaves as they are become escapes, which mean the same. */
  line(json: string): void {
    const text = `${plainText(json)}\n`;
    this.waiting.push(text);
    this.length += text.length;
    if (this.length >= CHUNK) this.flush();
  }

  close(): void {
    this.flush();
    if (this.fd !== 1) closeSync(this.fd);
  }

  private flush(): void {
    const bytes = Buffer.from(this.waiting.join(''));
    this.waiting = [];
    this.length = 0;
    for (let at = 0; at < bytes.length; ) at += this.write(bytes, at);
  }

  private write(bytes: Uint8Array, at: number): number {
    try {
      return writeSync(this.fd, bytes, at);
    } catch (e) {
      const { code } = e as NodeJS.ErrnoException;
      if (code === 'EPIPE') throw new Unheard();
      if (code !== 'EAGAIN') throw new UsedWrongly(`${this.name}: cannot be written, ${systemReason(e)}.`);
      // A pipe that is full: whoever reads it needs a moment.
      Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, 5);
      return 0;
    }
  }
}
