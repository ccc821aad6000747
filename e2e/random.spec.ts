import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { seeded } from '@apple-tick/core/testing';
import { expect, type Page, test } from '@playwright/test';

/** Operations of each of the two runs; `OPERATIONS=1500` for a long look. */
const OPERATIONS = Number(process.env['OPERATIONS'] ?? 250);

// A trace takes a picture of the page at each operation: the time would go there.
test.use({ trace: 'off' });

/** The piece as a file, and the file's path. */
async function exported(page: Page): Promise<{ text: string; file: string }> {
  await page.getByRole('button', { name: 'Menu of the piece' }).click();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('menuitem', { name: 'Export the file' }).click(),
  ]);
  const file = await download.path();
  return { text: readFileSync(file, 'utf8'), file };
}

/** So many steps are undone, or done again, before it is asked whether there are more. */
const AT_ONCE = 5;
/** Undoes, or does again, by keyboard until there is no more; how many times, in whole fives. */
async function toTheEnd(page: Page, which: 'Undo' | 'Redo'): Promise<number> {
  const button = page.getByRole('button', { name: new RegExp(`^${which}`) });
  let n = 0;
  for (; await button.isEnabled(); n += AT_ONCE) {
    await page.locator('body').press(which === 'Undo' ? 'ControlOrMeta+z' : 'ControlOrMeta+Shift+z');
    for (let k = 1; k < AT_ONCE; k++)
      await page.keyboard.press(which === 'Undo' ? 'ControlOrMeta+z' : 'ControlOrMeta+Shift+z');
    if (n > 10_000) throw new Error('no end');
  }
  return n;
}

/** Where the controls of a part of the screen lie that can be pressed, and what they are. */
const controls = (page: Page, part: string) =>
  page.evaluate((name) => {
    const root = document.querySelector(`[aria-label="${name}"]`);
    const list =
      root?.querySelectorAll(
        'button, input, select, summary, [role=treeitem], [data-state], [tabindex="0"]',
      ) ?? [];
    return [...list].flatMap((el) => {
      const r = el.getBoundingClientRect();
      const x = r.x + r.width / 2;
      const y = r.y + r.height / 2;
      const at = document.elementFromPoint(x, y);
      if (!at || !(el === at || el.contains(at)) || (el as HTMLButtonElement).disabled) return [];
      const type = el instanceof HTMLInputElement ? el.type : el.tagName.toLowerCase();
      return [{ x, y, type, options: el instanceof HTMLSelectElement ? el.options.length : 0 }];
    });
  }, part);

const KEYS = [
  'Delete',
  'Control+d',
  'Control+Shift+d',
  'Control+j',
  'Control+a',
  'Control+z',
  'Control+Shift+z',
];
const PLAIN = ['r', 'Escape', '1', '2', '3', '0', 'o', 'c', 'v', 'ArrowRight', 'ArrowUp', 'Enter', 'Tab'];
const TEXTS = [
  '0',
  '-17.5',
  '90/2',
  '+15',
  '12f',
  'a name',
  '  ',
  '1e9',
  '<b>x</b>',
  'x'.repeat(300),
  '∞',
  '',
];

