/**
 * An SVG text as a plain tree. Only elements, attributes and text are taken; the parser refuses entities that it does not
 * know, those of the file itself having been written out before. Nothing of it ever reaches a page.
 */
import { SaxesParser } from 'saxes';
import type { Problem, Result } from '../base/index.ts';

export interface SvgElement {
  readonly name: string;
  readonly attributes: Readonly<Record<string, string>>;
  readonly children: SvgElement[];
  text: string;
  /** Of texts: what lies in it, words and elements in turn. */
  readonly pieces?: (string | SvgElement)[];
  /** Where it begins in the file. */
  line: number;
  /** Where it begins in the text, where what lies in it does, and where it ends. */
  readonly start: number;
  readonly inner: number;
  end: number;
}

const MAX_ELEMENTS = 50_000;
/** Less than objects may lie in one another: what comes in can be grouped further. */
const MAX_DEPTH = 150;

export function readSvgTree(text: string): Result<SvgElement> {
  const fail = (message: string, line?: number): Result<SvgElement> => {
    const problem: Problem = { code: 'svg', path: line === undefined ? '' : `line ${line}`, message };
    return { ok: false, problems: [problem] };
  };
  const parser = new SaxesParser();
  const stack: SvgElement[] = [];
  let root: SvgElement | null = null;
  let count = 0;
  let stop: string | null = null;
  parser.on('error', (e) => {
    // The parser's own words name the line and column first.
    stop ??= e.message.replace(/^\d+:\d+: /, '').replace(/\.$/, '');
    throw e;
  });
  parser.on('opentag', (tag) => {
    count++;
    if (count > MAX_ELEMENTS) stop = `there are more than ${MAX_ELEMENTS.toLocaleString('en')} elements`;
    else if (stack.length >= MAX_DEPTH) stop = `elements are nested more than ${MAX_DEPTH} deep`;
    if (stop) throw new Error(stop);
    const el: SvgElement = {
      name: local(tag.name),
      attributes: Object.fromEntries(Object.entries(tag.attributes).map(([k, v]) => [k, String(v)])),
      children: [],
      text: '',
      line: parser.line,
      // No attribute holds this sign as it is.
      start: text.lastIndexOf('<', parser.position - 1),
      inner: parser.position,
      end: parser.position,
      ...(/^(text|tspan)$/.test(local(tag.name)) ? { pieces: [] } : {}),
    };
    const above = stack.at(-1);
    above?.children.push(el);
    above?.pieces?.push(el);
    root ??= el;
    stack.push(el);
  });
  parser.on('closetag', () => {
    const el = stack.pop();
    if (el) el.end = parser.position;
  });
  const addText = (t: string) => {
    const el = stack.at(-1);
    if (!el) return;
    el.text += t;
    el.pieces?.push(t);
  };
  parser.on('text', addText);
  parser.on('cdata', addText);
  try {
    parser.write(text).close();
  } catch {
    return fail(`The file cannot be read as SVG: ${stop ?? 'it is not sound XML'}.`, parser.line);
  }
  const top = root as SvgElement | null;
  if (top?.name !== 'svg') return fail('The file does not hold an SVG picture: its root is not <svg>.');
  return { ok: true, value: top };
}

/** Without a namespace's prefix: `svg:path` is `path`. */
function local(name: string): string {
  return name.slice(name.indexOf(':') + 1);
}
