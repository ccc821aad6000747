import { expect, type Page, test } from '@playwright/test';
import {
  addKind,
  boxWithOpenClip,
  changeReaction,
  commit,
  drag,
  Hands,
  log,
  newPiece,
  openChute,
  runPaused,
} from './helpers.ts';

/** The page's place of a point of the frame, px from its centre. */
const onFrame = async (page: Page, x: number, y: number) => {
  const box = await page.getByLabel('Live frame').boundingBox();
  if (!box) throw new Error('no frame');
  const scale = Math.min((box.width - 36) / 960, (box.height - 28) / 540);
  return { x: box.x + box.width / 2 + x * scale, y: box.y + box.height / 2 + y * scale };
};
const ticks = async (page: Page, n: number) => {
  for (let i = 0; i < n; i++) await page.getByRole('button', { name: 'One tick' }).press('Enter');
};
const clickFrame = async (page: Page, x: number, y: number) => {
  const p = await onFrame(page, x, y);
  await page.mouse.click(p.x, p.y);
  await ticks(page, 1);
};

/** A box with a machine: "at rest", and "moving", a clip that puts it at x = 200 at once and stays. */
async function boxWithTwoStates(page: Page): Promise<void> {
  await boxWithOpenClip(page);
  await commit(page, 'Playhead, seconds', '0');
  await page.getByRole('treeitem', { name: /Box/ }).click();
  await commit(page, 'Place x', '200');
  await page.getByRole('button', { name: 'Fold' }).click();
  await expect(page.getByLabel('Place x')).toHaveValue('0');
}

test('the four states of a flap, made by dragging between panels, work on clicks and on done', async ({
  page,
}) => {
  await boxWithTwoStates(page);
  for (const name of ['A state that holds', 'A state that plays the clip backwards']) {
    await page.getByRole('button', { name: 'Add ▾' }).click();
    await page.getByRole('menuitem', { name }).click();
  }
  const join = async (from: string, to: string) => {
    const a = await page.locator(`[data-state="${from}"]`).boundingBox();
    const b = await page.locator(`[data-state="${to}"]`).boundingBox();
    if (!a || !b) throw new Error('no panels');
    await drag(
      page,
      { x: a.x + a.width / 2, y: a.y + a.height - 2 },
      b.x + b.width / 2 - a.x - a.width / 2,
      -30,
    );
    await page.mouse.up();
  };
  const say = (words: string) =>
    page.getByRole('dialog', { name: 'What sets it off' }).getByRole('button', { name: words }).click();
  // Escape makes none; whoever goes elsewhere sets it later.
  const tickets = page.getByRole('button', { name: /^Transition: / });
  const before = await tickets.count();
  await join('at rest', 'moving');
  await page.keyboard.press('Escape');
  await expect(tickets).toHaveCount(before);
  await join('at rest', 'moving');
  await say('Box is clicked');
  await expect(page.getByRole('button', { name: /^Undo “Wired at rest to moving”/ })).toBeVisible();
  await join('moving', 'holding');
  await say('done');
  // From a once-clip it goes when that is done, without asking.
  await expect(page.getByRole('button', { name: 'Transition: done' })).toBeVisible();
  await join('holding', 'back');
  await say('Box is clicked');
  await join('back', 'at rest');
  await say('done');
  await expect(page.getByRole('button', { name: 'Transition: Box clicked' })).toHaveCount(2);
  await runPaused(page);
  await clickFrame(page, 0, 0);
  await expect(log(page, 'Box at rest → moving').first()).toBeVisible();
  await ticks(page, 45);
  await expect(log(page, 'Box moving → holding').first()).toBeVisible();
  // It holds where the clip left it, and is clicked there.
  await clickFrame(page, 200, 0);
  await expect(log(page, 'Box holding → back').first()).toBeVisible();
});

