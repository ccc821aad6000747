import { existsSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { gzipSync } from 'node:zlib';
import { readPiece } from '@apple-tick/core/check';
import { emptyPiece, type Piece } from '@apple-tick/core/model';
import { ALL, type Feature, neededBy } from '@apple-tick/core/run';
import { build, type Rollup } from 'vite';
import { expect, it } from 'vitest';

const ROOT = path.resolve(import.meta.dirname, '../../..');
/** What features have in a page. */
const PARTS = path.join(import.meta.dirname, 'features');
const FEATURES = path.join(ROOT, 'packages/core/src/features');

/** The player, and what compiles a piece for it, with these features alone. */
async function built(features: readonly Feature[]): Promise<Rollup.OutputChunk> {
  const names = features.map((f) => f.name);
  const entry = [
    ...names.map((n) => `import { ${n} } from ${JSON.stringify(path.join(FEATURES, n, 'index.ts'))};`),
    ...names
      .filter((n) => existsSync(path.join(PARTS, `${n}.ts`)))
      .map((n) => `export { ${n} as ${n}Part } from ${JSON.stringify(path.join(PARTS, `${n}.ts`))};`),
    `export { Runtime } from ${JSON.stringify(path.join(import.meta.dirname, 'runtime.ts'))};`,
    "export { compilePiece, withFeatures } from '@apple-tick/core/run';",
    `export const features = [${names}];`,
  ].join('\n');
  const result = await build({
    configFile: false,
    logLevel: 'silent',
    plugins: [
      {
        name: 'embedded',
        resolveId: (id: string) => (id === 'embedded.ts' ? path.join(import.meta.dirname, id) : null),
        load: (id: string) => (id.endsWith('/embedded.ts') ? entry : null),
      },
    ],
    root: ROOT,
    build: {
      write: false,
      target: 'es2023',
      modulePreload: false,
      rolldownOptions: {
        input: 'embedded.ts',
        preserveEntrySignatures: 'strict',
        output: { format: 'es', minify: true },
      },
    },
  });
  const chunks = (result as Rollup.RollupOutput).output.filter((o) => o.type === 'chunk');
  expect(chunks).toHaveLength(1);
  return chunks[0] as Rollup.OutputChunk;
}

function pieceIn(file: string): Piece {
  const read = readPiece(readFileSync(path.join(ROOT, file), 'utf8'));
  if (!read.ok) throw new Error(JSON.stringify(read.problems));
  return read.value;
}

/** What people embed, by what their piece needs: KB, minified and gzipped. */
const MOST: readonly [what: string, features: readonly Feature[], kilobytes: number][] = [
  ['a flat piece with one clip', neededBy(emptyPiece('p', 'Flat')), 56],
  ['the hinge', neededBy(pieceIn('starters/hinge-that-turns-back.tick.json')), 62.5],
  ['the Mill', neededBy(pieceIn('demo/windfall-mill.tick.json')), 93.5],
  ['any piece', ALL, 95.5],
];

it.each(MOST)(
  'the player for %s stays small, without a validator or an importer',
  async (_, features, most) => {
    const chunk = await built(features);
    expect(gzipSync(chunk.code, { level: 9 }).length / 1024).toBeLessThanOrEqual(most);
    const modules = Object.keys(chunk.modules).filter((m) => chunk.modules[m]?.renderedLength);
    expect(modules.filter((m) => /node_modules|\/core\/src\/(check|formats|grammar)\//.test(m))).toEqual([]);
    // Of features it holds those alone, in the page, too.
    const held = modules.flatMap((m) => /\/features\/(\w+)\/index\.ts$/.exec(m)?.[1] ?? []);
    const names = features.map((f) => f.name);
    expect(held.sort()).toEqual(names.toSorted());
    const inPage = modules.flatMap((m) => /\/player\/src\/features\/(\w+)\.ts$/.exec(m)?.[1] ?? []);
    expect(inPage.filter((n) => !names.includes(n) && n !== 'synth')).toEqual([]);
  },
  120_000,
);
