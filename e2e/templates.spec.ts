import { expect, type Page, test } from '@playwright/test';
import { addKind, at, colour, commit, item, newPiece, pickColour, undo } from './helpers.ts';

const run = (page: Page) => page.getByRole('button', { name: 'Run', exact: true }).click();
const stop = (page: Page) => page.getByRole('button', { name: 'Stop', exact: true }).click();
const happened = (page: Page, words: string | RegExp) =>
  page.getByRole('list', { name: /^What happened/ }).getByText(words, { exact: true });
const where = (page: Page) => page.getByRole('navigation', { name: 'Where you work' });
/** A piece with a rectangle as a template, in three places 120 px apart; the last is chosen. */
const three = async (page: Page) => {
  await newPiece(page);
  await addKind(page, 'Rectangle');
  await commit(page, 'Place x', '-200');
  await item(page, 'Rectangle').click();
  await page.keyboard.press('m');
  for (const x of ['0', '200']) {
    await page.getByRole('button', { name: 'Place another' }).click();
    await commit(page, 'Place x', x);
  }
  await expect(page.getByText('One of Rectangle, in 3 places')).toBeVisible();
};
/** The same, each with a number of its own by which its width goes; at 100 it is as wide as it was. */
const threeWithWidth = async (page: Page) => {
  await three(page);
  await page.getByRole('button', { name: 'Open in place' }).click();
  await page.getByRole('button', { name: 'Add a signal' }).click();
  await page.getByRole('menuitem', { name: 'Number' }).click();
  await commit(page, 'Name of the signal', 'width');
  await item(page, 'Rectangle').click();
  await page.getByRole('button', { name: 'Add what it follows' }).click();
  await page.getByLabel('What follows', { exact: true }).selectOption({ label: 'scale x' });
  await page.getByLabel('What it follows', { exact: true }).selectOption('signal');
  await where(page).getByRole('button', { name: 'Out' }).click();
};
const colours = (page: Page) => Promise.all([-200, 0, 200].map((x) => colour(page, x, 0)));
const clickAt = async (page: Page, x: number, y: number, frame = 'Frame') => {
  const p = await at(page, x, y, frame);
  await page.mouse.click(p.x, p.y);
};

test('A11: one drawing in three places; changed in one it changes in all; undone from outside; kept', async ({
  page,
}) => {
  await three(page);
  await item(page, 'Rectangle 2').dblclick();
  await page.keyboard.press('Escape');
  await item(page, 'Rectangle 2').click();
  // By keyboard.
  await page.keyboard.press('Enter');
  await expect(where(page)).toHaveText(/Rectangle 2.*You change the template Rectangle, in 3 places/);
  await item(page, 'Rectangle').click();
  await pickColour(page, 'Fill', '#224466');
  // The rest is faint meanwhile.
  await expect.poll(() => colour(page, 0, 0)).toBe('#224466');
  expect(await colour(page, -200, 0)).not.toBe('#224466');
  await page.locator('body').press('Escape');
  await page.locator('body').press('Escape');
  await expect(where(page)).toHaveCount(0);
  await expect.poll(() => colours(page)).toEqual(['#224466', '#224466', '#224466']);
  // What was done in it is undone where it was done.
  await undo(page);
  await expect(where(page)).toBeVisible();
  await page.locator('body').press('ControlOrMeta+Shift+z');
  await expect(page.getByRole('button', { name: 'Redo', exact: true })).toBeDisabled();
  await where(page).getByRole('button', { name: 'Out' }).click();
  await expect(page.getByText('One of Rectangle, in 3 places')).toBeVisible();
  await page.reload();
  await expect.poll(() => colours(page)).toEqual(['#224466', '#224466', '#224466']);
});

test('A11: by mouse: a double click opens one in place, others cannot be taken hold of, the path leads out', async ({
  page,
}) => {
  await three(page);
  const p = await at(page, 0, 0);
  await page.mouse.dblclick(p.x, p.y);
  await expect(where(page)).toContainText('Rectangle 2');
  await clickAt(page, -200, 0);
  await expect(page.getByRole('heading', { name: 'Properties' }).or(where(page)).first()).toBeVisible();
  await expect(page.getByRole('treeitem', { selected: true })).toHaveCount(0);
  // What is drawn there lies in it.
  await clickAt(page, 0, 0);
  await addKind(page, 'Ellipse');
  await expect(page.getByRole('treeitem')).toHaveCount(2);
  await where(page).getByRole('button', { name: 'Untitled piece' }).click();
  await expect(page.getByRole('treeitem')).toHaveCount(3);
});

test('A11: own signals, their values by place, bound to another, given back; a clip keys one; a run reads them', async ({
  page,
}) => {
  await threeWithWidth(page);
  const own = page.getByLabel('width of Rectangle 3', { exact: true });
  await commit(page, 'width of Rectangle 3', '100');
  await expect(
    page.getByRole('button', { name: 'Give width of Rectangle 3 back to the template' }),
  ).toBeVisible();
  await run(page);
  // At 100 it is as wide as it was, the others are not seen.
  const ground = await colour(page, 240, 200);
  await expect.poll(() => colour(page, 240, 0)).not.toBe(ground);
  await expect.poll(() => colour(page, 40, 0)).toBe(ground);
  await stop(page);
  await page.getByRole('button', { name: 'Give width of Rectangle 3 back to the template' }).click();
  await expect(own).not.toHaveValue('100');
  await undo(page);
  await expect(own).toHaveValue('100');
  // Bound to a signal of the piece.
  await page.getByRole('button', { name: 'Add a signal' }).click();
  await page.getByRole('menuitem', { name: 'Number' }).click();
  await commit(page, 'Name of the signal', 'all widths');
  await item(page, 'Rectangle 3').click();
  await page.getByLabel('Where width of Rectangle 3 comes from').selectOption({ label: 'all widths' });
  await page.getByLabel('Where width of Rectangle 3 comes from').selectOption({ label: 'a value' });
  // Keyed in a clip, it is a row of the timeline by its name.
  await commit(page, 'width of Rectangle 3', '1');
  await item(page, 'Rectangle 3').click();
  await page.keyboard.press('a');
  await expect(page.getByRole('button', { name: 'key as I move: on' })).toBeVisible();
  await commit(page, 'width of Rectangle 3', '3');
  await expect(page.getByRole('group', { name: /width/ }).first()).toBeVisible();
});

