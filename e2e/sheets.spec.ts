import { expect, type Page, test } from '@playwright/test';
import { addKind, commit, drag, item, newPiece, undo } from './helpers.ts';

const run = (page: Page) => page.getByRole('button', { name: 'Run', exact: true }).click();
const stop = (page: Page) => page.getByRole('button', { name: 'Stop', exact: true }).click();
const happened = (page: Page, words: string | RegExp) =>
  page.getByRole('list', { name: /^What happened/ }).getByText(words, { exact: true });
const cue = (page: Page, name: string) => page.getByRole('button', { name: new RegExp(`^Cue ${name},`) });
/** A box, and a sheet without cues. */
const sheet = async (page: Page) => {
  await newPiece(page);
  await addKind(page, 'Rectangle');
  await page.getByRole('tab', { name: 'Cue sheets' }).click();
  await page.getByRole('button', { name: 'Add a cue sheet' }).click();
};
const addCue = async (page: Page, name: string) => {
  await page.getByRole('button', { name: '+ cue', exact: true }).click();
  await commit(page, 'Name of the cue', name);
};
/** A cue that does nothing yet asks what by itself; to one that does something more is added. */
const action = async (page: Page) => {
  const more = page.getByRole('button', { name: 'action', exact: true });
  await expect(more.or(page.getByLabel('Action', { exact: true })).first()).toBeVisible();
  if (await more.isVisible()) await more.click();
};
const middleOf = async (page: Page, name: string) => {
  const box = await cue(page, name).boundingBox();
  if (!box) throw new Error(`no cue ${name}`);
  return { x: box.x + 6, y: box.y + box.height / 2 };
};

test('D10: a scene is made from nothing: cues one after another, retimed, hung elsewhere; it runs so; undone step by step', async ({
  page,
}) => {
  await sheet(page);
  await addCue(page, 'rise');
  await action(page);
  await page.getByLabel('Action', { exact: true }).selectOption('tween');
  await commit(page, 'Seconds of the tween', '1');
  // With a cue chosen the next one follows it.
  await addCue(page, 'say');
  await expect(page.getByLabel('What it is timed from').locator('option:checked')).toHaveText('rise ends');
  await action(page);
  await page.getByLabel('Action', { exact: true }).selectOption('caption');
  await commit(page, 'Words of the caption', 'Up here!');
  await expect(cue(page, 'say')).toHaveAccessibleName('Cue say, 1.0 s');
  // Dragged along time the first takes the other along.
  const scale = await page.getByRole('group', { name: 'Seconds of the sheet' }).evaluate((el) => {
    const [a, b] = [...el.querySelectorAll('text')].map((t) => Number(t.getAttribute('x')));
    const [s, u] = [...el.querySelectorAll('text')].map((t) => Number.parseFloat(t.textContent ?? ''));
    return ((b ?? 0) - (a ?? 0)) / ((u ?? 1) - (s ?? 0));
  });
  await drag(page, await middleOf(page, 'rise'), scale * 0.5, 0);
  await page.mouse.up();
  await expect(cue(page, 'rise')).toHaveAccessibleName('Cue rise, 0.5 s');
  await expect(cue(page, 'say')).toHaveAccessibleName('Cue say, 1.5 s');
  // By keyboard a tenth on.
  await cue(page, 'rise').focus();
  await page.keyboard.press('ArrowRight');
  await expect(cue(page, 'say')).toHaveAccessibleName('Cue say, 1.6 s');
  await page.getByRole('button', { name: 'Menu of scene' }).click();
  await page.getByRole('menuitem', { name: 'Start it with the piece' }).click();
  await expect(page.getByRole('button', { name: /^Starts when .* starts$/ })).toBeVisible();
  await run(page);
  await expect(happened(page, 'scene starts')).toBeVisible();
  await expect(page.locator('.tick-caption')).toHaveText('Up here!');
  await expect(happened(page, 'scene: say')).toBeVisible();
  await stop(page);
  await page.reload();
  await page.getByRole('tab', { name: 'Cue sheets' }).click();
  await expect(cue(page, 'say')).toHaveAccessibleName('Cue say, 1.6 s');
  await undo(page);
  await expect(page.getByText('starts by nothing yet')).toBeVisible();
  await undo(page);
  await undo(page);
  await expect(cue(page, 'rise')).toHaveAccessibleName('Cue rise, 0.0 s');
  // The words, the deed, the action, the name, and the cue itself.
  for (let i = 0; i < 5; i++) await undo(page);
  await expect(cue(page, 'say')).toHaveCount(0);
  await expect(cue(page, 'rise')).toBeVisible();
});

