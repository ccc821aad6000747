/** The painter, measured in a real browser. Ratios within this one run. */
import { chromium } from '@playwright/test';
import { createServer } from 'vite';
import { BROWSER, BROWSER_ARGS } from '../scripts/browser.mjs';

const server = await createServer({
  root: `${import.meta.dirname}/page`,
  logLevel: 'error',
  server: { port: 4397, fs: { allow: [`${import.meta.dirname}/..`] } },
});
await server.listen();
const browser = await chromium.launch({
  executablePath: BROWSER,
  args: BROWSER_ARGS,
});
try {
  const page = await browser.newPage();
  await page.goto('http://localhost:4397/');
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
}
