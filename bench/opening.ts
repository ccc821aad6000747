/**
 * How long the page stands still, at most, while a drawing of 4,000 shapes is brought in, opened again, and one of them is
 * dragged: measured in the built desk, as the browser reports its long tasks (those of 50 ms and more).
 */
import { spawn } from 'node:child_process';
import { chromium, type Page } from '@playwright/test';
import { BROWSER, BROWSER_ARGS } from '../scripts/browser.mjs';

const port = 4394;
const root = new URL('..', import.meta.url);
const server = spawn(process.execPath, ['packages/server/dist/main.js'], {
  cwd: root,
  env: { ...process.env, PORT: String(port), LOG_LEVEL: 'warn' },
  stdio: 'inherit',
});

const SIDE = 8;
const shapes = Array.from({ length: 4000 }, (_, i) => {
  const [x, y] = [(i % 80) * 10, Math.floor(i / 80) * 10];
  return `<rect id="r${i}" x="${x}" y="${y}" width="${SIDE}" height="${SIDE}" fill="#${((i * 97) % 4096).toString(16).padStart(3, '0')}"/>`;
});
const drawing = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 800 500">${shapes.join('')}</svg>`;

/** Keeps the longest task, ms, since the page began or was asked last. */
function watch(): void {
  const page = window as unknown as { longest: number };
  page.longest = 0;
  new PerformanceObserver((list) => {
    for (const e of list.getEntries()) page.longest = Math.max(page.longest, e.duration);
  }).observe({ type: 'longtask', buffered: true });
}
async function longest(page: Page): Promise<number> {
  // What the observer is told comes after the task itself.
  await page.waitForTimeout(500);
  return page.evaluate(() => {
    const of = window as unknown as { longest: number };
    const ms = of.longest;
    of.longest = 0;
    return ms;
  });
}
const say = (what: string, ms: number, goal: number) =>
  console.log(
    `longest stop, ${what}: ${ms < 50 ? 'none of 50 ms or more' : `${ms.toFixed(0)} ms`} (goal ≤ ${goal} ms)`,
  );

const browser = await chromium.launch({ executablePath: BROWSER, args: BROWSER_ARGS });
try {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.addInitScript(watch);
  for (let up = false; !up; )
    up = await page
      .goto(`http://127.0.0.1:${port}/new`)
      .then(() => true)
      .catch(() => page.waitForTimeout(200).then(() => false));
  const rows = page.getByRole('treeitem');
  await page.getByRole('heading', { name: 'Objects', exact: true }).waitFor();
  await longest(page);
  await page
    .getByLabel('File to bring in')
    .setInputFiles({ name: 'field.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(drawing) });
  await page
    .getByText('4,000 objects were brought in')
    .or(page.getByText('4000 objects were brought in'))
    .waitFor();
  say('bringing in 4,000 shapes', await longest(page), 300);
  // Kept before it is opened anew.
  await page.waitForTimeout(3000);
  await page.reload();
  await rows.first().waitFor();
  await page.waitForTimeout(1500);
  say('opening them again', await longest(page), 300);
  const box = await page.getByLabel('Frame', { exact: true }).boundingBox();
  if (!box) throw new Error('no frame');
  const [x, y] = [box.x + box.width / 2 + 3, box.y + box.height / 2 + 3];
  await page.keyboard.down('Control');
  await page.mouse.click(x, y);
  await page.keyboard.up('Control');
  await longest(page);
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + 10, y + 10);
  await longest(page);
  for (let i = 1; i <= 60; i++) await page.mouse.move(x + 10 + i, y + 10 + i);
  say('60 moves of one of them', await longest(page), 50);
  await page.mouse.up();
} finally {
  await browser.close();
  server.kill();
}
