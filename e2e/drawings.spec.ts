/** Drawings as they come in, against what the browser paints of them, and in the app. */
import { expect, test } from '@playwright/test';
import { drawingOf, FEATURES } from './drawings/features.ts';
import { type Comparer, openComparer } from './drawings/painted.ts';
import { randomDrawing } from './drawings/random.ts';
import { realDrawings } from './drawings/real.ts';
import { addKind, at, colour, commit, drag, dropFiles, item, middle, newPiece, undo } from './helpers.ts';

test.describe('against the browser', () => {
  test.describe.configure({ mode: 'serial' });
  let comparer: Comparer;
  test.beforeAll(async () => {
    comparer = await openComparer(4394);
  });
  test.afterAll(() => comparer.close());

  test('every feature comes in within 2 %, and what is taken otherwise is told', async () => {
    const off: string[] = [];
    for (const f of FEATURES) {
      const r = await comparer.compare(drawingOf(f));
      const told = r.notes.join('; ');
      if (r.refused !== null || r.difference > 2) off.push(`${f.name}: ${r.refused ?? r.difference}`);
      if (f.told === undefined ? told !== '' : !told.includes(f.told)) off.push(`${f.name} tells "${told}"`);
    }
    expect(off).toEqual([]);
  });

  test('real drawings come in within 2 %', async () => {
    const off: string[] = [];
    const list = realDrawings(6);
    for (const { name, text } of list) {
      const r = await comparer.compare(text);
      if (r.refused !== null || r.difference > 2) off.push(`${name}: ${r.refused ?? r.difference}`);
    }
    expect(list).toHaveLength(36);
    expect(off).toEqual([]);
  });

  test('drawings made at random come in within 2 %', async () => {
    for (let seed = 1001; seed <= 1015; seed++) {
      const r = await comparer.compare(randomDrawing(seed, 20));
      expect([seed, r.refused, r.notes]).toEqual([seed, null, []]);
      expect(r.difference, `seed ${seed}`).toBeLessThanOrEqual(2);
    }
  });

  test('the comparison sees what is wrong', async () => {
    const right = drawingOf({ name: '', inside: '<rect width="80" height="80" fill="#c44"/>' });
    // A way to write a colour that is not read here.
    const wrong = right.replace('fill="#c44"', 'style="fill:color(srgb 0 0 1)"');
    expect((await comparer.compare(right)).difference).toBeLessThan(0.5);
    expect((await comparer.compare(wrong)).difference).toBeGreaterThan(10);
  });
});

const LAMP = `<svg xmlns="http://www.w3.org/2000/svg" width="400" height="400" viewBox="0 0 400 400">
  <defs>
    <filter id="soft"><feGaussianBlur stdDeviation="12"/></filter>
    <linearGradient id="rim"><stop stop-color="#2f6785"/><stop offset="1" stop-color="#dfa83f"/></linearGradient>
  </defs>
  <rect id="shade" x="120" y="20" width="160" height="100" fill="#c14436" filter="url(#soft)"/>
  <g id="ring" transform="rotate(90 200 260)"><circle cx="200" cy="260" r="90" fill="none" stroke="url(#rim)" stroke-width="40"/></g>
</svg>`;