test('A11: a place’s own number is put by a reaction, follows the pointer, and is keyed from the list of properties', async ({
  page,
}) => {
  await threeWithWidth(page);
  await commit(page, 'width of Rectangle 3', '100');
  await page.getByRole('button', { name: 'Add a reaction' }).click();
  await page.getByLabel('Action', { exact: true }).selectOption('put');
  await page.getByLabel('Property', { exact: true }).selectOption({ label: 'width' });
  await expect(page.getByLabel('Value', { exact: true })).toHaveValue('100');
  await commit(page, 'Value', '5');
  await run(page);
  const ground = await colour(page, 240, 200);
  await expect.poll(() => colour(page, 240, 0)).not.toBe(ground);
  await clickAt(page, 200, 0, 'Live frame');
  // A twentieth of its width is left.
  await expect.poll(() => colour(page, 240, 0)).toBe(ground);
  await page.getByRole('treeitem', { name: /^Rectangle 3/ }).click();
  const written = page.getByRole('region', { name: 'Who writes this' }).getByRole('listitem');
  await expect(written.filter({ hasText: 'width' })).toContainText('put by an action');
  await stop(page);
  await page.getByRole('button', { name: 'Add what it follows' }).click();
  await page.getByLabel('What follows', { exact: true }).selectOption({ label: 'width' });
  await expect(page.getByRole('group', { name: 'width follows' })).toBeVisible();
  await undo(page);
  await undo(page);
  await page.keyboard.press('a');
  await page.getByRole('button', { name: '+ property of Rectangle 3' }).click();
  await page.getByRole('menuitem', { name: 'width' }).click();
  await expect(page.getByRole('group', { name: /width/ }).first()).toBeVisible();
});

test('A11: cut loose it is a group of its own; a template that is deleted takes its places along, undo brings all', async ({
  page,
}) => {
  await three(page);
  await page.getByRole('button', { name: 'Cut loose' }).click();
  await expect(page.getByRole('treeitem')).toHaveCount(4);
  await page.getByRole('button', { name: /^Rectangle 2 ×/ }).click();
  await expect(page.getByText('It stands in 2 places.')).toBeVisible();
  await page.getByRole('button', { name: 'Delete the template and all its places' }).click();
  await expect(page.getByRole('treeitem')).toHaveCount(2);
  await undo(page);
  await undo(page);
  await expect(page.getByRole('treeitem')).toHaveCount(3);
});

test('D12, D16: a click spawns one, which goes after its time; it is wired in words; the recipe does it at once', async ({
  page,
}) => {
  await three(page);
  await addKind(page, 'Ellipse');
  await commit(page, 'Place y', '-150');
  await page.getByRole('button', { name: 'Add a reaction', exact: true }).click();
  await page.getByLabel('Action', { exact: true }).selectOption({ label: 'spawn' });
  await expect(page.getByLabel('Template', { exact: true }).locator('option:checked')).toHaveText(
    'Rectangle',
  );
  await page.getByLabel('Where it is spawned').selectOption({ label: 'at Ellipse' });
  await commit(page, 'Beside it, y', '300');
  await page.getByLabel('How long it is there').selectOption({ label: 'for' });
  await commit(page, 'Seconds that it is there', '0.8');
  await run(page);
  const bare = await colour(page, 0, 150);
  await clickAt(page, 0, -150, 'Live frame');
  await expect(happened(page, 'Rectangle 1 was spawned')).toBeVisible();
  await expect.poll(() => colour(page, 0, 150)).toBe(bare);
  await expect(happened(page, 'Rectangle 1 went: its time was over')).toBeVisible();
  await clickAt(page, 0, -150, 'Live frame');
  await expect(happened(page, 'Rectangle 2 was spawned')).toBeVisible();
  await stop(page);
  await item(page, 'Rectangle').click();
  await page.locator('body').press('ControlOrMeta+k');
  await page.keyboard.type('sends up another');
  await page.keyboard.press('Enter');
  await run(page);
  await clickAt(page, -200, 0, 'Live frame');
  await expect(happened(page, 'One of Rectangle 1 was spawned')).toBeVisible();
});

test('Lanes say in how many places a machine runs, and which of them is looked at', async ({ page }) => {
  await page.goto('/');
  await page
    .getByRole('button', { name: /^One crate many times/ })
    .first()
    .click();
  await page.getByRole('button', { name: 'Machines of the template Crate' }).click();
  await expect(page.getByText('Runs in 8 places; looked at: Crate 1')).toBeVisible();
  await run(page);
  // The upper row is bound to one switch, each of the lower has its own.
  await clickAt(page, 400, 106, 'Live frame');
  await expect(page.getByText(/^opens? ·/)).toBeVisible();
  await expect(happened(page, 'Crate 4 / open → on')).toBeVisible();
  await clickAt(page, -315, -110, 'Live frame');
  await expect(happened(page, 'Crate 5 / open → on')).toBeVisible();
});
