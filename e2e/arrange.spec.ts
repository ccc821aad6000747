/** Arranging in the tree and on the view: choosing, moving, joining, copying, finding. */
import { expect, type Page, test } from '@playwright/test';
import { addKind, at, commit, drag, item, newPiece, openChute, undo } from './helpers.ts';

const order = (page: Page) =>
  page
    .getByRole('treeitem')
    .evaluateAll((all) => all.map((e) => `${e.getAttribute('aria-level')} ${e.textContent}`));

test('A1: the tree is reordered and re-parented by dragging; the object keeps its place', async ({
  page,
}) => {
  await newPiece(page);
  await addKind(page, 'Group');
  await commit(page, 'Place x', '50');
  for (const kind of ['Box', 'Ellipse']) {
    // Let go of what is chosen, so that the new one does not go into the group.
    await page.locator('body').press('Escape');
    await page.getByRole('button', { name: 'Add an object' }).click();
    await page.getByRole('menuitem', { name: kind, exact: true }).click();
  }
  const rows = await order(page);
  expect(rows.length).toBe(3);
  const ellipse = await item(page, 'Ellipse').boundingBox();
  const group = await item(page, 'Group').boundingBox();
  if (!ellipse || !group) throw new Error('no rows');
  // The ellipse into the group, by its middle.
  await commit(page, 'Place x', '120');
  await drag(page, { x: ellipse.x + 60, y: ellipse.y + 12 }, 0, group.y - ellipse.y);
  await page.mouse.up();
  await expect.poll(() => order(page)).toContain('2 Ellipse');
  // 120 in the piece is 70 in the group, which stands at 50.
  await expect(page.getByLabel('Place x')).toHaveValue('70');
  await undo(page);
  // By the keyboard: up among the siblings.
  await item(page, 'Ellipse').click();
  const before = await order(page);
  await page.getByRole('tree').press('ControlOrMeta+ArrowUp');
  expect(await order(page)).not.toEqual(before);
  await undo(page);
  expect(await order(page)).toEqual(before);
});

test('A1: several are chosen by keyboard keys and by a box, changed at once, joined, duplicated, deleted', async ({
  page,
}) => {
  await newPiece(page);
  for (const [kind, x] of [
    ['Rectangle', '-200'],
    ['Ellipse', '0'],
    ['Polygon', '200'],
  ] as const) {
    await addKind(page, kind);
    await commit(page, 'Place x', x);
  }
  await item(page, 'Rectangle').click();
  await item(page, 'Polygon').click({ modifiers: ['Shift'] });
  await expect(page.getByRole('heading', { name: '3 objects' })).toBeVisible();
  await commit(page, 'Place y', '+25');
  await commit(page, 'Place x', '+10');
  await item(page, 'Ellipse').click();
  await expect(page.getByLabel('Place x')).toHaveValue('10');
  await expect(page.getByLabel('Place y')).toHaveValue('25');
  await undo(page);
  await undo(page);
  // A box drawn on the empty ground chooses what it touches.
  const from = await at(page, -300, 120);
  await drag(page, from, 400 * from.scale, 240 * from.scale);
  await page.mouse.up();
  await expect(page.getByRole('heading', { name: '2 objects' })).toBeVisible();
  await page.locator('body').press('ControlOrMeta+j');
  await expect(item(page, 'Group')).toHaveAttribute('aria-selected', 'true');
  expect(await order(page)).toContain('2 Ellipse');
  await page.locator('body').press('ControlOrMeta+d');
  await expect(item(page, 'Group 2')).toBeVisible();
  await page.locator('body').press('Delete');
  await expect(item(page, 'Group 2')).toBeHidden();
  for (let i = 0; i < 3; i++) await undo(page);
  await expect.poll(() => order(page)).toEqual(['1 Rectangle', '1 Ellipse', '1 Polygon']);
});

