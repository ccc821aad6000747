import { expect, type Page, test } from '@playwright/test';
import { addKind, commit, drag, item, middle, newPiece, plainBase, undo } from './helpers.ts';

/** A basket below an apple that a person can drag, which has the only tag. */
const basket = {
  ...{ format: 'apple-tick', version: 1, id: 'zones', name: 'Basket', view: { azimuth: 0, elevation: 0 } },
  frame: { width: 960, height: 540, background: '#dce7e2', fit: 'contain' },
  tags: { ta_f: { id: 'ta_f', name: 'fruit' } },
  objects: {
    ob_b: {
      ...{ id: 'ob_b', name: 'Basket', parent: null, order: 'a0', kind: 'box', size: [160, 100, 80] },
      base: { ...plainBase, position: [0, -100, 0], fill: '#b98a4e' },
    },
    ob_a: {
      ...{ id: 'ob_a', name: 'Apple', parent: null, order: 'a1', kind: 'ball', size: [44, 44, 44] },
      ...{ tags: ['ta_f'], drag: { along: 'xy' } },
      base: { ...plainBase, position: [0, 120, 0] },
    },
  },
};
async function bring(page: Page, piece: object): Promise<void> {
  await page.goto('/');
  await page.getByLabel('File to import').setInputFiles({
    name: 'basket.tick.json',
    mimeType: 'application/json',
    buffer: Buffer.from(JSON.stringify(piece)),
  });
  await expect(page.getByRole('heading', { name: 'Objects', exact: true })).toBeVisible();
}
const addZone = async (page: Page, words = 'Notice what is in it') => {
  await page.getByRole('button', { name: 'Add a zone' }).click();
  await page.getByRole('menuitem', { name: words }).click();
};
/** The page's place of a point of the live frame, px from its middle, as seen from the front. */
const live = async (page: Page, x: number, y: number) => {
  const box = await page.getByLabel('Live frame').boundingBox();
  if (!box) throw new Error('no frame');
  const scale = Math.min((box.width - 36) / 960, (box.height - 28) / 540);
  return { x: box.x + box.width / 2 + x * scale, y: box.y + box.height / 2 - y * scale, scale };
};
const run = (page: Page) => page.getByRole('button', { name: 'Run', exact: true }).click();
const stop = (page: Page) => page.getByRole('button', { name: 'Stop', exact: true }).click();
const happened = (page: Page, words: string) =>
  page.getByRole('list', { name: /^What happened/ }).getByText(words, { exact: true });

test('D3: a zone is made in one act, is drawn and named, notices what is dragged in, lights up and counts; undone step by step', async ({
  page,
}) => {
  await bring(page, basket);
  await item(page, 'Basket').click();
  await addZone(page);
  const card = page.getByRole('group', { name: 'Basket zone' });
  await expect(card.getByRole('button', { name: 'Take off the tag fruit' })).toBeVisible();
  await expect(card.getByLabel('Zone size w')).toHaveValue('160');
  await expect(page.locator('[data-zones]')).toContainText('Basket zone');
  await card.getByLabel('Name of the zone').fill('Mouth');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Add a reaction' }).click();
  await page.getByLabel('Event', { exact: true }).selectOption('zone.enter');
  await expect(page.getByLabel('Zone of the event').locator('option:checked')).toHaveText('Mouth');
  await page.getByLabel('What is noticed').selectOption({ label: 'Apple' });
  await page.getByLabel('Action', { exact: true }).selectOption('hide');
  await page.getByLabel('Object', { exact: true }).selectOption({ label: 'what came' });
  await run(page);
  const from = await live(page, 0, 120);
  await drag(page, from, 0, 220 * from.scale);
  await page.mouse.up();
  await expect(happened(page, 'Apple came into Mouth')).toBeVisible();
  await expect(happened(page, 'Apple left Mouth')).toBeVisible();
  await stop(page);
  // Its name, the event, the thing, the deed and its object: each a step of its own.
  for (let i = 0; i < 4; i++) await undo(page);
  await expect(page.getByLabel('Event', { exact: true }).locator('option:checked')).toHaveText('is clicked');
  for (let i = 0; i < 3; i++) await undo(page);
  await expect(page.locator('[data-zones]')).toHaveCount(0);
  await page.reload();
  await item(page, 'Basket').click();
  await expect(
    page.getByRole('region', { name: 'Zones', exact: true }).getByText('none', { exact: true }),
  ).toBeVisible();
});

