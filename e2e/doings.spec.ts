/** What is done, as sentences: copied like anything else, and changed word by word. */
import { expect, test } from '@playwright/test';
import { addKind, changeReaction, clickFrame, commit, log, newPiece, runPaused, undo } from './helpers.ts';

test('a reaction is copied onto another thing, duplicated, cut and deleted by keys, each undone in one step', async ({
  page,
  context,
}) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await newPiece(page);
  await addKind(page, 'Box');
  await page.getByRole('button', { name: 'Add a reaction' }).click();
  await page.getByLabel('Action', { exact: true }).selectOption('hide');
  const reaction = page.getByRole('group', { name: 'when Box clicked: hide Box' });
  await reaction.focus();
  await page.keyboard.press('ControlOrMeta+c');
  await page.keyboard.press('ControlOrMeta+d');
  await expect(reaction).toHaveCount(2);
  await undo(page);
  await expect(reaction).toHaveCount(1);
  await addKind(page, 'Rectangle');
  await page.locator('body').press('ControlOrMeta+v');
  const other = page.getByRole('group', { name: 'when Rectangle clicked: hide Rectangle' });
  await expect(other).toBeVisible();
  // It is of this piece, and runs.
  await page.reload();
  await page.getByRole('treeitem', { name: /^Rectangle/ }).click();
  await expect(other).toBeVisible();
  await other.getByRole('button', { name: /^Change: / }).focus();
  await page.keyboard.press('Delete');
  await expect(other).toHaveCount(0);
  await expect(page.getByRole('treeitem', { name: /^Rectangle/ })).toBeVisible();
  await undo(page);
  await expect(other).toBeVisible();
  // Onto the page of a cue sheet it comes as a cue.
  await page.getByRole('tab', { name: 'Cue sheets' }).click();
  await page.getByRole('button', { name: 'Add a cue sheet' }).click();
  await page.locator('body').press('ControlOrMeta+v');
  await expect(page.locator('[data-cue]')).toHaveCount(1);
  await expect(page.getByTitle('hide Box')).toBeVisible();
});

test('a tween of several properties says each, another is added and left away', async ({ page }) => {
  await newPiece(page);
  await addKind(page, 'Box');
  await page.getByRole('button', { name: 'Add a reaction' }).click();
  await page.getByLabel('Action', { exact: true }).selectOption('tween');
  await page.getByLabel('Property', { exact: true }).selectOption('position.x');
  await commit(page, 'How much', '120');
  const sentence = page.getByRole('group', { name: /^tween Box/ });
  await sentence.hover();
  await page.getByRole('button', { name: '+ property' }).click();
  // After x most likely y is meant.
  await expect(page.getByLabel('Property', { exact: true }).nth(1)).toHaveValue('position.y');
  await page.getByLabel('How much').nth(1).fill('60');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('group', { name: /^tween Box place x by 120.*, place y by 60/ })).toBeVisible();
  await page.reload();
  await page.getByRole('treeitem', { name: /^Box/ }).click();
  await changeReaction(page);
  await runPaused(page);
  await clickFrame(page, 0, 0);
  await page.getByRole('button', { name: 'Go on', exact: true }).click();
  await page.getByRole('button', { name: /^1 move/ }).click();
  await expect(log(page, 'Box tweened')).toHaveCount(1);
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await sentence.hover();
  await page.getByRole('button', { name: 'Leave place x as it is' }).click();
  await expect(page.getByRole('group', { name: /^tween Box place y by 60/ })).toBeVisible();
  await undo(page);
  await expect(page.getByLabel('Property', { exact: true })).toHaveCount(2);
});

test('an action alone, a condition alone, a state and a way are copied by the same keys, each undone in one step', async ({
  page,
  context,
}) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await newPiece(page);
  await addKind(page, 'Box');
  await page.getByRole('button', { name: 'Add a reaction' }).click();
  const action = page.getByLabel('Action', { exact: true });
  await action.selectOption('hide');
  await action.focus();
  await page.keyboard.press('ControlOrMeta+c');
  await page.keyboard.press('ControlOrMeta+v');
  await expect(page.getByRole('group', { name: 'when Box clicked: hide Box, hide Box' })).toBeVisible();
  await undo(page);
  await expect(page.getByRole('group', { name: 'when Box clicked: hide Box', exact: true })).toBeVisible();
  // Onto the reaction of another thing.
  await addKind(page, 'Rectangle');
  await page.getByRole('button', { name: 'Add a reaction' }).click();
  await page.getByLabel('Action', { exact: true }).selectOption('toggle');
  await page.getByLabel('Action', { exact: true }).focus();
  await page.keyboard.press('ControlOrMeta+v');
  await expect(
    page.getByRole('group', { name: /^when Rectangle clicked: toggle .*, hide Rectangle$/ }),
  ).toBeVisible();
  // With the focus one is duplicated like anything else.
  await page.getByLabel('Action', { exact: true }).last().focus();
  await page.keyboard.press('ControlOrMeta+d');
  await expect(
    page.getByRole('group', { name: /^when Rectangle clicked: toggle .*, hide Rectangle, hide Rectangle$/ }),
  ).toBeVisible();
  await undo(page);
  // By their names, for whoever looks for them.
  const command = async (name: string) => {
    await page.locator('body').press('ControlOrMeta+k');
    await page.getByLabel('Search commands').fill(name);
    await page.getByLabel('Search commands').press('Enter');
  };
  await page.getByRole('treeitem', { name: /^Box/ }).click();
  await command('copy what is chosen');
  await command('paste');
  await expect(page.getByRole('treeitem', { name: /^Box 2/ })).toBeVisible();
  await undo(page);
  await page.getByRole('treeitem', { name: /^Rectangle/ }).click();
  // A state, with what leads to it, goes to another lane.
  await page.getByRole('button', { name: 'Add a machine to Rectangle' }).first().click();
  await page.getByRole('button', { name: 'Add ▾' }).click();
  await page.getByRole('menuitem', { name: 'A state that plays a new clip' }).click();
  const states = page.getByRole('button', { name: /^State / });
  await expect(states).toHaveCount(2);
  await states.last().focus();
  await page.keyboard.press('ControlOrMeta+c');
  await page.keyboard.press('ControlOrMeta+v');
  await expect(states).toHaveCount(3);
  await undo(page);
  await expect(states).toHaveCount(2);
});
