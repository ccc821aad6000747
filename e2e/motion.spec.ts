import { expect, test } from '@playwright/test';
import {
  addKind,
  at,
  colour,
  commit,
  drag,
  Hands,
  item,
  middle,
  newPiece,
  openChute,
  pips,
  undo,
} from './helpers.ts';

test('a box that slides in and fades takes at most 12 actions from an empty piece', async ({ page }) => {
  await newPiece(page);
  const hands = new Hands(page);
  await hands.choose('Draw ▾', 'Rectangle');
  await hands.drag([-360, 60], [-260, -20]);
  await hands.click('Animate');
  await hands.drag([-310, 20], [0, 20]);
  await hands.type('Opacity', '0.3');
  // Taken hold of at its middle it goes freely: along x and y.
  await expect(pips(page)).toHaveCount(6);
  await hands.click('Play');
  expect(hands.actions).toBeLessThanOrEqual(12);
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
  await expect(page.getByLabel('Playhead, seconds')).toHaveValue('0.7');
  await expect(page.getByLabel('Opacity', { exact: true })).toHaveValue('0.3');
  // Each is one step; the making of machine, state and clip is one too.
  for (const name of ['Changed the opacity of', 'Moved Rectangle', 'Animated Rectangle', 'Drew Rectangle']) {
    await expect(
      page.getByRole('button', { name: new RegExp(`^Undo “.*${name.split(' ')[0]}`) }),
    ).toBeVisible();
    await undo(page);
  }
  await expect(page.getByText('Nothing here yet.')).toBeVisible();
});

test('a hinged flap that opens, shaped, takes at most 12 actions', async ({ page }) => {
  await newPiece(page);
  const hands = new Hands(page);
  await hands.choose('Draw ▾', 'Box');
  await hands.drag([-50, 50], [50, -50]);
  await hands.click('Pivot top centre');
  await hands.key('a');
  await hands.type('Turn ° x', '-70');
  await hands.click('Key at 0.00 s');
  await hands.click('swings past');
  expect(hands.actions).toBeLessThanOrEqual(12);
  await expect(page.getByRole('button', { name: /Undo “Eased: swings past”/ })).toBeVisible();
});

test('a three-part rig that nods takes at most 18 actions', async ({ page }) => {
  await newPiece(page);
  const hands = new Hands(page);
  await hands.choose('Draw ▾', 'Rectangle');
  await hands.drag([-60, 0], [60, -120]);
  await hands.choose('Draw ▾', 'Ellipse');
  await hands.drag([-40, 80], [40, 0]);
  await hands.choose('Draw ▾', 'Rectangle');
  await hands.drag([-20, 120], [20, 80]);
  await hands.key('ControlOrMeta+a');
  await hands.key('ControlOrMeta+j');
  await hands.key('a');
  await hands.type('Turn ° z', '20');
  await page.getByLabel('Repeats').selectOption('there-and-back');
  hands.actions += 2;
  await hands.click('Play');
  expect(hands.actions).toBeLessThanOrEqual(18);
  await expect(pips(page)).toHaveCount(2);
  await expect
    .poll(async () => Number(await page.getByRole('textbox', { name: 'Turn ° z', exact: true }).inputValue()))
    .toBeGreaterThan(1);
});

test('by keyboard alone a new object comes to its first pose in at most 25 key presses', async ({ page }) => {
  await newPiece(page);
  let presses = 0;
  const press = async (key: string) => {
    presses++;
    await page.keyboard.press(key);
  };
  await page.locator('body').press('ControlOrMeta+k');
  presses++;
  for (const letter of 'add a box') await press(letter === ' ' ? 'Space' : letter);
  await press('Enter');
  await expect(item(page, 'Box')).toHaveAttribute('aria-selected', 'true');
  await press('a');
  await expect(page.getByText('Moves are keyed into')).toBeVisible();
  await press('e');
  for (let n = 0; n < 5; n++) await press('Tab');
  await expect(page.getByRole('textbox', { name: 'Turn ° z', exact: true })).toBeFocused();
  for (const key of ['4', '5', 'Enter']) await press(key);
  await expect(pips(page)).toHaveCount(2);
  expect(presses).toBeLessThanOrEqual(25);
});

