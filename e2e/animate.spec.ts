import { expect, type Page, test } from '@playwright/test';
import {
  addKind,
  boxWithOpenClip,
  clickFrame,
  colour,
  commit,
  drag,
  item,
  middle,
  newPiece,
  openChute,
  pickColour,
  undo,
} from './helpers.ts';

/** A piece with a box whose turn is keyed at 0 and 0.7 s, its panel unfolded. */
async function keyedBox(page: Page): Promise<void> {
  await boxWithOpenClip(page);
  await page.getByLabel('Playhead, seconds').fill('0.7');
  await page.keyboard.press('Enter');
  await page.getByRole('treeitem', { name: /Box/ }).click();
  await page.getByLabel('Turn ° z').fill('90');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /^Key at/ })).toHaveCount(2);
}

test('new clips play once; the clip plays and its end stays on the view', async ({ page }) => {
  await keyedBox(page);
  await expect(page.getByLabel('Repeats')).toHaveValue('once');
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
  await expect(page.getByLabel('Playhead, seconds')).toHaveValue('0.7');
  await expect(page.getByLabel('Turn ° z')).toHaveValue('90');
  // Half-way it stands half-way: ease-in-out is symmetric.
  await page.getByLabel('Playhead, seconds').fill('0.35');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Turn ° z')).toHaveValue('45');
});

test('pips are dragged along time with snapping, and along their value; each is one undo step', async ({
  page,
}) => {
  await keyedBox(page);
  const pip = page.getByRole('button', { name: 'Key at 0.70 s' });
  const ruler = await page.locator('[data-ruler]').boundingBox();
  const at = await middle(page, '[aria-label="Key at 0.70 s"]');
  if (!ruler) throw new Error('no ruler');
  const perSecond = (ruler.width - 76) / Math.max(0.5, 0.7 * 1.15);
  await drag(page, at, -0.2 * perSecond + 1, 0);
  await page.mouse.up();
  await expect(page.getByRole('button', { name: 'Key at 0.50 s' })).toBeVisible();
  await expect(page.getByLabel('Time of the key')).toHaveValue('0.5');
  await undo(page);
  await expect(pip).toBeVisible();

  const again = await middle(page, '[aria-label="Key at 0.70 s"]');
  await drag(page, again, 0, 40);
  await page.mouse.up();
  await expect(page.getByLabel('Time of the key')).toHaveValue('0.7');
  expect(Number(await page.getByLabel('Value of the key').inputValue())).toBeLessThan(70);
  await undo(page);
  await expect(page.getByLabel('Value of the key')).toHaveValue('90');
});

