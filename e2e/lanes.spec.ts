import { expect, type Page, test } from '@playwright/test';
import { addKind, newPiece } from './helpers.ts';

/** A piece of one box, whose lane has so many states, each leading to the next by a click. */
function laneOf(n: number): Buffer {
  const clip = (i: number) => ({
    id: `cl_a${i}`,
    name: `way ${i}`,
    root: 'ob_box',
    duration: 0.5,
    loop: 'once',
    tracks: [
      {
        object: 'ob_box',
        property: 'rotation.z',
        mode: 'absolute',
        keys: [
          { t: 0, value: 0, easing: 'linear' },
          { t: 0.5, value: 10 * i, easing: 'hold' },
        ],
      },
    ],
    cues: [],
  });
  const all = Array.from({ length: n }, (_, i) => i);
  const piece = {
    format: 'apple-tick',
    version: 1,
    id: 'pi_lane',
    name: `Lane of ${n}`,
    frame: { width: 960, height: 540, background: '#dce7e2', fit: 'contain' },
    view: { azimuth: 35, elevation: 29 },
    fps: 60,
    seed: 1,
    light: { azimuth: -40, elevation: 55 },
    visitor: null,
    objects: {
      ob_box: {
        id: 'ob_box',
        name: 'Box',
        parent: null,
        order: 'a0',
        kind: 'box',
        size: [100, 60, 40],
        base: {
          ...{ position: [0, 0, 0], rotation: [0, 0, 0], scale: [1, 1, 1], pivot: [0, 0, 0] },
          ...{ opacity: 1, shown: true, fill: '#7fa982' },
        },
        tags: [],
        hint: '',
      },
    },
    ...{ tags: {}, signals: {}, messages: {}, reactions: {}, follows: {}, cueSheets: {}, effects: {} },
    ...{ sounds: {}, colliders: {}, templates: {}, assets: {} },
    clips: Object.fromEntries(all.map((i) => [`cl_a${i}`, clip(i)])),
    machines: {
      ma_a: {
        id: 'ma_a',
        name: 'Box',
        object: 'ob_box',
        lanes: [
          {
            ...{ id: 'la_a', name: 'Box', initial: 'st_a0', unkeyed: 'base', amount: 1, blend: 'replace' },
            states: all.map((i) => ({
              id: `st_a${i}`,
              name: `step ${i}`,
              play: { clip: `cl_a${i}`, speed: 1, from: 'here' },
            })),
            transitions: all.map((i) => ({
              ...{ id: `tr_a${i}`, from: `st_a${i}`, to: `st_a${(i + 1) % n}`, when: [], notBefore: null },
              ...{ on: { event: 'pointer.click' }, crossfade: { seconds: 0 }, odds: null, enabled: true },
              ...{ set: true, reenter: false, mayRepeat: true },
            })),
          },
        ],
      },
    },
  };
  return Buffer.from(JSON.stringify(piece));
}

async function bring(page: Page, n: number): Promise<void> {
  await page.goto('/');
  await page.getByLabel('File to import').setInputFiles({
    name: 'lane.tick.json',
    mimeType: 'application/json',
    buffer: laneOf(n),
  });
  await expect(page.getByRole('button', { name: 'State step 0', exact: false }).first()).toBeVisible();
}
const state = (page: Page, name: string) => page.getByRole('button', { name: new RegExp(`^State ${name},`) });
const boxOf = async (page: Page, name: string) => {
  const box = await state(page, name).boundingBox();
  if (!box) throw new Error(`${name} is not there`);
  return box;
};

test('C15: a lane of 12 is seen whole; of 30 a line leads to the rest, wheel, keys and buttons zoom', async ({
  page,
}) => {
  await bring(page, 12);
  const deck = await page.getByLabel('Deck', { exact: true }).first().boundingBox();
  const last = await boxOf(page, 'step 11');
  expect(last.x + last.width).toBeLessThan((deck?.x ?? 0) + (deck?.width ?? 0));
  await expect(page.locator('[data-overview]')).toHaveCount(0);

  await bring(page, 30);
  await expect(state(page, 'step 29')).not.toBeInViewport();
  const line = await page.locator('[data-overview]').boundingBox();
  if (!line) throw new Error('no overview');
  await page.mouse.click(line.x + line.width - 4, line.y + line.height / 2);
  await expect(state(page, 'step 29')).toBeInViewport();
  await state(page, 'step 29').click();
  const before = await boxOf(page, 'step 29');
  await page.mouse.move(before.x + before.width / 2, before.y + before.height / 2);
  await page.keyboard.down('Control');
  await page.mouse.wheel(0, -120);
  await page.keyboard.up('Control');
  await expect.poll(async () => (await boxOf(page, 'step 29')).width).toBeGreaterThan(before.width * 1.2);
  await page.keyboard.press('0');
  await expect.poll(async () => (await boxOf(page, 'step 29')).width).toBeCloseTo(before.width, 0);
  await page.getByRole('button', { name: 'Larger panels' }).click();
  await expect.poll(async () => (await boxOf(page, 'step 29')).width).toBeGreaterThan(before.width);
});

