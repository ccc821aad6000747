/**
 * A text of SVG: one text of ours where its parts are lines of one text, else a text for each part that stands somewhere of
 * its own, or is in another colour or font. SVG 2, 11.5, without what is written downwards or along a path.
 */
import { type KindOf, layoutText, widthless } from '../model/index.ts';
import { apply, areaScale, type Matrix, round } from './svg-matrix.ts';
import { type Bounds, nameOf } from './svg-place.ts';
import { fontOf, readLength, type Style } from './svg-style.ts';
import type { SvgElement } from './svg-tree.ts';

export interface SvgWords {
  readonly shape: object;
  readonly name: string;
  readonly style: Style;
  /** Its middle and what it covers, and how it is turned, degrees, in the px of what it lies in. */
  readonly middle: readonly [number, number];
  readonly bounds: Bounds;
  readonly turn: number;
  /** About its box in its own px: left, top, right, bottom. */
  readonly box: Bounds;
}

/** Letters of one style that follow one another; `begins`: they stand at a place of their own, px of the element. */
interface Run {
  text: string;
  readonly style: Style;
  readonly begins: boolean;
  x: number;
  readonly y: number;
}

/** What a part of a text may have otherwise than the whole. */
const OF_PARTS = [
  ...(['fill', 'fill-opacity', 'stroke', 'stroke-width', 'visibility'] as const),
  ...(['font-size', 'font-weight', 'font-family', 'font-style', 'letter-spacing'] as const),
  ...(['text-decoration', 'text-decoration-line', 'text-transform'] as const),
];
const isAlike = (a: Style, b: Style) => OF_PARTS.every((k) => a[k] === b[k]);
/** How far apart the lines of one text are, as a part of the size of its letters: ours are 1.25. */
const [NEAREST, FARTHEST] = [1.1, 1.4];

/**
 * The texts of an element whose own px become the piece's by `m`; `styled` gives what a part of it has; `viewport`: the
 * width and height that per cent are of.
 */
export function wordsOf(
  el: SvgElement,
  m: Matrix,
  style: Style,
  note: (what: string) => void,
  styled: (part: SvgElement, inherited: Style) => Style,
  viewport: readonly [number, number],
): SvgWords[] {
  const runs = runsOf(el, style, note, styled, viewport);
  const [first] = runs;
  if (!first) return [];
  for (const r of runs) r.text = transformed(r.text, r.style['text-transform']);
  const given = el.attributes['inkscape:label'] ?? el.attributes['id'];
  const name = (text: string) =>
    given?.trim() ? nameOf(el) : (text.split('\n')[0]?.trim().slice(0, 40) ?? 'Text');
  const anchor = style['text-anchor'];
  const align = anchor === 'middle' ? 'center' : anchor === 'end' ? 'right' : 'left';
  if (runs.some((r) => widthless(r.text))) note('letters that the fonts here lack');
  if (areLines(runs)) {
    const text = runs.map((r, i) => (i > 0 && r.begins ? '\n' : '') + r.text).join('');
    return [wordsAt(text, name(text), first.style, align, first.x, first.y, m, note)];
  }
  anchored(runs, align);
  const shown = runs.filter((r) => r.text.trim() !== '');
  return shown.map((r) => {
    const text = r.text.trimEnd();
    const before = text.length - text.trimStart().length;
    const x = r.x + advance(' '.repeat(before), r.style);
    return wordsAt(text.trimStart(), name(text), r.style, 'left', x, r.y, m, note);
  });
}

