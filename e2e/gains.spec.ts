/** Rows that count from wherever a thing is, clips for other objects, words that are keyed, and what was left of B1–B14. */
import { expect, type Page, test } from '@playwright/test';
import {
  addKind,
  boxWithOpenClip,
  changeReaction,
  colour,
  commit,
  item,
  newPiece,
  openChute,
  pips,
  undo,
} from './helpers.ts';

const value = (page: Page, label: string) => page.getByLabel(label, { exact: true }).inputValue();
/** A row of the tree, whatever it carries. */
const thing = (page: Page, name: string) =>
  page.getByRole('treeitem', { name: new RegExp(`^${name}(,|$)`) }).first();
const frame = (page: Page) => page.getByLabel('Live frame');

test('B7: a turn that counts from wherever the thing is stays gained, and each click adds to it', async ({
  page,
}) => {
  await newPiece(page);
  await addKind(page, 'Rectangle');
  await page.locator('body').press('a');
  await commit(page, 'Turn ° z', '90');
  await expect(pips(page)).toHaveCount(2);
  await pips(page).last().click();
  await page.getByLabel('counts from wherever it is, and what it gains stays').check();
  await expect(page.getByRole('button', { name: 'Undo “Counts from wherever it is”' })).toBeVisible();
  // Where it begins it is where it is: told, and nothing is keyed.
  await commit(page, 'Playhead, seconds', '0');
  await thing(page, 'Rectangle').click();
  await commit(page, 'Turn ° z', '30');
  await expect(page.getByText('begins wherever it is')).toBeVisible();
  await expect(page.getByLabel('Turn ° z', { exact: true })).toHaveValue('0');
  // Its base moves the whole of it, and is not refused.
  await page.getByRole('button', { name: 'key as I move: on' }).click();
  await commit(page, 'Turn ° z', '10');
  await commit(page, 'Playhead, seconds', '0.7');
  await expect(page.getByLabel('Turn ° z', { exact: true })).toHaveValue('100');
  await undo(page);
  await page.getByRole('button', { name: 'Fold', exact: true }).click();
  // A click goes to it, its end goes back to rest: the turn stays.
  await page
    .getByRole('button', { name: /^Transition: / })
    .first()
    .click();
  await page.getByLabel('Event of the transition').selectOption('pointer.click');
  await page
    .getByRole('button', { name: /^State .*0\.\d+ s/ })
    .first()
    .press('t');
  await page.getByRole('menuitem', { name: /^to / }).first().click();
  await page.locator('body').press('r');
  await thing(page, 'Rectangle').click();
  const box = await frame(page).boundingBox();
  if (!box) throw new Error('no frame');
  for (const turn of ['90', '180', '270']) {
    await page.mouse.click(box.x + box.width / 2, box.y + box.height / 2);
    await expect(page.locator('span[title$="was done"]')).toHaveCount(Number(turn) / 90);
    // Lying it covers the point beside its middle, standing the one above it.
    const lies = Number(turn) % 180 === 0;
    await expect.poll(() => colour(page, 50, 0)).toBe(lies ? '#7fa982' : '#dce7e2');
    await expect.poll(() => colour(page, 0, 50)).toBe(lies ? '#dce7e2' : '#7fa982');
  }
});