test('A1: the eye hides only while working, the lock keeps from being taken hold of, tags are picked', async ({
  page,
}) => {
  await newPiece(page);
  await addKind(page, 'Rectangle');
  await item(page, 'Rectangle').hover();
  await page.getByRole('button', { name: 'Hide while working Rectangle' }).click();
  const middle = await at(page, 40, 25);
  await page.mouse.click(middle.x, middle.y);
  await expect(page.getByRole('treeitem', { name: /^Rectangle/ })).toHaveAttribute('aria-selected', 'false');
  await page.getByRole('button', { name: 'Show while working Rectangle' }).click();
  await page.mouse.click(middle.x, middle.y);
  await expect(item(page, 'Rectangle')).toHaveAttribute('aria-selected', 'true');
  await expect(page.getByLabel('shown')).toBeChecked();
  await page.getByLabel('locked').check();
  await drag(page, middle, 60, 0);
  await page.mouse.up();
  await page.getByRole('treeitem', { name: 'Rectangle, locked' }).click();
  await expect(page.getByLabel('Place x')).toHaveValue('0');
  await page.getByLabel('Add a tag').selectOption('new');
  await page.getByLabel('Name of the new tag').fill('fruit');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'Take off the tag fruit' })).toBeVisible();
  await addKind(page, 'Ellipse');
  await page.getByLabel('Add a tag').selectOption({ label: 'fruit' });
  await page.getByRole('button', { name: 'Take off the tag fruit' }).click();
  await expect(page.getByRole('button', { name: 'Take off the tag fruit' })).toBeHidden();
});

test('A1: copies reach another piece with their behaviour', async ({ page, context }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await openChute(page);
  await page.getByRole('treeitem', { name: /^Chute/ }).click();
  await page.locator('body').press('ControlOrMeta+c');
  await newPiece(page);
  await page.locator('body').press('ControlOrMeta+v');
  await expect(page.getByRole('treeitem', { name: /^Chute/ })).toBeVisible();
  await expect(page.getByRole('button', { name: 'flap open switch' })).toBeVisible();
  await expect(page.getByRole('button', { name: /^Transition: flap open is on/ }).first()).toBeVisible();
  await undo(page);
  await expect(page.getByText('Nothing here yet')).toBeVisible();
});

test('A3: dragging snaps to other things with lines, lets go with Alt, nudges by arrows, several together', async ({
  page,
}) => {
  await newPiece(page);
  await addKind(page, 'Rectangle');
  await addKind(page, 'Ellipse');
  await commit(page, 'Place x', '200');
  await commit(page, 'Place y', '33');
  const p = await at(page, 200, 20);
  const line = page.locator('svg line[stroke="var(--sky)"]');
  // Nearly level with the rectangle: its middle snaps to the rectangle's.
  await drag(page, p, 30 * p.scale, 31 * p.scale);
  await expect(line).not.toHaveCount(0);
  await page.mouse.up();
  await expect(page.getByLabel('Place y')).toHaveValue('0');
  await expect(line).toHaveCount(0);
  await undo(page);
  await page.keyboard.down('Alt');
  await drag(page, p, 30 * p.scale, 31 * p.scale);
  await page.mouse.up();
  await page.keyboard.up('Alt');
  await expect(page.getByLabel('Place y')).not.toHaveValue('0');
  await page.locator('body').press('ControlOrMeta+a');
  await page.getByLabel('Frame', { exact: true }).focus();
  await page.keyboard.press('Shift+ArrowRight');
  await item(page, 'Rectangle').click();
  await expect(page.getByLabel('Place x')).toHaveValue('10');
});

test('A8: what lies under the pointer is listed, so that a cover is no obstacle', async ({ page }) => {
  await newPiece(page);
  await addKind(page, 'Box');
  await addKind(page, 'Rectangle');
  await commit(page, 'Place z', '200');
  const p = await at(page, 20, 20);
  await page.mouse.click(p.x, p.y, { button: 'right' });
  await page.getByRole('menuitem', { name: 'Box' }).click();
  await expect(item(page, 'Box')).toHaveAttribute('aria-selected', 'true');
});

test('A9: only this shows and runs one object alone', async ({ page }) => {
  await openChute(page);
  const ink = () =>
    page
      .locator('canvas')
      .first()
      .evaluate((c: HTMLCanvasElement) => {
        const d = c.getContext('2d')?.getImageData(0, 0, c.width, c.height).data ?? [];
        let red = 0;
        for (let i = 0; i < d.length; i += 4)
          if ((d[i] as number) > 150 && (d[i + 1] as number) < 90 && (d[i + 2] as number) < 80) red++;
        return red;
      });
  const all = await ink();
  expect(all).toBeGreaterThan(500);
  await page.getByRole('treeitem', { name: /^Chute/ }).click();
  await page.getByRole('button', { name: 'Only this' }).click();
  await expect.poll(ink).toBeLessThan(all / 4);
  await page.getByRole('button', { name: 'Run', exact: true }).click();
  await page.getByRole('switch').click();
  await expect(page.getByText('Flap shut → tipping').first()).toBeVisible();
  await page.getByRole('button', { name: 'Stop' }).click();
  await page.getByRole('button', { name: 'Only this' }).click();
  await expect.poll(ink).toBe(all);
});

