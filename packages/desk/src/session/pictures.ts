/** Pictures as the painter needs them, decoded once from the bytes that this browser keeps. */
import type { Asset, FileAsset, PictureAsset } from '@apple-tick/core/model';
import { db } from './keeping.ts';

/** By hash: decoded ones are shared by all pieces and thumbnails of this page. */
const known = new Map<string, ImageBitmap | 'missing'>();
const coming = new Map<string, Promise<void>>();

/**
 * The pictures of the assets that `find` knows, for the painter: undefined while one is being decoded (`onCame` then
 * says when it is there) and when its bytes are not kept here.
 */
export function picturesOf(
  find: (id: string) => Asset | undefined,
  onCame: () => void,
): (id: string) => ImageBitmap | undefined {
  return (id) => {
    const asset = find(id);
    if (asset?.kind !== 'image') return undefined;
    const now = known.get(asset.hash);
    if (now === undefined) {
      let load = coming.get(asset.hash);
      if (!load) {
        load = decode(asset);
        coming.set(asset.hash, load);
      }
      void load.then(onCame);
    }
    return typeof now === 'object' ? now : undefined;
  };
}

async function decode(asset: PictureAsset): Promise<void> {
  const kept = await db.assets.get(asset.hash);
  try {
    if (!kept) throw new Error('not kept here');
    known.set(asset.hash, await createImageBitmap(new Blob([kept.bytes], { type: asset.mime })));
  } catch {
    known.set(asset.hash, 'missing');
  }
  coming.delete(asset.hash);
}

/** Keeps the bytes of pictures and sounds by their hash, so that equal ones are kept once, in whatever pieces they are. */
export async function keepBytes(list: readonly { hash: string; bytes: ArrayBuffer }[]): Promise<void> {
  await db.assets.bulkPut(list.map((x) => ({ ...x, at: Date.now() })));
  // One that was missed before is here now.
  for (const { hash } of list) if (known.get(hash) === 'missing') known.delete(hash);
}

/** The bytes of a piece's files, for handing it over; what is not kept here is left out. */
export async function bytesOf(assets: readonly FileAsset[]): Promise<Map<string, Uint8Array>> {
  const rows = await db.assets.bulkGet(assets.map((a) => a.hash));
  const out = new Map<string, Uint8Array>();
  rows.forEach((r, i) => {
    if (r) out.set((assets[i] as Asset).id, new Uint8Array(r.bytes));
  });
  return out;
}
