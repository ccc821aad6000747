/** The walk of `docs/architecture.md` from a click to a pixel is one that the imports go, too. */
import { existsSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { expect, it } from 'vitest';

const root = path.resolve(import.meta.dirname, '..');
const text = readFileSync(path.join(root, 'docs/architecture.md'), 'utf8');
const walk = text.slice(text.indexOf('## From a click to a pixel'), text.indexOf('## The parts'));
const files = [...walk.matchAll(/^\d+\. `([^`]+)`/gm)].map(([, file = '']) => `packages/${file}`);

/** What a package's entry stands for: the file itself, and all that it hands on. */
function entry(name: string): string[] {
  const [, , folder = '', part] = /^(@apple-tick\/(\w+))(?:\/(\w+))?$/.exec(name) ?? [];
  const manifest = path.join(root, 'packages', folder, 'package.json');
  if (!existsSync(manifest)) return [];
  const { exports } = JSON.parse(readFileSync(manifest, 'utf8')) as { exports: Record<string, string> };
  const file = path.posix.join('packages', folder, exports[part ? `./${part}` : '.'] ?? '');
  return [file, ...importsOf(file)];
}

/** The files that a file imports, or hands on, directly or by a package's entry. */
function importsOf(file: string): string[] {
  const code = readFileSync(path.join(root, file), 'utf8');
  return [...code.matchAll(/from '([^']+)'/g)].flatMap(([, name = '']) =>
    name.startsWith('.') ? [path.posix.join(path.posix.dirname(file), name)] : entry(name),
  );
}

it('names each file once, and each is linked with one before it', () => {
  expect(files.length).toBeGreaterThan(15);
  expect(new Set(files).size).toBe(files.length);
  const imports = new Map(files.map((f) => [f, importsOf(f)]));
  // What an index hands on counts as what it is.
  const reach = (f: string) =>
    (imports.get(f) ?? []).flatMap((x) =>
      x.endsWith('/index.ts') && !files.includes(x) ? [x, ...importsOf(x)] : [x],
    );
  for (const [i, file] of files.entries()) {
    if (i === 0) continue;
    const before = files.slice(0, i);
    const isLinked = before.some((f) => reach(f).includes(file) || reach(file).includes(f));
    expect(isLinked, file).toBe(true);
  }
});
