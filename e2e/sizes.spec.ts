import { expect, type Page, test } from '@playwright/test';
import { plainBase as base, colour, commit, item, newPiece, pickColour, undo } from './helpers.ts';

const object = (id: string, more: object) => ({
  id,
  name: id,
  parent: null,
  order: id,
  tags: [],
  hint: '',
  base,
  ...more,
});
const ring = (n: number, r: number) =>
  Array.from({ length: n }, (_, i) => {
    const a = (i / n) * 2 * Math.PI;
    return [
      Math.round(r * Math.cos(a) * 100) / 100,
      Math.round(r * (1 + 0.1 * (i % 2)) * Math.sin(a) * 100) / 100,
    ];
  });
async function bring(page: Page, objects: readonly { id: string }[]): Promise<void> {
  const piece = {
    format: 'apple-tick',
    version: 1,
    id: 'large',
    name: 'Large',
    frame: { width: 960, height: 540, background: '#dce7e2' },
    view: { azimuth: 35, elevation: 29 },
    objects: Object.fromEntries(objects.map((o) => [o.id, o])),
  };
  await page.goto('/');
  const buffer = Buffer.from(JSON.stringify(piece));
  await page
    .getByLabel('File to import')
    .setInputFiles({ name: 'large.tick.json', mimeType: 'application/json', buffer });
}
const problems = (page: Page) => page.getByLabel('Problems');

test('four paths of 20,000 points are nudged 260 times, kept, and undone after a reload', async ({
  page,
}) => {
  const errors: string[] = [];
  page.on('pageerror', (e) => errors.push(e.message));
  const nodes = ring(20_000, 150).map((at) => ({ at }));
  const ids = ['ob_a', 'ob_b', 'ob_c', 'ob_d'];
  await bring(
    page,
    ids.map((id) => object(id, { kind: 'path', rule: 'nonzero', subpaths: [{ closed: true, nodes }] })),
  );
  await item(page, 'ob_a').click();
  await page.locator('body').press('ControlOrMeta+a');
  await page.getByLabel('Frame', { exact: true }).focus();
  for (let n = 0; n < 260; n++) await page.keyboard.press('ArrowRight');
  await expect(page.getByText(/✓ kept/)).toBeVisible();
  await page.reload();
  await item(page, 'ob_a').click();
  const x = page.getByRole('textbox', { name: 'Place x' });
  await expect(x).toHaveValue('260');
  for (let n = 0; n < 60; n++) await undo(page);
  await item(page, 'ob_a').click();
  await expect(x).toHaveValue('200');
  expect(errors).toEqual([]);
});

test('40 polygons of 5,000 points open and can be worked on', async ({ page }) => {
  const points = ring(5000, 100);
  await bring(
    page,
    Array.from({ length: 40 }, (_, i) =>
      object(`ob_${i}`, { kind: 'polygon', points, base: { ...base, position: [0, 0, i] } }),
    ),
  );
  await item(page, 'ob_7').click();
  await page.getByLabel('Frame', { exact: true }).focus();
  await page.keyboard.press('ArrowRight');
  await expect(page.getByRole('textbox', { name: 'Place x' })).toHaveValue('1');
  await page.keyboard.press('r');
  await expect(page.getByLabel('Live frame')).toBeVisible();
});

test('what is too deep, too fine or too much is refused with its place and the limit', async ({ page }) => {
  await bring(
    page,
    Array.from({ length: 9000 }, (_, i) =>
      object(`ob_${i}`, { kind: 'group', parent: i > 0 ? `ob_${i - 1}` : null }),
    ),
  );
  await expect(problems(page)).toHaveText(
    'objects.ob_200.parent: Objects lie in one another at most 200 deep.',
  );
  const nodes = ring(20_000, 150).map((at) => ({ at }));
  await bring(page, [object('ob_p', { kind: 'prism', depth: 40, subpaths: [{ closed: true, nodes }] })]);
  await expect(problems(page)).toContainText(
    'objects.ob_p.subpaths: The value must hold at most 2000 points in all',
  );
  await newPiece(page);
  const shapes = '<rect width="4" height="5"/>'.repeat(20_000);
  await page.getByLabel('File to bring in').setInputFiles({
    name: 'many.svg',
    mimeType: 'image/svg+xml',
    buffer: Buffer.from(`<svg xmlns="http://www.w3.org/2000/svg" width="99" height="99">${shapes}</svg>`),
  });
  await expect(problems(page)).toContainText(
    'holds 20,001 shapes and groups; at most 10,000 can be brought in',
  );
});

test('what has thousands of points is painted where it is, in its colour, moved, recoloured and zoomed', async ({
  page,
}) => {
  const star = Array.from({ length: 5000 }, (_, i) => {
    const [a, r] = [(i / 5000) * 2 * Math.PI, 100 + 20 * Math.sin(i * 17.3)];
    return [r * Math.cos(a), r * Math.sin(a)];
  });
  await bring(page, [object('ob_star', { kind: 'polygon', points: star })]);
  await expect(item(page, 'ob_star')).toBeVisible();
  await page.locator('body').press('1');
  const red = '#b23529';
  await expect.poll(() => colour(page, 0, 0)).toBe(red);
  expect(await colour(page, 130, 0)).not.toBe(red);
  await item(page, 'ob_star').click();
  await commit(page, 'Place x', '100');
  await expect.poll(() => colour(page, 150, 0)).toBe(red);
  await expect.poll(() => colour(page, -50, 0)).not.toBe(red);
  await pickColour(page, 'Fill', '#2f6b2f');
  await expect.poll(() => colour(page, 150, 0)).toBe('#2f6b2f');
  await undo(page);
  await expect.poll(() => colour(page, 150, 0)).toBe(red);
});
