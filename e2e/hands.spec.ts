/** Small things that hands do: copies by Alt, all axes at once, other poses taken hold of, what is further down. */
import { expect, test } from '@playwright/test';
import { addKind, at, commit, drag, item, newPiece, oneRow, pips, undo } from './helpers.ts';

test('dragged with Alt, a thing is copied and the copy goes along; one step', async ({ page }) => {
  await newPiece(page);
  await addKind(page, 'Rectangle');
  await page.getByRole('button', { name: 'Add a reaction' }).click();
  await page.getByLabel('Action', { exact: true }).selectOption('hide');
  const from = await at(page, 0, 0);
  await page.keyboard.down('Alt');
  await drag(page, from, 150 * from.scale, 0);
  await page.mouse.up();
  await page.keyboard.up('Alt');
  await expect(page.getByRole('treeitem')).toHaveCount(2);
  await expect(page.getByLabel('Place x', { exact: true })).toHaveValue('150');
  // With what it does.
  await expect(
    page.getByRole('group', { name: /^when Rectangle 2 clicked: hide Rectangle 2/ }),
  ).toBeVisible();
  await page.getByRole('treeitem', { name: /^Rectangle(?! 2)/ }).click();
  await expect(page.getByLabel('Place x', { exact: true })).toHaveValue('0');
  await undo(page);
  await expect(page.getByRole('treeitem')).toHaveCount(1);
});

test('keys and states are copied by dragging with Alt, each one step', async ({ page }) => {
  await oneRow(page);
  const last = pips(page).last();
  const box = await last.boundingBox();
  if (!box) throw new Error('no key');
  await page.keyboard.down('Alt');
  await drag(page, { x: box.x + box.width / 2, y: box.y + box.height / 2 }, -120, 0);
  await page.mouse.up();
  await page.keyboard.up('Alt');
  await expect(pips(page)).toHaveCount(3);
  await undo(page);
  await expect(pips(page)).toHaveCount(2);
  await page.getByRole('button', { name: 'Fold' }).click();
  const panel = page.getByRole('button', { name: /^State at rest/ });
  const p = await panel.boundingBox();
  if (!p) throw new Error('no panel');
  await page.keyboard.down('Alt');
  await drag(page, { x: p.x + p.width / 2, y: p.y + p.height / 2 }, 700, 0);
  await page.mouse.up();
  await page.keyboard.up('Alt');
  await expect(page.getByRole('button', { name: /^State / })).toHaveCount(3);
  // It stands where it was dropped.
  await expect(page.getByRole('button', { name: /^State / }).last()).toHaveAccessibleName(/^State at rest 2/);
  await undo(page);
  await expect(page.getByRole('button', { name: /^State / })).toHaveCount(2);
});

test('cues of a clip and of a sheet are copied by dragging with Alt', async ({ page }) => {
  await oneRow(page);
  await page.getByRole('button', { name: 'Add a cue' }).click();
  const drawAside = async (name: RegExp, by: number) => {
    const b = await page.getByRole('button', { name }).first().boundingBox();
    if (!b) throw new Error('no cue');
    await page.keyboard.down('Alt');
    await drag(page, { x: b.x + 6, y: b.y + 10 }, by, 0);
    await page.mouse.up();
    await page.keyboard.up('Alt');
  };
  await drawAside(/^Cue at /, -150);
  await expect(page.getByRole('button', { name: /^Cue at / })).toHaveCount(2);
  await undo(page);
  await expect(page.getByRole('button', { name: /^Cue at / })).toHaveCount(1);
  await page.getByRole('button', { name: 'Fold' }).click();
  await page.getByRole('tab', { name: 'Cue sheets' }).click();
  await page.getByRole('button', { name: 'Add a cue sheet' }).click();
  await page.getByRole('button', { name: '+ cue' }).click();
  await expect(page.locator('[data-cue]')).toHaveCount(1);
  await drawAside(/^Cue cue, /, 200);
  await expect(page.locator('[data-cue]')).toHaveCount(2);
  await expect(page.getByRole('button', { name: /^Cue cue, 0.0 s/ })).toBeVisible();
  await undo(page);
  await expect(page.locator('[data-cue]')).toHaveCount(1);
});

test('all axes of the scale are one field; they keep their proportions', async ({ page }) => {
  await newPiece(page);
  await addKind(page, 'Rectangle');
  await commit(page, 'Scale, all', '2');
  const of = (name: string) => page.getByLabel(name, { exact: true });
  await expect(of('Scale x')).toHaveValue('2');
  await expect(of('Scale y')).toHaveValue('2');
  // What is flat has no depth.
  await expect(of('Scale z')).toHaveValue('1');
  await commit(page, 'Scale y', '1');
  await expect(page.getByLabel('Scale, all')).toHaveValue('');
  await commit(page, 'Scale, all', '4');
  await expect(of('Scale y')).toHaveValue('2');
  await undo(page);
  await expect(of('Scale x')).toHaveValue('2');
  await expect(of('Scale y')).toHaveValue('1');
});

test('another pose is taken hold of where it is seen, and keyed at its second', async ({ page }) => {
  await oneRow(page);
  await page.getByLabel('Playhead, seconds').fill('0.2');
  await page.keyboard.press('Enter');
  await item(page, 'Box')
    .or(page.getByRole('treeitem', { name: /^Box/ }))
    .first()
    .click();
  const now = Number(await page.getByLabel('Place x', { exact: true }).inputValue());
  expect(now).toBeGreaterThan(0);
  // The key at the end is at 100; its ghost is dragged up.
  const keysBefore = await pips(page).count();
  await page.getByLabel('Playhead, seconds').fill('0.5');
  await page.keyboard.press('Enter');
  const p = await at(page, 143, -30);
  await drag(page, p, 0, -60 * p.scale);
  await page.mouse.up();
  await expect(page.getByLabel('Playhead, seconds')).toHaveValue(/^0\.7/);
  await expect(page.getByLabel('Place y', { exact: true })).not.toHaveValue('0');
  expect(await pips(page).count()).toBeGreaterThan(keysBefore);
});

test('what is further down is named, and reached by one act; what was unfolded stays so for the next thing, also after a reload', async ({
  page,
}) => {
  await newPiece(page);
  await addKind(page, 'Rectangle');
  await addKind(page, 'Ellipse');
  const below = page.getByRole('navigation', { name: 'Further down' });
  await below.getByRole('button', { name: 'Mask' }).click();
  const mask = page.getByLabel('Mask', { exact: true });
  await expect(mask).toBeInViewport();
  await item(page, 'Rectangle').click();
  await expect(mask).toBeVisible();
  await page.reload();
  await item(page, 'Ellipse').click();
  await expect(mask).toBeVisible();
});
