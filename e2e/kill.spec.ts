import { type ChildProcess, spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { seeded } from '@apple-tick/core/testing';
import { type Browser, chromium, expect, type Page, test } from '@playwright/test';
import { BROWSER } from '../scripts/browser.mjs';

/** How many browsers are killed; `KILLS=200` for a long look. */
const KILLS = Number(process.env['KILLS'] ?? 10);
/** What was done longer ago than this must be there again, ms. */
const SECOND = 1000;

test.describe.configure({ timeout: 120_000 + KILLS * 40_000 });

/** A browser of its own, of which we know the process, so that it can be killed as a crash of the machine would. */
async function start(profile: string): Promise<{ browser: Browser; page: Page; kill: () => Promise<void> }> {
  const args = test.info().project.use.launchOptions;
  const child: ChildProcess = spawn(
    args?.executablePath ?? BROWSER,
    [
      ...(args?.args ?? []),
      '--headless',
      '--remote-debugging-port=0',
      `--user-data-dir=${profile}`,
      'about:blank',
    ],
    { detached: true, stdio: ['ignore', 'ignore', 'pipe'] },
  );
  const address = await new Promise<string>((done, fail) => {
    let text = '';
    child.stderr?.on('data', (d) => {
      text += d;
      const found = /DevTools listening on (ws:\S+)/.exec(text);
      if (found?.[1]) done(found[1]);
    });
    child.on('exit', () => fail(new Error(`the browser ended: ${text}`)));
  });
  const browser = await chromium.connectOverCDP(address);
  const page = browser.contexts()[0]?.pages()[0] as Page;
  // What cannot be pressed is said, not waited for until the end.
  page.setDefaultTimeout(30_000);
  const kill = async () => {
    const over = new Promise((done) => child.on('exit', done));
    // All its processes at once: the group's leader is the one that was started.
    process.kill(-(child.pid as number), 'SIGKILL');
    await over;
    await browser.close().catch(() => {});
  };
  return { browser, page, kill };
}

test('a browser killed at any moment loses nothing that is older than a second', async ({ baseURL }) => {
  const random = seeded(20);
  const profile = mkdtempSync(path.join(tmpdir(), 'apple-tick-kill-'));
  let url = '';
  const lost: string[] = [];
  let end: (() => Promise<void>) | null = null;
  try {
    // The browser in which was looked for what the killed one had kept is the one that is killed next.
    let { page, kill } = await start(profile);
    end = () => kill();
    for (let round = 0; round < KILLS; round++) {
      const place = page.getByLabel('Place x', { exact: true });
      const ready = async () => {
        await page.getByRole('treeitem', { name: /^Box/ }).first().click();
        await expect(place).toBeVisible();
      };
      if (url === '') {
        await page.goto(`${baseURL}/`);
        await page.getByRole('button', { name: 'New piece' }).click();
        await page.getByRole('button', { name: 'Add a box' }).click();
        url = page.url();
      }
      await ready();
      /** What stood when: the newest first is what may be found. */
      const stood: { t: number; x: string }[] = [];
      const note = async () => {
        const x = await place.inputValue();
        stood.push({ t: Date.now(), x });
      };
      await note();
      const did: string[] = [];
      const ops = 2 + Math.floor(random() * 6);
      for (let n = 0; n < ops; n++) {
        const what = random();
        if (what < 0.45) {
          did.push('nudge');
          await page.getByLabel('Frame', { exact: true }).focus();
          for (let i = 0; i < 1 + random() * 3; i++) await page.keyboard.press('ArrowRight');
        } else if (what < 0.6) {
          did.push('type');
          await place.fill(String(Math.floor(random() * 200)));
          await page.keyboard.press('Enter');
        } else if (what < 0.75) {
          did.push('drag');
          const b = (await page.getByLabel('Frame', { exact: true }).boundingBox()) as {
            x: number;
            y: number;
            width: number;
            height: number;
          };
          const handle = await page
            .locator('[data-handle="place-x"]')
            .boundingBox()
            .catch(() => null);
          const [x, y] = handle
            ? [handle.x + handle.width / 2, handle.y + handle.height / 2]
            : [b.x + b.width / 2, b.y + b.height / 2];
          await page.mouse.move(x, y);
          await page.mouse.down();
          await page.mouse.move(x + 20 + random() * 40, y, { steps: 3 });
          await page.mouse.up();
        } else if (what < 0.88) {
          did.push('undo');
          await page.locator('body').press('ControlOrMeta+z');
          if ((await page.getByRole('treeitem').count()) === 0)
            await page.locator('body').press('ControlOrMeta+Shift+z');
          await ready();
        } else {
          did.push('reload');
          await page.reload();
          await ready();
        }
        await note();
      }
      if (random() < 0.5) await page.waitForTimeout(random() * 1500);
      const killed = Date.now();
      await kill();
      ({ page, kill } = await start(profile));
      await page.goto(url);
      await page.getByRole('treeitem', { name: /^Box/ }).first().click();
      const found = await page.getByLabel('Place x', { exact: true }).inputValue();
      const sure = stood.findLastIndex((s) => s.t <= killed - SECOND);
      // What was under way may have been caught half-way.
      const may = stood.slice(Math.max(0, sure)).map((s) => Number(s.x));
      const x = Number(found);
      const isThere = may.some((to, i) => {
        const from = may[i - 1] ?? to;
        return x >= Math.min(from, to) && x <= Math.max(from, to);
      });
      if (!isThere) lost.push(`round ${round} (${did.join(', ')}): ${found}, not within ${may.join(', ')}`);
    }
  } finally {
    // It may have ended by itself, which is what failed then.
    await end?.().catch(() => {});
    rmSync(profile, { recursive: true, force: true, maxRetries: 5 });
  }
  expect(lost).toEqual([]);
});
