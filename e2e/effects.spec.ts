import { expect, type Page, test } from '@playwright/test';
import { changeReaction, colour, commit, drag, item, middle, plainBase, undo } from './helpers.ts';

/** An apple in the middle, seen from the front. */
const apple = {
  ...{ format: 'apple-tick', version: 1, id: 'fx', name: 'Apple', view: { azimuth: 0, elevation: 0 } },
  frame: { width: 960, height: 540, background: '#dce7e2', fit: 'contain' },
  objects: {
    ob_a: {
      ...{ id: 'ob_a', name: 'Apple', parent: null, order: 'a1', kind: 'ellipse', size: [120, 120] },
      base: { ...plainBase, fill: '#b23529' },
    },
    ob_l: {
      ...{ id: 'ob_l', name: 'Leaf', parent: null, order: 'a2', kind: 'rect', size: [40, 20] },
      base: { ...plainBase, position: [-300, -150, 0], fill: '#2f6b2f' },
    },
  },
};
async function bring(page: Page, piece: object = apple): Promise<void> {
  await page.goto('/');
  await page.getByLabel('File to import').setInputFiles({
    name: 'apple.tick.json',
    mimeType: 'application/json',
    buffer: Buffer.from(JSON.stringify(piece)),
  });
  await expect(page.getByRole('heading', { name: 'Objects', exact: true })).toBeVisible();
}
const add = async (page: Page, kind: string) => {
  await page.getByRole('button', { name: 'Add a sound or effect' }).click();
  await page.getByRole('menuitem', { name: kind, exact: true }).click();
};
const run = (page: Page) => page.getByRole('button', { name: 'Run', exact: true }).click();
const stop = (page: Page) => page.getByRole('button', { name: 'Stop', exact: true }).click();
const happened = (page: Page, words: string) =>
  page.getByRole('list', { name: /^What happened/ }).getByText(words, { exact: true });
const clickApple = async (page: Page) => {
  const box = await page.getByLabel('Live frame').boundingBox();
  if (!box) throw new Error('no frame');
  await page.mouse.click(box.x + box.width / 2, box.y + box.height / 2);
};
const captions = (page: Page) => page.locator('.tick-caption');

test('D12: a burst is made, shown on the view, shaped there, set off by a click; undone step by step, there after a reload', async ({
  page,
}) => {
  await bring(page);
  await item(page, 'Apple').click();
  await add(page, 'Burst');
  await expect(
    page.getByRole('region', { name: /^Signals, messages/ }).getByRole('button', { name: /burst$/ }),
  ).toBeVisible();
  await expect(page.locator('[data-effect-preview]')).toBeVisible();
  await page.getByRole('button', { name: 'leaves', exact: true }).click();
  await expect(page.getByLabel('Direction, degrees')).toHaveValue('20');
  // The handle of reach goes from where it points, to the right and a little up, to straight up and farther.
  const reach = await middle(page, '[data-handle="burst-reach"]');
  const box = await page.getByLabel('Frame', { exact: true }).boundingBox();
  if (!box) throw new Error('no frame');
  const origin = { x: box.x + box.width / 2, y: box.y + box.height / 2 };
  await drag(page, reach, origin.x - reach.x, origin.y - 130 - reach.y);
  await page.mouse.up();
  await expect(page.getByLabel('Direction, degrees')).toHaveValue('90');
  await expect.poll(async () => Number(await page.getByLabel('Speed to').inputValue())).toBeGreaterThan(250);
  const side = await middle(page, '[data-handle="burst-spread+"]');
  await drag(page, side, origin.x - 100 - side.x, origin.y - side.y);
  await page.mouse.up();
  await expect(page.getByLabel('Spread, degrees')).toHaveValue('180');
  // By keyboard: a number typed.
  await commit(page, 'Particles', '200');
  await page.getByRole('button', { name: 'Set it off when Apple is clicked' }).click();
  await expect(page.getByRole('region', { name: 'Set off by' })).toContainText('Apple');
  await run(page);
  await clickApple(page);
  await expect(happened(page, 'sparks at Apple')).toBeVisible();
  await stop(page);
  await page.reload();
  await page.getByRole('button', { name: /^sparks/ }).click();
  await expect(page.getByLabel('Particles')).toHaveValue('200');
  // The reaction, the number, spread, reach, what it is like, and the effect.
  await undo(page);
  await expect(page.getByRole('button', { name: 'Set it off when Apple is clicked' })).toBeHidden();
  await expect(page.getByText('Nothing in the piece uses it yet.')).toBeVisible();
  await undo(page);
  await expect(page.getByLabel('Particles')).toHaveValue('16');
  for (let i = 0; i < 4; i++) await undo(page);
  await expect(
    page.getByRole('region', { name: /^Signals, messages/ }).getByRole('button', { name: /burst$/ }),
  ).toBeHidden();
});