test('wired with its way back in one act and one step; drawn and left, it is there to be set', async ({
  page,
}) => {
  await boxWithTwoStates(page);
  const ends = async (name: string) => {
    const b = await page.locator(`[data-state="${name}"]`).boundingBox();
    if (!b) throw new Error('no panel');
    return { x: b.x + b.width / 2, y: b.y + b.height - 2 };
  };
  const [a, b] = [await ends('at rest'), await ends('moving')];
  await drag(page, a, b.x - a.x, -30);
  await page.mouse.up();
  const menu = page.getByRole('dialog', { name: 'What sets it off' });
  await menu.getByRole('button', { name: 'and back again' }).click();
  await menu.getByRole('button', { name: 'Box on is on' }).click();
  // What it does is turned back, from half-way too, and it is at rest again when that is done.
  await expect(page.getByRole('button', { name: 'Transition: Box on is on' })).toHaveCount(2);
  await expect(page.getByRole('button', { name: 'Transition: Box on is off' })).toHaveCount(1);
  await expect(page.locator('[data-state="back"]')).toBeVisible();
  await page.getByRole('button', { name: 'Undo “Wired at rest to moving”' }).click();
  await expect(page.getByRole('button', { name: /^Transition: Box on/ })).toHaveCount(0);
  await drag(page, a, b.x - a.x, -30);
  await page.mouse.up();
  await expect(menu).toBeVisible();
  await page.mouse.click(700, 300);
  await expect(menu).toBeHidden();
  await expect(page.getByRole('button', { name: 'Transition: not yet set' }).first()).toBeVisible();
});

test('not before: a click that comes too early is lost; crossfade: half-way it is half-way', async ({
  page,
}) => {
  await boxWithTwoStates(page);
  await page.locator('[data-state="moving"]').press('t');
  await page.getByRole('menuitem', { name: 'to at rest' }).press('Enter');
  await page.getByLabel('Event of the transition').selectOption('pointer.click');
  await commit(page, 'Not before, seconds', '0.2');
  await commit(page, 'Crossfade, seconds', '1');
  await expect(
    page.getByRole('button', { name: 'Transition: Box clicked · not before 0.2 s · fades 1 s' }),
  ).toBeVisible();
  await page.locator('[data-state="at rest"]').press('t');
  await page.getByRole('menuitem', { name: 'to moving' }).press('Enter');
  await page.getByLabel('Event of the transition').selectOption('pointer.click');
  await runPaused(page);
  await clickFrame(page, 0, 0);
  await expect(log(page, 'Box at rest → moving')).toHaveCount(1);
  await clickFrame(page, 200, 0);
  await expect(log(page, 'Box moving → at rest')).toHaveCount(0);
  await ticks(page, 15);
  await clickFrame(page, 200, 0);
  await expect(log(page, 'Box moving → at rest')).toHaveCount(1);
  await ticks(page, 30);
  const clicked = page.getByRole('listitem').filter({ hasText: /^[\d.]+Box was clicked/ });
  const clicks = await clicked.count();
  // Half a second into the fade it stands at 100: hit there, and no longer at 200.
  await clickFrame(page, 205, 0);
  await expect(clicked).toHaveCount(clicks);
  await clickFrame(page, 100, 0);
  await expect(clicked).toHaveCount(clicks + 1);
});

test('from anywhere on a keyboard key; the live frame hears it, Escape leaves it', async ({ page }) => {
  await boxWithTwoStates(page);
  await page.getByRole('button', { name: 'Add ▾' }).click();
  await page.getByRole('menuitem', { name: /from anywhere/ }).press('ArrowRight');
  await page.getByRole('menuitem', { name: 'moving', exact: true }).press('Enter');
  await page.getByLabel('Event of the transition').selectOption('key.down');
  await page.getByLabel('Keyboard key of the event').press('j');
  await expect(page.getByLabel('Keyboard key of the event')).toHaveValue('j');
  await expect(
    page.getByRole('button', { name: 'Transition from anywhere to moving: key j goes down' }),
  ).toBeVisible();
  await page.getByRole('button', { name: 'Run', exact: true }).click();
  await page.getByLabel('Live frame').focus();
  await page.keyboard.press('j');
  await expect(log(page, 'Box at rest → moving').first()).toBeVisible();
  await expect(page.getByText('key j was pressed', { exact: true })).toHaveCount(1);
  // What the piece does not hear is the desk's, also here.
  await page.keyboard.press('r');
  await expect(page.getByText('not running')).toBeVisible();
});

