// Still pictures of the demo and the starters, into starters/pictures, with what each was made of. `npm run pictures` after a build.
import { spawn } from 'node:child_process';
import { createHash } from 'node:crypto';
import { mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { chromium } from '@playwright/test';
import { BROWSER, BROWSER_ARGS } from './browser.mjs';

const port = '4397';
const out = 'starters/pictures';
const server = spawn(process.execPath, ['packages/server/dist/main.js'], {
  env: { ...process.env, PORT: port, LOG_LEVEL: 'warn' },
});
// Whatever goes wrong, it must not hold the port.
process.on('exit', () => server.kill());
await new Promise((resolve) => server.stdout.once('data', resolve));
rmSync(out, { recursive: true, force: true });
mkdirSync(out, { recursive: true });
const browser = await chromium.launch({ executablePath: BROWSER, args: BROWSER_ARGS });
const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, deviceScaleFactor: 1.5 });
const made = {};
for (const folder of ['demo', 'starters'])
  for (const file of readdirSync(folder).filter((f) => f.endsWith('.tick.json'))) {
    const key = file.replace('.tick.json', '');
    const title = key.replaceAll('-', ' ');
    const name = folder === 'demo' ? /^Windfall Mill/ : title.charAt(0).toUpperCase() + title.slice(1);
    await page.goto(`http://127.0.0.1:${port}/`);
    await page.getByRole('button', { name, exact: true }).first().click();
    await page.getByRole('link', { name: 'Hand over…' }).click();
    // A picture that has not come yet is as wide as a new canvas.
    await page.waitForFunction(() => (document.querySelector('canvas')?.width ?? 300) !== 300);
    await page.waitForTimeout(300);
    const data = await page.locator('canvas').evaluate((c) => c.toDataURL('image/webp', 0.82));
    writeFileSync(path.join(out, `${key}.webp`), Buffer.from(data.split(',')[1], 'base64'));
    made[key] = createHash('sha256')
      .update(readFileSync(path.join(folder, file)))
      .digest('hex');
  }
writeFileSync(path.join(out, 'made-of.json'), `${JSON.stringify(made, null, 2)}\n`);
await browser.close();
server.kill();