test('the press stroke is built by keyboard alone: screw, head and cider as one rig, on a signal that leads back', async ({
  page,
}) => {
  await newPiece(page);
  const press = (key: string) => page.keyboard.press(key);
  const command = async (words: string) => {
    await press('ControlOrMeta+k');
    await page.keyboard.type(words);
    await press('Enter');
  };
  /** Goes from the properties' first field to this one by Tab, and types. */
  const field = async (name: string, value: string) => {
    await press('e');
    const at = page.getByLabel(name, { exact: true });
    for (let n = 0; n < 60 && !(await at.evaluate((x) => x === document.activeElement)); n++)
      await press('Tab');
    await expect(at).toBeFocused();
    await press('ControlOrMeta+a');
    await page.keyboard.type(value);
    await press('Enter');
  };
  const named = async (kind: string, name: string, size: [string, string], y: string) => {
    await command(`add a ${kind}`);
    await press('F2');
    await page.keyboard.type(name);
    await press('Enter');
    await expect(item(page, name)).toHaveAttribute('aria-selected', 'true');
    await field('Size w', size[0]);
    await field('Size h', size[1]);
    await field('Place y', y);
  };
  await named('box', 'Screw', ['16', '90'], '120');
  await named('box', 'Head', ['90', '24'], '60');
  await named('rectangle', 'Cider', ['80', '20'], '-60');
  // All three under one root, and a motion of it.
  await press('ControlOrMeta+a');
  await press('ControlOrMeta+g');
  await press('a');
  await expect(page.getByText('Moves are keyed into')).toBeVisible();
  for (const [name, y] of [
    ['Screw', '96'],
    ['Head', '36'],
    ['Cider', '-36'],
  ] as const) {
    await press('w');
    for (let n = 0; n < 8 && (await item(page, name).getAttribute('aria-selected')) !== 'true'; n++)
      await press('ArrowDown');
    await field('Place y', y);
  }
  await expect(pips(page)).toHaveCount(6);
  // The bed of the stroke: halfway, the cider waits.
  await press('t');
  await expect(page.getByRole('group', { name: 'Timeline' })).toBeFocused();
  await press('Space');
  await press('Space');
  await command('fold');
  // It goes when the signal is on: the new transition gets its condition.
  await press('t');
  for (let n = 0; n < 12; n++) {
    if (await page.evaluate(() => document.activeElement?.ariaLabel?.startsWith('Transition') ?? false))
      break;
    await press('Shift+Tab');
  }
  await press('Enter');
  const more = page.getByRole('button', { name: 'condition', exact: true });
  await press('e');
  for (let n = 0; n < 40 && !(await more.evaluate((x) => x === document.activeElement)); n++)
    await press('Tab');
  await press('Enter');
  await expect(page.getByRole('button', { name: /Transition: on is on/ })).toBeVisible();
  await press('Escape');
  await command('run');
  await expect(page.getByRole('switch').first()).toBeVisible();
  for (
    let n = 0;
    n < 60 &&
    !(await page
      .getByRole('switch')
      .first()
      .evaluate((x) => x === document.activeElement));
    n++
  )
    await press('Tab');
  await press('Enter');
  await expect(page.locator('span[title$="was done"]').first()).toBeVisible();
});

test('Animate asks which clip when there are some; Escape and the lit button tell the drawing mode', async ({
  page,
}) => {
  await openChute(page);
  await item(page, 'Flap, 1 reaction')
    .or(page.getByRole('treeitem', { name: /^Flap/ }))
    .first()
    .click();
  await page.getByRole('button', { name: 'Animate', exact: true }).click();
  await page.getByRole('menuitem', { name: /^tipping/ }).click();
  await expect(page.getByText('Moves are keyed into tipping')).toBeVisible();
  await page.locator('body').press('Escape');
  await page.locator('body').press('a');
  await page.getByRole('menuitem', { name: 'A new motion' }).click();
  await expect(page.getByText('Moves are keyed into flap moves')).toBeVisible();
  await undo(page);
  await expect(page.getByText('Moves change the base')).toBeVisible();
  await page.getByRole('button', { name: 'Draw ▾' }).click();
  await page.getByRole('menuitem', { name: 'Ball', exact: true }).click();
  await expect(page.getByText('Drag to draw a ball, or click; Escape ends')).toBeVisible();
  await page.locator('body').press('Escape');
  await expect(page.getByText('Drag to draw a ball')).toBeHidden();
});

test('a click while drawing gives the usual size there; Shift keeps it as wide as high', async ({ page }) => {
  await newPiece(page);
  await page.getByRole('button', { name: 'Draw ▾' }).click();
  await page.getByRole('menuitem', { name: 'Rectangle', exact: true }).click();
  const spot = await at(page, 100, -50);
  await page.mouse.click(spot.x, spot.y);
  await expect(page.getByRole('textbox', { name: 'Size w', exact: true })).toHaveValue('120');
  await expect(page.getByRole('textbox', { name: 'Place x', exact: true })).toHaveValue('100');
  await expect(page.getByRole('textbox', { name: 'Place y', exact: true })).toHaveValue('-50');
  await page.getByRole('button', { name: 'Draw ▾' }).click();
  await page.getByRole('menuitem', { name: 'Ellipse', exact: true }).click();
  await page.keyboard.down('Shift');
  const from = await at(page, -200, 100);
  await drag(page, from, 80 * from.scale, 30 * from.scale);
  await page.mouse.up();
  await page.keyboard.up('Shift');
  await expect(page.getByRole('textbox', { name: 'Size w', exact: true })).toHaveValue('80');
  await expect(page.getByRole('textbox', { name: 'Size h', exact: true })).toHaveValue('80');
});

