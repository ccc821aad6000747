/**
 * What a file is by its first bytes, so that one that cannot be brought in is named for what it is: GIF (89a), BMP, TIFF 6.0,
 * ISO base media brands (ISO 14496-12; AVIF and HEIF ISO 23008-12), FLAC (RFC 9639), AIFF-C, Matroska (RFC 9559), PDF, zip.
 */

export interface FileKind {
  /** With its article: `a GIF picture`. */
  readonly words: string;
  /** Of a picture that browsers may decode although it is not kept as it is; absent for all others. */
  readonly decodes?: string;
}

const BRANDS: Readonly<Record<string, FileKind>> = {
  avif: { words: 'an AVIF picture', decodes: 'image/avif' },
  avis: { words: 'an AVIF picture', decodes: 'image/avif' },
  heic: { words: 'a HEIC picture' },
  heix: { words: 'a HEIC picture' },
  mif1: { words: 'a HEIF picture' },
};

/** `b`: at least its first 16 bytes; null for what is not known. */
export function fileKind(b: Uint8Array): FileKind | null {
  const text = (at: number, n: number) => String.fromCharCode(...b.subarray(at, at + n));
  const start = text(0, 4);
  if (start === 'GIF8') return { words: 'a GIF picture', decodes: 'image/gif' };
  if (text(0, 2) === 'BM') return { words: 'a BMP picture', decodes: 'image/bmp' };
  if (start === 'II*\0' || start === 'MM\0*') return { words: 'a TIFF picture' };
  if (start === '%PDF') return { words: 'a PDF' };
  if (start === '8BPS') return { words: 'a layered picture of a paint program' };
  if (start === 'FORM' && text(8, 3) === 'AIF') return { words: 'an AIFF sound' };
  if (start === '\x1a\x45\xdf\xa3') return { words: 'a WebM or Matroska film' };
  if (start === 'PK\x03\x04') return { words: 'a zip' };
  if (text(4, 4) === 'ftyp') return BRANDS[text(8, 4)] ?? null;
  return null;
}
