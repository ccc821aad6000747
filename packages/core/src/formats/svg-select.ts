/// <reference path="./css-tree-parts.d.ts" />
/** The rules of an SVG's style sheets and which elements they are for: W3C Selectors 3 without pseudo-classes. */
import type { CssNode, Declaration, Selector } from 'css-tree';
import generate from 'css-tree/generator';
import parse from 'css-tree/parser';
import type { SvgElement } from './svg-tree.ts';

interface Declared {
  readonly value: string;
  readonly important: boolean;
}
export type Declarations = Readonly<Record<string, Declared>>;

export interface StyleRule {
  readonly selector: readonly CssNode[];
  /** Ids, classes and attributes, names of elements; later rules win where these are equal. */
  readonly specificity: readonly [number, number, number];
  readonly declarations: Declarations;
}

const KNOWN: ReadonlySet<string> = new Set([
  ...['TypeSelector', 'ClassSelector', 'IdSelector', 'AttributeSelector', 'Combinator'],
]);

/** The rules of all `<style>` elements, the weakest first; selectors that are not understood are reported. */
export function readRules(sheets: readonly SvgElement[], note: (what: string) => void): StyleRule[] {
  const rules: StyleRule[] = [];
  for (const sheet of sheets) {
    const css = parse(sheet.text, { parseValue: false, parseAtrulePrelude: false });
    if (css.type !== 'StyleSheet') continue;
    let hasAt = false;
    for (const rule of css.children) {
      if (rule.type === 'Atrule' && rule.name !== 'charset') hasAt = true;
      if (rule.type !== 'Rule' || rule.prelude.type !== 'SelectorList') continue;
      const declarations = declarationsIn(rule.block.children);
      for (const selector of rule.prelude.children) {
        const parts = selector.type === 'Selector' ? partsOf(selector) : null;
        if (parts) rules.push({ selector: parts, specificity: specificityOf(parts), declarations });
        else note(`the style rule "${generate(selector).slice(0, 40)}"`);
      }
    }
    if (hasAt) note('rules of a style sheet that begin with @');
  }
  return rules
    .map((rule, i) => ({ rule, i }))
    .sort((a, b) => {
      const [p, q] = [a.rule.specificity, b.rule.specificity];
      return p[0] - q[0] || p[1] - q[1] || p[2] - q[2] || a.i - b.i;
    })
    .map(({ rule }) => rule);
}

function partsOf(selector: Selector): CssNode[] | null {
  const parts = [...selector.children];
  const isKnown = (p: CssNode) => {
    if (p.type === 'Combinator') return p.name === ' ' || p.name === '>';
    // The root is the one element that a pseudo-class can mean without looking at others.
    if (p.type === 'PseudoClassSelector') return p.name === 'root';
    return KNOWN.has(p.type);
  };
  return parts.length > 0 && parts.every(isKnown) ? parts : null;
}

function specificityOf(parts: readonly CssNode[]): [number, number, number] {
  const count = (...types: string[]) => parts.filter((p) => types.includes(p.type)).length;
  const names = parts.filter((p) => p.type === 'TypeSelector' && p.name !== '*').length;
  return [count('IdSelector'), count('ClassSelector', 'AttributeSelector', 'PseudoClassSelector'), names];
}

/** Whether an element is one that a rule means; `parentOf` gives what it lies in. */
export function isMeant(
  rule: StyleRule,
  el: SvgElement,
  parentOf: (el: SvgElement) => SvgElement | undefined,
): boolean {
  return matches(rule.selector, rule.selector.length, el, parentOf);
}

function matches(
  parts: readonly CssNode[],
  end: number,
  el: SvgElement,
  parentOf: (el: SvgElement) => SvgElement | undefined,
): boolean {
  let at = end;
  while (at > 0 && parts[at - 1]?.type !== 'Combinator')
    if (!isOne(parts[--at] as CssNode, el, parentOf)) return false;
  if (at === 0) return true;
  const combinator = parts[at - 1] as { name?: string };
  for (let above = parentOf(el); above; above = parentOf(above)) {
    if (matches(parts, at - 1, above, parentOf)) return true;
    if (combinator.name === '>') return false;
  }
  return false;
}

function isOne(part: CssNode, el: SvgElement, parentOf: (el: SvgElement) => SvgElement | undefined): boolean {
  switch (part.type) {
    case 'TypeSelector':
      return part.name === '*' || part.name.replace(/^.*\|/, '') === el.name;
    case 'ClassSelector':
      return (el.attributes['class'] ?? '').split(/\s+/).includes(part.name);
    case 'IdSelector':
      return el.attributes['id'] === part.name;
    case 'PseudoClassSelector':
      return parentOf(el) === undefined;
    case 'AttributeSelector': {
      const value = el.attributes[part.name.name];
      if (value === undefined || part.value === null) return value !== undefined;
      const wanted = part.value.type === 'String' ? part.value.value : part.value.name;
      if (part.matcher === '=') return value === wanted;
      if (part.matcher === '^=') return value.startsWith(wanted);
      if (part.matcher === '$=') return value.endsWith(wanted);
      if (part.matcher === '*=') return value.includes(wanted);
      return part.matcher === '~=' && value.split(/\s+/).includes(wanted);
    }
    default:
      return false;
  }
}

function declarationsIn(list: Iterable<CssNode>): Declarations {
  const out: Record<string, Declared> = {};
  for (const d of list) {
    if (d.type !== 'Declaration') continue;
    const { property, value, important } = d as Declaration;
    if (out[property]?.important && !important) continue;
    out[property] = { value: generate(value).trim(), important: important !== false };
  }
  return out;
}

/** What a `style` attribute sets. */
export function readDeclarations(css: string): Declarations {
  if (css.trim() === '') return {};
  const list = parse(css, { context: 'declarationList', parseValue: false });
  return list.type === 'DeclarationList' ? declarationsIn(list.children) : {};
}