test('C15: a state is duplicated with or without its transitions, renamed and deleted where it stands', async ({
  page,
}) => {
  await bring(page, 4);
  const tickets = page.getByRole('button', { name: /^Transition: / });
  await expect(tickets).toHaveCount(4);
  await state(page, 'step 1').click({ button: 'right' });
  await page.getByRole('menuitem', { name: 'Duplicate with its transitions' }).click();
  await expect(state(page, 'step 4')).toHaveAttribute('aria-pressed', 'true');
  await expect(tickets).toHaveCount(6);
  await page.keyboard.press('ControlOrMeta+z');
  await expect(tickets).toHaveCount(4);
  await state(page, 'step 1').click();
  await page.keyboard.press('ControlOrMeta+Shift+d');
  await expect(state(page, 'step 4')).toBeVisible();
  await expect(tickets).toHaveCount(4);
  await state(page, 'step 4').press('F2');
  await page.getByLabel('New name of step 4').fill('twin');
  await page.keyboard.press('Enter');
  await expect(state(page, 'twin')).toBeFocused();
  await state(page, 'twin').click({ button: 'right' });
  await page.getByRole('menuitem', { name: 'Delete' }).click();
  await expect(state(page, 'twin')).toHaveCount(0);
});

test('C15: an edge dropped on empty ground makes a state and asks what leads there', async ({ page }) => {
  await bring(page, 2);
  const from = await boxOf(page, 'step 1');
  await page.mouse.move(from.x + from.width - 3, from.y + from.height / 2);
  await page.mouse.down();
  await page.mouse.move(from.x + from.width + 120, from.y + 20, { steps: 5 });
  await page.mouse.up();
  await page.getByRole('button', { name: 'Box is clicked' }).click();
  await expect(state(page, 'moving')).toBeVisible();
  await expect(page.getByRole('button', { name: /^Transition: / })).toHaveCount(3);
});

test('C15: as a table, who leads where and who keys what; a gap is filled by one click', async ({ page }) => {
  await newPiece(page);
  await addKind(page, 'Rectangle');
  await page.getByRole('button', { name: 'Animate', exact: true }).click();
  await page.getByLabel('Place x', { exact: true }).fill('120');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Fold', exact: true }).click();
  await page.getByRole('button', { name: 'Add ▾' }).click();
  await page.getByRole('menuitem', { name: 'A state that plays a new clip' }).click();
  await page.getByRole('button', { name: 'as a table' }).click();
  const keys = page.getByRole('table', { name: 'Which state keys what' });
  await expect(keys).toContainText('0px → 120px');
  await keys.getByRole('button', { name: /^Key place x of Rectangle/ }).click();
  await expect(keys.getByRole('button')).toHaveCount(0);
  await expect(keys.getByRole('row').nth(-1)).toContainText('0px');
  await page.keyboard.press('ControlOrMeta+z');
  await expect(keys.getByRole('button', { name: /^Key place x/ })).toHaveCount(1);
  const ways = page.getByRole('table', { name: 'Who goes where' });
  const before = await ways.getByRole('button', { pressed: false }).count();
  await ways
    .getByRole('button', { name: /^Add a transition from anywhere to/ })
    .first()
    .click();
  await expect(ways.getByRole('button', { pressed: true })).toHaveCount(1);
  expect(await ways.getByRole('button', { pressed: false }).count()).toBe(before);
});

test('all machines are lines under the one that is worked on; a line brings its machine; renaming the thing renames it', async ({
  page,
}) => {
  await newPiece(page);
  for (const kind of ['Rectangle', 'Ellipse']) {
    await addKind(page, kind);
    await page.getByRole('button', { name: 'Animate', exact: true }).click();
    await page.getByRole('button', { name: 'Fold', exact: true }).click();
  }
  await expect(page.getByLabel('Machine', { exact: true })).toContainText('Ellipse');
  await page.getByRole('button', { name: 'Machine Rectangle' }).click();
  await expect(page.getByRole('button', { name: 'Machine Ellipse' })).toBeVisible();
  await page.getByRole('treeitem', { name: /^Rectangle/ }).press('F2');
  await page.getByLabel('New name of Rectangle').fill('Lid');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Machine', { exact: true })).toContainText('Lid');
  await expect(page.getByLabel('Name of the lane')).toHaveValue('Lid');
  await page.getByRole('button', { name: 'Add ▾' }).click();
  await page.getByRole('menuitem', { name: 'Delete the machine Lid' }).click();
  await expect(page.getByLabel('Machine', { exact: true })).toContainText('Ellipse');
});

test('a machine that is picked from the list brings its thing into sight, in the tree too', async ({
  page,
}) => {
  await page.goto('/');
  await page
    .getByRole('button', { name: /^Windfall Mill/ })
    .first()
    .click();
  const gauge = page.getByRole('treeitem', { name: /^Juice gauge/ });
  await expect(gauge).not.toBeInViewport();
  await page.getByLabel('Machine', { exact: true }).selectOption({ label: 'Juice gauge' });
  await expect(gauge).toBeInViewport();
  await page.getByLabel('Machine', { exact: true }).selectOption({ label: 'Weather vane' });
  await expect(page.getByRole('treeitem', { name: /^Weather vane/ })).toBeInViewport();
  await expect(gauge).not.toBeInViewport();
});
