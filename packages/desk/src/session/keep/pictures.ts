/** Pictures as the painter needs them, decoded once from the bytes that this browser keeps. */
import type { Asset, FileAsset, PictureAsset } from '@apple-tick/core/model';
import { db, isFull } from './storage.ts';

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
  try {
    const kept = await db.assets.get(asset.hash);
    if (!kept) throw new Error('not kept here');
    known.set(asset.hash, await createImageBitmap(new Blob([kept.bytes], { type: asset.mime })));
  } catch {
    known.set(asset.hash, 'missing');
  }
  coming.delete(asset.hash);
}

/**
 * Keeps the bytes of pictures and sounds by their hash, so that equal ones are kept once, in whatever pieces they are.
 * When they cannot be kept, the reason as a sentence; then none of them is.
 */
export async function keepBytes(
  list: readonly { hash: string; bytes: ArrayBuffer }[],
): Promise<string | null> {
  try {
    await db.assets.bulkPut(list.map((x) => ({ ...x, at: Date.now() })));
  } catch (e) {
    const size = list.reduce((n, x) => n + x.bytes.byteLength, 0);
    const mb = `${(size / 1024 / 1024).toFixed(1)} MB`;
    return isFull(e)
      ? `There is no room for it in this browser (${mb}): delete pieces on the shelf, or bring in a smaller file.`
      : `This browser does not keep it (${mb}): nothing was changed.`;
  }
  // One that was missed before is here now.
  for (const { hash } of list) if (known.get(hash) === 'missing') known.delete(hash);
  return null;
}

/** The files of these that are not kept here, are kept broken, or cannot be decoded: a sentence each. */
export async function missingFiles(assets: readonly FileAsset[]): Promise<string[]> {
  const files = await bytesOf(assets).catch(() => new Map<string, Uint8Array>());
  return assets
    .filter((a) => !files.has(a.id) || known.get(a.hash) === 'missing')
    .map((a) => {
      const what = a.kind === 'image' ? 'picture' : 'sound';
      return `The ${what} “${a.name}” is missing here, or broken: bring it in again.`;
    });
}

/** The bytes of a piece's files, for handing it over; what is not kept here, or is broken, is left out. */
export async function bytesOf(assets: readonly FileAsset[]): Promise<Map<string, Uint8Array>> {
  if (assets.length === 0) return new Map();
  const rows = await db.assets.bulkGet(assets.map((a) => a.hash));
  const { fileProblem } = await import('./handed-over.ts');
  const out = new Map<string, Uint8Array>();
  rows.forEach((r, i) => {
    const asset = assets[i] as FileAsset;
    const bytes = r?.bytes instanceof ArrayBuffer ? new Uint8Array(r.bytes) : null;
    if (bytes && fileProblem(asset, bytes) === null) out.set(asset.id, bytes);
  });
  return out;
}
