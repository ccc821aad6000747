/** Pictures as they are kept, read where no page is held up: in a worker. */
import type { Problem, Result } from '@apple-tick/core/base';
import { fileKind, readPictureHead } from '@apple-tick/core/formats';
import { type Alpha, type Asset, MAX_CELLS } from '@apple-tick/core/model';
import type { KeptBytes } from './import-worker.ts';

export function no(message: string): { ok: false; problems: Problem[] } {
  return { ok: false, problems: [{ code: 'file', path: '', message }] };
}

/** One picture of one that moves, and how long it is shown. */
interface Frame {
  readonly png: ArrayBuffer;
  readonly seconds: number;
}

interface DecodedPicture {
  /** One, or those of a picture that moves. */
  readonly frames: readonly Frame[];
  readonly notes: readonly string[];
}

/** Pictures of one that moves: more of them, or larger ones, are a film. */
const MAX_FRAMES = 150;
const MAX_FRAME_PIXELS = 24_000_000;
/** What a picture without a time of its own is shown, seconds. */
const USUAL = 0.1;

/** A picture as it is kept: one of a kind that only some browsers know becomes a PNG, as each one of a moving one does. */
export async function decodedPicture(bytes: ArrayBuffer, start: Uint8Array): Promise<Result<DecodedPicture>> {
  const kind = fileKind(start);
  const head = readPictureHead(new Uint8Array(bytes));
  const type = kind?.decodes ?? (head.ok ? head.value.mime : undefined);
  if (type !== undefined && type !== 'image/jpeg') {
    const { frames, count } = await framesOf(bytes, type);
    if (frames) return { ok: true, value: { frames, notes: [] } };
    if (count > 1) {
      const first = await firstOf(bytes, type);
      const notes = [`its motion: its ${count} pictures are more than can be kept, only the first is here`];
      if (first) return { ok: true, value: { frames: [{ png: first, seconds: 0 }], notes } };
    }
  }
  if (kind?.decodes === undefined)
    return { ok: true, value: { frames: [{ png: bytes, seconds: 0 }], notes: [] } };
  const png = await firstOf(bytes, kind.decodes);
  return png
    ? { ok: true, value: { frames: [{ png, seconds: 0 }], notes: [] } }
    : no(`${kind.words.replace(/^a/, 'A')} cannot be read by this browser: save it as a PNG.`);
}

async function firstOf(bytes: ArrayBuffer, type: string): Promise<ArrayBuffer | null> {
  try {
    const bitmap = await createImageBitmap(new Blob([bytes], { type }));
    const png = await pngOf(bitmap, bitmap.width, bitmap.height);
    bitmap.close();
    return png;
  } catch {
    return null;
  }
}

async function pngOf(image: CanvasImageSource, width: number, height: number): Promise<ArrayBuffer> {
  const canvas = new OffscreenCanvas(width, height);
  canvas.getContext('2d')?.drawImage(image, 0, 0);
  return (await canvas.convertToBlob({ type: 'image/png' })).arrayBuffer();
}

/** The pictures of one that moves, and how many there are; none where it does not move, or there are too many. */
async function framesOf(
  bytes: ArrayBuffer,
  type: string,
): Promise<{ frames: readonly Frame[] | null; count: number }> {
  if (typeof ImageDecoder === 'undefined') return { frames: null, count: 1 };
  const decoder = new ImageDecoder({ data: bytes.slice(0), type });
  try {
    await decoder.completed;
    await decoder.tracks.ready;
    const count = decoder.tracks.selectedTrack?.frameCount ?? 1;
    if (count < 2 || count > MAX_FRAMES) return { frames: null, count };
    const frames: Frame[] = [];
    for (let frameIndex = 0; frameIndex < count; frameIndex++) {
      const { image } = await decoder.decode({ frameIndex });
      const { displayWidth: w, displayHeight: h, duration } = image;
      if (w * h * count > MAX_FRAME_PIXELS) return { frames: null, count };
      frames.push({ png: await pngOf(image, w, h), seconds: duration ? duration / 1e6 : USUAL });
      image.close();
    }
    return { frames, count };
  } catch {
    return { frames: null, count: 1 };
  } finally {
    decoder.close();
  }
}

/**
 * The picture with its longer side of `side` px, and the width and height that it had; null for one that is not larger, or
 * cannot be decoded. What has no alpha stays a JPEG, everything else becomes a PNG.
 */
