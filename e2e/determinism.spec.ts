import { readFileSync } from 'node:fs';
import path from 'node:path';
import { expect, test } from '@playwright/test';
import { build } from 'vite';

test('the same run in Node and in the browser gives the same trace and poses, bit for bit', async ({
  page,
}) => {
  const root = path.resolve(import.meta.dirname, '..');
  const out = await build({
    configFile: false,
    logLevel: 'error',
    build: {
      write: false,
      minify: false,
      lib: { entry: path.join(root, 'e2e/run-hash.ts'), formats: ['iife'], name: 'tickHash' },
    },
  });
  const bundle = (Array.isArray(out) ? out[0] : out) as { output: { code: string }[] };
  const code = bundle.output[0]?.code as string;
  const text = readFileSync(path.join(root, 'starters/hinge-that-turns-back.tick.json'), 'utf8');
  const inNode = new Function('text', `${code}; return tickHash.runHash(text);`)(text) as string;
  await page.goto('about:blank');
  await page.addScriptTag({ content: code });
  const inBrowser = await page.evaluate(
    (t) => (globalThis as unknown as { tickHash: { runHash(t: string): string } }).tickHash.runHash(t),
    text,
  );
  expect(inNode).toMatch(/^[0-9a-f]{16}$/);
  expect(inBrowser).toBe(inNode);
});