test('easing: presets, hold, and the handles of a curve', async ({ page }) => {
  await keyedBox(page);
  await page.getByRole('button', { name: 'Key at 0.00 s' }).press('Enter');
  const turn = async () => {
    await page.getByLabel('Playhead, seconds').fill('0.35');
    await page.keyboard.press('Enter');
    await page.getByRole('treeitem', { name: /Box/ }).click();
    const value = Number(await page.getByLabel('Turn ° z').inputValue());
    await page.getByRole('button', { name: 'Key at 0.00 s' }).press('Enter');
    return value;
  };
  for (const name of ['ease', 'ease in', 'ease out', 'ease in out', 'swings past', 'draws back, swings past'])
    await expect(page.getByRole('button', { name, exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'hold', exact: true }).click();
  expect(await turn()).toBe(0);
  await page.getByRole('button', { name: 'linear', exact: true }).click();
  expect(await turn()).toBe(45);
  await page.getByRole('button', { name: 'ease in', exact: true }).click();
  expect(await turn()).toBeLessThan(35);
  await undo(page);
  expect(await turn()).toBe(45);
  await page.getByRole('button', { name: 'ease in out', exact: true }).click();
  // The first handle, dragged up, makes it start fast.
  await drag(page, await middle(page, '[data-handle="ease-0"]'), 0, -60);
  await page.mouse.up();
  expect(await turn()).toBeGreaterThan(50);
  await expect(page.getByRole('button', { name: 'Undo “Shaped the easing”' })).toBeEnabled();
  await undo(page);
  expect(await turn()).toBe(45);
});

test('a cue is added at the playhead, given an action, dragged and deleted', async ({ page }) => {
  await keyedBox(page);
  await page.getByLabel('Playhead, seconds').fill('0.3');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Add a cue' }).click();
  await expect(page.getByRole('button', { name: 'Cue at 0.30 s: does nothing yet' })).toBeVisible();
  await page.getByLabel('Action', { exact: true }).selectOption('hide');
  const cue = page.getByRole('button', { name: 'Cue at 0.30 s: hide Box' });
  await expect(cue).toBeVisible();
  const b = await cue.boundingBox();
  if (!b) throw new Error('no cue');
  await drag(page, { x: b.x + 3, y: b.y + 8 }, 120, 0);
  await page.mouse.up();
  await expect(cue).toBeHidden();
  await expect(page.getByRole('button', { name: /^Cue at 0\.[4-6]\d s: hide Box/ })).toBeVisible();
  await undo(page);
  await expect(cue).toBeVisible();
  await cue.press('Enter');
  await page.locator('body').press('Delete');
  await expect(cue).toBeHidden();
});

test('shown and colour are keyed as bars and bands', async ({ page }) => {
  await keyedBox(page);
  await page.getByLabel('shown').uncheck();
  await pickColour(page, 'Fill', '#b23529');
  await expect(page.getByRole('group', { name: 'Box shown' })).toBeVisible();
  await expect(page.getByRole('group', { name: 'Box fill' }).locator('rect')).toHaveCount(80);
  await expect(page.getByRole('group', { name: 'Box shown' }).locator('rect')).toHaveCount(1);
  // The object's base is what it was: only the clip hides it.
  await page.getByRole('button', { name: 'Fold' }).click();
  await expect(page.getByLabel('shown')).toBeChecked();
});

test('the dial is dragged and moved by keyboard; marks give front, three-quarter and top', async ({
  page,
}) => {
  await openChute(page);
  const angles = page.getByRole('button', { name: 'View angles' });
  await drag(page, await middle(page, '[aria-label="View angle"]'), 30, 0);
  await page.mouse.up();
  await expect(angles).toHaveText(/^6\d°\/26°/);
  await page.getByRole('slider', { name: 'View angle' }).press('ArrowUp');
  await expect(angles).toHaveText(/31°/);
  for (const [name, text] of [
    ['Front', '0°/0°'],
    ['Three-quarter', '35°/29°'],
    ['Top', '0°/90°'],
  ] as const) {
    await angles.click();
    await page.getByRole('menuitem', { name }).click();
    await expect(angles).toContainText(text);
  }
});

test('the parts of the screen are dragged to size, by keyboard too, and folded', async ({ page }) => {
  await openChute(page);
  const deck = page.getByRole('region', { name: 'Deck' });
  const height = async () => (await deck.boundingBox())?.height ?? 0;
  const before = await height();
  const bar = page.getByRole('separator', { name: 'Height of the deck' });
  const b = await bar.boundingBox();
  if (!b) throw new Error('no bar');
  await drag(page, { x: b.x + 500, y: b.y + 3 }, 0, -80);
  await page.mouse.up();
  expect(Math.abs((await height()) - before - 80)).toBeLessThan(6);
  await page.getByRole('treeitem', { name: /^Flap/ }).click();
  const place = page.getByLabel('Place y', { exact: true });
  const y = await place.inputValue();
  await bar.press('ArrowDown');
  // The keys of a line move nothing of the piece.
  await expect(place).toHaveValue(y);
  await expect.poll(height).toBeLessThan(before + 60);
  const lower = await height();
  expect(lower).toBeGreaterThan(before + 20);
  await page.reload();
  await expect(deck).toBeVisible();
  await expect.poll(async () => Math.abs((await height()) - lower)).toBeLessThan(2);
  // Each line folds what is at the edge, on whichever side of it that is, and unfolds it; also after a reload.
  const folded = { 'Width of the objects': 'Objects', 'Width of the properties': 'Properties' } as const;
  for (const [name, part] of Object.entries(folded)) {
    const line = page.getByRole('separator', { name });
    const inside = page.getByLabel(part, { exact: true }).first();
    await line.press('Enter');
    await expect(inside).toBeHidden();
    await page.reload();
    await expect(inside).toBeHidden();
    await line.dblclick();
    await expect(inside).toBeVisible();
  }
  await page.setViewportSize({ width: 700, height: 560 });
  for (const part of Object.values(folded))
    await expect(page.getByLabel(part, { exact: true }).first()).toBeInViewport();
  await expect(page.getByLabel('Frame', { exact: true })).toBeInViewport();
  await page.setViewportSize({ width: 1280, height: 800 });
  await bar.press('Enter');
  await expect.poll(height).toBe(38);
  await bar.press('Enter');
  await expect.poll(height).toBeGreaterThan(200);
});

test('A4: parts joined under one root in one command are keyed together in one clip, by mouse and by keyboard', async ({
  page,
}) => {
  await newPiece(page);
  for (const x of ['-150', '150']) {
    await addKind(page, 'Rectangle');
    await commit(page, 'Place x', x);
  }
  await item(page, 'Rectangle').click();
  await item(page, 'Rectangle 2').click({ modifiers: ['ControlOrMeta'] });
  await page.locator('body').press('ControlOrMeta+j');
  await expect(item(page, 'Group')).toHaveAttribute('aria-selected', 'true');
  await page.getByRole('button', { name: 'Add a machine to Group' }).first().click();
  await page.getByRole('button', { name: 'Add ▾' }).click();
  await page.getByRole('menuitem', { name: 'A state that plays a new clip' }).click();
  await page.getByRole('button', { name: 'Unfold its timeline' }).click();
  await commit(page, 'Playhead, seconds', '0.5');
  await item(page, 'Rectangle').click();
  await commit(page, 'Place y', '100');
  await item(page, 'Rectangle 2').click();
  await commit(page, 'Turn ° z', '90');
  // Two tracks of two parts, each with a key before and at the playhead, in the one clip of the root.
  await expect(page.getByRole('button', { name: 'Key at 0.50 s' })).toHaveCount(2);
  await expect(page.getByRole('button', { name: 'Key at 0.00 s' })).toHaveCount(2);
  await expect.poll(() => colour(page, -150, 100)).toBe('#7fa982');
  // Turned by a quarter, the second is higher than wide.
  await expect.poll(() => colour(page, 150, 50)).toBe('#7fa982');
  await commit(page, 'Playhead, seconds', '0');
  await expect.poll(() => colour(page, 150, 50)).toBe('#dce7e2');
  await undo(page);
  await expect(page.getByRole('button', { name: 'Key at 0.50 s' })).toHaveCount(1);
});

test('stops of a gradient are keyed where they are set, shown as they are there, and move in a run', async ({
  page,
}) => {
  await newPiece(page);
  await addKind(page, 'Rectangle');
  await page.getByLabel('Kind of fill').selectOption('linear');
  await page.getByRole('button', { name: 'Turn it 90°' }).click();
  await pickColour(page, 'Colour of stop 2', '#0000ff');
  await page.locator('body').press('a');
  await commit(page, 'Playhead, seconds', '0.5');
  await pickColour(page, 'Colour of stop 2', '#ff0000');
  await commit(page, 'Place of stop 2, per cent', '20');
  const keysOf = (what: string) =>
    page.getByRole('group', { name: `Rectangle stop 2 ${what}` }).getByRole('button', { name: /^Key at/ });
  await expect(keysOf('colour')).toHaveCount(2);
  await expect(keysOf('place')).toHaveCount(2);
  const right = () => colour(page, 40, 0);
  // Faint ghosts lie over it.
  await expect.poll(right).toMatch(/^#[ef]\w[0-2]\w[0-2]\w$/);
  // The fields say what is there.
  await commit(page, 'Playhead, seconds', '0');
  await expect(page.getByLabel('Place of stop 2, per cent')).toHaveValue('100');
  await expect.poll(right).toMatch(/^#[0-6]\w[0-6]\w[c-f]\w$/);
  await undo(page);
  await expect(keysOf('place')).toHaveCount(0);
  await page.locator('body').press('ControlOrMeta+Shift+z');
  await page.getByRole('button', { name: 'from at rest: when?' }).click();
  await page.getByRole('button', { name: 'Rectangle is clicked' }).click();
  await page.reload();
  await page.getByRole('treeitem', { name: /^Rectangle/ }).click();
  await expect(page.getByLabel('Place of stop 2, per cent')).toHaveValue('100');
  await page.locator('body').press('r');
  await expect.poll(right).toBe('#0000ff');
  await clickFrame(page, 0, 0);
  await expect.poll(right).toBe('#ff0000');
});
