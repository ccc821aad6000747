/** The properties: of one object, of several, of the piece; what is typed, and where it is clicked. */
import { expect, test } from '@playwright/test';
import { addKind, at, colour, commit, item, newPiece, pickColour, section, undo } from './helpers.ts';

test('A3, A12: a placement is copied to another object; a hit shape is clicked where nothing is drawn', async ({
  page,
}) => {
  await newPiece(page);
  await addKind(page, 'Box');
  await commit(page, 'Place x', '90');
  await commit(page, 'Turn ° z', '30');
  await item(page, 'Box').click();
  await page.locator('body').press('c');
  await addKind(page, 'Ellipse');
  await item(page, 'Ellipse').click();
  await page.locator('body').press('v');
  await expect(page.getByLabel('Place x')).toHaveValue('90');
  await expect(page.getByLabel('Turn ° z')).toHaveValue('30');
  await undo(page);
  await expect(page.getByLabel('Place x')).toHaveValue('0');
  await commit(page, 'Place x', '-200');
  await page.locator('summary', { hasText: 'Hit shape' }).click();
  await page.getByLabel('Where it is clicked').selectOption('rect');
  await commit(page, 'Hit shape w', '300');
  await page.getByRole('button', { name: 'Add a reaction' }).click();
  await page.getByRole('button', { name: 'Run', exact: true }).click();
  const box = await page.getByLabel('Live frame').boundingBox();
  if (!box) throw new Error('no frame');
  const scale = Math.min((box.width - 36) / 960, (box.height - 28) / 540);
  // 120 px left of the middle of an ellipse that is 80 px wide.
  await page.mouse.click(box.x + box.width / 2 - 320 * scale, box.y + box.height / 2);
  await expect(page.getByText('Ellipse was clicked').first()).toBeVisible();
});

test('A3: pointing at a field shows its axis on the view', async ({ page }) => {
  await newPiece(page);
  await addKind(page, 'Box');
  await page.getByLabel('Turn ° y').hover();
  await expect(page.locator('[data-axis="rotation.y"] path')).toHaveCount(2);
  await page.getByLabel('Place x').hover();
  await expect(page.locator('[data-axis="position.x"]')).toHaveCount(1);
  await page.getByLabel('Name', { exact: true }).hover();
  await expect(page.locator('[data-axis]')).toHaveCount(0);
});

test('A1: reactions, sizes, mask and parent of several are changed at once, each step undone', async ({
  page,
}) => {
  await newPiece(page);
  for (const x of ['-200', '0', '200']) {
    await addKind(page, 'Rectangle');
    await commit(page, 'Place x', x);
  }
  await addKind(page, 'Ellipse');
  await commit(page, 'Size w', '300');
  // A row's name goes on with what its object carries.
  const row = (name: string) => page.getByRole('treeitem', { name: new RegExp(`^${name}\\b`) });
  const three = async () => {
    await row('Rectangle').first().click();
    await row('Rectangle 3').click({ modifiers: ['Shift'] });
    await expect(page.getByRole('heading', { name: '3 objects' })).toBeVisible();
  };
  await three();
  await page.getByRole('button', { name: 'Add a reaction' }).click();
  await page.getByLabel('Action', { exact: true }).selectOption({ label: 'hide' });
  await commit(page, 'Size w', '/2');
  await commit(page, 'Size w', '60');
  await section(page, 'Mask');
  await page.getByLabel('Mask', { exact: true }).selectOption({ label: 'only inside Ellipse' });
  await page.getByLabel('Parent').selectOption({ label: 'Ellipse' });
  await expect(row('Rectangle 2')).toHaveAttribute('aria-level', '2');
  // Each hides itself.
  await row('Rectangle 3').click();
  await expect(
    page.getByRole('group', { name: 'when Rectangle 3 clicked: hide Rectangle 3', exact: true }),
  ).toBeVisible();
  await expect(page.getByLabel('Size w', { exact: true })).toHaveValue('60');
  await expect(page.locator('[data-link="parent"]')).toBeVisible();
  const middle = await at(page, 0, 20);
  await page.getByRole('button', { name: 'Run', exact: true }).click();
  await page.mouse.click(middle.x, middle.y);
  await expect(page.getByText('Rectangle 2 was clicked').first()).toBeVisible();
  await page.getByRole('button', { name: 'Stop', exact: true }).click();

  await undo(page);
  await expect(row('Rectangle 2')).toHaveAttribute('aria-level', '1');
  await undo(page);
  await three();
  await expect(page.getByRole('group').filter({ hasText: 'Mask' }).last()).toContainText('none');
  await undo(page);
  await undo(page);
  await undo(page);
  await three();
  await expect(page.getByText('Does nothing by itself yet.')).toBeVisible();
});

