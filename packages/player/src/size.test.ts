import path from 'node:path';
import { gzipSync } from 'node:zlib';
import { build, type Rollup } from 'vite';
import { expect, it } from 'vitest';

/** Whoever shows a piece compiles it first. */
const EMBEDDED = `export * from ${JSON.stringify(path.join(import.meta.dirname, 'index.ts'))};
export { compile } from '@apple-tick/core/run';`;
const embedded = {
  name: 'embedded',
  resolveId: (id: string) => (id === 'embedded.ts' ? path.join(import.meta.dirname, id) : null),
  load: (id: string) => (id.endsWith('/embedded.ts') ? EMBEDDED : null),
};

it('what people embed, core and painter with it, stays within 87 KB, without a validator or an importer', async () => {
  const built = await build({
    configFile: false,
    logLevel: 'silent',
    plugins: [embedded],
    root: path.resolve(import.meta.dirname, '../../..'),
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
  const chunks = (built as Rollup.RollupOutput).output.filter((o) => o.type === 'chunk');
  expect(chunks).toHaveLength(1);
  const [chunk] = chunks;
  if (!chunk) return;
  expect(gzipSync(chunk.code, { level: 9 }).length).toBeLessThanOrEqual(87 * 1024);
  const modules = Object.keys(chunk.modules).filter((m) => chunk.modules[m]?.renderedLength);
  expect(modules.filter((m) => /node_modules|\/core\/src\/(check|formats|grammar)\//.test(m))).toEqual([]);
}, 120_000);
