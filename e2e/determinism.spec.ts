import { readFileSync } from 'node:fs';
import path from 'node:path';
import { expect, type Page, test } from '@playwright/test';
import { build } from 'vite';

/** The engine and what asks it, bundled once, in Node and in a page. */
async function bundled(
  page: Page,
): Promise<{ inNode: (ask: string) => string; inBrowser: (ask: string) => Promise<string> }> {
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
  await page.goto('about:blank');
  await page.addScriptTag({ content: code });
  return {
    inNode: (ask) => new Function(`${code}; return tickHash.${ask};`)() as string,
    inBrowser: (ask) => page.evaluate(`tickHash.${ask}`) as Promise<string>,
  };
}

test('the same run in Node and in the browser gives the same trace and poses, bit for bit', async ({
  page,
}) => {
  const { inNode, inBrowser } = await bundled(page);
  const file = path.resolve(import.meta.dirname, '../starters/hinge-that-turns-back.tick.json');
  const ask = `runHash(${JSON.stringify(readFileSync(file, 'utf8'))})`;
  expect(inNode(ask)).toMatch(/^[0-9a-f]{16}$/);
  expect(await inBrowser(ask)).toBe(inNode(ask));
});

test('150 random pieces, zones and blends among them, run alike in Node and in the browser, there from a snapshot on', async ({
  page,
}) => {
  const { inNode, inBrowser } = await bundled(page);
  const whole = inNode('randomHash(150, false)');
  expect(await inBrowser('randomHash(150, true)')).toBe(whole);
  // It does tell pieces from each other.
  expect(inNode('randomHash(149, false)')).not.toBe(whole);
});

test('in ten minutes timers of 0.1 s and 0.07 s fire exactly as often as they should', async ({ page }) => {
  const { inNode, inBrowser } = await bundled(page);
  // Each first after its own time: at 600 s the first has fired 6,000 times, the second 8,571.
  expect(await inBrowser('timersFired()')).toBe('6000,8571');
  expect(inNode('timersFired()')).toBe('6000,8571');
});

test('every semantic case holds in the browser too, straight and from snapshots', async ({ page }) => {
  const { inNode, inBrowser } = await bundled(page);
  const held = await inBrowser('casesHeld()');
  expect(Number(held)).toBeGreaterThanOrEqual(250);
  expect(inNode('casesHeld()')).toBe(held);
});
