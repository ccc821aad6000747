/** How an SVG element is painted: attributes, `style`, rules of style sheets, and what is inherited. */
import colorString from 'color-string';
import type { FontName } from '../model/index.ts';
import { INHERITED, isHarmless, OWN, type PaintProperty, PROPERTIES } from './svg-known.ts';
import { type Declarations, isMeant, readDeclarations, type StyleRule } from './svg-select.ts';
import type { SvgElement } from './svg-tree.ts';

export type Style = Partial<Record<PaintProperty, string>>;

/** What styles are worked out from: the rules, the weakest first, what each element lies in, and who is told of what is not read. */
export interface StyleSource {
  readonly rules: readonly StyleRule[];
  readonly parentOf: (el: SvgElement) => SvgElement | undefined;
  readonly note: (what: string) => void;
}

/** The style of an element within a parent's: attributes are weaker than rules, these than its own `style`. */
export function styleOf(el: SvgElement, parent: Style, source: StyleSource): Style {
  const own: Record<string, string> = { ...el.attributes };
  const important: Record<string, string> = {};
  const take = (all: Declarations) => {
    for (const [k, { value, important: wins }] of Object.entries(all)) {
      if (!PROPERTIES.has(k) && !isHarmless(k, value)) source.note(`the style "${k.slice(0, 40)}"`);
      if (wins) important[k] = value;
      else own[k] = value;
    }
  };
  for (const rule of source.rules) if (isMeant(rule, el, source.parentOf)) take(rule.declarations);
  take(readDeclarations(el.attributes['style'] ?? ''));
  Object.assign(own, important);
  const out: Style = {};
  for (const k of INHERITED) {
    const v = own[k];
    const taken = v === undefined || v === 'inherit' || v === '' ? parent[k] : v;
    if (taken !== undefined) out[k] = taken;
  }
  for (const k of OWN) {
    const v = own[k];
    const taken = v === 'inherit' ? parent[k] : v;
    if (taken !== undefined) out[k] = taken;
  }
  // Said in parts of the parent's, it is taken over as what it comes to.
  const size = own['font-size'];
  if (size !== undefined && /(em|%|ex|larger|smaller)\s*$/.test(size))
    out['font-size'] = String(fontSize(size, fontSize(parent['font-size'], 16)));
  return out;
}

const SIZES: Readonly<Record<string, number>> = {
  ...{ 'xx-small': 9, 'x-small': 10, small: 13, medium: 16, large: 18, 'x-large': 24, 'xx-large': 32 },
};

/** The size of letters, px; `above`: that of what the element lies in. */
function fontSize(text: string | undefined, above: number): number {
  const word = (text ?? '').trim();
  if (word === 'larger') return above * 1.2;
  if (word === 'smaller') return above / 1.2;
  return SIZES[word] ?? readLength(text, above, above, above);
}

/** What 1 em is for an element with this style, px. */
export const emOf = (style: Style) => fontSize(style['font-size'], 16);

/** A CSS colour as `#rrggbb` and its opacity; null when it is none that is known. */
export function readColor(
  text: string,
  current: string | undefined,
): { color: string; opacity: number } | null {
  const t = text.trim().toLowerCase();
  if (t === 'currentcolor') return readColor(current ?? 'black', 'black');
  const rgb = colorString.get.rgb(t) ?? fromHsl(t);
  if (!rgb) return null;
  const hex = rgb.slice(0, 3).map((n) =>
    Math.round(Math.max(0, Math.min(255, n)))
      .toString(16)
      .padStart(2, '0'),
  );
  return { color: `#${hex.join('')}`, opacity: rgb[3] ?? 1 };
}

function fromHsl(text: string): number[] | null {
  const hsl = colorString.get.hsl(text);
  if (!hsl) return null;
  const [h = 0, percentS = 0, percentL = 0, a = 1] = hsl;
  const [s, l] = [percentS / 100, percentL / 100];
  // CSS Color 4, 7.1: hsl to rgb.
  const f = (n: number) => {
    const k = (n + h / 30) % 12;
    return l - s * Math.min(l, 1 - l) * Math.max(-1, Math.min(k - 3, 9 - k, 1));
  };
  return [f(0) * 255, f(8) * 255, f(4) * 255, a];
}

/** A length or number of an attribute, px; `of` is what 100 % means, `em` the size of the letters, px. */
export function readLength(text: string | undefined, fallback: number, of = 100, em = 16): number {
  if (text === undefined) return fallback;
  const m = /^\s*([+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?)\s*(px|pt|pc|mm|cm|in|em|ex|rem|%)?\s*$/i.exec(text);
  if (!m) return fallback;
  const n = Number(m[1]);
  const unit = { pt: 4 / 3, pc: 16, mm: 96 / 25.4, cm: 96 / 2.54, in: 96, em, rem: 16, ex: em / 2 }[
    (m[2] ?? '').toLowerCase()
  ];
  return m[2] === '%' ? (n / 100) * of : n * (unit ?? 1);
}

/** A number between 0 and 1, also as per cent. */
export function readAmount(text: string | undefined, fallback = 1): number {
  return Math.max(0, Math.min(1, readLength(text, fallback, 1)));
}

/** The font of a text: the nearest bundled one. */
export function fontOf(style: Style): { size: number; weight: number; font: FontName } {
  const family = (style['font-family'] ?? '').toLowerCase();
  const font = /mono|courier|consol/.test(family)
    ? 'mono'
    : /sans/.test(family) || !/serif|times|georgia|roman/.test(family)
      ? 'sans'
      : 'serif';
  const words: Record<string, number> = { normal: 400, bold: 700, bolder: 700, lighter: 300 };
  const given = style['font-weight'] ?? 'normal';
  const weight = words[given] ?? Number(given);
  return {
    size: emOf(style),
    weight: weight >= 100 && weight <= 900 ? weight : 400,
    font,
  };
}
