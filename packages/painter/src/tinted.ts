/** Pictures in shade, or in one colour. */
import { rgbToHex } from '@apple-tick/core/base';

/** Steps of light between dark and bright: finer ones cannot be told apart, and each is a picture that is kept. */
const SHADES = 48;
const shadedOnes = new WeakMap<object, Map<number, CanvasImageSource>>();

/** The picture darkened as the face that it lies on is; what is clear in it stays clear. */
export function shaded(picture: CanvasImageSource, shade: number): CanvasImageSource {
  const step = Math.round(shade * SHADES);
  const { width, height } = picture as ImageBitmap;
  if (step >= SHADES || !(width > 0 && height > 0)) return picture;
  let known = shadedOnes.get(picture);
  if (!known) {
    known = new Map();
    shadedOnes.set(picture, known);
  }
  let one = known.get(step);
  if (!one) {
    const canvas = new OffscreenCanvas(width, height);
    const to = canvas.getContext('2d') as OffscreenCanvasRenderingContext2D;
    to.drawImage(picture, 0, 0);
    to.globalCompositeOperation = 'source-atop';
    to.globalAlpha = 1 - step / SHADES;
    to.fillRect(0, 0, width, height);
    one = canvas;
    known.set(step, one);
  }
  return one;
}

/** The picture in one colour; what is clear in it stays clear. */
export function colored(picture: CanvasImageSource, rgb: number): CanvasImageSource {
  const { width, height } = picture as ImageBitmap;
  if (!(width > 0 && height > 0)) return picture;
  const canvas = new OffscreenCanvas(width, height);
  const to = canvas.getContext('2d') as OffscreenCanvasRenderingContext2D;
  to.drawImage(picture, 0, 0);
  to.globalCompositeOperation = 'source-in';
  to.fillStyle = rgbToHex(rgb);
  to.fillRect(0, 0, width, height);
  return canvas;
}