/** What is written in an element, in the order in which it is read. */
function runsOf(
  el: SvgElement,
  style: Style,
  note: (what: string) => void,
  styled: (part: SvgElement, inherited: Style) => Style,
  viewport: readonly [number, number],
): Run[] {
  const runs: Run[] = [];
  let [y, dx, begins, blank] = [0, 0, true, true];
  let x = 0;
  const put = (letters: string, own: Style) => {
    // Blanks are one; those at the beginning are none.
    let text = letters.replace(/\s+/g, ' ');
    if (blank) text = text.replace(/^ /, '');
    if (text === '') return;
    blank = text.endsWith(' ');
    const last = runs.at(-1);
    if (last && !begins && dx === 0 && last.y === y && isAlike(last.style, own)) last.text += text;
    else runs.push({ text, style: own, begins, x: begins ? x : dx, y });
    begins = false;
    dx = 0;
  };
  const visit = (e: SvgElement, own: Style) => {
    const list = (name: string) =>
      (e.attributes[name] ?? '')
        .trim()
        .split(/[\s,]+/)
        .filter((t) => t !== '')
        .map((t) => readLength(t, 0, viewport[name.endsWith('x') ? 0 : 1], fontOf(own).size));
    const [xs, ys, dxs, dys] = [list('x'), list('y'), list('dx'), list('dy')];
    // Each number is of one letter; the last of them goes on.
    const letters = Math.max(xs.length, ys.length, dxs.length, dys.length);
    let n = 0;
    const place = () => {
      if (n >= letters) return;
      if (xs[n] !== undefined || ys[n] !== undefined) {
        x = xs[n] ?? x;
        y = ys[n] ?? y;
        begins ||= xs[n] !== undefined;
        blank = true;
      }
      if (begins) x += dxs[n] ?? 0;
      else dx += dxs[n] ?? 0;
      const down = dys[n] ?? 0;
      if (down !== 0) y += down;
      n++;
    };
    if (letters === 1) place();
    for (const piece of e.pieces ?? []) {
      if (typeof piece !== 'string') {
        if (piece.name === 'tspan') visit(piece, styled(piece, own));
        else note(`<${piece.name}> in a text`);
      } else if (letters > 1) {
        const all = [...piece.replace(/\s+/g, ' ')].filter((c, i) => c !== ' ' || i > 0 || n > 0);
        const alone = all.slice(0, letters - n);
        for (const c of alone) {
          place();
          put(c, own);
        }
        put(all.slice(alone.length).join(''), own);
      } else put(piece, own);
    }
  };
  visit(el, style);
  // Blanks at the end of what has a place of its own are none.
  for (const [i, r] of runs.entries()) if (runs[i + 1]?.begins ?? true) r.text = r.text.trimEnd();
  return runs.filter((r) => r.text !== '');
}

/** Whether runs are the lines of one text: alike, one below the other, as far apart as lines are. */
function areLines(runs: readonly Run[]): boolean {
  const [first] = runs as [Run];
  const { size } = fontOf(first.style);
  return runs.every((r, i) => {
    const before = runs[i - 1];
    if (!before) return true;
    const apart = (r.y - before.y) / size;
    return (
      r.begins &&
      isAlike(r.style, first.style) &&
      Math.abs(r.x - first.x) < 0.01 &&
      apart > NEAREST &&
      apart < FARTHEST
    );
  });
}

/** Gives each run the place where it begins: what follows one, its end; and all from one place on, as it is anchored. */
function anchored(runs: readonly Run[], align: 'left' | 'center' | 'right'): void {
  const part = align === 'left' ? 0 : align === 'center' ? 0.5 : 1;
  for (let i = 0; i < runs.length; ) {
    const start = (runs[i] as Run).x;
    let [x, j] = [start, i];
    do {
      const r = runs[j] as Run;
      if (j > i) x += r.x;
      r.x = x;
      x += advance(r.text, r.style);
      j++;
    } while (j < runs.length && !runs[j]?.begins);
    for (let n = i; n < j; n++) (runs[n] as Run).x -= (x - start) * part;
    i = j;
  }
}

/** Px of the element that letters take. */
function advance(text: string, style: Style): number {
  const { size, weight, font } = fontOf(style);
  const spacing = readLength(style['letter-spacing'], 0, 100, size);
  return layoutText({ text, font, size, weight, align: 'left', spacing }).width;
}

/** CSS Text 3, 2.1. */
function transformed(text: string, how: string | undefined): string {
  if (how === 'uppercase') return text.toUpperCase();
  if (how === 'lowercase') return text.toLowerCase();
  return how === 'capitalize' ? text.replace(/(^|\s)\p{L}/gu, (x) => x.toUpperCase()) : text;
}

/** One text of ours, whose first line is anchored at x, y of the element. */
function wordsAt(
  text: string,
  name: string,
  style: Style,
  align: KindOf<'text'>['align'],
  x: number,
  y: number,
  m: Matrix,
  note: (what: string) => void,
): SvgWords {
  const { size, weight, font } = fontOf(style);
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
  const [ax, ay] = apply(m, x, y);
  const angle = Math.atan2(m[1], m[0]);
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  const middle: [number, number] = [ax + dx * c - dy * s, ay + dx * s + dy * c];
  const reach = Math.hypot(layout.width, layout.height) / 2;
  const [hw, hh] = angle === 0 ? [layout.width / 2, layout.height / 2] : [reach, reach];
  const bounds: Bounds = [middle[0] - hw, middle[1] - hh, middle[0] + hw, middle[1] + hh];
  const box: Bounds = [x, y - size, x + layout.width / k, y];
  return { shape, name, style, middle, bounds, turn: round((angle * 180) / Math.PI), box };
}
