/**
 * Parts of a drawing that only a browser can paint, as pictures. An SVG shown as a picture runs no script and fetches
 * nothing, whatever stands in it; what takes too long is given up.
 */
import type { SvgPart } from '@apple-tick/core/formats';

/** Ms after which a part counts as one that cannot be painted. */
const PATIENCE = 5_000;

/** The part as a PNG; null where the browser cannot paint it. */
export async function paintPart({ svg, width, height }: SvgPart): Promise<ArrayBuffer | null> {
  const url = URL.createObjectURL(new Blob([svg], { type: 'image/svg+xml' }));
  try {
    const img = new Image();
    img.src = url;
    const late = new Promise<never>((_, reject) => setTimeout(() => reject(new Error('late')), PATIENCE));
    await Promise.race([img.decode(), late]);
    const canvas = new OffscreenCanvas(width, height);
    canvas.getContext('2d')?.drawImage(img, 0, 0, width, height);
    return await (await canvas.convertToBlob({ type: 'image/png' })).arrayBuffer();
  } catch {
    return null;
  } finally {
    URL.revokeObjectURL(url);
  }
}