test('what is typed into a field reaches its own object, also when another is chosen at once; Escape forgets it', async ({
  page,
}) => {
  await newPiece(page);
  await addKind(page, 'Rectangle');
  await addKind(page, 'Ellipse');
  await page.getByLabel('Place x', { exact: true }).fill('200');
  await item(page, 'Rectangle').click();
  await expect(page.getByLabel('Place x', { exact: true })).toHaveValue('0');
  await page.getByLabel('Name', { exact: true }).fill('Sign');
  // On the view, the pointer goes down on the other before the field loses the focus.
  const ellipse = await at(page, 200, 0);
  await page.mouse.click(ellipse.x, ellipse.y);
  await expect(page.getByLabel('Place x', { exact: true })).toHaveValue('200');
  await expect(page.getByLabel('Name', { exact: true })).toHaveValue('Ellipse');
  await expect(item(page, 'Sign')).toBeVisible();
  await page.getByLabel('Place x', { exact: true }).fill('5');
  await page.keyboard.press('Escape');
  await expect(page.getByLabel('Place x', { exact: true })).toHaveValue('200');
  await expect(page.getByRole('button', { name: 'Undo “Renamed Rectangle”' })).toBeEnabled();
});

test('with nothing selected the piece itself is changed: frame, ground, light, angle, frame numbers', async ({
  page,
}) => {
  await newPiece(page);
  await page.getByRole('button', { name: 'Add a box' }).click();
  await page.locator('body').press('Escape');
  await commit(page, 'Frame width', '600');
  await page.getByLabel('Kind of ground').selectOption('linear');
  await pickColour(page, 'Colour of stop 1', '#123456');
  await page.getByLabel('How the frame fits its space').selectOption('cover');
  await commit(page, 'Light elevation', '100');
  await expect(page.getByLabel('Light elevation')).toHaveValue('90');
  await commit(page, 'Frame numbers a second', '24');
  await page.getByRole('slider', { name: 'View angle' }).press('ArrowRight');
  await page.getByRole('button', { name: 'Take this one' }).click();
  await expect(page.getByText(/^5° \/ 0°$/).last()).toBeVisible();
  // Times may be typed in frame numbers of the piece.
  await item(page, 'Box').click();
  await page.getByRole('button', { name: 'Add a reaction' }).click();
  await page.getByText('only if, how often').click();
  await commit(page, 'Cooldown, seconds', '36f');
  await expect(page.getByLabel('Cooldown, seconds')).toHaveValue('1.5');
  await undo(page);
  await undo(page);
  await page.locator('body').press('Escape');
  for (let i = 0; i < 7; i++) await undo(page);
  await page.locator('body').press('Escape');
  await expect(page.getByLabel('Frame width')).toHaveValue('960');
  await expect(page.getByRole('button', { name: 'Undo “Added Box”' })).toBeEnabled();
});

test('A2: a typed pivot never moves the object, and the swing about it is shown', async ({ page }) => {
  await newPiece(page);
  await addKind(page, 'Rectangle');
  await commit(page, 'Turn ° z', '30');
  const seen = () => Promise.all([colour(page, 50, 45), colour(page, 0, 0), colour(page, 60, -30)]);
  const before = await seen();
  await commit(page, 'Pivot y', '40');
  await commit(page, 'Pivot x', '-60');
  await expect(page.getByRole('button', { name: /^Undo “Moved the pivot of Rectangle”/ })).toBeEnabled();
  expect(await seen()).toEqual(before);
  await page.getByRole('button', { name: 'show the swing' }).click();
  await expect(page.locator('section[aria-label="View"] g[stroke-dasharray="4 3"] polygon')).toHaveCount(4);
  await undo(page);
  await undo(page);
  await expect(page.getByLabel('Pivot x', { exact: true })).toHaveValue('0');
  expect(await seen()).toEqual(before);
});
