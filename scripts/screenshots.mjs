// Pictures of the main views, made from the demo, into docs/screenshots. `npm run screenshots` after a build.
import { spawn } from 'node:child_process';
import { mkdirSync, readFileSync } from 'node:fs';
import { chromium } from '@playwright/test';
import { BROWSER, BROWSER_ARGS } from './browser.mjs';

const port = '4398';
const server = spawn(process.execPath, ['packages/server/dist/main.js'], {
  env: { ...process.env, PORT: port, LOG_LEVEL: 'warn' },
});
// Whatever goes wrong, it must not hold the port.
process.on('exit', () => server.kill());
await new Promise((resolve) => server.stdout.once('data', resolve));
mkdirSync('docs/screenshots', { recursive: true });
const browser = await chromium.launch({
  executablePath: BROWSER,
  args: BROWSER_ARGS,
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
const shot = async (name) => {
  // A thumbnail that has not come yet is as wide as a new canvas, not as its place.
  await page.waitForFunction(() => [...document.querySelectorAll('canvas')].every((c) => c.width !== 300));
  await page.waitForTimeout(400);
  await page.screenshot({ path: `docs/screenshots/${name}.png` });
};
await page.goto(`http://127.0.0.1:${port}/`);
await page.waitForTimeout(600);
await shot('shelf');
await page.goto(`http://127.0.0.1:${port}/guide/animate`);
await page.waitForTimeout(900);
await shot('guide');
await page.getByRole('button', { name: 'Try it' }).click();
await page.getByRole('button', { name: 'Go on' }).click();
await shot('walk');
await page.goto(`http://127.0.0.1:${port}/`);
await page
  .getByRole('button', { name: /^Windfall Mill/ })
  .first()
  .click();
await page.getByRole('treeitem', { name: /^Basket/ }).click();
await page.getByRole('group', { name: 'Basket mouth', exact: true }).scrollIntoViewIfNeeded();
await shot('zones');
await page.getByRole('treeitem', { name: /^Weather vane/ }).click();
await page.getByRole('button', { name: /^leaves in the gust/ }).click();
// In the middle of a showing.
await page.waitForTimeout(700);
await shot('effects');
await page.getByRole('tab', { name: 'Cue sheets' }).click();
await page.getByRole('button', { name: /^Cue welcome/ }).click();
await shot('cue-sheet');
await page.getByRole('tab', { name: 'Lanes' }).click();
await page.getByRole('treeitem', { name: /^Flap/ }).click();
await page.getByRole('button', { name: 'Pivot', exact: true }).click();
await page.getByRole('button', { name: 'show the swing' }).click();
await shot('lanes');
await page.locator('[data-state="tipping"]').dblclick();
await page.getByRole('button', { name: /key as I move/ }).click();
await page.getByRole('treeitem', { name: /^Flap/ }).click();
await page.getByLabel('Playhead, seconds').fill('0.46');
await page.keyboard.press('Enter');
await page.getByRole('button', { name: 'Key at 0.00 s' }).press('Enter');
await shot('easing');
await page.getByRole('treeitem', { name: /^Flap/ }).click();
await shot('panel-unfolded');
await page.getByRole('button', { name: 'Fold', exact: true }).click();
await page.getByRole('tab', { name: 'Clips' }).click();
await shot('clips');
await page.getByRole('tab', { name: 'Lanes' }).click();
await page.getByRole('button', { name: 'Run', exact: true }).click();
for (const name of ['flap open', 'pressing', 'lantern lit']) await page.getByRole('switch', { name }).click();
await page.getByLabel('juice', { exact: true }).fill('30');
await page.keyboard.press('Enter');
await page.getByRole('button', { name: 'send order-up' }).click();
await page.getByLabel('Live frame').focus();
await page.keyboard.down('ArrowDown');
await page.waitForTimeout(300);
await page.keyboard.up('ArrowDown');
await page.keyboard.down('ArrowRight');
await page.waitForTimeout(700);
await page.keyboard.up('ArrowRight');
await page.waitForTimeout(500);
await shot('run');
await page.getByRole('button', { name: 'Stop', exact: true }).click();
await page.getByLabel('Machine', { exact: true }).selectOption({ label: 'Weather vane' });
await page.getByRole('button', { name: 'as a table' }).click();
await shot('table');
await page.getByRole('button', { name: 'as a table' }).click();
await page.getByLabel('Machine', { exact: true }).selectOption({ label: 'Juice gauge' });
await page.getByRole('button', { name: /^State level/ }).click();
await shot('blend');
await page.getByLabel('Machine', { exact: true }).selectOption({ label: 'Press' });
await page.getByRole('treeitem', { name: /^Cider/ }).click();
await page.getByRole('button', { name: 'Place', exact: true }).click();
await page.locator('summary').filter({ hasText: 'Hit shape' }).scrollIntoViewIfNeeded();
await shot('arrange');
await page.getByRole('button', { name: 'Menu of the piece' }).click();
await page.getByRole('menuitem', { name: 'Light or dark' }).click();
await shot('dark');
await page.getByRole('button', { name: 'Menu of the piece' }).click();
await page.getByRole('menuitem', { name: 'Light or dark' }).click();
await page.getByRole('treeitem', { name: 'Crate 2', exact: true }).click();
await page.getByRole('button', { name: 'Open in place' }).click();
await page.getByRole('treeitem', { name: /^Crate,/ }).click();
await shot('template');
await page.goto(`http://127.0.0.1:${port}/new`);
await page.getByRole('region', { name: 'Begin here' }).waitFor();
await page.waitForTimeout(900);
await shot('empty');
await page.getByRole('region', { name: 'Begin here' }).getByRole('button', { name: /^Box/ }).click();
await page.mouse.move(480, 200);
await page.mouse.down();
await page.mouse.move(640, 330, { steps: 5 });
await page.mouse.up();
await page.getByRole('button', { name: 'Animate', exact: true }).click();
await page.getByLabel('Turn ° z').fill('35');
await page.keyboard.press('Enter');
await page.getByRole('button', { name: /when\?$/ }).click();
await shot('when');
// A newer version of the chalk apple on the slate.
await page.goto(`http://127.0.0.1:${port}/`);
await page
  .getByRole('button', { name: /^Windfall Mill/ })
  .first()
  .click();
await page.getByRole('treeitem', { name: /^Slate/ }).click();
await page.keyboard.press('ArrowRight');
await page.getByRole('treeitem', { name: 'Board', exact: true }).click();
await page.keyboard.press('ArrowRight');
await page.getByRole('treeitem', { name: 'Chalk apple', exact: true }).click();
await page.locator('summary', { hasText: 'File' }).waitFor();
const drawn = readFileSync('demo/chalk-apple.svg', 'utf8')
  .replace('#9fb98c', '#e0b860')
  .replace('M36 26 C36 18 38 12 44 8', 'M36 26 C36 16 32 10 28 6')
  .replace(/<path id="slash"[^>]*>/, '<path id="stroke-4" d="M101 28 L101 52"/>');
await page.getByLabel('File to bring in').setInputFiles({
  name: 'chalk-apple.svg',
  mimeType: 'image/svg+xml',
  buffer: Buffer.from(drawn),
});
await page.getByRole('button', { name: 'Replace', exact: true }).waitFor();
await shot('newer');
await browser.close();
process.exit();
