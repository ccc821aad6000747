/** Jobs from an empty piece, with the acts that they take counted: a click, a drag, a typed field or a chord is one. */
import { expect, test } from '@playwright/test';
import { clickFrame, colour, Hands, item, log, newPiece, runPaused, section, undo } from './helpers.ts';

test('a flap hung at its left edge opens by a click and turns back half-way: at most 8 acts', async ({
  page,
}) => {
  await newPiece(page);
  const hands = new Hands(page);
  await hands.key('s');
  await hands.drag([-60, 60], [60, -60]);
  await hands.click('Pivot middle left');
  await hands.click(/^Opens and closes/);
  await hands.click('Only this');
  expect(hands.actions).toBeLessThanOrEqual(8);
  await expect(page.locator('[data-state="opening"]')).toBeVisible();
  await page.getByRole('button', { name: 'Run', exact: true }).click();
  await clickFrame(page, 30, 0);
  await expect(log(page, 'Hinge shut → opening')).toHaveCount(1);
});

test('a flap that opens as the visitor comes near and closes as it goes: at most 11 acts', async ({
  page,
}) => {
  await newPiece(page);
  const hands = new Hands(page);
  await hands.key('d');
  await hands.drag([-360, -60], [-320, -100]);
  await hands.click('let the person walk Ellipse');
  await hands.click('Draw: rectangle');
  await hands.drag([-60, 60], [60, -60]);
  await hands.click('Pivot middle left');
  await hands.click('Animate');
  await hands.type('Turn ° z', '-70');
  await hands.click('from at rest: when?');
  await hands.click('and back again');
  await hands.click('Ellipse comes near');
  expect(hands.actions).toBeLessThanOrEqual(11);
  await expect(page.getByRole('button', { name: /Undo “Wired at rest/ })).toBeVisible();
  // It is one step, and says of itself what it does.
  await undo(page);
  await expect(page.getByRole('button', { name: 'from at rest: when?' })).toBeVisible();
  await page.locator('body').press('ControlOrMeta+Shift+z');
  await page.reload();
  await page.getByRole('treeitem', { name: /^Rectangle/ }).click();
  await expect(page.locator('[data-state="back"]')).toBeVisible();
  await page.getByRole('button', { name: 'Run', exact: true }).click();
  // In the frame, not on a thing that hears.
  await clickFrame(page, 0, 200);
  await page.keyboard.down('ArrowRight');
  await expect(log(page, 'Rectangle at rest → rectangle moves')).toHaveCount(1);
  await page.keyboard.up('ArrowRight');
  await page.keyboard.down('ArrowLeft');
  await expect(log(page, /Rectangle rectangle moves → back/)).toHaveCount(1);
  await page.keyboard.up('ArrowLeft');
});

test('a rig of four parts with one clip, started with the piece: at most 14 acts', async ({ page }) => {
  await newPiece(page);
  const hands = new Hands(page);
  for (const [kind, from, to] of [
    ['rectangle', [-60, 0], [60, -120]],
    ['ellipse', [-40, 80], [40, 0]],
    ['rectangle', [-20, 120], [20, 80]],
    ['rectangle', [-90, -20], [-60, -90]],
  ] as const) {
    await hands.click(`Draw: ${kind}`);
    await hands.drag(from, to);
  }
  await hands.key('ControlOrMeta+a');
  await hands.key('ControlOrMeta+j');
  await hands.key('a');
  await hands.type('Turn ° z', '20');
  await hands.click('from at rest: when?');
  await hands.click('the piece starts');
  expect(hands.actions).toBeLessThanOrEqual(14);
  await runPaused(page);
  await expect(log(page, /at rest → .*moves/)).toHaveCount(1);
});

test('a key that one presses begins a motion, and it is asked for where it is used', async ({ page }) => {
  await newPiece(page);
  const hands = new Hands(page);
  await hands.key('b');
  await hands.drag([-60, 60], [60, -60]);
  await hands.click('Animate');
  await hands.type('Place y', '80');
  await hands.click('from at rest: when?');
  await hands.click('and softly back');
  await hands.click('a key is pressed…');
  await hands.key('k');
  await expect(page.getByRole('button', { name: 'Transition: from at rest: key k goes down' })).toBeVisible();
  await page.getByRole('button', { name: 'Run', exact: true }).click();
  await clickFrame(page, 300, 200);
  await page.keyboard.down('k');
  await expect(log(page, 'Box at rest → box moves')).toHaveCount(1);
  await page.keyboard.up('k');
  await expect(log(page, 'Box box moves → at rest')).toHaveCount(1);
});