export async function smallerPicture(
  bytes: ArrayBuffer,
  side: number,
): Promise<{ bytes: ArrayBuffer; from: [number, number] } | null> {
  const head = readPictureHead(new Uint8Array(bytes));
  if (!head.ok || Math.max(head.value.width, head.value.height) <= side) return null;
  const { mime } = head.value;
  try {
    // A photograph may be turned: only what is decoded says which side is which.
    const bitmap = await createImageBitmap(new Blob([bytes], { type: mime }));
    const { width, height } = bitmap;
    const k = side / Math.max(width, height);
    const canvas = new OffscreenCanvas(
      Math.max(1, Math.round(width * k)),
      Math.max(1, Math.round(height * k)),
    );
    const ctx = canvas.getContext('2d');
    if (!ctx) return null;
    ctx.imageSmoothingQuality = 'high';
    ctx.drawImage(bitmap, 0, 0, canvas.width, canvas.height);
    bitmap.close();
    const type = mime === 'image/jpeg' ? mime : 'image/png';
    const blob = await canvas.convertToBlob({ type, quality: 0.92 });
    return { bytes: await blob.arrayBuffer(), from: [width, height] };
  } catch {
    return null;
  }
}

export interface PictureFound {
  readonly asset: Asset & { readonly width: number; readonly height: number };
  readonly kept: KeptBytes;
}

/** A picture's asset, once the browser has decoded it. */
export async function readPicture(
  bytes: ArrayBuffer,
  id: string,
  name: string,
): Promise<Result<PictureFound>> {
  const head = readPictureHead(new Uint8Array(bytes));
  if (!head.ok) return head;
  const { mime } = head.value;
  let { width, height } = head.value;
  let alpha: Alpha | null = null;
  try {
    const bitmap = await createImageBitmap(new Blob([bytes], { type: mime }));
    // A photograph that says it was taken with a turned camera is decoded the other way round.
    const turned = bitmap.width === height && bitmap.height === width;
    const sound = turned || (bitmap.width === width && bitmap.height === height);
    [width, height] = [bitmap.width, bitmap.height];
    if (mime !== 'image/jpeg') alpha = alphaOf(bitmap);
    bitmap.close();
    if (!sound) return no('The picture is broken: it is not as large as it says.');
  } catch {
    return no('The picture is broken: it cannot be decoded.');
  }
  const hash = await sha256(bytes);
  const asset = { id, name, kind: 'image' as const, mime, width, height, hash, ...(alpha ? { alpha } : {}) };
  return { ok: true, value: { asset, kept: { hash, bytes } } };
}

/** How opaque the picture is, in at most 128 cells a side; null when it is so all over. */
function alphaOf(picture: ImageBitmap): Alpha | null {
  const k = Math.min(1, MAX_CELLS / Math.max(picture.width, picture.height));
  const columns = Math.max(1, Math.round(picture.width * k));
  const rows = Math.max(1, Math.round(picture.height * k));
  const ctx = new OffscreenCanvas(columns, rows).getContext('2d');
  if (!ctx) return null;
  ctx.imageSmoothingQuality = 'high';
  ctx.drawImage(picture, 0, 0, columns, rows);
  const { data } = ctx.getImageData(0, 0, columns, rows);
  let cells = '';
  for (let i = 3; i < data.length; i += 4) cells += Math.round(((data[i] as number) * 15) / 255).toString(16);
  return /^f*$/.test(cells) ? null : { columns, rows, cells };
}

/** Px a side: textures give colours of whole triangles. */
const FINEST = 1024;

/** The px of a picture, not finer than they have to be for that; null for one that cannot be decoded. */
export async function pixelsOf(bytes: Uint8Array, mime: string) {
  try {
    const bitmap = await createImageBitmap(new Blob([bytes.slice()], { type: mime }));
    const k = Math.min(1, FINEST / Math.max(bitmap.width, bitmap.height));
    const [width, height] = [
      Math.max(1, Math.round(bitmap.width * k)),
      Math.max(1, Math.round(bitmap.height * k)),
    ];
    const ctx = new OffscreenCanvas(width, height).getContext('2d');
    ctx?.drawImage(bitmap, 0, 0, width, height);
    bitmap.close();
    const data = ctx?.getImageData(0, 0, width, height).data;
    return data ? { width, height, data } : null;
  } catch {
    return null;
  }
}

export async function sha256(bytes: ArrayBuffer): Promise<string> {
  const digest = new Uint8Array(await crypto.subtle.digest('SHA-256', bytes));
  return [...digest].map((b) => b.toString(16).padStart(2, '0')).join('');
}
