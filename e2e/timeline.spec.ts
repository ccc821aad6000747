import { expect, test } from '@playwright/test';
import { addKind, at, boxWithOpenClip, commit, drag, middle, pips, row, twoRows, undo } from './helpers.ts';

test('keys are chosen by a box, moved, stretched, reversed, copied, pasted and deleted, each one undo step', async ({
  page,
}) => {
  await twoRows(page);
  const first = await row(page, 'Box place x').boundingBox();
  const second = await row(page, 'Box turn z').boundingBox();
  if (!first || !second) throw new Error('no rows');
  // A box round everything.
  await drag(page, { x: first.x + 6, y: first.y + 4 }, first.width * 0.9, second.y - first.y + 40);
  await page.mouse.up();
  await expect(page.getByRole('heading', { name: '4 keys of 2 rows' })).toBeVisible();
  await expect(page.locator('[data-keys-span]')).toBeVisible();

  // Stretched by its end to twice the time.
  const ruler = await page.locator('[data-ruler]').boundingBox();
  const span = await page.locator('[data-keys-span]').boundingBox();
  if (!ruler || !span) throw new Error('no ruler');
  const end = await middle(page, '[data-keys-end="right"]');
  await drag(page, end, -span.width / 2 - 4, 0);
  await page.mouse.up();
  await expect(page.getByRole('button', { name: 'Key at 0.35 s' })).toHaveCount(2);
  await undo(page);
  await expect(page.getByRole('button', { name: 'Key at 0.70 s' })).toHaveCount(2);

  // Moved together by a pip of theirs, and by frame numbers with the keyboard.
  const pip = await middle(page, '[aria-label="Key at 0.00 s"]');
  await drag(page, pip, span.width / 7, 0);
  await page.mouse.up();
  await expect(page.getByRole('button', { name: 'Key at 0.10 s' })).toHaveCount(2);
  await expect(page.getByRole('button', { name: 'Key at 0.80 s' })).toHaveCount(2);
  await undo(page);
  await page.getByRole('group', { name: 'Timeline' }).press('Alt+ArrowRight');
  await expect(page.getByRole('button', { name: 'Key at 0.02 s' })).toHaveCount(2);
  await undo(page);

  // Reversed, it comes back from where it went.
  await page.getByRole('group', { name: 'Timeline' }).press('ControlOrMeta+a');
  await page.getByRole('button', { name: 'Reverse' }).click();
  await page.getByRole('button', { name: 'Key at 0.00 s' }).first().press('Enter');
  await expect(page.getByLabel('Value of the key')).toHaveValue('100');
  await undo(page);

  // Many are given one value and one easing, each as one step.
  await page.getByRole('button', { name: 'Key at 0.00 s' }).first().press('Enter');
  await page
    .getByRole('button', { name: 'Key at 0.70 s' })
    .first()
    .click({ modifiers: ['Shift'] });
  await commit(page, 'Value of the key', '+15');
  await page.getByRole('button', { name: 'Key at 0.70 s' }).first().press('Enter');
  await expect(page.getByLabel('Value of the key')).toHaveValue('115');
  await undo(page);
  await page.getByRole('group', { name: 'Timeline' }).press('ControlOrMeta+a');
  await page.getByRole('button', { name: 'bounce', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Undo “Eased 4 keys: bounce”' })).toBeVisible();
  await undo(page);

  // Deleted, and back.
  await page.getByRole('group', { name: 'Timeline' }).press('ControlOrMeta+a');
  await page.getByRole('group', { name: 'Timeline' }).press('Delete');
  await expect(pips(page)).toHaveCount(0);
  await undo(page);
  await expect(pips(page)).toHaveCount(4);
});

test('keys are pasted onto another object, and into another piece onto what has the name', async ({
  page,
  context,
}) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await twoRows(page);
  await page.getByRole('group', { name: 'Timeline' }).press('ControlOrMeta+a');
  await page.keyboard.press('ControlOrMeta+c');
  await addKind(page, 'Ball');
  // It is of no clip: the one that was open is folded, and takes it in when it is asked to.
  await expect(pips(page)).toHaveCount(0);
  await page.getByRole('button', { name: /^Add it to/ }).click();
  await commit(page, 'Playhead, seconds', '0.2');
  await page.locator('canvas').first().focus();
  await page.keyboard.press('ControlOrMeta+v');
  await expect(row(page, 'Ball place x')).toBeVisible();
  await expect(pips(page)).toHaveCount(8);
  await expect(page.getByRole('button', { name: 'Key at 0.90 s' })).toHaveCount(2);
  await undo(page);
  await expect(pips(page)).toHaveCount(4);
  // Into another piece: there a box of the same name has them.
  await boxWithOpenClip(page);
  await page.locator('canvas').first().focus();
  await page.keyboard.press('ControlOrMeta+v');
  await expect(row(page, 'Box turn z')).toBeVisible();
  // What is no keys is not taken for some.
  await page.evaluate(() =>
    navigator.clipboard.writeText('{"apple-tick-keys":1,"names":{},"tracks":[{"x":1}]}'),
  );
  await page.keyboard.press('ControlOrMeta+v');
  await expect(pips(page)).toHaveCount(4);
});

test('the clip’s end leaves its keys where they are, with Alt it stretches them, and either is offered after the other; typed it is the same; how it repeats is seen and previewed', async ({
  page,
}) => {
  await twoRows(page);
  const end = await middle(page, '[data-clip-end]');
  const start = await middle(page, '[aria-label="Key at 0.00 s"]');
  const half = (end.x - start.x) / 2;
  const at35 = page.getByRole('button', { name: 'Key at 0.35 s' });
  const at70 = page.getByRole('button', { name: 'Key at 0.70 s' });
  await drag(page, end, -half, 0);
  await page.mouse.up();
  await expect(page.getByLabel('Length, seconds')).toHaveValue('0.35');
  await expect(at70).toHaveCount(2);
  await page.getByRole('button', { name: 'Stretch the keys' }).click();
  await expect(at35).toHaveCount(2);
  await page.getByRole('button', { name: 'Keep the keys’ times' }).click();
  await expect(at70).toHaveCount(2);
  for (let n = 0; n < 3; n++) await undo(page);
  await expect(page.getByLabel('Length, seconds')).toHaveValue('0.7');
  await page.keyboard.down('Alt');
  await drag(page, end, -half, 0);
  await page.mouse.up();
  await page.keyboard.up('Alt');
  await expect(page.getByLabel('Length, seconds')).toHaveValue('0.35');
  await expect(at35).toHaveCount(2);
  await undo(page);
  await commit(page, 'Length, seconds', '0.35');
  await expect(at70).toHaveCount(2);
  await page.getByRole('button', { name: 'Stretch the keys' }).click();
  await expect(at35).toHaveCount(2);
  await undo(page);
  await undo(page);
  await page.getByLabel('Repeats').selectOption('there-and-back');
  await expect(page.locator('[data-ruler] title').first()).toHaveText('turns back at both ends');
  await page.getByLabel('Speed of the preview').selectOption('0.25');
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect
    .poll(async () => Number(await page.getByLabel('Playhead, seconds').inputValue()))
    .toBeLessThan(0.69);
  await page.getByRole('button', { name: 'Pause', exact: true }).click();
  await page.getByRole('button', { name: 'A frame on' }).click();
  await expect(page.getByText(/^frame number \d+$/)).toBeVisible();
});

test('easings: by formula, spring, bounce, elastic, steps; two compared; none where there is no segment', async ({
  page,
}) => {
  await twoRows(page);
  await page.getByRole('button', { name: 'Key at 0.70 s' }).first().press('Enter');
  await expect(page.getByRole('button', { name: 'spring', exact: true })).toBeHidden();
  await page.getByRole('button', { name: 'Key at 0.00 s' }).first().press('Enter');
  const value = async (seconds: string) => {
    await commit(page, 'Playhead, seconds', seconds);
    await page.getByRole('treeitem', { name: /^Box/ }).click();
    const x = Number(await page.getByRole('textbox', { name: 'Place x', exact: true }).inputValue());
    await page.getByRole('button', { name: 'Key at 0.00 s' }).first().press('Enter');
    return x;
  };
  await page.getByRole('button', { name: 'steps', exact: true }).click();
  await page.getByLabel('Number of steps').fill('2');
  await page.keyboard.press('Enter');
  expect(await value('0.3')).toBe(0);
  expect(await value('0.5')).toBe(50);
  await page.getByRole('button', { name: 'by formula', exact: true }).click();
  await page.getByLabel('Formula of the easing').selectOption('quad');
  await page.getByLabel('Way of the easing').selectOption('in');
  expect(await value('0.35')).toBeCloseTo(25, 1);
  await page.getByRole('button', { name: 'Compare with another' }).click();
  await page.getByRole('button', { name: 'spring', exact: true }).click();
  const compared = page.getByRole('group', { name: 'Comparison' });
  await expect(compared).toContainText('spring');
  await expect(compared).toContainText('quad in');
  await compared.getByRole('button', { name: 'take' }).click();
  expect(await value('0.35')).toBeCloseTo(25, 1);
  for (const name of ['bounce', 'elastic', 'smooth']) {
    await page.getByRole('button', { name, exact: true }).click();
    await expect(page.getByRole('button', { name, exact: true })).toHaveAttribute('aria-pressed', 'true');
  }
});

test('rows of several objects fold under their names, and are searched', async ({ page }) => {
  await page.goto('/');
  await page
    .getByRole('button', { name: /^Windfall Mill/ })
    .first()
    .click();
  await page.getByRole('tab', { name: 'Clips' }).click();
  await page.getByRole('button', { name: 'Open pressing' }).dblclick();
  const timeline = page.getByRole('group', { name: 'Timeline' });
  await expect(timeline.getByRole('button', { name: 'Crank', exact: true })).toBeVisible();
  await timeline.getByRole('button', { name: 'Fold Crank' }).click();
  await expect(row(page, 'Crank turn x')).toBeHidden();
  await timeline.getByRole('button', { name: 'Unfold Crank' }).click();
  await expect(row(page, 'Crank turn x')).toBeVisible();
  const search = page.getByLabel('Search the rows');
  if (await search.isVisible()) {
    await search.fill('screw');
    await expect(row(page, 'Crank turn x')).toBeHidden();
  }
});

test('a keyed thing moved in the base is offered to take its keys along', async ({ page }) => {
  await twoRows(page);
  await page.getByRole('button', { name: /key as I move/ }).click();
  await commit(page, 'Place x', '160');
  await page.getByRole('button', { name: 'Move its keys along' }).first().click();
  await expect(page.getByRole('textbox', { name: 'Place x', exact: true })).toHaveValue('160');
  await commit(page, 'Playhead, seconds', '0');
  await expect(page.getByRole('textbox', { name: 'Place x', exact: true })).toHaveValue('60');
  await undo(page);
  await expect(page.getByRole('textbox', { name: 'Place x', exact: true })).toHaveValue('0');
});

test('with no clip open too: moved by hand, then its keys are taken along, or left', async ({ page }) => {
  await twoRows(page);
  await page.getByRole('button', { name: 'Fold', exact: true }).click();
  await page.getByRole('treeitem', { name: /^Box/ }).click();
  const from = await at(page, 20, 20);
  await drag(page, from, 60 * from.scale, 0);
  await page.mouse.up();
  const offer = page.getByRole('status').filter({ hasText: 'its keys stay where they are' });
  await expect(offer).toBeVisible();
  await offer.getByRole('button', { name: 'Move its keys along' }).click();
  await expect(offer).toBeHidden();
  await expect(page.getByRole('button', { name: 'Undo “Moved the keys along”' })).toBeVisible();
  await page.locator('[data-state="moving"]').dblclick();
  await page.getByRole('treeitem', { name: /^Box/ }).click();
  await commit(page, 'Playhead, seconds', '0.7');
  const moved = Number(await page.getByRole('textbox', { name: 'Place x', exact: true }).inputValue());
  expect(moved).toBeGreaterThan(140);
  expect(moved).toBeLessThan(180);
});
