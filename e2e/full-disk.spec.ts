/** A disk that was really full: the browser may lose its database afterwards, and nothing of the pieces is lost with it. */
import { execFileSync, spawn } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { chromium, expect, test } from '@playwright/test';
import { BROWSER } from '../scripts/browser.mjs';
import { addKind } from './helpers.ts';

/** How many times; `FULL=10` for a long look. */
const TIMES = Number(process.env['FULL'] ?? 1);
test.describe.configure({ timeout: 120_000 + TIMES * 120_000 });

/** A small disk of its own in memory, or null where nobody may make one. */
function smallDisk(): string | null {
  const dir = mkdtempSync(path.join(tmpdir(), 'small-disk-'));
  try {
    execFileSync('mount', ['-t', 'tmpfs', '-o', 'size=96m', 'tmpfs', dir], { stdio: 'ignore' });
    return dir;
  } catch {
    rmSync(dir, { recursive: true });
    return null;
  }
}

async function start(profile: string, cache: string) {
  const args = test.info().project.use.launchOptions;
  const child = spawn(
    args?.executablePath ?? BROWSER,
    [
      ...(args?.args ?? []),
      ...[
        '--headless',
        '--remote-debugging-port=0',
        `--user-data-dir=${profile}`,
        `--disk-cache-dir=${cache}`,
      ],
      'about:blank',
    ],
    { stdio: ['ignore', 'ignore', 'pipe'] },
  );
  const address = await new Promise<string>((done) => {
    let text = '';
    child.stderr.on('data', (d) => {
      text += d;
      const found = /DevTools listening on (ws:\S+)/.exec(text);
      if (found?.[1]) done(found[1]);
    });
  });
  const browser = await chromium.connectOverCDP(address);
  const page = browser.contexts()[0]?.pages()[0];
  if (!page) throw new Error('no page');
  page.setDefaultTimeout(60_000);
  /** Ends as when somebody closes the window. */
  const close = async () => {
    const over = new Promise((done) => child.on('exit', done));
    const all = await browser.newBrowserCDPSession();
    await all.send('Browser.close').catch(() => {});
    await over;
  };
  return { page, close };
}

for (let n = 1; n <= TIMES; n++)
  test(`after a disk was full what is called kept is there at the next start, or put back from its copy (${n})`, async ({
    baseURL,
  }) => {
    const disk = smallDisk();
    test.skip(disk === null, 'nobody may mount a small disk here');
    const dir = disk as string;
    const cache = mkdtempSync(path.join(tmpdir(), 'cache-'));
    try {
      const profile = path.join(dir, 'profile');
      mkdirSync(profile);
      let now = await start(profile, cache);
      let { page } = now;
      await page.goto(`${baseURL}/new`);
      await page.getByRole('button', { name: 'Add a box' }).click();
      await expect(page.getByText(/✓ kept/)).toBeVisible();
      const address = page.url();
      const fill = path.join(dir, 'fill');
      // Until there is not a byte left.
      for (const size of [1 << 20, 1 << 12])
        try {
          for (let k = 0; ; k++) writeFileSync(`${fill}-${size}-${k}`, Buffer.alloc(size));
        } catch {
          // That was the last that fitted.
        }
      // What was set aside before takes some steps yet.
      let balls = 0;
      const isKept = async () => {
        await page.waitForTimeout(2500);
        return (await page.getByText(/✓ kept/).count()) > 0;
      };
      do {
        await addKind(page, 'Ball');
        balls++;
      } while (balls < 12 && (await isKept()));
      await expect(page.getByText(/✓ kept/)).toHaveCount(0);
      execFileSync('find', [dir, '-maxdepth', '1', '-name', 'fill*', '-delete']);
      await addKind(page, 'Cylinder');
      await expect(page.getByText(/✓ kept/)).toBeVisible({ timeout: 60_000 });
      await now.close();
      now = await start(profile, cache);
      page = now.page;
      await page.goto(`${baseURL}/`);
      await expect(page.getByRole('listitem').first()).toBeVisible();
      const put = page.getByRole('button', { name: /^Put (it|them) back/ });
      const there = page.getByRole('button', { name: /^Untitled piece/ });
      await expect(put.or(there).first()).toBeVisible();
      if (await put.isVisible()) {
        await expect(
          page.getByText(/^This browser has lost a piece that was kept here: Untitled piece/),
        ).toBeVisible();
        await put.click();
        await expect(put).toHaveCount(0);
      }
      await page.goto(address);
      await expect(page.getByRole('treeitem')).toHaveCount(balls + 2);
      // With all that could be undone.
      await page.locator('body').press('ControlOrMeta+z');
      await expect(page.getByRole('treeitem')).toHaveCount(balls + 1);
      await now.close();
    } finally {
      execFileSync('umount', ['-l', dir]);
      rmSync(dir, { recursive: true, force: true });
      rmSync(cache, { recursive: true, force: true });
    }
  });