for (const angle of ['Front', 'Three-quarter', 'Top'])
  test(`D3: a zone is taken hold of on the view, seen from ${angle}`, async ({ page }) => {
    await bring(page, basket);
    await page.getByRole('button', { name: 'View angles' }).click();
    await page.getByRole('menuitem', { name: angle, exact: true }).click();
    await item(page, 'Basket').click();
    await addZone(page);
    const size = (of: string) => page.getByLabel(`Zone size ${of}`).inputValue().then(Number);
    const at = (of: string) => page.getByLabel(`Zone at ${of}`).inputValue().then(Number);
    // The right side goes further right; the left one stays.
    await drag(page, await middle(page, '[data-handle="zone-x+"]'), 60, 0);
    await page.mouse.up();
    expect(await size('w')).toBeGreaterThan(200);
    expect(await at('x')).toBeCloseTo(((await size('w')) - 160) / 2, 0);
    await undo(page);
    expect(await size('w')).toBe(160);
    // Whole, in the plane that is seen best; Escape takes it back.
    const places = async () => [await at('x'), await at('y'), await at('z')];
    await drag(page, await middle(page, '[data-handle="zone-whole"]'), 30, 30);
    await expect.poll(async () => (await places()).filter((n) => n !== 0).length).toBeGreaterThan(1);
    await page.keyboard.press('Escape');
    await expect.poll(places).toEqual([0, 0, 0]);
    await page.mouse.up();
    // By keyboard its measures are fields.
    await commit(page, 'Zone size h', '300');
    expect(await size('h')).toBe(300);
    await page.getByLabel('endless in depth').check();
    await expect(page.locator('[data-handle="zone-z+"]')).toHaveCount(0);
    await page.getByLabel('Shape of the zone').selectOption('ball');
    const radius = () => page.getByLabel('Zone radius').inputValue().then(Number);
    const was = await radius();
    await drag(page, await middle(page, '[data-handle="zone-radius"]'), 40, 0);
    await page.mouse.up();
    expect(await radius()).toBeGreaterThan(was + 10);
  });

test('D15: what is in a zone, how many, and what is near is asked by transitions', async ({ page }) => {
  await bring(page, basket);
  await item(page, 'Basket').click();
  await addZone(page);
  await page.getByRole('button', { name: 'Add a reaction' }).click();
  await page.getByText('only if, how often').click();
  await page.getByRole('button', { name: 'condition' }).click();
  const condition = page.getByLabel('Condition', { exact: true });
  await condition.selectOption({ label: 'Basket zone' });
  await page.getByLabel('What is noticed').selectOption({ label: 'fruit' });
  await page.getByLabel('Is', { exact: true }).selectOption('not');
  const zone = await condition.inputValue();
  await condition.selectOption(zone.replace('inside', 'count'));
  await page.getByLabel('How many').fill('2');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Compared').locator('option:checked')).toHaveText('at least');
  // One act makes what an event needs.
  await page.getByLabel('Event', { exact: true }).selectOption('near.enter');
  await expect(page.getByRole('group', { name: 'Basket', exact: true })).toBeVisible();
  await expect(page.getByLabel('Near from')).toHaveValue('140');
  await drag(page, await middle(page, '[data-handle="zone-enter"]'), 30, 0);
  await page.mouse.up();
  expect(Number(await page.getByLabel('Near from').inputValue())).toBeGreaterThan(160);
  // Deleted, it takes along what goes by it.
  await page.getByRole('button', { name: 'Delete Basket zone' }).click();
  await expect(page.getByLabel('How many')).toHaveCount(0);
  await undo(page);
  await expect(page.getByLabel('How many')).toHaveValue('2');
});

test('D1: what is dropped outside springs back, in a zone it stays and is told', async ({ page }) => {
  await bring(page, basket);
  await item(page, 'Basket').click();
  await addZone(page);
  await page.getByRole('button', { name: 'Add a reaction' }).click();
  await page.getByLabel('Event', { exact: true }).selectOption('drag.drop');
  await page.getByLabel('Dropped into').selectOption({ label: 'Basket zone' });
  await expect(page.getByLabel('Object of the event').locator('option:checked')).toHaveText('something');
  await item(page, 'Apple').click();
  await page.getByLabel('goes back when it is let go').check();
  await page.getByLabel('Zone that it may be dropped into').selectOption({ label: 'Basket zone' });
  await expect(page.getByRole('button', { name: 'Not into Basket zone' })).toBeVisible();
  await run(page);
  const from = await live(page, 0, 120);
  await drag(page, from, 200 * from.scale, 0);
  await page.mouse.up();
  await expect(happened(page, 'Apple was dropped')).toBeVisible();
  await expect(happened(page, 'Basket reacted')).toHaveCount(0);
  // It has sprung back to where it can be taken hold of again.
  await expect(async () => {
    await page.mouse.up();
    await drag(page, from, 0, 220 * from.scale);
    await expect(page.locator('[data-zones]')).toContainText('Basket zone: Apple', { timeout: 1000 });
  }).toPass({ intervals: [1500] });
  await page.mouse.up();
  await expect(happened(page, 'Basket reacted')).toBeVisible();
  await expect(page.locator('[data-zones]')).toContainText('Basket zone: Apple');
});