test('D12: a caption asks, and each answer leads elsewhere; answered by mouse and by keyboard', async ({
  page,
}) => {
  await bring(page);
  await item(page, 'Apple').click();
  await page.getByRole('button', { name: 'Add a reaction' }).click();
  await page.getByLabel('Action', { exact: true }).selectOption('caption');
  await commit(page, 'Words of the caption', 'Am I <b>ripe</b>?');
  await page.getByRole('button', { name: '+ answers' }).click();
  await commit(page, 'Answer 2', 'Not yet');
  await page.getByRole('button', { name: 'Add a reaction' }).click();
  await page.getByLabel('Event', { exact: true }).selectOption('caption.answer');
  await page.getByLabel('Answer of the event').selectOption({ label: 'with “Not yet”' });
  await page.getByLabel('Action', { exact: true }).selectOption('caption');
  await commit(page, 'Words of the caption', 'I can wait.');
  await run(page);
  await clickApple(page);
  // Words are words, whatever is in them.
  await expect(captions(page)).toContainText('Am I <b>ripe</b>?');
  const [bubble, frame] = [
    await captions(page).boundingBox(),
    await page.getByLabel('Live frame').boundingBox(),
  ];
  if (!bubble || !frame) throw new Error('no caption');
  expect(bubble.y + bubble.height).toBeLessThan(frame.y + frame.height / 2);
  await page.getByRole('button', { name: 'Not yet', exact: true }).click();
  await expect(happened(page, 'Apple was answered “Not yet”')).toBeVisible();
  await expect(captions(page)).toHaveText('I can wait.');
  await expect(captions(page)).toHaveCount(0, { timeout: 10_000 });
  await clickApple(page);
  await expect(page.getByRole('button', { name: 'Yes', exact: true })).toBeVisible();
  await page.getByLabel('Live frame').press('Tab');
  await expect(page.getByRole('button', { name: 'Yes', exact: true })).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(happened(page, 'Apple was answered “Yes”')).toBeVisible();
  await expect(captions(page)).toHaveCount(0);
  await expect(page.getByLabel('Live frame')).toBeFocused();
  await stop(page);
  for (let i = 0; i < 5; i++) await undo(page);
  await expect(page.getByRole('group', { name: /^when / })).toHaveCount(1);
  await undo(page);
  await changeReaction(page);
  await expect(page.getByLabel('Answer 2')).toHaveValue('No');
  await undo(page);
  await expect(page.getByLabel('Answer 2')).toBeHidden();
});

test('D12: a flash lies over the frame or a thing and goes; a shake moves things and leaves them where they were', async ({
  page,
}) => {
  const react = (id: string, key: string, actions: object[]) => ({
    ...{ id, object: 'ob_a', on: { event: 'key.down', key }, when: [], after: 0, cooldown: 0 },
    ...{ limit: 'always', actions },
  });
  await bring(page, {
    ...apple,
    effects: {
      ef_f: { id: 'ef_f', name: 'blue', kind: 'flash', fill: '#0000ff', opacity: 1, seconds: 30 },
      ef_s: { id: 'ef_s', name: 'jolt', kind: 'shake', amount: [0, 0], turn: 0, seconds: 0.2 },
    },
    reactions: {
      re_a: react('re_a', 'a', [{ do: 'flash', effect: 'ef_f', object: 'ob_a' }]),
      re_b: react('re_b', 'b', [{ do: 'flash', effect: 'ef_f' }]),
      re_c: react('re_c', 'c', [{ do: 'shake', effect: 'ef_s', object: 'ob_l' }]),
    },
  });
  await page.getByRole('treeitem', { name: /^Apple/ }).click();
  await changeReaction(page);
  const where = page.getByLabel('What it goes over');
  await expect(where.first().locator('option:checked')).toHaveText('Apple');
  await run(page);
  expect(await colour(page, 0, 0)).toBe('#b23529');
  const blue = async (x: number, y: number, canvas = 'canvas') => {
    const [, r, , b] = /^#(..)(..)(..)$/.exec(await colour(page, x, y, 960, 540, canvas)) ?? [];
    return Number.parseInt(b ?? '', 16) > 200 && Number.parseInt(r ?? '', 16) < 100;
  };
  await page.keyboard.press('a');
  await expect.poll(() => blue(0, 0)).toBe(true);
  expect(await blue(-300, 150)).toBe(false);
  await page.keyboard.press('b');
  await expect.poll(() => blue(-300, 150)).toBe(true);
  await page.keyboard.press('c');
  await expect(happened(page, 'jolt over Leaf')).toBeVisible();
  await stop(page);
  await where.first().selectOption({ label: 'the whole frame' });
  await expect(page.getByRole('group', { name: 'flash blue', exact: true }).first()).toBeVisible();
  await undo(page);
  await expect(where.first().locator('option:checked')).toHaveText('Apple');
  // Chosen, it is shown over the thing that it is set off over, and over nothing else.
  await page.getByRole('button', { name: /^blue/ }).first().click();
  const preview = '[data-effect-preview]';
  await expect.poll(() => blue(0, 0, preview)).toBe(true);
  expect(await blue(-300, 150, preview)).toBe(false);
});

test('D12: what is drawn as a thing of the piece shows that thing; deleted, it is dots again', async ({
  page,
}) => {
  await bring(page);
  await item(page, 'Apple').click();
  await add(page, 'Burst');
  await page.getByLabel('What a particle is drawn as').selectOption({ label: 'Leaf' });
  await expect(page.getByRole('button', { name: 'Add a colour' })).toBeHidden();
  await item(page, 'Leaf').click();
  await page.locator('body').press('Delete');
  await page.getByRole('button', { name: /^sparks/ }).click();
  await expect(page.getByRole('button', { name: 'Add a colour' })).toBeVisible();
  await expect(page.getByLabel('What a particle is drawn as')).toHaveValue('dot');
  await page.locator('body').press('Delete');
  await expect(
    page.getByRole('region', { name: /^Signals, messages/ }).getByRole('button', { name: /burst$/ }),
  ).toBeHidden();
  await undo(page);
  await undo(page);
  await page.getByRole('button', { name: /^sparks/ }).click();
  await expect(page.getByLabel('What a particle is drawn as').locator('option:checked')).toHaveText('Leaf');
});
