/** A text of SVG as one text of ours: its lines come from its tspans, its letters may be another font's. */
import { layoutText } from '../model/index.ts';
import { apply, areaScale, type Matrix, round } from './svg-matrix.ts';
import { type Bounds, nameOf } from './svg-place.ts';
import { fontOf, readLength, type Style } from './svg-style.ts';
import type { SvgElement } from './svg-tree.ts';

export interface SvgWords {
  readonly shape: object;
  readonly name: string;
  /** Its middle and what it covers, and how it is turned, degrees, in the px of what it lies in. */
  readonly middle: readonly [number, number];
  readonly bounds: Bounds;
  readonly turn: number;
  /** About its box in its own px: left, top, right, bottom. */
  readonly box: Bounds;
}

const OF_PARTS = [
  'fill',
  'font-size',
  'font-weight',
  'font-family',
  'font-style',
  'letter-spacing',
  'text-decoration',
] as const;

/** Whether a part of a text says of itself what the text as a whole has otherwise. */
function isOtherwise({ attributes }: SvgElement, style: Style): boolean {
  const written = new Map(
    (attributes['style'] ?? '')
      .split(';')
      .map((pair) => pair.split(':').map((x) => x.trim()) as [string, string]),
  );
  return OF_PARTS.some((k) => {
    const own = written.get(k) ?? attributes[k];
    return own !== undefined && own !== style[k];
  });
}

/** CSS Text 3, 2.1. */
function transformed(text: string, how: string | undefined): string {
  if (how === 'uppercase') return text.toUpperCase();
  if (how === 'lowercase') return text.toLowerCase();
  return how === 'capitalize' ? text.replace(/(^|\s)\p{L}/gu, (x) => x.toUpperCase()) : text;
}

/** The words of an element whose own px become the piece's by `m`; null for one without any. */
export function wordsOf(
  el: SvgElement,
  m: Matrix,
  style: Style,
  note: (what: string) => void,
): SvgWords | null {
  const parts: { text: string; x: number; y: number; newLine: boolean }[] = [];
  const first = (name: string) => readLength((el.attributes[name] ?? '').trim().split(/[\s,]+/)[0], 0);
  const start = { x: first('x') + first('dx'), y: first('y') + first('dy') };
  const visit = (e: SvgElement) => {
    if (/[\s,]\S/.test((e.attributes['x'] ?? '').trim())) note('letters placed one by one');
    if (e !== el && isOtherwise(e, style)) note('a part of a text in another colour or font');
    const newLine = e !== el && (e.attributes['y'] !== undefined || (e.attributes['dy'] ?? '0') !== '0');
    const text = e.text.replace(/\s+/g, ' ').trim();
    if (text !== '') parts.push({ text, ...start, newLine });
    for (const c of e.children) {
      if (c.name === 'tspan') visit(c);
      else note(`<${c.name}> in a text`);
    }
  };
  visit(el);
  const words = parts.map((p, i) => (i === 0 ? '' : p.newLine ? '\n' : ' ') + p.text).join('');
  const text = transformed(words, style['text-transform']);
  if (text === '') return null;
  const { size, weight, font } = fontOf(style);
  const anchor = style['text-anchor'];
  const align = anchor === 'middle' ? 'center' : anchor === 'end' ? 'right' : 'left';
  const k = areaScale(m);
  const spacing = round(readLength(style['letter-spacing'], 0, 100, size) * k);
  const said = `${style['text-decoration'] ?? ''} ${style['text-decoration-line'] ?? ''}`;
  const decoration = /line-through/.test(said) ? 'line-through' : /underline/.test(said) ? 'underline' : null;
  if (/overline/.test(said) || /underline.*line-through|line-through.*underline/.test(said))
    note('a line over a text, or the second of two');
  const shape = {
    ...({ kind: 'text', text, font, size: Math.max(1, round(size * k)), weight, align } as const),
    ...(spacing === 0 ? {} : { spacing }),
    ...(decoration ? { decoration } : {}),
    ...(/^(italic|oblique)/.test(style['font-style'] ?? '') ? { italic: true } : {}),
  };
  const layout = layoutText(shape);
  // The anchor lies on the first line's baseline; the box's middle is found from it along the turned axes.
  const dx = align === 'center' ? 0 : align === 'left' ? layout.width / 2 : -layout.width / 2;
  const dy = -(layout.lines[0]?.y ?? 0);
  const [ax, ay] = apply(m, start.x, start.y);
  const angle = Math.atan2(m[1], m[0]);
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  const middle: [number, number] = [ax + dx * c - dy * s, ay + dx * s + dy * c];
  const reach = Math.hypot(layout.width, layout.height) / 2;
  const [hw, hh] = angle === 0 ? [layout.width / 2, layout.height / 2] : [reach, reach];
  const bounds: Bounds = [middle[0] - hw, middle[1] - hh, middle[0] + hw, middle[1] + hh];
  const given = el.attributes['inkscape:label'] ?? el.attributes['id'];
  const name = given?.trim() ? nameOf(el) : (text.split('\n')[0]?.slice(0, 40) ?? 'Text');
  const box: Bounds = [start.x, start.y - size, start.x + layout.width / k, start.y];
  return { shape, name, middle, bounds, turn: round((angle * 180) / Math.PI), box };
}