test('signals are made, named and set by hand; conditions on numbers and states; the ticket reads them', async ({
  page,
}) => {
  await boxWithTwoStates(page);
  await page.getByRole('button', { name: 'Add a signal' }).click();
  await page.getByRole('menuitem', { name: 'Number' }).click();
  await commit(page, 'Name of the signal', 'juice');
  await commit(page, 'Greatest', '40');
  await page.locator('[data-state="at rest"]').press('t');
  await page.getByRole('menuitem', { name: 'to moving' }).press('Enter');
  await page.getByRole('button', { name: 'condition', exact: true }).click();
  await page.getByLabel('Condition', { exact: true }).selectOption({ label: 'juice' });
  await page.getByLabel('Compared', { exact: true }).selectOption('above');
  await commit(page, 'Value', '25');
  await expect(page.getByRole('button', { name: 'Transition: juice > 25' })).toBeVisible();
  await runPaused(page);
  await commit(page, 'juice', '25');
  await ticks(page, 1);
  await expect(log(page, 'juice → 25').first()).toBeVisible();
  await expect(log(page, 'at rest → moving')).toHaveCount(0);
  // Beyond its range it is held at its greatest.
  await commit(page, 'juice', '90');
  await ticks(page, 1);
  await expect(log(page, 'Box at rest → moving').first()).toContainText('juice → 40');
  await page.getByRole('button', { name: 'Stop' }).click();
  // Deleting the signal leaves a transition that is not yet set; undo brings both back.
  await page.getByRole('button', { name: 'juice number' }).click();
  await page.getByRole('button', { name: 'Delete the signal' }).click();
  await expect(page.getByRole('button', { name: 'Transition: not yet set' })).toBeVisible();
  await page.locator('body').press('ControlOrMeta+z');
  await expect(page.getByRole('button', { name: 'Transition: juice > 25' })).toBeVisible();
});

test('a reaction is read and changed as a sentence; its hint is shown to who points at the object', async ({
  page,
}) => {
  await openChute(page);
  await page.getByRole('treeitem', { name: /^Flap/ }).click();
  const reactions = page.getByRole('region', { name: 'Reactions' });
  await changeReaction(page, 'Change: when Flap clicked: toggle flap open');
  await reactions.getByLabel('Event', { exact: true }).selectOption('pointer.press');
  await reactions.getByLabel('Action', { exact: true }).selectOption('hide');
  await reactions.getByLabel('Object', { exact: true }).selectOption({ label: 'Lid' });
  await commit(page, 'Hint', 'Lift the lid');
  await runPaused(page);
  const at = await onFrame(page, 55, 50);
  await page.mouse.move(at.x, at.y);
  await ticks(page, 1);
  await page.mouse.move(at.x + 1, at.y);
  await expect(page.getByRole('status')).toHaveText('Lift the lid');
  await page.mouse.down();
  await ticks(page, 1);
  await expect(log(page, 'Lid shown put').first()).toContainText('Flap reacted');
  await page.mouse.up();
  await page.getByRole('button', { name: 'Stop' }).click();
  for (let i = 0; i < 4; i++) await page.locator('body').press('ControlOrMeta+z');
  await expect(reactions.getByLabel('Action', { exact: true })).toHaveValue('toggle');
  await expect(page.getByLabel('Hint')).toHaveValue('Open the chute');
});

test('panels are dragged to another place in the row, and moved by keyboard', async ({ page }) => {
  await openChute(page);
  const order = async () =>
    page.locator('[data-state][aria-label^="State "]').evaluateAll((all) =>
      all
        .map((e) => ({ x: e.getBoundingClientRect().x, name: (e as HTMLElement).dataset['state'] }))
        .sort((a, b) => a.x - b.x)
        .map((e) => e.name),
    );
  expect(await order()).toEqual(['shut', 'tipping', 'open', 'back']);
  const open = await page.locator('[data-state="open"]').boundingBox();
  if (!open) throw new Error('no panel');
  await drag(page, { x: open.x + 70, y: open.y + 40 }, -430, 0);
  await page.mouse.up();
  expect(await order()).toEqual(['shut', 'open', 'tipping', 'back']);
  await page.locator('[data-state="open"]').press('ControlOrMeta+ArrowRight');
  expect(await order()).toEqual(['shut', 'tipping', 'open', 'back']);
});

