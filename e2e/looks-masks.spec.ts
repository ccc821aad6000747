import { expect, type Page, test } from '@playwright/test';
import { addKind, boxWithOpenClip, colour, commit, newPiece, pickColour } from './helpers.ts';

const section = (page: Page, name: string) =>
  page.getByRole('complementary', { name: 'Properties' }).locator('summary', { hasText: name });
const GROUND = '#dce7e2';
const GREEN = '#7fa982';

test('A5: a shape is a window, inside or outside, while it moves; a switch shows what it hides; masked away is not clicked', async ({
  page,
}) => {
  await newPiece(page);
  await addKind(page, 'Ellipse');
  await page.getByLabel('shown').uncheck();
  await page.locator('body').press('Escape');
  await addKind(page, 'Rectangle');
  await commit(page, 'Size w', '300');
  await section(page, 'Mask').click();
  await page.getByLabel('Mask', { exact: true }).selectOption({ label: 'only inside Ellipse' });
  await expect.poll(() => colour(page, 20, 10)).toBe(GREEN);
  expect(await colour(page, 100, 10)).toBe(GROUND);
  await page.getByLabel('Mask', { exact: true }).selectOption({ label: 'only outside Ellipse' });
  await expect.poll(() => colour(page, 20, 10)).toBe(GROUND);
  expect(await colour(page, 100, 10)).toBe(GREEN);
  await page.getByRole('button', { name: 'Masks' }).click();
  await expect.poll(() => colour(page, 20, 10)).toBe(GREEN);
  await page.getByRole('button', { name: 'Masks' }).click();
  await page.getByRole('treeitem', { name: 'Ellipse' }).click();
  await commit(page, 'Place x', '100');
  await expect.poll(() => colour(page, 20, 10)).toBe(GREEN);
  expect(await colour(page, 100, 10)).toBe(GROUND);
  // A press where it is masked away falls through.
  const box = await page.getByLabel('Frame', { exact: true }).boundingBox();
  if (!box) throw new Error('no frame');
  const scale = Math.min((box.width - 36) / 960, (box.height - 28) / 540);
  await page.locator('body').press('Escape');
  await page.mouse.click(box.x + box.width / 2 + 100 * scale, box.y + box.height / 2 - 10 * scale);
  await expect(page.getByRole('treeitem', { name: 'Rectangle' })).toHaveAttribute('aria-selected', 'false');
  await page.mouse.click(box.x + box.width / 2 - 100 * scale, box.y + box.height / 2 - 10 * scale);
  await expect(page.getByRole('treeitem', { name: 'Rectangle' })).toHaveAttribute('aria-selected', 'true');
  // In a run the masks can be turned off too.
  await page.getByRole('button', { name: 'Run', exact: true }).click();
  await expect.poll(() => colour(page, 100, 10)).toBe(GROUND);
  await page.getByRole('button', { name: 'Masks' }).click();
  await expect.poll(() => colour(page, 100, 10)).toBe(GREEN);
});

