/// <reference path="./css-tree-parts.d.ts" />
/** How an SVG element is painted: attributes, `style`, simple rules of style sheets, and what is inherited. */
import colorString from 'color-string';
import type { CssNode } from 'css-tree';
import generate from 'css-tree/generator';
import parse from 'css-tree/parser';
import type { FontName } from '../model/index.ts';
import type { SvgElement } from './svg-tree.ts';

/** What children take over from their parents. */
const INHERITED = [
  'fill',
  'fill-opacity',
  'fill-rule',
  'stroke',
  'stroke-width',
  'stroke-opacity',
  'stroke-linecap',
  'stroke-linejoin',
  'color',
  'visibility',
  'font-family',
  'font-size',
  'font-weight',
  'text-anchor',
] as const;
const OWN = ['opacity', 'display', 'stop-color', 'stop-opacity', 'clip-path', 'mask', 'filter'] as const;
export type Style = Partial<Record<(typeof INHERITED)[number] | (typeof OWN)[number], string>>;

export interface StyleRule {
  readonly selector: string;
  readonly declarations: Record<string, string>;
}

/** The rules of all `<style>` elements; selectors that are not one name, class or id are reported. */
export function readRules(sheets: readonly SvgElement[], note: (what: string) => void): StyleRule[] {
  const rules: StyleRule[] = [];
  for (const sheet of sheets) {
    const css = parse(sheet.text, { parseValue: false, parseAtrulePrelude: false });
    if (css.type !== 'StyleSheet') continue;
    let hasAt = false;
    for (const rule of css.children) {
      if (rule.type === 'Atrule') hasAt = true;
      if (rule.type !== 'Rule' || rule.prelude.type !== 'SelectorList') continue;
      const own = declarationsIn(rule.block.children);
      for (const selector of rule.prelude.children) {
        const text = generate(selector);
        const only =
          selector.type === 'Selector' && selector.children.size === 1 ? selector.children.first : null;
        if (only && SIMPLE.has(only.type)) rules.push({ selector: text, declarations: own });
        else note(`the style rule "${text.slice(0, 40)}"`);
      }
    }
    if (hasAt) note('rules of a style sheet that begin with @');
  }
  return rules;
}

const SIMPLE: ReadonlySet<string> = new Set(['TypeSelector', 'ClassSelector', 'IdSelector']);

function declarationsIn(list: Iterable<CssNode>): Record<string, string> {
  const out: Record<string, string> = {};
  for (const d of list) if (d.type === 'Declaration') out[d.property] = generate(d.value).trim();
  return out;
}

/** What a `style` attribute sets. */
function declarations(css: string): Record<string, string> {
  const list = parse(css, { context: 'declarationList', parseValue: false });
  return list.type === 'DeclarationList' ? declarationsIn(list.children) : {};
}

/** The style of an element within a parent's. */
export function styleOf(el: SvgElement, parent: Style, rules: readonly StyleRule[]): Style {
  const own: Record<string, string> = { ...el.attributes };
  const classes = (el.attributes['class'] ?? '').split(/\s+/);
  for (const kind of ['', '.', '#'])
    for (const r of rules) {
      const hit =
        kind === ''
          ? r.selector === el.name
          : kind === '.'
            ? r.selector.startsWith('.') && classes.includes(r.selector.slice(1))
            : r.selector === `#${el.attributes['id']}`;
      if (hit) Object.assign(own, r.declarations);
    }
  Object.assign(own, declarations(el.attributes['style'] ?? ''));
  const out: Style = {};
  for (const k of INHERITED) {
    const v = own[k];
    const taken = v === undefined || v === 'inherit' ? parent[k] : v;
    if (taken !== undefined) out[k] = taken;
  }
  for (const k of OWN) if (own[k] !== undefined) out[k] = own[k];
  return out;
}

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

/** A length or number of an attribute, px; `of` is what 100 % means. */
export function readLength(text: string | undefined, fallback: number, of = 100): number {
  if (text === undefined) return fallback;
  const m = /^\s*([+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?)\s*(px|pt|pc|mm|cm|in|em|ex|rem|%)?\s*$/i.exec(text);
  if (!m) return fallback;
  const n = Number(m[1]);
  const unit = { pt: 4 / 3, pc: 16, mm: 96 / 25.4, cm: 96 / 2.54, in: 96, em: 16, rem: 16, ex: 8 }[
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
    size: readLength(style['font-size'], 16, 16),
    weight: weight >= 100 && weight <= 900 ? weight : 400,
    font,
  };
}
