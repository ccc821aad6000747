/** What docs and comments name in backticks is there: identifiers in the code, files in the tree. */
import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { expect, it } from 'vitest';

const root = path.resolve(import.meta.dirname, '..');
const isOurs = (f: string) => !/node_modules|(^|\/)(dist|\.tsbuild|test-results)\//.test(f);
const below = (folder: string) =>
  readdirSync(path.join(root, folder), { recursive: true })
    .map((f) => path.posix.join(folder, String(f)))
    .filter(isOurs);
const all = ['packages', 'scripts', 'bench', 'e2e', 'docs'].flatMap(below);
const files = all.filter((f) => /\.(ts|tsx|mjs|cjs)$/.test(f));
const docs = ['README.md', ...all.filter((f) => f.endsWith('.md'))];
const source = new Map(files.map((f) => [f, readFileSync(path.join(root, f), 'utf8')]));

/** Names of the standard library and of files that pieces are kept in, words of semantics, and patterns. */
const ELSEWHERE = new Set([
  '.dependency-cruiser.cjs',
  'Math.pow',
  'piece.json',
  'build.json',
  'd.parts.NAME',
]);
const COMMENTS = /\/\/.*|\/\*[\s\S]*?\*\//g;

const identifiers = new Set<string>();
for (const text of source.values())
  for (const [name] of text.replace(COMMENTS, ' ').matchAll(/[A-Za-z_]\w*/g)) identifiers.add(name);

/** The names in backticks of a text that are nowhere. */
function missing(text: string): string[] {
  return [...text.matchAll(/`([^`\n]+)`/g)].flatMap(([, name = '']) => {
    if (ELSEWHERE.has(name) || /NAME|[A-Z]{4,}\.|#\w+$/.test(name)) return [];
    if (/^[\w./-]+\.(ts|tsx|mjs|cjs)$/.test(name))
      return files.some(
        (f) => f === name || f.endsWith(`/${name}`) || f.replace('/src/', '/').endsWith(`/${name}`),
      )
        ? []
        : [name];
    if (!/^#?[A-Za-z_]\w*(\.#?\w+)*(\(\))?$/.test(name) || /\.(md|json)$/.test(name)) return [];
    return [...name.matchAll(/[A-Za-z_]\w*/g)].every(([part]) => identifiers.has(part)) ? [] : [name];
  });
}

it.each(docs)('%s names what is there', (file) => {
  expect(missing(readFileSync(path.join(root, file), 'utf8'))).toEqual([]);
});

it('comments name what is there', () => {
  const found = [...source].flatMap(([file, text]) =>
    missing((text.match(COMMENTS) ?? []).join('\n')).map((name) => `${file}: ${name}`),
  );
  expect(found).toEqual([]);
});
