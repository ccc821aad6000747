import { expect, test } from '@playwright/test';
import { addKind, newPiece } from './helpers.ts';

test('C13: a click plays a clip by itself, waits its turn when asked again, and is stopped; undone word by word', async ({
  page,
}) => {
  await newPiece(page);
  await addKind(page, 'Rectangle');
  await page.getByRole('button', { name: 'Animate', exact: true }).click();
  await page.getByLabel('Place x', { exact: true }).fill('20');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Fold', exact: true }).click();
  // The machine that came with it goes: the clip stays.
  await page.getByRole('button', { name: 'Add ▾' }).click();
  await page.getByRole('menuitem', { name: /^Delete the machine/ }).click();
  await page.getByRole('treeitem', { name: /^Rectangle/ }).click();
  await page.getByRole('button', { name: 'Add a reaction' }).click();
  await page.getByLabel('Action', { exact: true }).selectOption('play');
  await expect(page.getByLabel('Clip', { exact: true })).toContainText('rectangle moves');
  await page.getByLabel('When it plays already').selectOption('queue');
  await page.getByRole('button', { name: 'action', exact: true }).click();
  await page.getByLabel('Another action', { exact: true }).selectOption('hide');
  await page.getByRole('button', { name: 'Delete the action' }).last().click();

  await page.getByRole('button', { name: 'Run', exact: true }).click();
  const frame = await page.getByLabel('Live frame').boundingBox();
  if (!frame) throw new Error('no frame');
  const middle = { x: frame.x + frame.width / 2, y: frame.y + frame.height / 2 };
  await page.mouse.click(middle.x, middle.y);
  await expect(page.getByText('rectangle moves began').first()).toBeVisible();
  await page.mouse.click(middle.x, middle.y);
  await expect(page.getByText('rectangle moves was done').first()).toBeVisible();
  await expect(page.getByTitle('rectangle moves began', { exact: true })).toHaveCount(2);
  await page.getByRole('treeitem', { name: /^Rectangle/ }).click();
  await expect(page.getByRole('region', { name: 'Who writes this' })).toContainText(
    'rectangle moves, played by itself',
  );
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await page.locator('body').press('ControlOrMeta+z');
  await page.locator('body').press('ControlOrMeta+z');
  await page.locator('body').press('ControlOrMeta+z');
  await expect(page.getByLabel('When it plays already')).toHaveValue('restart');
});