/** From where, along what, and how far on the frame (px, up is positive) the apple comes into the basket. */
const WAYS = [
  ['Front', 'xy', [0, 120, 0], -220],
  ['Three-quarter', 'y', [0, 120, 0], -200],
  ['Top', 'xz', [0, -100, 170], 170],
] as const;
for (const [angle, along, position, way] of WAYS)
  test(`D3, D8: a thing is dragged into a zone and out again, seen from ${angle}`, async ({ page }) => {
    const apple = {
      ...{ ...basket.objects.ob_a, drag: { along } },
      base: { ...plainBase, position, fill: '#c01040' },
    };
    await bring(page, { ...basket, objects: { ...basket.objects, ob_a: apple } });
    await item(page, 'Basket').click();
    await addZone(page);
    await page.getByRole('button', { name: 'View angles' }).click();
    await page.getByRole('menuitem', { name: angle, exact: true }).click();
    await run(page);
    const { x, y, scale } = await live(page, 0, 0);
    const at = await page.getByLabel('Live frame').evaluate((c: HTMLCanvasElement) => {
      // The apple is the one thing of its colour.
      const { data } = (c.getContext('2d') as CanvasRenderingContext2D).getImageData(0, 0, c.width, c.height);
      let [x, y, n] = [0, 0, 0];
      for (let i = 0; i < data.length; i += 4) {
        const [r, g] = [data[i] as number, data[i + 1] as number];
        if (r < 90 || g > r / 3) continue;
        x += (i / 4) % c.width;
        y += Math.floor(i / 4 / c.width);
        n++;
      }
      const box = c.getBoundingClientRect();
      return { x: box.x + (x / n) * (box.width / c.width), y: box.y + (y / n) * (box.height / c.height), n };
    });
    expect(at.n).toBeGreaterThan(100);
    expect(Math.abs(at.x - x) + Math.abs(at.y - y)).toBeLessThan(250 * scale);
    await page.mouse.move(at.x, at.y);
    await page.mouse.down();
    await page.mouse.move(at.x, at.y - way * scale, { steps: 12 });
    await expect(happened(page, 'Apple came into Basket zone')).toBeVisible();
    await page.mouse.move(at.x, at.y, { steps: 12 });
    await expect(happened(page, 'Apple left Basket zone')).toBeVisible();
    await page.mouse.up();
    await stop(page);
  });

test('D3: a reaction switches a zone off; what was in it leaves it; on another object another property is meant', async ({
  page,
}) => {
  await bring(page, basket);
  await item(page, 'Apple').click();
  await commit(page, 'Place y', '-100');
  await item(page, 'Basket').click();
  await addZone(page);
  await page.getByRole('button', { name: 'Add a reaction' }).click();
  await page.getByLabel('Action', { exact: true }).selectOption('put');
  const property = page.getByLabel('Property', { exact: true });
  await property.selectOption({ label: 'Basket zone on' });
  await expect(page.getByLabel('Value', { exact: true })).toHaveValue('off');
  await page.getByLabel('Object', { exact: true }).selectOption({ label: 'Apple' });
  await expect(property.locator('option:checked')).toHaveText('place x');
  await undo(page);
  await expect(property.locator('option:checked')).toHaveText('Basket zone on');
  await run(page);
  await expect(happened(page, 'Apple came into Basket zone')).toBeVisible();
  const p = await live(page, -60, -100);
  await page.mouse.click(p.x, p.y);
  await expect(happened(page, 'Apple left Basket zone')).toBeVisible();
});

test('D16: gather and count is a recipe; its zone is complete and open to change', async ({ page }) => {
  await newPiece(page);
  await addKind(page, 'Rectangle');
  await page.getByRole('button', { name: /^Gathers and counts/ }).click();
  await expect(page.getByRole('group', { name: 'Rectangle zone', exact: true })).toBeVisible();
  await expect(page.getByLabel('endless in depth')).toBeChecked();
  await addKind(page, 'Ellipse');
  await page.getByLabel('Add a tag').selectOption({ label: 'noticed' });
  await run(page);
  await expect(happened(page, 'Ellipse came into Rectangle zone')).toBeVisible();
  await expect(page.getByRole('slider', { name: /in Rectangle/ })).toHaveAttribute('aria-valuenow', '1');
});

test('A1: zones of several objects are made and told what to notice at once, each one step', async ({
  page,
}) => {
  await bring(page, { ...basket, tags: { ...basket.tags, ta_n: { id: 'ta_n', name: 'nut' } } });
  await item(page, 'Basket').click();
  await item(page, 'Apple').click({ modifiers: ['Shift'] });
  await addZone(page);
  const zones = page.getByRole('region', { name: 'Zones' });
  await expect(zones).toContainText('2 zones notice');
  await zones.getByLabel('Add a tag').selectOption({ label: 'nut' });
  await expect(zones.getByRole('button', { name: 'Take off the tag nut' })).toBeVisible();
  await item(page, 'Apple').click();
  await expect(page.getByRole('group', { name: 'Apple zone', exact: true })).toContainText('nut');
  await undo(page);
  await undo(page);
  await expect(
    page.getByRole('region', { name: 'Zones', exact: true }).getByText('none', { exact: true }),
  ).toBeVisible();
});
