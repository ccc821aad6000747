import { expect, type Page, test } from '@playwright/test';
import { addKind, newPiece } from './helpers.ts';

/** The number of the first thing's property, as the running frame has it, read where it is written. */
const written = (page: Page, label: string) =>
  page
    .getByRole('region', { name: 'Who writes this' })
    .getByRole('listitem')
    .filter({ hasText: label })
    .textContent();
const frameMiddle = async (page: Page) => {
  const box = await page.getByLabel('Live frame').boundingBox();
  if (!box) throw new Error('no frame');
  return { x: box.x + box.width / 2, y: box.y + box.height / 2, scale: (box.width - 36) / 960 };
};

test('C14: a property follows the pointer, softly, within its range; undo takes it away', async ({
  page,
}) => {
  await newPiece(page);
  await addKind(page, 'Rectangle');
  await page.getByRole('button', { name: 'Add what it follows' }).click();
  const follow = page.getByRole('group', { name: 'turn z follows' });
  await expect(follow.getByLabel('To first')).toHaveValue('-30');
  await page.getByRole('button', { name: 'Run', exact: true }).click();
  await page.getByRole('treeitem', { name: /Rectangle/ }).click();
  const { x, y } = await frameMiddle(page);
  await page.mouse.move(x + 900, y);
  await page.mouse.move(x + 300, y);
  await expect.poll(() => written(page, 'turn z')).toMatch(/(1[0-9]|2[0-9])(\.\d)?°what it follows$/);
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  // Words of the sentence are changed in place, each one step.
  await follow.getByLabel('What it follows', { exact: true }).selectOption('distance');
  await expect(follow.getByLabel('From last')).toHaveValue('300');
  await page
    .getByRole('group', { name: 'turn z follows' })
    .getByLabel('What follows')
    .selectOption('opacity');
  await expect(page.getByRole('group', { name: 'opacity follows' }).getByLabel('To last')).toHaveValue('1');
  for (let i = 0; i < 3; i++) await page.locator('body').press('ControlOrMeta+z');
  await expect(page.getByRole('group', { name: /follows$/ })).toHaveCount(0);
});

test('D1, C14: a thing is dragged within its limits, what follows goes along, and it goes back', async ({
  page,
}) => {
  await newPiece(page);
  await addKind(page, 'Rectangle');
  await page.locator('summary', { hasText: /^Drag/ }).click();
  await page.getByLabel('Dragged', { exact: true }).selectOption('x');
  await page.getByLabel('Limits along x').check();
  await page.getByLabel('goes back when it is let go').check();
  await page.getByRole('button', { name: 'Add what it follows' }).click();
  await page.getByLabel('What it follows', { exact: true }).selectOption('drag');
  await expect(page.getByLabel('From last')).toHaveValue('100');
  await page.getByLabel('Seconds of smoothing').fill('0');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Run', exact: true }).click();
  await page.getByRole('treeitem', { name: /Rectangle/ }).click();
  const { x, y } = await frameMiddle(page);
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + 250, y + 40, { steps: 6 });
  await expect.poll(() => written(page, 'place x')).toContain('100');
  await expect.poll(() => written(page, 'turn z')).toContain('30°');
  await page.mouse.up();
  await expect(page.getByText('Rectangle was dropped').first()).toBeVisible();
  await expect.poll(() => written(page, 'turn z')).toContain('-30°');
  await expect(page.getByText('Rectangle was clicked')).toHaveCount(0);
});

test("C14: a clip goes by a number instead of time: its state's speed gives way to what it follows", async ({
  page,
}) => {
  await newPiece(page);
  await addKind(page, 'Rectangle');
  await page.getByRole('button', { name: 'Animate', exact: true }).click();
  await page.getByLabel('Place x', { exact: true }).fill('120');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Fold', exact: true }).click();
  await page
    .getByRole('button', { name: /^State .*(moving|moves)/ })
    .first()
    .press(' ');
  await page.getByRole('checkbox', { name: 'starts here' }).check();
  const by = page.getByRole('group', { name: 'Goes by' });
  await by.getByLabel('What it follows', { exact: true }).selectOption('signal');
  await expect(page.getByLabel('Speed', { exact: true })).toBeHidden();
  await page.getByRole('button', { name: 'Run', exact: true }).click();
  await page.getByRole('treeitem', { name: /Rectangle/ }).click();
  await expect.poll(() => written(page, 'place x')).toMatch(/\D0px|\s0/);
  await page.getByRole('slider', { name: 'amount' }).press('End');
  await expect.poll(() => written(page, 'place x')).toContain('120');
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await page.locator('body').press('ControlOrMeta+z');
  await page
    .getByRole('button', { name: /^State .*(moving|moves)/ })
    .first()
    .press(' ');
  await expect(page.getByLabel('Speed', { exact: true })).toBeVisible();
});

test('D1: a double click and a long press are picked, heard and told', async ({ page }) => {
  await newPiece(page);
  await addKind(page, 'Rectangle');
  for (const event of ['pointer.double', 'pointer.long']) {
    await page.getByRole('button', { name: 'Add a reaction' }).click();
    await page.getByLabel('Event', { exact: true }).selectOption(event);
  }
  await page.getByRole('button', { name: 'Run', exact: true }).click();
  const { x, y } = await frameMiddle(page);
  await page.mouse.dblclick(x, y);
  await expect(page.getByText('Rectangle was double clicked').first()).toBeVisible();
  await page.mouse.down();
  await expect(page.getByText('Rectangle was pressed for long').first()).toBeVisible();
  await page.mouse.up();
});

test('D2: a run gives the keyboard to a piece that listens to it, and the pointer says what can be done', async ({
  page,
}) => {
  await newPiece(page);
  await addKind(page, 'Rectangle');
  await page.getByRole('button', { name: 'Add a reaction' }).click();
  await page.locator('body').press('r');
  // Nothing listens to the keyboard: its keys stay those of the desk.
  await page.locator('body').press('r');
  await page.getByRole('button', { name: 'Add a reaction' }).click();
  await page.getByLabel('Event', { exact: true }).selectOption('key.down');
  await page.locator('body').press('r');
  const frame = page.getByLabel('Live frame');
  await expect(frame).toBeFocused();
  const { x, y } = await frameMiddle(page);
  await page.mouse.move(x, y);
  await expect(frame).toHaveCSS('cursor', 'pointer');
  await page.mouse.move(x + 280, y);
  await expect(frame).toHaveCSS('cursor', 'default');
  await page.keyboard.press('Escape');
  await page.locator('body').press('r');
  await page.locator('summary', { hasText: /^Drag/ }).click();
  await page.getByLabel('Dragged', { exact: true }).selectOption('x');
  await page.getByRole('button', { name: 'Run', exact: true }).click();
  await page.mouse.move(x, y);
  await expect(frame).toHaveCSS('cursor', 'grab');
});