test('a second lane runs beside the first; the one not worked on is a line of chips', async ({ page }) => {
  await openChute(page);
  await page.getByRole('button', { name: 'Add ▾' }).click();
  await page.getByRole('menuitem', { name: 'Another lane' }).click();
  await commit(page, 'Name of the lane', 'Lid');
  await expect(page.getByRole('button', { name: 'tipping', exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Flap', exact: true }).click();
  await expect(page.locator('[data-state="tipping"]')).toBeVisible();
  await runPaused(page);
  await ticks(page, 1);
  await page.getByText('· 2 lanes').click();
  await expect(log(page, 'Lid starts in at rest').first()).toBeVisible();
  await expect(log(page, 'Flap starts in shut').first()).toBeVisible();
});

test('a click that nothing hears says so in the log, and is made to do something at once', async ({
  page,
}) => {
  await newPiece(page);
  await addKind(page, 'Rectangle');
  await runPaused(page);
  await clickFrame(page, 0, 0);
  const line = log(page, 'Rectangle was clicked').first();
  await line.getByRole('button', { name: /make it do something/ }).click();
  await expect(page.getByRole('button', { name: 'Undo “Added a reaction to Rectangle”' })).toBeVisible();
  await clickFrame(page, 0, 0);
  await expect(log(page, 'Rectangle reacted').first()).toBeVisible();
  await expect(page.getByRole('button', { name: /make it do something/ })).toHaveCount(1);
});

test('while it runs a transition says why it does not go', async ({ page }) => {
  await openChute(page);
  await runPaused(page);
  await ticks(page, 2);
  await page
    .getByRole('button', { name: /^Transition: flap open is on/ })
    .first()
    .click();
  const why = page.getByRole('region', { name: 'Why not now' });
  await expect(why.getByRole('listitem')).toHaveText(['set and switched on', 'in shut', 'flap open is on']);
  await expect(why.getByLabel('does not hold')).toHaveCount(1);
  await page.getByRole('switch', { name: 'flap open' }).click();
  await ticks(page, 1);
  // It has gone: now the lane is in another state.
  await expect(why.getByRole('listitem').filter({ has: page.getByLabel('does not hold') })).toHaveText(
    'in shut',
  );
});

test('while it runs an object says who writes it: the state of a lane, and what lies over it', async ({
  page,
}) => {
  await openChute(page);
  await runPaused(page);
  await ticks(page, 2);
  await page.getByRole('treeitem', { name: /^Flap/ }).click();
  const who = page.getByRole('region', { name: 'Who writes this' });
  await expect(who).toHaveCount(0);
  await page.getByRole('switch', { name: 'flap open' }).click();
  await ticks(page, 20);
  await expect(who.getByRole('listitem')).toHaveText(/^turn x−?-?[\d.]+°Flap: tipping$/);
});

test('a number with a range is a slider while it runs, by pointer and by keyboard', async ({ page }) => {
  await newPiece(page);
  await addKind(page, 'Rectangle');
  await page.getByRole('button', { name: 'Add a signal' }).click();
  await page.getByRole('menuitem', { name: 'Number' }).click();
  await commit(page, 'Least', '0');
  await commit(page, 'Greatest', '10');
  await runPaused(page);
  const slider = page.getByRole('slider', { name: /, slider$/ });
  await slider.focus();
  await page.keyboard.press('End');
  await ticks(page, 1);
  await expect(page.getByRole('textbox', { name: 'amount', exact: true })).toHaveValue('10');
  await page.keyboard.press('Tab');
  await slider.press('Home');
  await ticks(page, 1);
  await expect(page.getByRole('textbox', { name: 'amount', exact: true })).toHaveValue('0');
});

test('odds: what is drawn says how likely it is; from anywhere a state may be entered again', async ({
  page,
}) => {
  await newPiece(page);
  await addKind(page, 'Rectangle');
  await page.getByRole('button', { name: /^Draws by odds/ }).click();
  await page.getByRole('button', { name: /^Transition from anywhere to a third on/ }).click();
  const drawn = page.getByRole('list', { name: 'Drawn among' }).getByRole('listitem');
  await expect(drawn).toHaveCount(3);
  await expect(drawn.filter({ has: page.getByLabel('Odds', { exact: true }) })).toContainText('50 %');
  await commit(page, 'Odds', '6');
  await expect(drawn.filter({ has: page.getByLabel('Odds', { exact: true }) })).toContainText('75 %');
  await page.getByLabel('may come twice in a row').check();
  await page.getByLabel('Whether it is drawn').selectOption('no');
  await page.getByLabel('also from a third on itself').check();
  await expect(page.getByRole('button', { name: 'Undo “Changed a transition”' })).toBeVisible();
});

test('what is missing is made where it is picked: a number in a condition, a message, a sound; each one step', async ({
  page,
}) => {
  await newPiece(page);
  await addKind(page, 'Rectangle');
  await page.getByRole('button', { name: 'Add a reaction' }).click();
  await page.getByLabel('Action', { exact: true }).selectOption('send');
  await page.getByLabel('Message', { exact: true }).selectOption('a new message');
  await expect(page.getByLabel('Message', { exact: true })).toContainText('ready 2');
  await page.getByLabel('Action', { exact: true }).selectOption('sound');
  await page.getByLabel('Sound', { exact: true }).selectOption('splash');
  await page.getByText('only if, how often').click();
  await page.getByRole('button', { name: 'condition', exact: true }).click();
  await page.getByLabel('Condition', { exact: true }).selectOption('a new number');
  const list = page.getByRole('region', { name: 'Signals, messages, sounds, effects and templates' });
  await expect(list.getByRole('button', { name: /^amount/ })).toBeVisible();
  await page.locator('body').press('ControlOrMeta+z');
  await expect(list.getByRole('button', { name: /^amount/ })).toHaveCount(0);
  // Who sets it and who goes by it lead there.
  await list.getByRole('button', { name: /^splash/ }).click();
  await page.getByRole('region', { name: 'Played by' }).getByRole('button').click();
  await expect(page.getByLabel('Sound', { exact: true })).toBeVisible();
});

test('a value is worked out in its sentence: mapped from a number, a sum, drawn by chance; undone word by word', async ({
  page,
}) => {
  await newPiece(page);
  await addKind(page, 'Rectangle');
  await page.getByRole('button', { name: 'Add a signal' }).click();
  await page.getByRole('menuitem', { name: 'Number' }).click();
  await page.getByRole('treeitem', { name: /^Rectangle/ }).click();
  await page.getByRole('button', { name: 'Add a reaction' }).click();
  await page.getByLabel('Action', { exact: true }).selectOption('put');
  await page.getByLabel('Property', { exact: true }).selectOption('rotation.z');
  const way = page.getByLabel('Way of working it out').first();
  await way.selectOption('a signal, mapped');
  await page.getByLabel('Mapped to last').fill('90');
  await page.keyboard.press('Enter');
  await way.selectOption('a sum');
  await page.getByLabel('Part 2', { exact: true }).fill('15');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Add a part' }).click();
  await expect(page.getByLabel('Part 3', { exact: true })).toHaveValue('0');
  await page.getByLabel('Way of working it out').nth(1).selectOption('a signal');
  await expect(page.getByLabel('Signal that gives it').locator('option:checked')).toHaveText('amount');
  await page.getByRole('button', { name: 'Run', exact: true }).click();
  await page.getByLabel('amount', { exact: true }).fill('30');
  await page.keyboard.press('Enter');
  await page.getByRole('treeitem', { name: /^Rectangle/ }).click();
  const p = await onFrame(page, 0, 0);
  await page.mouse.click(p.x, p.y);
  await expect(page.getByRole('region', { name: 'Who writes this' }).getByRole('listitem')).toContainText(
    'turn z45°',
  );
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  for (let i = 0; i < 3; i++) await page.locator('body').press('ControlOrMeta+z');
  await expect(page.getByLabel('Part 2', { exact: true })).toHaveValue('1');
  await page.locator('body').press('ControlOrMeta+z');
  await expect(page.getByLabel('Mapped to last')).toHaveValue('90');
});

test('several transitions are changed at once, as one step; where each leads stays its own', async ({
  page,
}) => {
  await openChute(page);
  await page.getByRole('treeitem', { name: /^Flap/ }).click();
  await page.getByRole('button', { name: 'Transition: done' }).first().click();
  const reach = page.getByLabel('Which transitions are changed');
  await reach.selectOption({ index: (await reach.getByRole('option').count()) - 1 });
  const all = Number(/\((\d+)\)/.exec((await reach.locator('option:checked').textContent()) ?? '')?.[1]);
  expect(all).toBeGreaterThan(3);
  await commit(page, 'Crossfade, seconds', '0.2');
  await expect(page.getByRole('button', { name: `Undo “Changed ${all} transitions”` })).toBeVisible();
  await page.getByRole('button', { name: 'Transition: flap open is off · fades 0.2 s' }).first().click();
  await expect(page.getByLabel('Crossfade, seconds')).toHaveValue('0.2');
  await expect(reach.locator('option:checked')).toHaveText('this one');
  await page.locator('body').press('ControlOrMeta+z');
  await expect(page.getByLabel('Crossfade, seconds')).toHaveValue('0');
});

test('a message goes to what has a tag alone', async ({ page }) => {
  await newPiece(page);
  await addKind(page, 'Rectangle');
  await page.getByRole('button', { name: 'Add a reaction' }).click();
  await page.getByLabel('Action', { exact: true }).selectOption('send');
  const to = page.getByRole('group', { name: /^send/ });
  await to.getByLabel('Add a tag').selectOption('a new tag…');
  await to.getByLabel('Name of the new tag').fill('lamp');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('group', { name: 'send ready to lamp', exact: true })).toBeVisible();
  await page.locator('body').press('ControlOrMeta+z');
  await expect(page.getByRole('group', { name: 'send ready', exact: true })).toBeVisible();
});

test('from an empty piece: a hinge that turns back takes at most 12 actions, a lift under the pointer at most 8', async ({
  page,
}) => {
  for (const [recipe, most, states] of [
    [/^Opens and closes/, 12, 4],
    [/^Lifts under the pointer/, 8, 3],
  ] as const) {
    await newPiece(page);
    const hands = new Hands(page);
    await hands.choose('Draw ▾', 'Box');
    await hands.drag([-50, 50], [50, -50]);
    await hands.click(recipe);
    expect(hands.actions).toBeLessThanOrEqual(most);
    await expect(page.getByRole('button', { name: /^State / })).toHaveCount(states);
  }
});

test('from an empty piece: what spins for ever and plays another clip when clicked, with a hint, takes at most 14 actions', async ({
  page,
}) => {
  await newPiece(page);
  const hands = new Hands(page);
  await hands.choose('Draw ▾', 'Rectangle');
  await hands.drag([-60, 60], [60, -60]);
  await hands.click('Animate');
  await hands.type('Scale x', '1.4');
  await hands.click('Fold');
  // The new state waits for something: a click. Besides, it spins.
  await hands.click(/^Transition: not yet set/);
  await hands.pick('Event of the transition', 'is clicked');
  await page.getByRole('treeitem', { name: /^Rectangle/ }).click();
  hands.actions++;
  await hands.click('recipes');
  await hands.click(/^Spins until clicked/);
  expect(hands.actions).toBeLessThanOrEqual(14);
  await expect(page.getByLabel('Hint', { exact: true })).not.toHaveValue('');
  await page.getByRole('button', { name: 'Run', exact: true }).click();
  const middle = await onFrame(page, 0, 0);
  await page.getByRole('treeitem', { name: /^Rectangle/ }).click();
  const who = page.getByRole('region', { name: 'Who writes this' });
  await expect(who).toContainText('a motor');
  await page.mouse.click(middle.x, middle.y);
  await expect(who).toContainText('scale x');
});