test('A6: looks with thumbnails, swapped in place, changed by themselves, keyed, given by a reaction', async ({
  page,
}) => {
  await boxWithOpenClip(page);
  await page.getByRole('button', { name: /key as I move/ }).click();
  await page.getByRole('treeitem', { name: /Box/ }).click();
  await section(page, 'Looks').click();
  await page.getByRole('button', { name: 'look', exact: true }).click();
  await commit(page, 'Size w', '200');
  await pickColour(page, 'Fill', '#7fa982');
  await expect.poll(() => colour(page, 90, 10)).not.toBe(GROUND);
  await page.getByRole('button', { name: 'Put on its own drawing' }).click();
  await expect.poll(() => colour(page, 90, 10)).toBe(GROUND);
  await expect(page.getByLabel('Size w')).toHaveValue('100');
  // Keyed at half a second, it is a named block in the timeline, and the picture follows.
  await page.getByRole('button', { name: /key as I move/ }).click();
  await commit(page, 'Playhead, seconds', '0.5');
  await page.getByRole('button', { name: 'Put on look' }).click();
  await expect(page.getByRole('group', { name: 'Box look' }).locator('text')).toHaveText(['own', 'look']);
  await expect.poll(() => colour(page, 90, 10)).not.toBe(GROUND);
  await commit(page, 'Playhead, seconds', '0.2');
  await expect.poll(() => colour(page, 90, 10)).toBe(GROUND);
  await page.getByRole('button', { name: 'Fold' }).click();
  await page.getByRole('button', { name: 'Add a reaction' }).click();
  await page.getByLabel('Action', { exact: true }).selectOption('look');
  await expect(page.getByLabel('Look', { exact: true })).toHaveValue(/^lo_/);
  // Deleting the look takes its keys and the action along; one undo brings all back.
  await page.getByRole('button', { name: 'Delete the look look' }).click();
  await expect(page.getByText('Does nothing by itself yet.')).toBeVisible();
  await page.locator('body').press('ControlOrMeta+z');
  await expect(page.getByLabel('Look', { exact: true })).toHaveValue(/^lo_/);
});

test('A7: on top of the frame at nine anchors, just inside or outside any edge, tried in three spaces', async ({
  page,
}) => {
  await newPiece(page);
  await addKind(page, 'Rectangle');
  await section(page, 'On top').click();
  await page.getByLabel('fixed to the frame').check();
  // It stays where it is seen, whatever it is fixed to, until it is put to an edge.
  await page.getByRole('button', { name: 'Anchor top right' }).click();
  await expect.poll(() => colour(page, 10, 10)).toBe(GREEN);
  const inside = page.getByRole('button', { name: 'Just inside the edge' });
  await inside.click();
  // 120 × 80, 12 px from the corner.
  await expect.poll(() => colour(page, 480 - 12 - 10, 270 - 12 - 10)).toBe(GREEN);
  expect(await colour(page, 480 - 6, 270 - 6)).toBe(GROUND);
  await page.getByRole('button', { name: 'Anchor bottom left' }).click();
  await inside.click();
  await expect.poll(() => colour(page, -480 + 22, -270 + 22)).toBe(GREEN);
  // The angle of the view does not matter.
  await page.getByRole('button', { name: 'View angles' }).click();
  await page.getByRole('menuitem', { name: 'Top' }).click();
  await expect.poll(() => colour(page, -480 + 22, -270 + 22)).toBe(GREEN);
  await page.getByRole('button', { name: 'Menu of the piece' }).click();
  await page.getByRole('menuitem', { name: 'Frame, ground and light' }).click();
  await page.getByLabel('How the frame fits its space').selectOption({ label: 'no bars, more is seen' });
  await page.getByRole('treeitem', { name: /^Rectangle/ }).click();
  for (const [name, w, h] of [
    [/wide space/, 1800, 540],
    [/tall space/, 960, 1728],
    [/as it is made/, 960, 540],
  ] as const) {
    await page.getByRole('button', { name: '100 %' }).click();
    await page.getByRole('menuitem', { name }).click();
    await expect.poll(() => colour(page, -w / 2 + 22, -h / 2 + 22, w, h)).toBe(GREEN);
  }
  await page.getByRole('button', { name: 'Just outside' }).click();
  await expect.poll(() => colour(page, -480 + 22, -270 + 22)).toBe(GROUND);
  await page.locator('body').press('ControlOrMeta+z');
  await expect.poll(() => colour(page, -480 + 22, -270 + 22)).toBe(GREEN);
});

test('A12: a guide is seen while making and not in a run', async ({ page }) => {
  await newPiece(page);
  await addKind(page, 'Rectangle');
  await page.getByLabel('guide').check();
  await expect.poll(() => colour(page, 30, 20)).toBe(GREEN);
  await page.getByRole('button', { name: 'Run', exact: true }).click();
  await expect.poll(() => colour(page, 30, 20)).toBe(GROUND);
});
