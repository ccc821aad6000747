/** Drawing: every kind, paths by points, words; and the view it is done on. */
import { expect, test } from '@playwright/test';
import { addKind, at, commit, drag, item, newPiece, undo } from './helpers.ts';

test('the view is zoomed about the pointer, panned, and fitted again', async ({ page }) => {
  await newPiece(page);
  await addKind(page, 'Box');
  const p = await at(page, 0, 0);
  await page.mouse.move(p.x + 100, p.y);
  await page.keyboard.down('Control');
  await page.mouse.wheel(0, -240);
  await page.keyboard.up('Control');
  await expect(page.getByRole('button', { name: '200 %' })).toBeVisible();
  const pivot = await page.locator('[data-handle="pivot"] circle').first().boundingBox();
  // The box is now twice as far left of the pointer.
  expect(Math.abs((pivot?.x ?? 0) + (pivot?.width ?? 0) / 2 - (p.x - 100))).toBeLessThan(4);
  await page.mouse.wheel(0, 50);
  await page.locator('body').press('0');
  await expect(page.getByRole('button', { name: '100 %' })).toBeVisible();
  await page.locator('body').press('+');
  await expect(page.getByRole('button', { name: '125 %' })).toBeVisible();
});

test('A10: every kind is drawn, sized by numbers, filled, stroked; each is one undo step', async ({
  page,
}) => {
  await newPiece(page);
  for (const kind of ['Rectangle', 'Ellipse', 'Polygon', 'Path', 'Box', 'Cylinder', 'Ball', 'Prism']) {
    await addKind(page, kind);
    await commit(page, 'Size w', '140');
    await expect(page.getByLabel('Size w')).toHaveValue('140');
    await undo(page);
    await expect(page.getByLabel('Size w')).not.toHaveValue('140');
  }
  await item(page, 'Polygon').click();
  await commit(page, 'Sides', '7');
  await page.getByLabel('a star').uncheck();
  await page.getByLabel('Kind of fill').selectOption('radial');
  await expect(page.getByLabel('Colour of stop 2')).toBeVisible();
  await page.getByRole('button', { name: 'Add a stroke' }).click();
  await commit(page, 'Width of the stroke', '5');
  for (const name of ['Stroked', 'Stroked', 'Filled', 'Changed', 'Changed']) {
    await expect(page.getByRole('button', { name: `Undo “${name} Polygon”` })).toBeEnabled();
    await undo(page);
  }
  await page.reload();
  await expect(page.getByRole('treeitem')).toHaveCount(8);
});

test('A10: a path is drawn by points, and its points and handles are edited on the view', async ({
  page,
}) => {
  await newPiece(page);
  await page.locator('body').press('p');
  const corner = async (x: number, y: number) => {
    const p = await at(page, x, y);
    await page.mouse.click(p.x, p.y);
  };
  await corner(-100, -60);
  await corner(100, -60);
  // Dragged: a smooth point.
  const top = await at(page, 0, 80);
  await drag(page, top, -60 * top.scale, 0);
  await page.mouse.up();
  await corner(-100, -60);
  await expect(item(page, 'Path')).toBeVisible();
  await expect(page.getByText('3 points')).toBeVisible();
  await page.getByRole('button', { name: 'Points', exact: true }).click();
  const point = page.locator('[data-handle="point-0-1"]');
  const b = await point.boundingBox();
  if (!b) throw new Error('no point');
  const width = Number(await page.getByLabel('Size w').inputValue());
  await drag(page, { x: b.x + 4, y: b.y + 4 }, 40 * top.scale, 0);
  await page.mouse.up();
  await expect
    .poll(async () => Number(await page.getByLabel('Size w').inputValue()))
    .toBeGreaterThan(width + 25);
  await expect(page.getByRole('button', { name: 'Undo “Shaped Path”' })).toBeEnabled();
  await point.dblclick();
  await expect(page.locator('[data-handle^="curve-"]')).toHaveCount(2);
  await page.locator('body').press('Delete');
  await expect(page.getByText('2 points')).toBeVisible();
  await undo(page);
  await expect(page.getByText('3 points')).toBeVisible();
  await point.dblclick();
  await expect(page.locator('[data-handle^="curve-"]')).toHaveCount(0);
  // On the line a double-click adds one; Escape while drawing gives up.
  const line = await at(page, 0, -60);
  await page.mouse.dblclick(line.x, line.y);
  await expect(page.getByText('4 points')).toBeVisible();
  await page.locator('body').press('p');
  await corner(50, 50);
  await page.keyboard.press('Escape');
  await expect(page.getByRole('treeitem')).toHaveCount(1);
});

test('A10: words in the bundled fonts are as wide as the browser draws them', async ({ page }) => {
  await newPiece(page);
  await addKind(page, 'Text');
  await page.getByRole('textbox', { name: 'Text' }).fill('Windfall\nMill, 20 pints');
  await page.getByRole('textbox', { name: 'Text' }).blur();
  for (const [font, family] of [
    ['serif', '"Fraunces Variable"'],
    ['sans', '"Public Sans Variable"'],
    ['mono', '"IBM Plex Mono"'],
  ] as const) {
    await page.getByLabel('Font', { exact: true }).selectOption(font);
    await commit(page, 'Weight', '400');
    const width = await page.evaluate((f) => {
      const ctx = document.createElement('canvas').getContext('2d') as CanvasRenderingContext2D;
      ctx.font = `400 48px ${f}`;
      ctx.fontKerning = 'none';
      return ctx.measureText('Mill, 20 pints').width;
    }, family);
    expect(Math.abs(Number(await page.getByLabel('Size w').inputValue()) - width)).toBeLessThan(1);
  }
  await commit(page, 'Font size', '96');
  await expect.poll(async () => Number(await page.getByLabel('Size h').inputValue())).toBe(240);
  await undo(page);
  await expect(page.getByLabel('Font size')).toHaveValue('48');
});