async function operate(page: Page, random: () => number): Promise<string> {
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)] as T;
  const what = random();
  if (what < 0.14) {
    const key = pick(KEYS);
    await page.locator('body').press(key);
    return key;
  }
  if (what < 0.24) {
    const key = pick(PLAIN);
    await page.keyboard.press(key);
    return key;
  }
  if (what < 0.36) {
    const view = await page.locator('canvas').first().boundingBox();
    if (!view) return 'no view';
    const at = () => [view.x + random() * view.width, view.y + random() * view.height] as const;
    const [x, y] = random() < 0.5 ? [view.x + view.width / 2 + 20, view.y + view.height / 2 - 20] : at();
    await page.mouse.move(x, y);
    await page.mouse.down();
    await page.mouse.move(...at());
    if (random() < 0.15) await page.keyboard.press(pick(['Control+z', 'Escape', 'Delete', 'r']));
    await page.mouse.move(...at());
    await page.mouse.up();
    return 'drag';
  }
  const part = pick(['Properties', 'Properties', 'Properties', 'Deck', 'Deck', 'View', 'Objects']);
  const list = await controls(page, part);
  if (list.length === 0) return `nothing in ${part}`;
  const c = pick(list);
  if (c.type === 'text') {
    await page.mouse.click(c.x, c.y);
    await page.keyboard.press('Control+a');
    await page.keyboard.insertText(pick(TEXTS));
    if (random() < 0.7) await page.keyboard.press('Enter');
    return `type in ${part}`;
  }
  if (c.type === 'select') {
    await page.mouse.move(c.x, c.y);
    await page.evaluate(
      ([x, y, n]) => {
        const el = document.elementFromPoint(x as number, y as number);
        if (!(el instanceof HTMLSelectElement)) return;
        el.selectedIndex = n as number;
        el.dispatchEvent(new Event('change', { bubbles: true }));
      },
      [c.x, c.y, Math.floor(random() * c.options)],
    );
    return `choose in ${part}`;
  }
  if (c.type === 'color') return 'a colour';
  if (random() < 0.15) await page.mouse.dblclick(c.x, c.y);
  else await page.mouse.click(c.x, c.y, random() < 0.1 ? { button: 'right' } : {});
  const menu = page.getByRole('menuitem');
  const n = await menu.count();
  if (n > 0) {
    if (random() < 0.8)
      await menu
        .nth(Math.floor(random() * n))
        .click({ timeout: 2000 })
        .catch(() => {});
    await page.keyboard.press('Escape');
  }
  return `press in ${part}`;
}

for (const seed of [11, 12])
  test(`random operations (${seed}) leave no error, a sound file, and undo and redo to the very ends`, async ({
    page,
  }) => {
    test.setTimeout(300_000 + OPERATIONS * 2000);
    const random = seeded(seed);
    const errors: string[] = [];
    page.on('pageerror', (e) => errors.push(e.message));
    await page.goto('/');
    await page
      .getByRole('button', { name: /^Chute/ })
      .first()
      .click();
    await expect(page.getByRole('treeitem').first()).toBeVisible();
    const url = page.url();
    const first = await exported(page);
    const did: string[] = [];
    for (let n = 0; n < OPERATIONS; n++) {
      did.push(await operate(page, random));
      // Copies of copies of everything would soon fill the time with drawing them.
      if (n % 10 === 0 && (await page.getByRole('treeitem').count()) > 60) {
        await page.keyboard.press('Escape');
        await page.locator('body').press('Control+a');
        await page.locator('body').press('Delete');
        await page.locator('body').press('Control+z');
        await page.getByRole('treeitem').first().click();
        await page.locator('body').press('Delete');
      }
      if (page.url() !== url) throw new Error(`left the piece after ${did.slice(-5).join(', ')}`);
      expect(errors, `after ${did.slice(-6).join(', ')}`).toEqual([]);
    }
    // Out of a run, a menu, a field.
    for (let i = 0; i < 3; i++) await page.keyboard.press('Escape');
    const stop = page.getByRole('button', { name: 'Stop', exact: true });
    if (await stop.isVisible()) await stop.click();
    // The last operations may have been undos: what they took back is ahead, so the very end lies there.
    await toTheEnd(page, 'Redo');
    const last = await exported(page);
    const read = spawnSync(process.execPath, ['packages/cli/dist/main.js', 'validate', last.file], {
      encoding: 'utf8',
    });
    expect([read.status, read.stderr]).toEqual([0, '']);
    const steps = await toTheEnd(page, 'Undo');
    expect(steps).toBeGreaterThan(OPERATIONS / 20);
    expect((await exported(page)).text).toBe(first.text);
    expect(await toTheEnd(page, 'Redo')).toBeGreaterThanOrEqual(steps);
    expect(JSON.parse((await exported(page)).text)).toEqual(JSON.parse(last.text));
    expect(errors).toEqual([]);
  });
