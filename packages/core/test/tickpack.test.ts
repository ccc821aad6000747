import { strToU8, zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { isZip, readPictureHead, readTickpack, writeTickpack } from '../src/formats/index.ts';
import { crc32, readZipList } from '../src/formats/zip-list.ts';
import { type Asset, defaultBase, emptyPiece, type Piece } from '../src/model/index.ts';
import { seeded } from '../testing/random.ts';

/** A PNG's first bytes: enough for its head. */
const pngHead = (w: number, h: number) => {
  const b = new Uint8Array(33);
  b.set([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 0, 0, 0, 13, 0x49, 0x48, 0x44, 0x52]);
  new DataView(b.buffer).setUint32(16, w);
  new DataView(b.buffer).setUint32(20, h);
  return b;
};
const jpegHead = (w: number, h: number) =>
  Uint8Array.of(
    0xff,
    0xd8,
    0xff,
    0xe0,
    0,
    4,
    1,
    1,
    0xff,
    0xc2,
    0,
    11,
    8,
    h >> 8,
    h & 255,
    w >> 8,
    w & 255,
    3,
    0,
    0,
  );
const webpHead = (w: number, h: number) => {
  const b = new Uint8Array(30);
  b.set(strToU8('RIFF'), 0);
  b.set(strToU8('WEBPVP8X'), 8);
  b.set([(w - 1) & 255, (w - 1) >> 8, 0, (h - 1) & 255, (h - 1) >> 8, 0], 24);
  return b;
};
const asset: Asset = {
  id: 'as_a',
  name: 'tile',
  kind: 'image',
  mime: 'image/png',
  width: 40,
  height: 20,
  hash: 'a'.repeat(64),
};
const withPicture = (): Piece => ({
  ...emptyPiece('p', 'Tiles'),
  assets: { as_a: asset },
  objects: {
    ob_i: {
      id: 'ob_i',
      name: 'Tile',
      parent: null,
      order: 'a0',
      tags: [],
      hint: '',
      base: defaultBase(),
      kind: 'image',
      asset: 'as_a',
      size: [40, 20],
      pixel: true,
    },
  },
});
const sentence = (r: ReturnType<typeof readTickpack>) =>
  r.ok ? null : `${r.problems[0]?.path}: ${r.problems[0]?.message}`;
const zip = (entries: Record<string, Uint8Array>) => zipSync(entries);
const json = (p: Piece) => strToU8(JSON.stringify(p));

describe('heads of pictures', () => {
  it('say kind and size without decoding', () => {
    for (const [bytes, mime] of [
      [pngHead(300, 200), 'image/png'],
      [jpegHead(300, 200), 'image/jpeg'],
      [webpHead(300, 200), 'image/webp'],
    ] as const)
      expect(readPictureHead(bytes)).toEqual({ ok: true, value: { mime, width: 300, height: 200 } });
  });

  it('a picture that claims to be enormous, that has no size, or is none, is refused', () => {
    const message = (b: Uint8Array) => {
      const r = readPictureHead(b);
      return r.ok ? '' : (r.problems[0]?.message ?? '');
    };
    expect(message(pngHead(65535, 65535))).toContain('65535 × 65535');
    expect(message(jpegHead(65535, 65535))).toContain('at most 8192 a side');
    expect(message(pngHead(8000, 8000))).toContain('million in all');
    expect(message(pngHead(0, 10))).toContain('no size');
    expect(message(jpegHead(300, 200).slice(0, 9))).toContain('no size');
    expect(message(strToU8('<svg/>'))).toContain('not a PNG');
    expect(message(new Uint8Array())).toContain('not a PNG');
  });

  it('random bytes never throw', () => {
    const random = seeded(4);
    for (let n = 0; n < 2000; n++) {
      const kind = [pngHead(9, 9), jpegHead(9, 9), webpHead(9, 9)][n % 3] as Uint8Array;
      const b = kind.slice(0, Math.floor(random() * kind.length));
      for (let i = 0; i < 4; i++) b[Math.floor(random() * b.length)] = Math.floor(random() * 256);
      readPictureHead(b);
    }
  });
});

describe('tickpacks', () => {
  it('carry a piece and its pictures both ways', () => {
    const packed = writeTickpack(withPicture(), new Map([['as_a', pngHead(40, 20)]]));
    expect(isZip(packed)).toBe(true);
    const r = readTickpack(packed);
    if (!r.ok) throw new Error(sentence(r) ?? '');
    expect(r.value.piece).toEqual(withPicture());
    expect(r.value.files.get('as_a')).toEqual(pngHead(40, 20));
  });

  it('other names, also those that lead out of the folder, are refused', () => {
    for (const name of [
      '../piece.json',
      'assets/../../x.png',
      '/etc/passwd',
      'assets/as_a.svg',
      'readme.txt',
    ])
      expect(
        sentence(readTickpack(zip({ 'piece.json': json(withPicture()), [name]: new Uint8Array(3) }))),
      ).toContain('does not belong');
  });

  it('another picture, a broken zip, a lying size, no piece: each one sentence', () => {
    const piece = json(withPicture());
    expect(
      sentence(readTickpack(zip({ 'piece.json': piece, 'assets/as_a.png': pngHead(41, 20) }))),
    ).toContain('not what the asset');
    expect(
      sentence(readTickpack(zip({ 'piece.json': piece, 'assets/as_a.png': pngHead(65535, 65535) }))),
    ).toContain('65535');
    expect(sentence(readTickpack(zip({ 'assets/as_a.png': pngHead(40, 20) })))).toContain(
      'holds no piece.json',
    );
    expect(sentence(readTickpack(zip({ 'piece.json': strToU8('{') })))).toContain('JSON');
    const good = zip({ 'piece.json': piece });
    expect(sentence(readTickpack(good.slice(0, good.length / 2)))).toContain('broken');
    // The central directory says that the piece is ten bytes long.
    const liar = good.slice();
    const view = new DataView(liar.buffer);
    for (let i = 0; i < liar.length - 4; i++)
      if (view.getUint32(i, true) === 0x02014b50) view.setUint32(i + 24, 10, true);
    expect(readTickpack(liar).ok).toBe(false);
    for (let i = 0; i < liar.length - 4; i++)
      if (view.getUint32(i, true) === 0x02014b50) view.setUint32(i + 24, 0x7fffffff, true);
    expect(sentence(readTickpack(liar))).toContain('too large');
  });

  it('a picture that whoever packed it did not have is named, and the rest is read', () => {
    const r = readTickpack(writeTickpack(withPicture(), new Map()));
    if (!r.ok) throw new Error(sentence(r) ?? '');
    expect(r.value.missing).toEqual(['tile']);
    expect(r.value.piece).toEqual(withPicture());
  });

  it('an encrypted entry, and one that is not what the list says, are refused by their names', () => {
    const good = writeTickpack(withPicture(), new Map([['as_a', pngHead(40, 20)]]));
    const changed = (field: number, change: (old: number) => number) => {
      const b = good.slice();
      const view = new DataView(b.buffer);
      // Only the last entry, which is the picture.
      for (let i = b.length - 4; i >= 0; i--)
        if (view.getUint32(i, true) === 0x02014b50) {
          view.setUint32(i + field, change(view.getUint32(i + field, true)), true);
          break;
        }
      return sentence(readTickpack(b));
    };
    expect(changed(8, (flags) => flags | 1)).toBe(
      'assets/as_a.png: This entry is encrypted, which a tickpack never is.',
    );
    expect(changed(24, (size) => size - 3)).toContain('assets/as_a.png: This entry is broken');
    expect(changed(16, (crc) => crc ^ 1)).toContain('assets/as_a.png: This entry is broken');
    expect(changed(24, (size) => size)).toBeNull();
  });

  it('checksums are those that zips have, and a list cut short or pointing nowhere is none', () => {
    expect(crc32(strToU8('123456789'))).toBe(0xcbf43926);
    expect(crc32(new Uint8Array())).toBe(0);
    const random = seeded(9);
    const good = writeTickpack(withPicture(), new Map());
    expect(readZipList(good)?.map((e) => e.name)).toEqual(['piece.json']);
    for (let n = 0; n < 500; n++) {
      const b = good.slice(0, Math.floor(random() * good.length));
      for (let i = 0; i < 5; i++) b[Math.floor(random() * b.length)] = Math.floor(random() * 256);
      readZipList(b);
      readTickpack(b);
    }
  });
});
