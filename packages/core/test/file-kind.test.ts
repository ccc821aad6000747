import { expect, it } from 'vitest';
import { fileKind, soundType } from '../src/formats/index.ts';

const bytes = (text: string) => Uint8Array.from(text.padEnd(16, ' '), (c) => c.charCodeAt(0));

it.each([
  ['GIF89a', 'a GIF picture', null],
  ['\0\0\0 ftypavif', 'an AVIF picture', null],
  ['\0\0\0 ftypheic', 'a HEIC picture', null],
  ['\0\0\0 ftypM4A ', undefined, 'audio/mp4'],
  ['MM\0*', 'a TIFF picture', null],
  ['FORM....AIFF', 'an AIFF sound', null],
  ['fLaC', undefined, 'audio/flac'],
  ['RIFF....WAVE', undefined, 'audio/wav'],
  ['%PDF-1.7', 'a PDF', null],
  ['hello', undefined, null],
  ['', undefined, null],
])('a file that begins with %j is %s, and a sound of the type %s', (start, words, sound) => {
  expect(fileKind(bytes(start))?.words).toBe(words);
  expect(soundType(bytes(start))).toBe(sound);
});
