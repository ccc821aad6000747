import { expect, test } from '@playwright/test';
import { addKind, newPiece } from './helpers.ts';

test('C8: a state blends poses by a number: made from nothing, posed, run by its slider, undone in one step', async ({
  page,
}) => {
  await newPiece(page);
  await addKind(page, 'Rectangle');
  await page
    .getByRole('button', { name: /^Add a machine to/ })
    .first()
    .click();
  const state = () => page.getByRole('button', { name: /^State at rest,/ });
  await state().click();
  await page.getByLabel('What the state does').selectOption('blends by a number');
  const low = page.getByRole('group', { name: 'Blended at rest low' });
  const high = page.getByRole('group', { name: 'Blended at rest high' });
  await expect(high.getByLabel('Its place')).toHaveValue('100');
  // Each is a pose: opened, and given.
  for (const [pose, x] of [
    [low, '0'],
    [high, '200'],
  ] as const) {
    await pose.getByRole('button', { name: 'open' }).click();
    await page.getByRole('treeitem', { name: /^Rectangle/ }).click();
    await page.getByRole('button', { name: 'key as I move: off' }).click();
    await page.getByLabel('Place x', { exact: true }).fill('1');
    await page.keyboard.press('Enter');
    await page.getByLabel('Place x', { exact: true }).fill(x);
    await page.keyboard.press('Enter');
    await page.getByRole('button', { name: 'Fold', exact: true }).click();
    await state().click();
  }
  await page.getByRole('button', { name: 'Run', exact: true }).click();
  await page.getByRole('treeitem', { name: /^Rectangle/ }).click();
  const written = page.getByRole('region', { name: 'Who writes this' });
  await expect(written).toContainText('0px');
  const slider = page.getByRole('slider', { name: 'amount' });
  await slider.press('End');
  await expect(written).toContainText('200px');
  await slider.press('Home');
  for (let i = 0; i < 10; i++) await slider.press('ArrowRight');
  await expect(written).toContainText('20px');
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await state().click();
  await page.getByRole('button', { name: '+ clip' }).click();
  await expect(page.getByLabel('Its place')).toHaveCount(3);
  await page.locator('body').press('ControlOrMeta+z');
  await expect(page.getByLabel('Its place')).toHaveCount(2);
  await page.getByLabel('What the state does').selectOption('adds clips up');
  await high.getByLabel('Per cent of it').fill('50');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Run', exact: true }).click();
  await page.getByRole('treeitem', { name: /^Rectangle/ }).click();
  await expect(written).toContainText('100px');
});