test('a drawing with a blur and a gradient along a stroke is brought in, undone, brought back and reloaded', async ({
  page,
}) => {
  await newPiece(page);
  await page
    .getByLabel('File to bring in')
    .setInputFiles({ name: 'lamp.svg', mimeType: '', buffer: Buffer.from(LAMP) });
  await expect(page.getByRole('status')).toContainText('a filter, painted as a picture');
  await expect(item(page, 'shade')).toBeVisible();
  const red = async () => Number.parseInt((await colour(page, 0, 130)).slice(1, 3), 16);
  const shown = async () => {
    await expect.poll(red).toBeGreaterThan(150);
    // A quarter turn has brought the left end of the gradient to the top.
    expect(await colour(page, 0, 30)).toMatch(/^#[2-4]/);
    expect(await colour(page, 0, -150)).toMatch(/^#[c-e]/);
  };
  await shown();
  await undo(page);
  await expect(item(page, 'shade')).toHaveCount(0);
  await page.locator('body').press('ControlOrMeta+Shift+z');
  await shown();
  await page.reload();
  await shown();
  await item(page, 'ring').click();
  await expect(page.getByLabel('Turn ° z')).toHaveValue('-90');
  // The group has the points of all that lies in it, and turns about the point that the file says.
  await expect(page.getByRole('button', { name: 'Pivot middle centre' })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
  await page.getByRole('button', { name: 'Pivot top left' }).click();
  await expect(page.getByLabel('Pivot x')).toHaveValue('-90');
  await expect(page.getByLabel('Pivot y')).toHaveValue('90');
  await shown();
  await undo(page);
  await expect(page.getByLabel('Pivot x')).toHaveValue('0');
});

test('a stroke is given a gradient, dashes, a place below the fill; a thing a blend; each is one undo', async ({
  page,
}) => {
  await newPiece(page);
  await addKind(page, 'Rectangle');
  await page.getByRole('button', { name: 'Add a stroke' }).click();
  await commit(page, 'Width of the stroke', '30');
  await page.getByLabel('Kind of stroke').selectOption('linear');
  await expect(page.getByLabel('Colour of stop 2')).toBeVisible();
  await page.getByRole('button', { name: 'Dash it' }).click();
  const lengths = page.getByLabel('Lengths of lines and gaps, px');
  await expect(lengths).toHaveValue('90 60');
  await commit(page, 'Lengths of lines and gaps, px', '10 4 2');
  // What is no list of lengths changes nothing.
  await lengths.fill('10 -4 x');
  await lengths.press('Enter');
  await expect(lengths).toHaveValue('10 4 2');
  await page.getByLabel('below the fill').check();
  await page.getByLabel('Blend', { exact: true }).selectOption('multiply');
  for (const gone of [
    () => expect(page.getByLabel('Blend', { exact: true })).toHaveValue(''),
    () => expect(page.getByLabel('below the fill')).not.toBeChecked(),
    () => expect(lengths).toHaveValue('90 60'),
    () => expect(page.getByRole('button', { name: 'Dash it' })).toBeVisible(),
    () => expect(page.getByLabel('Kind of stroke')).toHaveValue('color'),
  ]) {
    await undo(page);
    await gone();
  }
});

test('the lines of a drawing draw themselves; where their dashes begin is typed, keyed and undone', async ({
  page,
}) => {
  await newPiece(page);
  const sign = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 400 200"><path id="wave" d="M20 100 L380 100" stroke="#c14436" stroke-width="20" fill="none"/></svg>`;
  await dropFiles(page, { 'sign.svg': sign });
  await expect.poll(() => colour(page, 100, 0)).toBe('#c14436');
  await page.getByRole('button', { name: /^Draws itself/ }).click();
  await expect(page.getByRole('button', { name: 'Undo “Draws itself: sign”' })).toBeVisible();
  const seen = (x: number) => colour(page, x, 0);
  await page.getByRole('button', { name: 'Run', exact: true }).click();
  await expect.poll(() => seen(170)).toBe('#c14436');
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await item(page, 'wave').click();
  await commit(page, 'Dashes from', '180');
  await expect.poll(() => seen(100)).not.toBe('#c14436');
  expect(await seen(-100)).toBe('#c14436');
  await undo(page);
  await expect.poll(() => seen(100)).toBe('#c14436');
});

test('the pivot of a group is caught by the middle of a round thing below it', async ({ page }) => {
  await newPiece(page);
  // A wheel on a long arm: its hub is nowhere near the middle of the whole, nor at its edge.
  const crane = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 400 200"><g id="crane"><rect x="20" y="90" width="300" height="20"/><circle cx="90" cy="100" r="40"/></g></svg>`;
  await page
    .getByLabel('File to bring in')
    .setInputFiles({ name: 'crane.svg', mimeType: '', buffer: Buffer.from(crane) });
  await item(page, 'crane').last().click();
  await page.getByRole('button', { name: 'Pivot', exact: true }).click();
  const from = await middle(page, '[data-handle="pivot"]');
  const hub = await at(page, -110, 0);
  await drag(page, from, hub.x - from.x + 3, hub.y - from.y + 2);
  await page.mouse.up();
  // The whole reaches from 20 to 320: its middle is at 170, 80 px from the hub.
  await expect(page.getByLabel('Pivot x')).toHaveValue('-80');
  await expect(page.getByLabel('Pivot y')).toHaveValue('0');
  await undo(page);
  await expect(page.getByLabel('Pivot x')).toHaveValue('0');
});

test('letters of a text stand apart, slant, and have a line under them; each is one undo', async ({
  page,
}) => {
  await newPiece(page);
  await addKind(page, 'Text');
  const ground = await colour(page, 0, -22);
  await page.getByLabel('Line at the letters').selectOption('underline');
  // The letters stand at −15.6; the line lies from −20.4 to −23.3.
  await expect.poll(() => colour(page, 0, -22)).not.toBe(ground);
  await undo(page);
  await expect.poll(() => colour(page, 0, -22)).toBe(ground);
  await page.locator('body').press('ControlOrMeta+Shift+z');
  expect(await colour(page, 110, -22)).toBe(ground);
  await commit(page, 'Between letters', '30');
  // Five letters are 150 px wider.
  await expect.poll(() => colour(page, 110, -22)).not.toBe(ground);
  await page.getByLabel('slanted').check();
  await page.reload();
  await item(page, 'Text').first().click();
  await expect(page.getByLabel('Between letters')).toHaveValue('30');
  await expect(page.getByLabel('slanted')).toBeChecked();
});