test('D10: a cue is hung on another by dragging it there, waits for a click, and is tried from its time on', async ({
  page,
}) => {
  await sheet(page);
  await addCue(page, 'first');
  await action(page);
  await page.getByLabel('Action', { exact: true }).selectOption('tween');
  await commit(page, 'Seconds of the tween', '2');
  await page.locator('body').press('Escape');
  await page.getByRole('group', { name: 'Seconds of the sheet' }).click({ position: { x: 400, y: 12 } });
  await page.locator('[data-cues]').dblclick({ position: { x: 400, y: 100 } });
  await commit(page, 'Name of the cue', 'second');
  await expect(page.getByLabel('What it is timed from').locator('option:checked')).toHaveText(
    'the sheet starts',
  );
  // Onto the end of the first.
  const from = await middleOf(page, 'second');
  const first = await cue(page, 'first').boundingBox();
  if (!first) throw new Error('no first');
  await drag(page, from, first.x + first.width - from.x, first.y + 20 - from.y);
  await page.mouse.up();
  await expect(page.getByLabel('What it is timed from').locator('option:checked')).toHaveText('first ends');
  await undo(page);
  await expect(page.getByLabel('What it is timed from').locator('option:checked')).toHaveText(
    'the sheet starts',
  );
  await page.getByLabel('What it is timed from').selectOption({ label: 'first ends' });
  await commit(page, 'Seconds of the cue', '0.5');
  await page.getByRole('button', { name: '+ wait for something' }).click();
  await expect(page.getByLabel('What it waits for').locator('option:checked')).toHaveText('is clicked');
  await expect(cue(page, 'second')).toHaveAccessibleName('Cue second, at least 2.5 s');
  await expect(cue(page, 'second')).toContainText('waits until Rectangle clicked');
  await expect(page.getByText('at least 2.5 s, with waits')).toBeVisible();
  await action(page);
  await page.getByLabel('Action', { exact: true }).selectOption('hide');
  await page.getByRole('button', { name: 'Try from 2.5 s' }).click();
  await expect(happened(page, 'scene starts')).toBeVisible();
  await expect(happened(page, 'scene: first')).toBeHidden();
  const box = await page.getByLabel('Live frame').boundingBox();
  if (!box) throw new Error('no frame');
  await page.mouse.click(box.x + box.width / 2, box.y + box.height / 2);
  await expect(happened(page, 'scene: second')).toBeVisible();
  await expect(happened(page, 'scene is done')).toBeVisible();
  await stop(page);
  // A cue goes with what follows it, and all comes back.
  await cue(page, 'first').click();
  await page.keyboard.press('Delete');
  await expect(cue(page, 'second')).toHaveCount(0);
  await expect(page.getByRole('button', { name: /Undo “Deleted first and what follows it”/ })).toBeVisible();
  await undo(page);
  await expect(cue(page, 'second')).toBeVisible();
});

