import { readFileSync } from 'node:fs';
import AxeBuilder from '@axe-core/playwright';
import { expect, type Page, test } from '@playwright/test';

async function openChute(page: Page): Promise<void> {
  await page.goto('/');
  await page
    .getByRole('button', { name: /^Chute/ })
    .first()
    .click();
  await expect(page.getByRole('heading', { name: 'Apple Tick' })).toBeVisible();
}
const newPiece = async (page: Page) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'New piece' }).click();
  await expect(page.getByRole('heading', { name: 'Objects', exact: true })).toBeVisible();
};
const drag = async (page: Page, from: { x: number; y: number }, dx: number, dy: number) => {
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(from.x + dx / 2, from.y + dy / 2);
  await page.mouse.move(from.x + dx, from.y + dy, { steps: 4 });
};
const middle = async (page: Page, selector: string) => {
  const b = await page.locator(selector).boundingBox();
  if (!b) throw new Error(`nothing at ${selector}`);
  return { x: b.x + b.width / 2, y: b.y + b.height / 2 };
};

test('the shelf shows the demo with a picture; a new piece opens', async ({ page }) => {
  await page.goto('/');
  const card = page.getByRole('listitem').filter({ hasText: 'Chute' }).first();
  await expect(card.locator('canvas')).toBeVisible();
  const colours = await card.locator('canvas').evaluate((c: HTMLCanvasElement) => {
    const d = c.getContext('2d')?.getImageData(0, 0, c.width, c.height).data ?? [];
    return new Set(
      Array.from({ length: d.length / 4 }, (_, i) => `${d[i * 4]},${d[i * 4 + 1]},${d[i * 4 + 2]}`),
    ).size;
  });
  expect(colours).toBeGreaterThan(10);
});

test('from an empty page to a flap that tips on a click, by hand', async ({ page }) => {
  await newPiece(page);
  await page.getByRole('button', { name: 'Add a box' }).click();
  await page.getByLabel('Size h').fill('90+10');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Size h')).toHaveValue('100');

  // The pivot, dragged near the top edge, snaps to it; the object stays where it is.
  await page.getByRole('button', { name: 'Pivot', exact: true }).click();
  const pivot = await middle(page, '[data-handle="pivot"]');
  const box = await page.locator('canvas[aria-label="Frame"]').boundingBox();
  const scale = Math.min(((box?.width ?? 0) - 36) / 960, ((box?.height ?? 0) - 28) / 540);
  await drag(page, pivot, 3, -50 * scale + 4);
  await page.mouse.up();
  await expect(page.getByLabel('Pivot y')).toHaveValue('50');
  await expect(page.getByLabel('Place y')).toHaveValue('0');

  // A reaction, a machine, a clip, keyed by moving.
  await page.getByRole('button', { name: 'Add a reaction' }).click();
  await page.getByRole('button', { name: 'Add a machine to Box' }).first().click();
  await page.getByRole('button', { name: 'Add a state' }).click();
  await page.getByRole('menuitem', { name: 'That plays a new clip' }).click();
  await page.getByRole('button', { name: 'Unfold its timeline' }).click();
  await page.getByRole('button', { name: /key as I move/ }).click();
  await expect(page.getByText('Moves are keyed into')).toBeVisible();
  await page.getByLabel('Playhead, seconds').fill('0.7');
  await page.keyboard.press('Enter');
  await page.getByRole('treeitem', { name: /Box/ }).click();
  await page.getByLabel('Turn ° x').fill('-68');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /^Key at/ })).toHaveCount(2);
  await page.getByRole('button', { name: 'Key at 0.00 s' }).press('Enter');
  await page.getByRole('button', { name: 'overshoot', exact: true }).click();
  await page.getByRole('button', { name: 'Fold' }).click();

  // A transition dragged from panel to panel, another by the keyboard.
  const rest = await page.locator('[data-state="at rest"]').boundingBox();
  const moving = await page.locator('[data-state="moving"]').boundingBox();
  if (!rest || !moving) throw new Error('no panels');
  await drag(page, { x: rest.x + rest.width - 3, y: rest.y + 60 }, moving.x + 60 - rest.x - rest.width, 0);
  await page.mouse.up();
  await expect(page.getByRole('button', { name: 'Transition: not yet set' })).toBeVisible();
  await page.getByRole('button', { name: 'condition' }).click();
  await expect(page.getByRole('button', { name: 'Transition: Box on on' })).toBeVisible();

  await page.getByRole('button', { name: 'Run', exact: true }).click();
  await page.getByRole('switch', { name: 'Box on' }).click();
  await expect(page.getByText('Box at rest → moving')).toBeVisible();
  await page.getByRole('button', { name: 'Stop' }).click();
});

