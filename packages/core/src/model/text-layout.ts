/** Texts as lines with widths, from the advance widths of the bundled fonts: the same in Node and in browsers. */
import { WIDTH_RANGES, WIDTHS } from './font-widths.ts';

export type FontName = keyof typeof WIDTHS;
/** A line's height, as a part of the font size, and how far down in it the letters stand. */
const LINE_HEIGHT = 1.25;
const BASELINE = 0.95;

const place = new Map<number, number>();
for (const [first, n] of WIDTH_RANGES) for (let i = 0; i < n; i++) place.set(first + i, place.size);
/** What stands for a character that has no width here. */
const OTHER = place.get(0x6e) as number;

/** Px that a line takes, without kerning. Weights between 400 and 700 lie evenly between them, others at the nearer. */
export function lineWidth(line: string, font: FontName, size: number, weight: number): number {
  const k = Math.max(0, Math.min(1, (weight - 400) / 300));
  const digit = (at: number) => WIDTHS[font].charCodeAt(at) - 40;
  let sum = 0;
  for (const ch of line) {
    const i = 4 * (place.get(ch.codePointAt(0) as number) ?? OTHER);
    sum += digit(i) + 52 * digit(i + 1) + (digit(i + 2) + 52 * digit(i + 3) - 52) * k;
  }
  return (sum * size) / 2000;
}

/** Whether a text has letters that the bundled fonts lack: they are drawn in another font, of another width. */
export const widthless = (text: string): boolean =>
  [...text].some((c) => c.trim() !== '' && !place.has(c.codePointAt(0) as number));

interface TextLine {
  readonly text: string;
  /** Where the line begins and its letters stand, px round the text's middle, y up. */
  readonly x: number;
  readonly y: number;
  readonly width: number;
}
export interface TextLayout {
  readonly width: number;
  readonly height: number;
  readonly lines: readonly TextLine[];
}

export function layoutText(t: {
  readonly text: string;
  readonly font: FontName;
  readonly size: number;
  readonly weight: number;
  readonly align: 'left' | 'center' | 'right';
  /** Px after each letter. */
  readonly spacing?: number | undefined;
}): TextLayout {
  const texts = t.text.split('\n');
  const widths = texts.map((line) =>
    Math.max(0, lineWidth(line, t.font, t.size, t.weight) + (t.spacing ?? 0) * [...line].length),
  );
  const width = Math.max(0, ...widths);
  const height = texts.length * t.size * LINE_HEIGHT;
  const lines = texts.map((text, i): TextLine => {
    const room = width - (widths[i] as number);
    const shift = t.align === 'left' ? 0 : t.align === 'center' ? room / 2 : room;
    const y = height / 2 - (i * LINE_HEIGHT + BASELINE) * t.size;
    return { text, x: -width / 2 + shift, y, width: widths[i] as number };
  });
  return { width, height, lines };
}