test('a piece of many objects: the list holds all, by scrolling, by keyboard and by searching', async ({
  page,
}) => {
  const object = (i: number) => ({
    id: `ob_${i}`,
    name: `Apple ${i}`,
    parent: null,
    order: `a${String(i).padStart(4, '0')}`,
    kind: 'ellipse',
    size: [14, 14],
    base: { position: [(i % 40) * 20 - 390, Math.floor(i / 40) * 20 - 200, 0] },
  });
  const piece = {
    format: 'apple-tick',
    version: 1,
    id: 'many',
    name: 'Orchard',
    frame: { width: 960, height: 540, background: '#dce7e2' },
    objects: Object.fromEntries(Array.from({ length: 800 }, (_, i) => [`ob_${i}`, object(i)])),
  };
  await page.goto('/');
  await page.getByLabel('File to import').setInputFiles({
    name: 'o.json',
    mimeType: 'application/json',
    buffer: Buffer.from(JSON.stringify(piece)),
  });
  await expect(item(page, 'Apple 0')).toBeVisible();
  await expect(item(page, 'Apple 799')).toHaveCount(0);
  await page.getByRole('tree').press('End');
  await expect(item(page, 'Apple 799')).toBeVisible();
  await expect(item(page, 'Apple 799')).toHaveAttribute('aria-selected', 'true');
  await page.getByRole('tree').evaluate((e) => e.parentElement?.scrollTo({ top: 400 * 25 }));
  await expect(item(page, 'Apple 400')).toBeVisible();
  await page.getByLabel('Search the objects').fill('77');
  await expect(page.getByText('17 of 800 objects are listed.')).toBeVisible();
  // What is made while searching is seen: the search gives way.
  await addKind(page, 'Box');
  await expect(page.getByLabel('Search the objects')).toHaveValue('');
  // Many at once, in one step.
  await page.locator('body').press('Escape');
  await page.locator('body').press('ControlOrMeta+a');
  await expect(page.getByRole('heading', { name: '801 objects' })).toBeVisible();
  await commit(page, 'Place y', '+5');
  await expect(page.getByRole('button', { name: 'Undo “Moved 801 objects”' })).toBeEnabled();
});

test('A3: handles turn, scale and place several as one, about their common middle; undo is one step', async ({
  page,
}) => {
  await newPiece(page);
  for (const x of ['-150', '150']) {
    await addKind(page, 'Rectangle');
    await commit(page, 'Place x', x);
  }
  const both = async () => {
    await item(page, 'Rectangle').click();
    await item(page, 'Rectangle 2').click({ modifiers: ['ControlOrMeta'] });
  };
  await both();
  const handle = async (name: string) => {
    const b = await page.locator(`[data-handle="${name}"] :is(rect, circle)`).first().boundingBox();
    if (!b) throw new Error(`no handle ${name}`);
    return { x: b.x + b.width / 2, y: b.y + b.height / 2 };
  };
  const values = async (name: string) => {
    await item(page, name).click();
    const value = (label: string) => page.getByLabel(label, { exact: true }).inputValue();
    const all = [
      await value('Place x'),
      await value('Place y'),
      await value('Turn ° z'),
      await value('Scale x'),
    ];
    await both();
    return all.map(Number);
  };
  await page.getByRole('button', { name: 'Turn', exact: true }).click();
  // The axis toward the viewer: 90 px to the left is a quarter round.
  await drag(page, await handle('turn-z'), -90, 0);
  await page.mouse.up();
  expect(await values('Rectangle')).toEqual([0, -150, 90, 1]);
  expect(await values('Rectangle 2')).toEqual([0, 150, 90, 1]);
  await page.getByRole('button', { name: 'Scale', exact: true }).click();
  const mark = await handle('scale-y');
  await drag(page, mark, 0, -62);
  await page.mouse.up();
  // Twice as high about the middle: turned by a quarter, that is along their own x.
  expect(await values('Rectangle 2')).toEqual([0, 300, 90, 2]);
  await page.getByRole('button', { name: 'Place', exact: true }).click();
  const { scale } = await at(page, 0, 0);
  await drag(page, await handle('place-x'), 40 * scale, 0);
  await page.mouse.up();
  expect((await values('Rectangle'))[0]).toBe(40);
  for (let i = 0; i < 3; i++) await undo(page);
  expect(await values('Rectangle')).toEqual([-150, 0, 0, 1]);
  expect(await values('Rectangle 2')).toEqual([150, 0, 0, 1]);
});
