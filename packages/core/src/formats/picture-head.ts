/**
 * What a picture's file claims about itself, read from its first bytes before anything decodes it: a small file may
 * claim a size that no memory holds. Layouts: PNG (W3C), JPEG (ITU-T T.81, B.1), WebP container (RFC 9649).
 */
import type { Problem, Result } from '../base/index.ts';
import { MAX_SIDE, type PictureType } from '../model/index.ts';

export interface PictureHead {
  readonly mime: PictureType;
  readonly width: number;
  readonly height: number;
}

/** Px in all: beyond it a decoded picture takes more memory than a page should. */
const MAX_PIXELS = 40_000_000;

export function readPictureHead(b: Uint8Array): Result<PictureHead> {
  const head = png(b) ?? jpeg(b) ?? webp(b);
  const fail = (message: string): Result<PictureHead> => {
    const problem: Problem = { code: 'picture', path: '', message };
    return { ok: false, problems: [problem] };
  };
  if (!head) return fail('The file is not a PNG, JPEG or WebP picture.');
  if (!(head.width > 0 && head.height > 0)) return fail('The picture is broken: it has no size.');
  if (head.width > MAX_SIDE || head.height > MAX_SIDE || head.width * head.height > MAX_PIXELS)
    return fail(
      `The picture says it is ${head.width} × ${head.height} px: at most ${MAX_SIDE} a side and ${MAX_PIXELS / 1e6} million in all can be brought in.`,
    );
  return { ok: true, value: head };
}

const text = (b: Uint8Array, at: number, n: number) => String.fromCharCode(...b.subarray(at, at + n));
const u16 = (b: Uint8Array, at: number) => ((b[at] ?? 0) << 8) | (b[at + 1] ?? 0);
const u32 = (b: Uint8Array, at: number) => u16(b, at) * 65536 + u16(b, at + 2);
const le = (b: Uint8Array, at: number, n: number) => {
  let v = 0;
  for (let i = n - 1; i >= 0; i--) v = v * 256 + (b[at + i] ?? 0);
  return v;
};

function png(b: Uint8Array): PictureHead | null {
  if (text(b, 0, 8) !== '\x89PNG\r\n\x1a\n' || text(b, 12, 4) !== 'IHDR') return null;
  return { mime: 'image/png', width: u32(b, 16), height: u32(b, 20) };
}

function jpeg(b: Uint8Array): PictureHead | null {
  if (u16(b, 0) !== 0xffd8) return null;
  for (let at = 2; at + 9 < b.length; ) {
    if (b[at] !== 0xff) return { mime: 'image/jpeg', width: 0, height: 0 };
    const marker = b[at + 1] as number;
    // Frame headers are C0–CF without the tables C4, C8 and CC.
    if (marker >= 0xc0 && marker <= 0xcf && marker !== 0xc4 && marker !== 0xc8 && marker !== 0xcc)
      return { mime: 'image/jpeg', width: u16(b, at + 7), height: u16(b, at + 5) };
    at += marker === 0xff ? 1 : 2 + u16(b, at + 2);
  }
  return { mime: 'image/jpeg', width: 0, height: 0 };
}

function webp(b: Uint8Array): PictureHead | null {
  if (text(b, 0, 4) !== 'RIFF' || text(b, 8, 4) !== 'WEBP') return null;
  const kind = text(b, 12, 4);
  const mime = 'image/webp';
  if (kind === 'VP8X') return { mime, width: 1 + le(b, 24, 3), height: 1 + le(b, 27, 3) };
  if (kind === 'VP8 ') return { mime, width: le(b, 26, 2) & 0x3fff, height: le(b, 28, 2) & 0x3fff };
  if (kind === 'VP8L') {
    const bits = le(b, 21, 4);
    return { mime, width: 1 + (bits & 0x3fff), height: 1 + (Math.floor(bits / 16384) & 0x3fff) };
  }
  return { mime, width: 0, height: 0 };
}