test('run: the flap opens, turns back half-way from where it is, opens again and stays', async ({ page }) => {
  await openChute(page);
  await page.locator('body').press('r');
  const frame = page.getByLabel('Live frame');
  const box = await frame.boundingBox();
  if (!box) throw new Error('no frame');
  const scale = Math.min((box.width - 36) / 960, (box.height - 28) / 540);
  // A point of the flap near its hinge stays under the pointer in every position.
  const at = { x: box.x + box.width / 2 + 55 * scale, y: box.y + box.height / 2 + 50 * scale };
  await page.mouse.click(at.x, at.y);
  await expect(page.getByText('Flap shut → tipping')).toBeVisible();
  await page.getByRole('switch').click();
  await expect(page.getByText('Flap tipping → back').first()).toBeVisible();
  await page.getByRole('switch').click();
  await expect(page.getByText('Flap back → tipping').first()).toBeVisible();
  await expect(page.getByText('Flap tipping → open').first()).toBeVisible();
  await page.waitForTimeout(600);
  await expect(page.getByText(/^open · /)).toBeVisible();
  // Editing goes on while it runs, and stays after Stop.
  await page.getByRole('treeitem', { name: /^Lid/ }).click();
  await page.getByLabel('Place y').fill('190');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Stop' }).click();
  await expect(page.getByLabel('Place y')).toHaveValue('190');
  await expect(page.getByText('not running')).toBeVisible();
});

test('a reload in the middle of a drag loses nothing, and one undo leads to before it', async ({ page }) => {
  await newPiece(page);
  await page.getByRole('button', { name: 'Add a box' }).click();
  const from = await middle(page, '[data-handle="pivot"]');
  await drag(page, { x: from.x + 20, y: from.y + 15 }, 90, 0);
  await page.waitForTimeout(900);
  const moved = await page.getByLabel('Place x').inputValue();
  expect(Number(moved)).toBeGreaterThan(50);
  await page.reload();
  await page.getByRole('treeitem', { name: /Box/ }).click();
  await expect(page.getByLabel('Place x')).toHaveValue(moved);
  await expect(page.getByRole('button', { name: 'Undo “Moved Box”' })).toBeEnabled();
  await page.getByRole('button', { name: 'Undo “Moved Box”' }).click();
  await expect(page.getByLabel('Place x')).toHaveValue('0');
  await page.getByRole('button', { name: 'Redo “Moved Box”' }).click();
  await expect(page.getByLabel('Place x')).toHaveValue(moved);
});

test('a second tab follows and says so', async ({ page, context }) => {
  await newPiece(page);
  const second = await context.newPage();
  await second.goto(page.url());
  await expect(second.getByText('being edited in another tab')).toBeVisible();
  await page.getByRole('button', { name: 'Add a box' }).click();
  await expect(second.getByRole('treeitem', { name: /Box/ })).toBeVisible();
  await page.close();
  await expect(second.getByText('being edited in another tab')).toBeHidden();
});

test('export and import give an equal piece; a wrong file is explained and changes nothing', async ({
  page,
}) => {
  await openChute(page);
  await page.getByRole('link', { name: 'Hand over' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Export the file' }).click();
  const path = await (await download).path();
  const text = readFileSync(path, 'utf8');
  await page.goto('/');
  await page.getByLabel('File to import').setInputFiles({
    name: 'wrong.json',
    mimeType: 'application/json',
    buffer: Buffer.from(text.replace('"ob_chute"', '"__proto__"').replace('"fps": 60', '"fps": "fast"')),
  });
  await expect(page.getByRole('dialog')).toContainText('Nothing was changed');
  await page.getByRole('button', { name: 'Close' }).click();
  const before = await page.getByRole('listitem').count();
  await page
    .getByLabel('File to import')
    .setInputFiles({ name: 'c.json', mimeType: 'application/json', buffer: Buffer.from(text) });
  await expect(page.getByRole('heading', { name: 'Objects', exact: true })).toBeVisible();
  await page.getByRole('link', { name: 'Hand over' }).click();
  const again = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Export the file' }).click();
  const copy = JSON.parse(readFileSync(await (await again).path(), 'utf8'));
  expect({ ...copy, id: '' }).toEqual({ ...JSON.parse(text), id: '' });
  await page.goto('/');
  await expect(page.getByRole('listitem')).toHaveCount(before + 1);
});

for (const theme of ['light', 'dark'])
  test(`nothing serious for axe, nothing cut off, in the ${theme} theme`, async ({ page }) => {
    await page.addInitScript((t) => localStorage.setItem('apple-tick-theme', t), theme);
    for (const size of [
      { width: 1280, height: 800 },
      { width: 1024, height: 700 },
    ]) {
      await page.setViewportSize(size);
      await openChute(page);
      await page.getByRole('treeitem', { name: /^Flap/ }).click();
      const wide = await page.evaluate(() => document.documentElement.scrollWidth > innerWidth);
      expect(wide).toBe(false);
      const found = await new AxeBuilder({ page }).analyze();
      const serious = found.violations.filter((v) => v.impact === 'serious' || v.impact === 'critical');
      expect(serious.map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(' ')).join(', ')}`)).toEqual([]);
    }
  });
