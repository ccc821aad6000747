import path from 'node:path';
import { gzipSync } from 'node:zlib';
import { build, type Rollup } from 'vite';
import { expect, it } from 'vitest';

it('what people embed, core and painter with it, stays within 82 KB, without a validator or an importer', async () => {
  const built = await build({
    configFile: false,
    logLevel: 'silent',
    root: path.resolve(import.meta.dirname, '../../..'),
    build: {
      write: false,
      target: 'es2023',
      modulePreload: false,
      rolldownOptions: {
        input: path.join(import.meta.dirname, 'index.ts'),
        preserveEntrySignatures: 'strict',
        output: { format: 'es', minify: true },
      },
    },
  });
  const chunks = (built as Rollup.RollupOutput).output.filter((o) => o.type === 'chunk');
  expect(chunks).toHaveLength(1);
  const [chunk] = chunks;
  if (!chunk) return;
  expect(gzipSync(chunk.code, { level: 9 }).length).toBeLessThanOrEqual(82 * 1024);
  const modules = Object.keys(chunk.modules).filter((m) => chunk.modules[m]?.renderedLength);
  expect(modules.filter((m) => /node_modules|\/core\/src\/(check|formats|grammar)\//.test(m))).toEqual([]);
}, 120_000);
