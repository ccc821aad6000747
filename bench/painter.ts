/** The painter, measured in a real browser. Ratios within this one run. */
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { chromium } from '@playwright/test';
import { build, preview } from 'vite';
import { BROWSER, BROWSER_ARGS } from '../scripts/browser.mjs';

// Built, as people have it: a page that is put together while it loads comes too late on a machine that never did so.
const outDir = mkdtempSync(`${tmpdir()}/painter-`);
const root = `${import.meta.dirname}/page`;
await build({ root, logLevel: 'error', build: { outDir, target: 'es2022' } });
const server = await preview({ root, logLevel: 'error', build: { outDir }, preview: { port: 4397 } });
const browser = await chromium.launch({
  executablePath: BROWSER,
  args: BROWSER_ARGS,
});
try {
  const page = await browser.newPage();
  // What it measures begins with it: it has not loaded before that is done.
  await page.goto('http://localhost:4397/', { waitUntil: 'commit' });
  const ratios = (await (
    await page.waitForFunction('window.ratios', null, { timeout: 120_000 })
  ).jsonValue()) as {
    first: number;
    painter: number;
    drag: number;
    longest: number;
    particles: number;
  };
  console.log(`first live frame of 2,000 objects ÷ compiling them: ${ratios.first.toFixed(2)} (goal ≤ 1.5)`);
  console.log(`painter ÷ bare loop over the same paths: ${ratios.painter.toFixed(2)} (goal ≤ 1.3)`);
  console.log(`a frame of dragging 500 of 2,000 ÷ order and redraw: ${ratios.drag.toFixed(2)} (goal ≤ 1.5)`);
  console.log(
    `500 live particles ÷ a bare loop that works out and paints the same: ${ratios.particles.toFixed(2)} (goal ≤ 1.3)`,
  );
  console.log(`the longest of 120 such frames ÷ a usual redraw: ${ratios.longest.toFixed(2)} (goal ≤ 3)`);
} finally {
  await browser.close();
  await server.close();
  rmSync(outDir, { recursive: true });
}
