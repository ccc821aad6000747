/**
 * In the page: a drawing as it is brought in and painted here, against what the browser itself paints of it.
 */
import type { IdKind } from '@apple-tick/core/base';
import { importSvg } from '@apple-tick/core/formats';
import { emptyPiece } from '@apple-tick/core/model';
import { compile, FaceBuilder } from '@apple-tick/core/run';
import { paintFaces } from '@apple-tick/painter';
import { paintPart } from '../../../packages/desk/src/ui/paint-part.ts';

/** Side of the squares that are compared, px. */
const SIDE = 256;

export interface Compared {
  /** Why it was not brought in; null when it was. */
  readonly refused: string | null;
  readonly notes: readonly string[];
  /** Mean difference of the colour channels over all px that either paints, on white, in per cent. */
  readonly difference: number;
  readonly objects: number;
  /** Ms, for reading it here and for the browser to parse it. */
  readonly reading: number;
  readonly parsing: number;
  /** Both pictures, ours first, as data addresses; only when asked for. */
  readonly pictures: readonly [string, string] | null;
}

/** What is painted, on white. */
function onWhite(ctx: CanvasRenderingContext2D): Uint8ClampedArray {
  ctx.globalCompositeOperation = 'destination-over';
  ctx.fillStyle = '#fff';
  ctx.fillRect(0, 0, SIDE, SIDE);
  return ctx.getImageData(0, 0, SIDE, SIDE).data;
}

function sheet(): CanvasRenderingContext2D {
  const canvas = document.createElement('canvas');
  canvas.width = canvas.height = SIDE;
  const ctx = canvas.getContext('2d', { willReadFrequently: true }) as CanvasRenderingContext2D;
  return ctx;
}

/** What the browser paints, fitted into the square; null when it paints none. */
async function byBrowser(text: string): Promise<CanvasRenderingContext2D | null> {
  const ctx = sheet();
  const root = new DOMParser().parseFromString(text, 'image/svg+xml').documentElement;
  const [w, h] = sizeOf(root);
  const k = SIDE / Math.max(w, h);
  // The browser paints a picture as large as it says it is: it is told to paint this one as large as it is compared.
  const box = root.getAttribute('viewBox');
  if (!box) root.setAttribute('viewBox', `0 0 ${w} ${h}`);
  root.setAttribute('width', String(w * k));
  root.setAttribute('height', String(h * k));
  root.removeAttribute('style');

  const blob = new Blob([new XMLSerializer().serializeToString(root)], { type: 'image/svg+xml' });
  const url = URL.createObjectURL(blob);
  const img = new Image();
  try {
    img.src = url;
    await img.decode();
  } catch {
    return null;
  } finally {
    URL.revokeObjectURL(url);
  }
  ctx.drawImage(img, (SIDE - w * k) / 2, (SIDE - h * k) / 2, w * k, h * k);
  return ctx;
}

/** Width and height that count: of the view box, else of the picture. */
function sizeOf(root: Element): [number, number] {
  const box = (root.getAttribute('viewBox') ?? '')
    .trim()
    .split(/[\s,]+/)
    .map(Number);
  if (box.length === 4 && (box[2] as number) > 0 && (box[3] as number) > 0)
    return [box[2] as number, box[3] as number];
  const length = (name: string, fallback: number) => {
    const text = root.getAttribute(name) ?? '';
    const n = Number.parseFloat(text);
    const unit =
      { pt: 4 / 3, pc: 16, mm: 96 / 25.4, cm: 96 / 2.54, in: 96 }[text.replace(/^[\d.e+-]*/, '').trim()] ?? 1;
    return n > 0 && !text.includes('%') ? n * unit : fallback;
  };
  return [length('width', 300), length('height', 150)];
}

async function compare(text: string, wantsPictures = false): Promise<Compared> {
  const startParse = performance.now();
  const root = new DOMParser().parseFromString(text, 'image/svg+xml').documentElement;
  const parsing = performance.now() - startParse;
  const theirs = await byBrowser(text);
  const [w, h] = sizeOf(root);
  const ours = sheet();
  let n = 0;
  const newId = (kind: IdKind) => `${kind.slice(0, 2)}_${n++}`;
  const start = performance.now();
  const read = importSvg(text, 'drawing', newId, { width: 1e5, height: 1e5 }, { paintsParts: true });
  const reading = performance.now() - start;
  const result = { reading, parsing, pictures: null, objects: 0, notes: [], difference: 100 };
  if (!read.ok) return { ...result, refused: read.problems[0]?.message ?? '' };
  if (!theirs) return { ...result, refused: 'The browser paints none.' };
  const piece = emptyPiece('drawing', 'Drawing');
  for (const o of read.value.objects) piece.objects[o.id] = o;
  const bitmaps = new Map<string, ImageBitmap>();
  for (const { id, name, mime, width, height, bytes } of read.value.pictures) {
    piece.assets[id] = { id, name, kind: 'image', mime, width, height, hash: '0'.repeat(64) };
    bitmaps.set(id, await createImageBitmap(new Blob([bytes], { type: mime })));
  }
  for (const part of read.value.parts) {
    const { id, name, width, height } = part;
    const png = await paintPart(part);
    if (!png) continue;
    piece.assets[id] = { id, name, kind: 'image', mime: 'image/png', width, height, hash: '0'.repeat(64) };
    bitmaps.set(id, await createImageBitmap(new Blob([png], { type: 'image/png' })));
  }
  const program = compile(piece);
  const faces = new FaceBuilder().build(program, program.base, { azimuth: 0, elevation: 0 });
  const k = SIDE / Math.max(w, h);
  ours.save();
  ours.beginPath();
  ours.rect((SIDE - w * k) / 2, (SIDE - h * k) / 2, w * k, h * k);
  ours.clip();
  paintFaces(ours, faces, { x: SIDE / 2, y: SIDE / 2, scale: k }, (id) => bitmaps.get(id));
  ours.restore();
  const [a, b] = [onWhite(ours), onWhite(theirs)];
  let [sum, painted] = [0, 0];
  for (let i = 0; i < a.length; i += 4) {
    let isWhite = true;
    for (let c = i; c < i + 3; c++) {
      sum += Math.abs((a[c] as number) - (b[c] as number));
      if (a[c] !== 255 || b[c] !== 255) isWhite = false;
    }
    if (!isWhite) painted++;
  }
  return {
    ...result,
    refused: null,
    notes: read.value.notes,
    objects: read.value.objects.length,
    difference: painted === 0 ? 0 : (100 * sum) / (painted * 3 * 255),
    pictures: wantsPictures ? [ours.canvas.toDataURL(), theirs.canvas.toDataURL()] : null,
  };
}

declare global {
  interface Window {
    compareDrawing: typeof compare;
  }
}
window.compareDrawing = compare;