test('E2: a thing is moved, made to speak and hidden by hand in a run; what was done becomes cues, which do it again', async ({
  page,
}) => {
  await newPiece(page);
  await addKind(page, 'Rectangle');
  await run(page);
  await page.getByRole('treeitem', { name: /^Rectangle/ }).click();
  const hand = page.getByRole('region', { name: 'By hand' });
  await hand.getByLabel('Move by hand, x', { exact: true }).fill('120');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('region', { name: 'Who writes this' })).toContainText('put by an action');
  await hand.getByLabel('Say by hand').fill('Here I am');
  await page.keyboard.press('Enter');
  await expect(page.getByText('Here I am', { exact: true }).first()).toBeVisible();
  await hand.getByRole('button', { name: 'Hide' }).click();
  await expect(hand.getByRole('button', { name: 'Show' })).toBeVisible();
  await page.getByRole('button', { name: 'as cues' }).click();
  await expect(page.getByRole('button', { name: /^Cue Rectangle/ })).toHaveCount(3);
  await stop(page);
  // The piece itself is as it was.
  await page.getByRole('treeitem', { name: /^Rectangle/ }).click();
  await expect(page.getByLabel('Place x', { exact: true })).toHaveValue('0');
  await page.getByRole('button', { name: /^Try from/ }).click();
  await expect(happened(page, 'what was done is done')).toBeVisible();
  await page.getByRole('treeitem', { name: /^Rectangle/ }).click();
  await expect(page.getByRole('region', { name: 'Who writes this' })).toContainText('120');
});

test('E2: what was done by hand in a run becomes a cue sheet, as one step', async ({ page }) => {
  await newPiece(page);
  await addKind(page, 'Rectangle');
  for (const kind of ['Switch', 'Message', 'Sound']) {
    const list = kind === 'Sound' ? 'Add a sound or effect' : 'Add a signal';
    await page.getByRole('button', { name: list }).click();
    await page.getByRole('menuitem', { name: kind, exact: true }).click();
  }
  await run(page);
  await expect(page.getByRole('button', { name: 'as cues' })).toBeHidden();
  await page.getByRole('switch', { name: 'on' }).click();
  await expect(happened(page, 'on → on')).toBeVisible();
  await page.getByRole('button', { name: 'send ready' }).click();
  await page.getByRole('button', { name: 'Play the sound bell' }).click();
  await expect(happened(page, 'By hand: sound bell')).toBeVisible();
  await page.getByRole('button', { name: 'as cues' }).click();
  await expect(page.getByRole('tab', { name: 'Cue sheets' })).toHaveAttribute('aria-selected', 'true');
  await expect(cue(page, 'on')).toContainText('set on to on');
  await expect(cue(page, 'ready')).toContainText('send ready');
  await expect(cue(page, 'bell')).toContainText('play the sound bell');
  await stop(page);
  await page.getByRole('button', { name: /^Try from/ }).click();
  await expect(happened(page, 'what was done is done')).toBeVisible();
  await expect(page.getByRole('switch', { name: 'on' })).toHaveAttribute('aria-checked', 'true');
  await stop(page);
  await undo(page);
  await expect(page.getByRole('button', { name: 'Add a cue sheet' })).toBeVisible();
});

test('D10: a sheet pauses and begins anew, is started by an action, renamed and deleted', async ({
  page,
}) => {
  await sheet(page);
  await commit(page, 'Name of the cue sheet', 'Blink');
  await addCue(page, 'off');
  await action(page);
  await page.getByLabel('Action', { exact: true }).selectOption('hide');
  await page.getByLabel('What happens at its end').selectOption({ label: 'again after' });
  await commit(page, 'Pause before it begins again', '0.3');
  await item(page, 'Rectangle').click();
  await page.getByRole('button', { name: 'Add a reaction' }).click();
  await page.getByLabel('Event', { exact: true }).selectOption('piece.start');
  await page.getByLabel('Action', { exact: true }).selectOption('sheet');
  await expect(page.getByLabel('Cue sheet', { exact: true }).first().locator('option:checked')).toHaveText(
    'Blink',
  );
  await run(page);
  // Again and again, which is told in one line.
  await expect(
    page
      .getByRole('list', { name: /^What happened/ })
      .getByRole('listitem')
      .filter({ hasText: /Blink starts × ([3-9]|\d\d)/ }),
  ).toBeVisible();
  await stop(page);
  await page.getByRole('button', { name: 'Menu of Blink' }).click();
  await page.getByRole('menuitem', { name: 'Delete the cue sheet' }).click();
  await expect(page.getByRole('button', { name: 'Add a cue sheet' })).toBeVisible();
  await expect(page.getByLabel('Action', { exact: true })).toHaveCount(0);
  await undo(page);
  await expect(cue(page, 'off')).toBeVisible();
});