test('B3: a clip is made for another object by its names, and by hand where that fails; one step', async ({
  page,
}) => {
  await openChute(page);
  await addKind(page, 'Box');
  await page.getByRole('tab', { name: 'Clips' }).click();
  await page.getByRole('button', { name: 'What to do with tipping' }).click();
  await page.getByRole('menuitem', { name: 'Make one for another object…' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByRole('button', { name: 'Make the clip' })).toBeDisabled();
  await dialog.getByLabel('Object that it is made for').selectOption({ label: 'Box' });
  await expect(dialog.getByText('One thing that it moves is not there by that name')).toBeVisible();
  await expect(dialog.getByRole('button', { name: 'Make the clip' })).toBeDisabled();
  await dialog.getByLabel('What stands for Flap').selectOption({ label: 'Box' });
  await dialog.getByRole('button', { name: 'Make the clip' }).click();
  await expect(page.getByRole('region', { name: 'Box' }).getByLabel('Name of tipping')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Undo “Made tipping for Box”' })).toBeVisible();
  await undo(page);
  await expect(page.getByRole('region', { name: 'Box' })).toHaveCount(0);
});

test('B5: words are keyed as blocks, changed in their key, seen at the playhead', async ({ page }) => {
  await newPiece(page);
  await addKind(page, 'Text');
  await page.locator('body').press('a');
  await commit(page, 'Playhead, seconds', '0.3');
  await thing(page, 'Text').click();
  await page.getByLabel('Text', { exact: true }).fill('open');
  await page.getByLabel('Text', { exact: true }).blur();
  const row = page.getByRole('group', { name: 'Text words' });
  await expect(row.locator('text').last()).toHaveText('open');
  await expect(pips(page)).toHaveCount(2);
  await pips(page).last().click();
  await commit(page, 'Value of the key', 'wide open');
  await expect(page.getByRole('button', { name: 'Undo “Changed a key”' })).toBeVisible();
  await thing(page, 'Text').click();
  expect(await value(page, 'Text')).toBe('wide open');
  await commit(page, 'Playhead, seconds', '0');
  await expect(page.getByLabel('Text', { exact: true })).not.toHaveValue('wide open');
  await undo(page);
  await commit(page, 'Playhead, seconds', '0.7');
  await thing(page, 'Text').click();
  await expect(page.getByLabel('Text', { exact: true })).toHaveValue('open');
});

test('B8, B12: only the pose at the key counts; a clip of one frame is a pose and done at once', async ({
  page,
}) => {
  await boxWithOpenClip(page);
  await page.getByRole('button', { name: /key as I move/ }).click();
  await thing(page, 'Box').click();
  // Keyed by a chord, not by moving: what it was before does not matter.
  await page.locator('body').press('ControlOrMeta+Enter');
  const many = await pips(page).count();
  expect(many).toBeGreaterThan(2);
  await commit(page, 'Length, seconds', '0');
  await page.getByRole('button', { name: 'Fold', exact: true }).click();
  await page.locator('body').press('r');
  await expect(page.getByLabel('What happened', { exact: true })).toBeVisible();
});

test('B13: while arranging, a thing that its first key hides stays findable', async ({ page }) => {
  await boxWithOpenClip(page);
  await thing(page, 'Box').click();
  await commit(page, 'Playhead, seconds', '0');
  await page.getByLabel('shown').uncheck();
  await page.getByRole('button', { name: 'Fold', exact: true }).click();
  // The base is what is seen while nothing is open; and the tree has it always.
  await expect.poll(() => colour(page, 0, 0)).not.toBe('#dce7e2');
  await expect(thing(page, 'Box')).toBeVisible();
});

test('the tree folds by mouse and keyboard, opens for what is chosen, and stays so through a reload', async ({
  page,
}) => {
  await openChute(page);
  await item(page, 'Mill house').click();
  await page.getByRole('button', { name: 'Fold Mill house' }).click();
  await expect(item(page, 'Wall')).toHaveCount(0);
  await expect(item(page, 'Mill house')).toHaveAttribute('aria-expanded', 'false');
  await page.reload();
  await expect(thing(page, 'Chute')).toBeVisible();
  await expect(item(page, 'Wall')).toHaveCount(0);
  await item(page, 'Mill house').click();
  await page.getByRole('tree').press('ArrowRight');
  await expect(item(page, 'Wall')).toBeVisible();
  await page.getByRole('tree').press('ArrowRight');
  await expect(item(page, 'Wall')).toHaveAttribute('aria-selected', 'true');
  // Folding what the chosen thing lies in chooses that.
  await page.getByRole('button', { name: 'Fold Mill house' }).click();
  await expect(item(page, 'Mill house')).toHaveAttribute('aria-selected', 'true');
  await page.getByRole('tree').press('ArrowRight');
  await page.getByRole('tree').press('ArrowLeft');
  await expect(item(page, 'Wall')).toHaveCount(0);
});

test('a piece is renamed on the shelf, by its own history; focus stays near what went', async ({ page }) => {
  await openChute(page);
  await page.getByRole('treeitem', { name: /^Flap/ }).click();
  await changeReaction(page);
  const remove = page.getByRole('button', { name: 'Delete the condition' });
  if ((await remove.count()) === 0) {
    await page.getByText('only if, how often').first().click();
    await page.getByRole('button', { name: 'condition', exact: true }).first().click();
  }
  await remove.first().focus();
  await page.keyboard.press('Enter');
  await expect(remove).toHaveCount(0);
  expect(await page.evaluate(() => document.activeElement !== document.body)).toBe(true);
  await page.goto('/');
  await page.getByLabel('Name of Chute').first().fill('Apple chute');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /^Apple chute \d/ })).toBeVisible();
  await page.getByRole('button', { name: /^Apple chute \d/ }).click();
  await expect(page.getByRole('button', { name: 'Undo “Renamed the piece”' })).toBeVisible();
});

