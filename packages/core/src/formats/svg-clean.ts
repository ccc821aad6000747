/**
 * The gate that every SVG passes before anything is made of it: the package sanitize-html leaves only the elements and
 * attributes that the import reads. What it took away is told, from the two trees.
 */
import sanitize from 'sanitize-html';
import type { Result } from '../base/index.ts';
import { readSvgTree, type SvgElement } from './svg-tree.ts';

/** Taken away without a word: notes of drawing programs, which draw nothing. */
const UNSEEN = new Set(['title', 'desc', 'metadata', 'namedview']);
/** Kept by name only, so that what uses them can be told; what lies in them is not read. */
const NAMED_ONLY = new Set(['filter', 'mask', 'pattern', 'marker']);
const ELEMENTS = [
  ...['svg', 'g', 'a', 'switch', 'defs', 'symbol', 'use', 'style', 'clipPath'],
  ...['path', 'rect', 'circle', 'ellipse', 'line', 'polyline', 'polygon', 'text', 'tspan'],
  ...['linearGradient', 'radialGradient', 'stop', ...NAMED_ONLY],
];
const ATTRIBUTES = [
  ...['id', 'class', 'style', 'transform', 'viewBox', 'href', 'xlink:href', 'inkscape:label'],
  ...['x', 'y', 'width', 'height', 'rx', 'ry', 'cx', 'cy', 'r', 'fx', 'fy', 'x1', 'y1', 'x2', 'y2'],
  ...['d', 'points', 'dx', 'dy', 'offset', 'gradientUnits', 'gradientTransform', 'spreadMethod'],
  ...['clipPathUnits', 'clip-path', 'mask', 'filter', 'fill', 'fill-opacity', 'fill-rule', 'color'],
  ...['stroke', 'stroke-width', 'stroke-opacity', 'stroke-linecap', 'stroke-linejoin', 'opacity'],
  ...['display', 'visibility', 'stop-color', 'stop-opacity'],
  ...['font-family', 'font-size', 'font-weight', 'text-anchor'],
];

/** The tree of a sound SVG without anything that is not read; each thing taken away goes to `note`. */
export function readCleanSvg(text: string, note: (what: string) => void): Result<SvgElement> {
  const raw = readSvgTree(text);
  if (!raw.ok) return raw;
  const clean = readSvgTree(
    sanitize(text, {
      allowedTags: [...ELEMENTS, ...ELEMENTS.map((e) => `svg:${e}`)],
      allowedAttributes: { '*': ATTRIBUTES },
      // References within the file only: nothing is ever fetched.
      allowedSchemes: [],
      allowProtocolRelative: false,
      disallowedTagsMode: 'completelyDiscard',
      // Style sheets are read as text, for colours and the like.
      allowVulnerableTags: true,
      parseStyleAttributes: false,
      parser: { xmlMode: true, lowerCaseTags: false, lowerCaseAttributeNames: false },
    }),
  );
  if (clean.ok) compare(raw.value, clean.value, note);
  return clean;
}

/** Tells what `clean` lacks, and gives its elements the lines that they have in the file. */
function compare(raw: SvgElement, clean: SvgElement, note: (what: string) => void): void {
  clean.line = raw.line;
  for (const k of Object.keys(raw.attributes))
    if (/^on/i.test(k)) note(`a script in ${k}`);
    else if (/href$/.test(k) && !(k in clean.attributes)) note('a reference to another file');
  if (NAMED_ONLY.has(raw.name)) return;
  let at = 0;
  for (const child of raw.children) {
    const kept = clean.children[at];
    if (kept?.name === child.name) {
      at++;
      compare(child, kept, note);
    } else if (!UNSEEN.has(child.name)) note(`<${child.name}>`);
  }
}
