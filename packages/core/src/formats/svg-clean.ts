/**
 * The gate that every SVG passes before anything is made of it: the package sanitize-html leaves only the elements and
 * attributes that the import reads. What it took away is told, from the two trees.
 */
import sanitize from 'sanitize-html';
import type { Result } from '../base/index.ts';
import { withoutEntities } from './svg-entities.ts';
import {
  ATTRIBUTES,
  ELEMENTS,
  FILTER_ATTRIBUTES,
  FILTERS,
  isHarmless,
  NAMED_ONLY,
  TOLD,
  UNSEEN,
} from './svg-known.ts';
import type { WholeDrawing } from './svg-parts.ts';
import { readSvgTree, type SvgElement } from './svg-tree.ts';

/** Old programs write attributes without a value, which says nothing; the package's types lack the option. */
const EMPTY: sanitize.IOptions = { allowedEmptyAttributes: [...ATTRIBUTES] } as object;

/** The tree of a sound SVG without anything that is not read; each thing taken away goes to `note`. */
export function readCleanSvg(text: string, note: (what: string) => void): Result<WholeDrawing> {
  const plain = withoutEntities(text);
  if (plain === null)
    return {
      ok: false,
      problems: [
        {
          code: 'svg',
          path: '',
          message: 'The file declares entities that lie in one another without end: save it without them.',
        },
      ],
    };
  const raw = readSvgTree(plain);
  if (!raw.ok) return raw;
  const elements = [...ELEMENTS, ...NAMED_ONLY, ...FILTERS];
  // Drawings within others have prefixes of their own.
  const prefixes = Object.entries(raw.value.attributes)
    .filter(([k, v]) => k.startsWith('xmlns:') && v === 'http://www.w3.org/2000/svg')
    .map(([k]) => `${k.slice(6)}:`);
  const cleanText = sanitize(plain, {
    allowedTags: ['', ...prefixes].flatMap((prefix) => elements.map((e) => prefix + e)),
    allowedAttributes: { '*': [...ATTRIBUTES, ...FILTER_ATTRIBUTES] },
    ...EMPTY,
    // References within the file only, and pictures that lie in it: nothing is ever fetched.
    allowedSchemes: [],
    allowedSchemesByTag: Object.fromEntries(['', ...prefixes].map((p) => [`${p}image`, ['data']])),
    allowedSchemesAppliedToAttributes: ['href', 'xlink:href'],
    allowProtocolRelative: false,
    disallowedTagsMode: 'completelyDiscard',
    // Style sheets are read as text, for colours and the like.
    allowVulnerableTags: true,
    parseStyleAttributes: false,
    parser: { xmlMode: true, lowerCaseTags: false, lowerCaseAttributeNames: false },
  });
  const clean = readSvgTree(cleanText);
  if (!clean.ok) return clean;
  compare(raw.value, clean.value, note);
  return { ok: true, value: { text: cleanText, root: clean.value, prefixes } };
}

/** Tells what `clean` lacks, and gives its elements the lines that they have in the file. */
function compare(raw: SvgElement, clean: SvgElement, note: (what: string) => void): void {
  clean.line = raw.line;
  if (NAMED_ONLY.has(raw.name)) return;
  for (const [k, value] of Object.entries(raw.attributes))
    if (/^on/i.test(k)) note(`a script in ${k}`);
    else if (k in clean.attributes) continue;
    else if (/(^|:)href$/.test(k)) note('a reference to another file');
    else if (!isHarmless(k, value)) note(`${k}="${value.slice(0, 20)}" of a <${raw.name}>`);
  let at = 0;
  for (const child of raw.children) {
    const kept = clean.children[at];
    if (kept?.name === child.name) {
      at++;
      compare(child, kept, note);
    } else if (TOLD.has(child.name) || !UNSEEN.has(child.name)) note(`<${child.name}>`);
  }
}