test('by keyboard alone a motion is made, said when it comes, and folded', async ({ page }) => {
  await newPiece(page);
  const press = (key: string) => page.keyboard.press(key);
  await page.locator('body').press('ControlOrMeta+k');
  await page.keyboard.type('add a box');
  await press('Enter');
  await press('a');
  await expect(page.getByRole('button', { name: 'from at rest: when?' })).toBeVisible();
  await press('h');
  const list = page.getByRole('dialog', { name: 'What sets it off' });
  await expect(list).toBeVisible();
  // The three ways back stand first; then what sets it off.
  for (const key of ['ArrowDown', 'Enter', 'ArrowDown', 'ArrowDown', 'ArrowDown', 'Enter']) await press(key);
  await expect(list).toBeHidden();
  await expect(page.getByRole('button', { name: /Undo “Wired at rest/ })).toBeVisible();
  await press('Escape');
  await expect(page.locator('[data-state="back"]')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Transition: Box pointed at' }).first()).toBeVisible();
});

test('a scene of six lines and two moves, begun by coming near: at most 30 acts', async ({ page }) => {
  await newPiece(page);
  const hands = new Hands(page);
  await hands.click('Draw: rectangle');
  await hands.drag([-200, 60], [-100, -60]);
  await hands.click('Draw: ellipse');
  await hands.drag([100, 60], [200, -60]);
  await page.getByRole('tab', { name: 'Cue sheets' }).click();
  hands.actions++;
  await hands.click('Add a cue sheet');
  await hands.click('Write what is said');
  const line = async (words: string) => {
    await page.getByLabel('Line of the scene').fill(words);
    await page.getByLabel('Line of the scene').press('Enter');
    hands.actions += 2;
  };
  const move = async () => {
    await page.getByLabel('Line of the scene').press('Enter');
    hands.actions++;
    await hands.pick('Action', 'tween');
    await hands.click('write on');
  };
  await line('Rectangle: Good morning!');
  await line('Is the mill up?');
  await move();
  await line('Ellipse: It is.');
  await line('And so are the apples.');
  await move();
  await line('Rectangle: Come and look.');
  await line('Ellipse: Gladly.');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Menu of scene' }).click();
  await page.getByRole('menuitem', { name: /comes near/ }).click();
  hands.actions += 3;
  expect(hands.actions).toBeLessThanOrEqual(30);
  await expect(page.locator('[data-cue]')).toHaveCount(8);
  // Whoever is named speaks until another is.
  await expect(page.getByTitle('Ellipse says And so are the apples.')).toBeVisible();
  await undo(page);
  await page.reload();
  await page.getByRole('tab', { name: 'Cue sheets' }).click();
  await expect(page.locator('[data-cue]')).toHaveCount(8);
  await page.getByRole('button', { name: /^Try/ }).click();
  await expect(log(page, 'Rectangle says “Good morning!”')).toHaveCount(1);
  await expect(log(page, 'Rectangle says “Is the mill up?”')).toHaveCount(1);
});

test('at 1 s something begins to turn for good: at most 8 acts', async ({ page }) => {
  await newPiece(page);
  const hands = new Hands(page);
  await hands.key('s');
  await hands.drag([-60, 60], [60, -60]);
  await hands.click('Add a reaction');
  await hands.pick('Event', 'after a time');
  await hands.pick('Action', 'motor');
  expect(hands.actions).toBeLessThanOrEqual(8);
  await expect(page.getByLabel('After, seconds')).toHaveValue('1');
  await page.getByRole('button', { name: 'Run', exact: true }).click();
  await page.getByRole('button', { name: /^1 move/ }).click();
  await expect(log(page, 'Rectangle turn z driven by a motor')).toHaveCount(1);
});

test('a gate that turns by 120° at each touch, never drifts and rests between: at most 14 acts', async ({
  page,
}) => {
  await newPiece(page);
  const hands = new Hands(page);
  await hands.key('d');
  await hands.drag([-360, 20], [-320, -20]);
  await hands.click('let the person walk Ellipse');
  await hands.click('Draw: rectangle');
  await hands.drag([-60, 60], [60, -60]);
  await hands.click(/^Turns by steps/);
  await hands.type('How much', '120');
  await hands.pick('Event', 'something touches it');
  // What the event needs, something that blocks, came with it.
  expect(hands.actions).toBeLessThanOrEqual(14);
  await expect(page.getByLabel('Cooldown, seconds')).toHaveValue('0.3');
  await page.getByRole('button', { name: 'Run', exact: true }).click();
  await clickFrame(page, 0, 200);
  await page.keyboard.down('ArrowRight');
  await expect(log(page, 'Ellipse touches Rectangle blocker').first()).toBeVisible();
  await page
    .getByRole('button', { name: /^1 move/ })
    .first()
    .click();
  await expect(log(page, 'Rectangle turn z tweened').first()).toBeVisible();
  await page.keyboard.up('ArrowRight');
});

test('a masked press that strikes on a key, and nothing goes through it: at most 10 acts', async ({
  page,
}) => {
  await newPiece(page);
  const hands = new Hands(page);
  await hands.key('s');
  await hands.drag([-80, 60], [80, -160]);
  await hands.click('Draw: rectangle');
  await hands.drag([-50, 140], [50, 40]);
  await section(page, 'Mask');
  hands.actions++;
  await hands.pick('Mask', 'only inside Rectangle');
  await hands.click(/^Strikes on a key/);
  await hands.click('Transition: key k goes down');
  await page.getByLabel('Keyboard key of the event').press('j');
  hands.actions++;
  expect(hands.actions).toBeLessThanOrEqual(10);
  // What is outside the opening is not seen of it.
  await expect(page.getByLabel('Mask', { exact: true })).toHaveCount(0);
  await page.getByRole('button', { name: 'Run', exact: true }).click();
  const ground = await colour(page, 300, 0, 960, 540, 'canvas');
  await expect.poll(() => colour(page, 0, 120)).toBe(ground);
  await clickFrame(page, 300, 200);
  await page.keyboard.press('j');
  await expect(log(page, 'Strike up → striking')).toHaveCount(1);
  await expect(log(page, 'Strike lifting → up')).toHaveCount(1);
});

test('fades in, slides in from outside, swaps its look, and all again as a scene in order: at most 12 acts', async ({
  page,
}) => {
  await newPiece(page);
  const hands = new Hands(page);
  await hands.key('s');
  await hands.drag([-60, 60], [60, -60]);
  await hands.click(/^Appears/);
  await hands.click(/^recipes/);
  await hands.click(/^Slides in from outside/);
  await hands.click(/^recipes/);
  await hands.click(/^Shows its looks in turn/);
  await page.getByRole('tab', { name: 'Cue sheets' }).click();
  hands.actions++;
  await hands.click('A scene of what Rectangle does');
  expect(hands.actions).toBeLessThanOrEqual(12);
  await expect(page.locator('[data-cue]')).toHaveCount(3);
  await page.getByRole('button', { name: /^Try/ }).click();
  await expect(log(page, /Rectangle appears.*done/)).toHaveCount(1);
  await expect(log(page, /Rectangle slides in.*done/)).toHaveCount(1);
  await expect(log(page, 'Rectangle in order: other look').first()).toBeVisible();
});

test('a machine of five states with conditions, a crossfade, not before, and a blend: at most 24 acts', async ({
  page,
}) => {
  await newPiece(page);
  const hands = new Hands(page);
  await hands.key('s');
  await hands.drag([-60, 60], [60, -60]);
  await hands.click('Add a machine to Rectangle');
  await hands.choose('Add ▾', 'States, written in a line…');
  await hands.type('States in a line', 'at rest > opening > open > closing > at rest, jammed > at rest');
  await hands.click('Transition: not yet set');
  await hands.click('condition');
  await page.getByRole('button', { name: 'Transition: done' }).last().click();
  hands.actions++;
  await hands.click('condition');
  await page.getByRole('button', { name: 'Transition: done' }).nth(1).click();
  hands.actions++;
  await hands.type('Crossfade, seconds', '0.3');
  await hands.type('Not before, seconds', '1');
  await page.locator('[data-state="open"]').click();
  hands.actions++;
  await hands.pick('What the state does', 'blends by a number');
  expect(hands.actions).toBeLessThanOrEqual(24);
  await expect(page.getByRole('button', { name: /^State / })).toHaveCount(5);
  await expect(page.getByRole('button', { name: 'State open, by amount' })).toBeVisible();
  await expect(
    page.getByRole('button', { name: 'Transition: done · not before 1 s · fades 0.3 s' }),
  ).toBeVisible();
  await expect(page.getByRole('button', { name: 'Transition: done · on is on' })).toBeVisible();
  // What is written in a line is one step.
  for (let n = 0; n < 6; n++) await undo(page);
  await expect(page.getByRole('button', { name: /^State / })).toHaveCount(1);
});

test('a plate that fills, only for one tag, and opens a gate with a sound: at most 20 acts', async ({
  page,
}) => {
  await newPiece(page);
  const hands = new Hands(page);
  await hands.key('d');
  await hands.drag([-360, 20], [-320, -20]);
  await hands.click('let the person walk Ellipse');
  await hands.pick('Add a tag', 'a new tag…');
  await hands.type('Name of the new tag', 'heavy');
  await hands.click('Draw: rectangle');
  await hands.drag([-200, 40], [-80, -40]);
  await hands.click(/^Fills while something is on it/);
  await hands.click('Draw: rectangle');
  await hands.drag([100, 60], [160, -60]);
  await hands.click('Animate');
  await hands.type('Turn ° z', '-90');
  await hands.click('from at rest: when?');
  await hands.click('and back again');
  await hands.click('Rectangle full is on');
  await hands.click('Add a cue');
  await hands.pick('Action', 'play the sound');
  expect(hands.actions).toBeLessThanOrEqual(20);
  await page.getByRole('button', { name: 'Run', exact: true }).click();
  await clickFrame(page, 0, 200);
  await page.keyboard.down('ArrowRight');
  await expect(log(page, 'Plate empty → filling')).toHaveCount(1);
  await page.keyboard.up('ArrowRight');
  await expect(log(page, 'Plate filling → full').first()).toBeVisible();
  await expect(log(page, 'Rectangle 2 at rest → rectangle 2 moves').first()).toBeVisible();
  await expect(log(page, /bell/).first()).toBeVisible();
});

test('of four with a number each one is drawn by odds, none twice: at most 20 acts', async ({ page }) => {
  await newPiece(page);
  const hands = new Hands(page);
  await hands.key('s');
  await hands.drag([-330, 60], [-230, -60]);
  // Letters after drawing would be its name.
  await item(page, 'Rectangle').click();
  hands.actions++;
  await hands.key('m');
  await hands.click('Open in place');
  await hands.click(/^Fills by a number/);
  await hands.click('Out');
  await hands.type('Rectangle amount of Rectangle', '20');
  for (const [n, value] of ['40', '60', '80'].entries()) {
    await hands.click('Place another');
    await hands.type(`Rectangle amount of Rectangle ${n + 2}`, value);
  }
  await hands.key('ControlOrMeta+a');
  await hands.key('ControlOrMeta+j');
  await hands.click(/^Draws by odds/);
  expect(hands.actions).toBeLessThanOrEqual(20);
  await expect(page.getByRole('button', { name: /^State / })).toHaveCount(5);
  await page.getByRole('button', { name: 'Run', exact: true }).click();
  const drawn = () =>
    page
      .getByRole('list', { name: /^What happened/ })
      .getByTitle(/^Draw .* → Rectangle/)
      .allInnerTexts();
  for (let n = 1; n <= 3; n++) {
    await clickFrame(page, -280, -50);
    await expect.poll(async () => (await drawn()).length).toBe(n);
  }
  // The newest stands first; none goes from a part to the same.
  for (const line of await drawn()) {
    const [, from, to] = /^Draw (.*) → (.*)$/.exec(line) ?? [];
    expect(from).not.toBe(to);
  }
});

test('what slides in is sent outside the frame by one of nine places, as a key where moves are keyed', async ({
  page,
}) => {
  await newPiece(page);
  const hands = new Hands(page);
  await hands.key('s');
  await hands.drag([-60, 60], [60, -60]);
  const x = page.getByLabel('Place x', { exact: true });
  const drawn = await x.inputValue();
  await hands.click('Animate');
  await hands.type('Place x', '10');
  await page.getByLabel('Playhead, seconds').fill('0');
  await page.keyboard.press('Enter');
  await hands.click('wait outside the frame…');
  await hands.click('Waits on the left');
  await expect.poll(async () => Number(await x.inputValue())).toBeLessThan(-480 - 50);
  await undo(page);
  await expect(x).toHaveValue(drawn);
  await page.locator('body').press('ControlOrMeta+Shift+z');
  await hands.click('Fold');
  // In the base it stands where it was drawn.
  await expect(x).toHaveValue(drawn);
});

test('an empty piece begins with a shape at a press, or with a thing that already does something', async ({
  page,
}) => {
  await newPiece(page);
  const begin = page.getByRole('region', { name: 'Begin here' });
  await expect(begin).toBeVisible();
  await begin.getByRole('button', { name: /^Cylinder/ }).click();
  await expect(begin).toBeHidden();
  await page.keyboard.press('Escape');
  await expect(begin).toBeVisible();
  await page
    .getByRole('region', { name: 'Beginnings' })
    .getByRole('button', { name: /^Spins/ })
    .click();
  await expect(page.getByRole('treeitem', { name: /^Rectangle/ })).toBeVisible();
  await expect(page.locator('[data-state="spins"]')).toBeVisible();
  // One step takes it back, and the piece is empty as before.
  await undo(page);
  await expect(begin).toBeVisible();
  await expect(page.getByText('Nothing here yet.')).toBeVisible();
});

test('the bar of the view keeps one line, whatever is on, at 1024 px too', async ({ page }) => {
  await page.setViewportSize({ width: 1024, height: 700 });
  await page.goto('/');
  await page
    .getByRole('button', { name: /^Windfall Mill/ })
    .first()
    .click();
  await page.getByRole('treeitem', { name: /^Flap/ }).click();
  await page.getByRole('button', { name: 'Animate', exact: true }).click();
  await page.getByRole('menuitem', { name: /^tipping/ }).click();
  const tops = new Set<number>();
  for (const name of [
    'Animate',
    'Place',
    'Scale',
    'Draw ▾',
    'Only this',
    'Ghosts',
    'Masks',
    'Zones',
    'View angles',
  ]) {
    const b = await page.getByRole('button', { name, exact: true }).boundingBox();
    if (!b) throw new Error(`no ${name}`);
    expect(b.x + b.width, name).toBeLessThan(1024);
    tops.add(Math.round((b.y + b.height / 2) / 6));
  }
  expect(tops.size).toBe(1);
});

for (const [width, height, lines] of [
  [1280, 800, 8],
  [1024, 700, 5],
] as const)
  test(`in a run at ${width}×${height}, with a thing chosen, ${lines} lines of the log, its properties and all signals are whole`, async ({
    page,
  }) => {
    await page.setViewportSize({ width, height });
    await page.goto('/');
    await page
      .getByRole('button', { name: /^Windfall Mill/ })
      .first()
      .click();
    await page.getByRole('button', { name: 'Run', exact: true }).click();
    await page.getByRole('treeitem', { name: /^Flap/ }).click();
    await page.getByRole('tab', { name: 'What happened' }).click();
    const list = page.getByRole('list', { name: 'What happened, newest first' });
    await expect(page.getByLabel('Name', { exact: true })).toHaveValue('Flap');
    const whole = () =>
      list.evaluate((ul) => {
        const { bottom } = ul.getBoundingClientRect();
        return [...ul.querySelectorAll('[data-rec]')].filter(
          (li) => li.getBoundingClientRect().bottom <= bottom && li.scrollWidth <= li.clientWidth,
        ).length;
      });
    await expect.poll(whole).toBeGreaterThanOrEqual(lines);
    // With the run the tab goes; the lanes are there again.
    await page.getByRole('button', { name: 'Stop', exact: true }).click();
    await expect(page.getByRole('tab', { name: 'What happened' })).toHaveCount(0);
    await expect(page.getByRole('tab', { name: 'Lanes' })).toHaveAttribute('aria-selected', 'true');
  });