test('a path of motion has a point at each key, which is dragged; ghosts are seen and turned off', async ({
  page,
}) => {
  await newPiece(page);
  await addKind(page, 'Rectangle');
  await page.locator('body').press('a');
  await commit(page, 'Place x', '200');
  await expect(page.locator('[data-motion-path]')).toBeVisible();
  await expect(page.locator('[data-path-key]')).toHaveCount(2);
  await drag(page, await middle(page, '[data-path-key="0.00"]'), 0, -60);
  await page.mouse.up();
  await expect(page.getByRole('button', { name: /^Undo “Moved the way of Rectangle”/ })).toBeVisible();
  expect(
    Number(await page.getByRole('textbox', { name: 'Place y', exact: true }).inputValue()),
  ).toBeGreaterThan(40);
  await undo(page);
  // Near the end: one ghost's colour is mixed with the ground where it stood before.
  await commit(page, 'Playhead, seconds', '0.35');
  const ghosted = await colour(page, 20, 30);
  await page.getByRole('button', { name: 'Ghosts', exact: true }).click();
  await expect.poll(() => colour(page, 20, 30)).not.toBe(ghosted);
  await expect(page.locator('[data-motion-path]')).toBeHidden();
});

test('clips are listed with pictures, searched, named, duplicated, made into a state, dragged onto a lane', async ({
  page,
}) => {
  await openChute(page);
  await page.getByRole('tab', { name: 'Clips' }).click();
  const clips = page.getByRole('group', { name: 'Clips' });
  await expect(clips.locator('canvas').first()).toBeVisible();
  await page.getByRole('button', { name: 'What to do with tipping' }).click();
  await page.getByRole('menuitem', { name: 'Duplicate' }).click();
  await expect(clips.getByRole('button', { name: 'Open tipping 2' })).toBeVisible();
  await commit(page, 'Name of tipping 2', 'slow');
  await page.getByLabel('Search the clips').fill('slow');
  await expect(clips.getByRole('button', { name: /^Open/ })).toHaveCount(1);
  await clips.getByRole('button', { name: 'Open slow' }).press('Enter');
  await expect(page.getByLabel('Name of the clip')).toHaveValue('slow');
  await page.locator('body').press('Escape');
  await page.getByRole('button', { name: 'What to do with slow' }).click();
  await page
    .getByRole('menuitem', { name: /^Make it a state of/ })
    .first()
    .click();
  await expect(page.locator('[data-state="slow"]')).toBeVisible();
  await undo(page);
  await expect(page.locator('[data-state="slow"]')).toBeHidden();
  await page.getByRole('tab', { name: 'Clips' }).click();
  await page
    .getByRole('button', { name: 'Open tipping', exact: true })
    .dragTo(page.getByRole('tab', { name: 'Lanes' }));
  await expect(page.locator('[data-state="tipping"]').first()).toBeVisible();
});

test('the command search is gone through with arrows, says what it has not found, and why something cannot be done', async ({
  page,
}) => {
  await newPiece(page);
  const open = () => page.locator('body').press('ControlOrMeta+k');
  await open();
  const search = page.getByLabel('Search commands');
  await search.fill('no such thing');
  await expect(page.getByText('Nothing found for “no such thing”.')).toBeVisible();
  await search.fill('animate');
  await expect(page.getByRole('option', { name: /choose an object first/ }).first()).toBeVisible();
  await search.fill('view');
  await search.press('ArrowDown');
  await search.press('ArrowDown');
  await search.press('ArrowUp');
  await search.press('Enter');
  await expect(page.getByRole('button', { name: 'View angles' })).toContainText('35°/29°');
  await open();
  await search.fill('hand over');
  await search.press('Enter');
  await expect(page).toHaveURL(/hand-over$/);
});

test('an object is renamed where it stands, by F2 or a double click; Escape leaves its name', async ({
  page,
}) => {
  await newPiece(page);
  await addKind(page, 'Ball');
  await addKind(page, 'Ball');
  await page.locator('body').press('F2');
  const name = page.getByLabel('New name of Ball 2');
  await name.fill('Ball');
  await name.press('Enter');
  // A sibling has that name: it gets a number.
  await expect(item(page, 'Ball 2')).toBeVisible();
  await item(page, 'Ball').dblclick();
  await page.getByLabel('New name of Ball').fill('Russet');
  await page.keyboard.press('Escape');
  await expect(item(page, 'Ball')).toBeVisible();
  await item(page, 'Ball').dblclick();
  await page.getByLabel('New name of Ball').fill('Russet');
  await page.keyboard.press('Enter');
  await expect(item(page, 'Russet')).toBeVisible();
  await undo(page);
  await expect(item(page, 'Ball')).toBeVisible();
});
