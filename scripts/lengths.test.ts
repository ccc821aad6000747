/** A function does one thing, a file has one subject: what is longer says why. */
import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import ts from 'typescript';
import { expect, it } from 'vitest';

const root = path.resolve(import.meta.dirname, '..');
const MOST_OF_A_FUNCTION = 100;
const MOST_OF_A_FILE = 400;

const files = spawnSync('git', ['ls-files', 'packages/*/src/*'], { cwd: root, encoding: 'utf8' })
  .stdout.split('\n')
  .filter((f) => /\.tsx?$/.test(f) && !/\.test\.tsx?$/.test(f));

/** The functions of a text that have more lines than this, by name. */
function longFunctions(name: string, text: string, most: number): string[] {
  const kind = name.endsWith('x') ? ts.ScriptKind.TSX : ts.ScriptKind.TS;
  const file = ts.createSourceFile(name, text, ts.ScriptTarget.Latest, true, kind);
  const lineOf = (at: number) => file.getLineAndCharacterOfPosition(at).line;
  const found: string[] = [];
  const visit = (node: ts.Node): void => {
    if (ts.isFunctionLike(node) && 'body' in node && node.body) {
      const lines = lineOf(node.end) - lineOf(node.getStart()) + 1;
      if (lines > most) found.push(`${name} ${node.name?.getText() ?? 'a function'}: ${lines} lines`);
    }
    ts.forEachChild(node, visit);
  };
  visit(file);
  return found;
}

/** Whether what stands above the first import says that the file is long, and so why. */
const saysWhy = (text: string) =>
  text.startsWith('/**') && /\blong\b/.test(text.slice(0, text.indexOf('*/')));

it('what is too long is found', () => {
  const text = `function a() {\n${'  b();\n'.repeat(5)}}\nconst c = () => {\n  d();\n};\n`;
  expect(longFunctions('x.ts', text, 6)).toEqual(['x.ts a: 7 lines']);
  expect(longFunctions('x.ts', text, 7)).toEqual([]);
  expect(saysWhy('/** A thing. It is long since all of it is one table. */\n')).toBe(true);
  expect(saysWhy('/** A thing. */\nconst long = 1; /* */')).toBe(false);
});

it('no function has more than a hundred lines, and a file of more than four hundred says why', () => {
  expect(files.length).toBeGreaterThan(400);
  const texts = files.map((f) => [f, readFileSync(path.join(root, f), 'utf8')] as const);
  expect(texts.flatMap(([f, text]) => longFunctions(f, text, MOST_OF_A_FUNCTION))).toEqual([]);
  const long = texts.filter(([, text]) => text.split('\n').length > MOST_OF_A_FILE && !saysWhy(text));
  expect(long.map(([f]) => f)).toEqual([]);
});
