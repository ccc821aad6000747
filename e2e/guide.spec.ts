/** The guide, the starters and the sentences that lead through them. */
import { expect, test } from '@playwright/test';
import { GUIDE } from '../packages/desk/src/session/words/guide-pages.ts';
import { at, colour, item } from './helpers.ts';

test('a page of the guide is searched, its piece runs beside it and is clicked in there, and is opened at that place', async ({
  page,
}) => {
  await page.goto('/');
  await page.getByRole('link', { name: 'Guide' }).click();
  await page.getByLabel('Search the guide').fill('random lots');
  await expect(page.getByText('Nothing found for “random lots”.')).toBeVisible();
  await page.getByLabel('Search the guide').fill('click');
  const links = page.getByRole('navigation', { name: 'Pages of the guide' }).getByRole('link');
  await links.filter({ hasText: 'Answer a click or a key' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Answer a click or a key');
  const live = page.getByLabel('Anvil, running');
  await expect(live).toBeVisible();
  const painted = () =>
    live.evaluate((c: HTMLCanvasElement) => {
      const d = c.getContext('2d')?.getImageData(0, 0, c.width, c.height).data ?? [];
      let sum = 0;
      for (let i = 0; i < d.length; i += 4) sum += (d[i] as number) * (1 + (i % 97));
      return sum;
    });
  await expect.poll(painted).toBeGreaterThan(0);
  const still = await painted();
  const box = await live.boundingBox();
  if (!box) throw new Error('no canvas');
  await page.mouse.click(box.x + box.width / 2, box.y + box.height * 0.56);
  // Sparks are under way.
  await expect.poll(painted).not.toBe(still);
  await page.getByRole('button', { name: 'Try it' }).click();
  await expect(
    item(page, 'Anvil')
      .or(page.getByRole('treeitem', { name: /^Anvil/ }))
      .first(),
  ).toHaveAttribute('aria-selected', 'true');
  const walk = page.getByRole('region', { name: 'Look around' });
  await expect(walk).toContainText('1 of 3');
});

test('every page of the guide has a piece that can be tried', async ({ page }) => {
  test.slow();
  await page.goto('/guide');
  for (const { title, choose } of GUIDE) {
    await page.getByRole('link', { name: title, exact: true }).click();
    await expect(page.getByRole('heading', { level: 1 })).toHaveText(title);
    await expect(page.locator('canvas')).toBeVisible();
    await page.getByRole('button', { name: 'Try it' }).click();
    await expect(page.getByLabel('Name', { exact: true }), title).toHaveValue(choose);
    await page.goBack();
  }
});

test('a starter is found by what one wants, has its picture at once, and leads through itself; left, it is gone', async ({
  page,
}) => {
  await page.goto('/');
  await page.getByLabel('Find a starter').fill('door proximity');
  const found = page.getByRole('button', { name: 'Gate that opens as one comes near' });
  await expect(found).toBeVisible();
  await expect(page.getByRole('button', { name: 'Anvil that sends sparks' })).toHaveCount(0);
  await expect
    .poll(() => found.locator('img').evaluate((i: HTMLImageElement) => i.complete && i.naturalWidth))
    .toBeGreaterThan(200);
  await found.click();
  const walk = page.getByRole('region', { name: 'Look around' });
  await expect(walk).toContainText('1 of 3');
  // In the middle of it the page is loaded again.
  await page.reload();
  await walk.getByRole('button', { name: 'Go on' }).press('Enter');
  await expect(page.getByRole('treeitem', { name: /^Gate/ })).toHaveAttribute('aria-selected', 'true');
  await walk.getByRole('button', { name: 'Go on' }).click();
  await walk.getByRole('button', { name: 'Back' }).click();
  await expect(walk).toContainText('2 of 3');
  await walk.getByRole('button', { name: 'Go on' }).click();
  await walk.getByRole('button', { name: 'Seen all' }).click();
  await expect(walk).toHaveCount(0);
  await page.reload();
  await expect(page.getByRole('treeitem', { name: /^Gate/ })).toBeVisible();
  await expect(walk).toHaveCount(0);
});

test('a kept piece shows the picture that was kept with it, and a new one when it has changed', async ({
  page,
}) => {
  await page.goto('/new');
  await expect(page.getByRole('region', { name: 'Begin here' })).toBeVisible();
  await page
    .getByRole('region', { name: 'Begin here' })
    .getByRole('button', { name: /^Rectangle/ })
    .click();
  const [a, b] = [await at(page, -200, 150), await at(page, 200, -150)];
  await page.mouse.move(a.x, a.y);
  await page.mouse.down();
  await page.mouse.move(b.x, b.y, { steps: 4 });
  await page.mouse.up();
  await expect.poll(() => colour(page, 0, 0)).toBe('#7fa982');
  await expect(page.getByText(/^✓ kept/)).toBeVisible();
  await page.goto('/');
  const picture = page.getByRole('button', { name: /^Untitled piece/ }).locator('img');
  await expect(picture).toBeVisible();
  // Then it is there at once, without being painted.
  await page.reload();
  await expect(picture).toBeVisible();
  await expect(page.getByRole('button', { name: /^Untitled piece/ }).locator('canvas')).toHaveCount(0);
});

test('Ctrl K finds a page of the guide by the words of who looks for it', async ({ page }) => {
  await page.goto('/new');
  await expect(page.getByRole('heading', { name: 'Objects', exact: true })).toBeVisible();
  await page.locator('body').press('ControlOrMeta+k');
  await page.getByLabel('Search commands').fill('dice');
  await page.getByLabel('Search commands').press('Enter');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Leave it to chance');
});
