/**
 * Parts of a drawing that cannot be shapes (filters, patterns, masks by brightness) as drawings of their own, which a
 * browser paints once: as a picture, in which nothing runs and nothing is fetched.
 */
import { INHERITED } from './svg-known.ts';
import type { Style } from './svg-style.ts';
import type { SvgElement } from './svg-tree.ts';

/** A part to be painted, and the asset that it is to become. */
export interface SvgPart {
  readonly id: string;
  readonly name: string;
  /** A whole SVG text. */
  readonly svg: string;
  /** Px of the bitmap. */
  readonly width: number;
  readonly height: number;
}

/** What a part is cut out of: the whole text that has passed the gate, its root, and the prefixes that mean SVG in it. */
export interface WholeDrawing {
  readonly text: string;
  readonly root: SvgElement;
  readonly prefixes: readonly string[];
}

const escaped = (text: string) =>
  text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;');

/**
 * The drawing of one element alone, as it is painted in the space of what it lies in. All that it may refer to is there
 * as definitions. `box`: left, top, width and height of what is seen, in that space.
 */
export function partText(
  whole: WholeDrawing,
  el: SvgElement,
  inherited: Style,
  box: readonly [number, number, number, number],
  width: number,
  height: number,
): string {
  const { text, root, prefixes } = whole;
  const spaces = ['svg', ...prefixes.map((p) => p.replace(/:$/, ''))];
  const names = [...new Set(spaces)].map((p) => `xmlns:${p}="http://www.w3.org/2000/svg"`).join(' ');
  const style = INHERITED.map((k) => (inherited[k] === undefined ? '' : `${k}:${inherited[k]};`)).join('');
  const inside = text.slice(root.inner, text.lastIndexOf('</'));
  return (
    `<svg xmlns="http://www.w3.org/2000/svg" ${names} xmlns:xlink="http://www.w3.org/1999/xlink" ` +
    `xmlns:inkscape="http://www.inkscape.org/namespaces/inkscape" viewBox="${box.join(' ')}" ` +
    `width="${width}" height="${height}" preserveAspectRatio="none"><defs>${inside}</defs>` +
    `<g style="${escaped(style)}">${text.slice(el.start, el.end)}</g></svg>`
  );
}