test('C: a click tweens a turn by so much, also when it is clicked again on the way; a motor turns until it is stopped', async ({
  page,
}) => {
  await newPiece(page);
  await addKind(page, 'Rectangle');
  await page.getByRole('button', { name: 'Add a reaction' }).click();
  await page.getByLabel('Action', { exact: true }).selectOption('tween');
  await expect(page.getByRole('group', { name: /^tween Rectangle turn z by 90 in 0.5 s/ })).toBeVisible();
  await commit(page, 'Seconds of the tween', '0.3');
  await page.getByRole('button', { name: /^Easing of the tween/ }).click();
  await page.getByRole('button', { name: 'linear', exact: true }).click();
  await page.getByRole('button', { name: 'Run', exact: true }).click();
  const box = await frame(page).boundingBox();
  if (!box) throw new Error('no frame');
  const click = () => page.mouse.click(box.x + box.width / 2, box.y + box.height / 2);
  await click();
  await expect.poll(() => colour(page, 0, 50)).toBe('#7fa982');
  await expect.poll(() => colour(page, 50, 0)).toBe('#dce7e2');
  // Twice at once: what it is on the way to counts, so it comes to a half turn more.
  await click();
  // What reacted twice within a tick would be told as one.
  await page.waitForTimeout(60);
  await click();
  await expect(page.getByRole('button', { name: /^1 move/ })).toHaveCount(3);
  await page
    .getByRole('button', { name: /^1 move/ })
    .first()
    .click();
  await expect(page.locator('span[title="Rectangle turn z tweened"]')).toHaveCount(1);
  await expect.poll(() => colour(page, 0, 50)).toBe('#7fa982');
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await page.getByLabel('Action', { exact: true }).selectOption('motor');
  await commit(page, 'Rate, a second', '720');
  await page.getByRole('button', { name: '+ limit' }).click();
  await commit(page, 'Limit of the rate', '180');
  await page.getByRole('button', { name: 'Run', exact: true }).click();
  await click();
  await page.getByRole('button', { name: /^1 move/ }).click();
  await expect(page.locator('span[title="Rectangle turn z driven by a motor"]')).toHaveCount(1);
  // It turns on and on: the point above its middle is covered and free in turn.
  for (const seen of ['#7fa982', '#dce7e2', '#7fa982'])
    await expect.poll(() => colour(page, 0, 50), { intervals: [40] }).toBe(seen);
});

test('D16: a recipe is put on a thing in two actions, as one step, and runs: a hinge that turns back, a lift, a spin', async ({
  page,
}) => {
  await newPiece(page);
  await addKind(page, 'Rectangle');
  const put = async (name: RegExp) => {
    await page.getByRole('button', { name: 'recipes' }).click();
    await page.getByRole('dialog', { name: 'Recipes for Rectangle' }).getByRole('button', { name }).click();
  };
  const run = () => page.getByRole('button', { name: 'Run', exact: true }).click();
  const stop = () => page.getByRole('button', { name: 'Stop', exact: true }).click();
  await put(/^Opens and closes/);
  await expect(page.getByRole('button', { name: 'Undo “Opens and closes: Rectangle”' })).toBeVisible();
  await expect(page.getByRole('button', { name: /^State (shut|opening|open|closing)/ })).toHaveCount(4);
  await run();
  const box = await frame(page).boundingBox();
  if (!box) throw new Error('no frame');
  const click = () => page.mouse.click(box.x + box.width / 2, box.y + box.height / 2);
  await click();
  // It hangs from its left edge, so its right side is free then.
  await expect.poll(() => colour(page, 45, 0)).toBe('#dce7e2');
  await page.getByRole('switch', { name: 'Rectangle open' }).click();
  await expect.poll(() => colour(page, 45, 0)).toBe('#7fa982');
  await stop();
  await undo(page);
  await expect(page.getByRole('button', { name: /^State / })).toHaveCount(0);
  // Another by its command; a second is a lane more of the same machine.
  await thing(page, 'Rectangle').click();
  await page.locator('body').press('ControlOrMeta+k');
  await page.keyboard.type('recipe: lifts');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /^State rising/ })).toBeVisible();
  await put(/^Spins until clicked/);
  await expect(thing(page, 'Rectangle')).toHaveAccessibleName(/2 lanes/);
  await run();
  for (const seen of ['#7fa982', '#dce7e2'])
    await expect.poll(() => colour(page, 0, 50), { intervals: [40] }).toBe(seen);
  await stop();
});
