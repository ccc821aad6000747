/**
 * What kind of sound a file holds, by its first bytes: RIFF WAVE (Microsoft, 1991), MPEG audio (ISO 11172-3, with or
 * without an ID3v2 tag), Ogg (RFC 3533), FLAC (RFC 9639), MP4 (ISO 14496-12). What it really holds only a decoder can tell.
 */
import type { SoundType } from '../model/index.ts';
import { fileKind } from './file-kind.ts';

export function soundType(b: Uint8Array): SoundType | null {
  const text = (at: number, n: number) => String.fromCharCode(...b.subarray(at, at + n));
  if (text(0, 4) === 'RIFF' && text(8, 4) === 'WAVE') return 'audio/wav';
  if (text(0, 4) === 'OggS') return 'audio/ogg';
  if (text(0, 4) === 'fLaC') return 'audio/flac';
  // The same container holds pictures, whose brands say so.
  if (text(4, 4) === 'ftyp') return fileKind(b) ? null : 'audio/mp4';
  // Eleven bits set begin a frame; the layer's two bits are never both clear.
  const frame = b[0] === 0xff && ((b[1] ?? 0) & 0xe0) === 0xe0 && ((b[1] ?? 0) & 0x06) !== 0;
  return text(0, 3) === 'ID3' || frame ? 'audio/mpeg' : null;
}
