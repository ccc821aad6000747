import { expect, type Page, test } from '@playwright/test';
import { addKind, commit, drag, newPiece, openChute } from './helpers.ts';

const item = (page: Page, name: string) => page.getByRole('treeitem', { name, exact: true });
const order = (page: Page) =>
  page
    .getByRole('treeitem')
    .evaluateAll((all) => all.map((e) => `${e.getAttribute('aria-level')} ${e.textContent}`));
/** The page's place of a point of the frame, px from its middle, in the front view at 100 %. */
const at = async (page: Page, x: number, y: number) => {
  const box = await page.getByLabel('Frame', { exact: true }).boundingBox();
  if (!box) throw new Error('no frame');
  const scale = Math.min((box.width - 36) / 960, (box.height - 28) / 540);
  return { x: box.x + box.width / 2 + x * scale, y: box.y + box.height / 2 - y * scale, scale };
};
const undo = (page: Page) => page.locator('body').press('ControlOrMeta+z');

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
  await expect(page.getByRole('button', { name: /^Transition: flap open on/ }).first()).toBeVisible();
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

test('the view is zoomed about the pointer, panned, and fitted again', async ({ page }) => {
  await newPiece(page);
  await addKind(page, 'Box');
  const p = await at(page, 0, 0);
  await page.mouse.move(p.x + 100, p.y);
  await page.keyboard.down('Control');
  await page.mouse.wheel(0, -240);
  await page.keyboard.up('Control');
  await expect(page.getByRole('button', { name: '200 %' })).toBeVisible();
  const pivot = await page.locator('[data-handle="pivot"] circle').first().boundingBox();
  // The box is now twice as far left of the pointer.
  expect(Math.abs((pivot?.x ?? 0) + (pivot?.width ?? 0) / 2 - (p.x - 100))).toBeLessThan(4);
  await page.mouse.wheel(0, 50);
  await page.locator('body').press('0');
  await expect(page.getByRole('button', { name: '100 %' })).toBeVisible();
  await page.locator('body').press('+');
  await expect(page.getByRole('button', { name: '125 %' })).toBeVisible();
});

test('A10: every kind is drawn, sized by numbers, filled, stroked; each is one undo step', async ({
  page,
}) => {
  await newPiece(page);
  for (const kind of ['Rectangle', 'Ellipse', 'Polygon', 'Path', 'Box', 'Cylinder', 'Ball', 'Prism']) {
    await addKind(page, kind);
    await commit(page, 'Size w', '140');
    await expect(page.getByLabel('Size w')).toHaveValue('140');
    await undo(page);
    await expect(page.getByLabel('Size w')).not.toHaveValue('140');
  }
  await item(page, 'Polygon').click();
  await commit(page, 'Sides', '7');
  await page.getByLabel('a star').uncheck();
  await page.getByLabel('Kind of fill').selectOption('radial');
  await expect(page.getByLabel('Colour of stop 2')).toBeVisible();
  await page.getByRole('button', { name: 'Add a stroke' }).click();
  await commit(page, 'Width of the stroke', '5');
  for (const name of ['Stroked', 'Stroked', 'Filled', 'Changed', 'Changed']) {
    await expect(page.getByRole('button', { name: `Undo “${name} Polygon”` })).toBeEnabled();
    await undo(page);
  }
  await page.reload();
  await expect(page.getByRole('treeitem')).toHaveCount(8);
});

test('A10: a path is drawn by points, and its points and handles are edited on the view', async ({
  page,
}) => {
  await newPiece(page);
  await page.locator('body').press('p');
  const corner = async (x: number, y: number) => {
    const p = await at(page, x, y);
    await page.mouse.click(p.x, p.y);
  };
  await corner(-100, -60);
  await corner(100, -60);
  // Dragged: a smooth point.
  const top = await at(page, 0, 80);
  await drag(page, top, -60 * top.scale, 0);
  await page.mouse.up();
  await corner(-100, -60);
  await expect(item(page, 'Path')).toBeVisible();
  await expect(page.getByText('3 points')).toBeVisible();
  await page.getByRole('button', { name: 'Points' }).click();
  const point = page.locator('[data-handle="point-0-1"]');
  const b = await point.boundingBox();
  if (!b) throw new Error('no point');
  const width = Number(await page.getByLabel('Size w').inputValue());
  await drag(page, { x: b.x + 4, y: b.y + 4 }, 40 * top.scale, 0);
  await page.mouse.up();
  await expect
    .poll(async () => Number(await page.getByLabel('Size w').inputValue()))
    .toBeGreaterThan(width + 25);
  await expect(page.getByRole('button', { name: 'Undo “Shaped Path”' })).toBeEnabled();
  await point.dblclick();
  await expect(page.locator('[data-handle^="curve-"]')).toHaveCount(2);
  await page.locator('body').press('Delete');
  await expect(page.getByText('2 points')).toBeVisible();
  await undo(page);
  await expect(page.getByText('3 points')).toBeVisible();
  await point.dblclick();
  await expect(page.locator('[data-handle^="curve-"]')).toHaveCount(0);
  // On the line a double-click adds one; Escape while drawing gives up.
  const line = await at(page, 0, -60);
  await page.mouse.dblclick(line.x, line.y);
  await expect(page.getByText('4 points')).toBeVisible();
  await page.locator('body').press('p');
  await corner(50, 50);
  await page.keyboard.press('Escape');
  await expect(page.getByRole('treeitem')).toHaveCount(1);
});

test('A10: words in the bundled fonts are as wide as the browser draws them', async ({ page }) => {
  await newPiece(page);
  await addKind(page, 'Text');
  await page.getByRole('textbox', { name: 'Text' }).fill('Windfall\nMill, 20 pints');
  await page.getByRole('textbox', { name: 'Text' }).blur();
  for (const [font, family] of [
    ['serif', '"Fraunces Variable"'],
    ['sans', '"Public Sans Variable"'],
    ['mono', '"IBM Plex Mono"'],
  ] as const) {
    await page.getByLabel('Font', { exact: true }).selectOption(font);
    await commit(page, 'Weight', '400');
    const width = await page.evaluate((f) => {
      const ctx = document.createElement('canvas').getContext('2d') as CanvasRenderingContext2D;
      ctx.font = `400 48px ${f}`;
      ctx.fontKerning = 'none';
      return ctx.measureText('Mill, 20 pints').width;
    }, family);
    expect(Math.abs(Number(await page.getByLabel('Size w').inputValue()) - width)).toBeLessThan(1);
  }
  await commit(page, 'Font size', '96');
  await expect.poll(async () => Number(await page.getByLabel('Size h').inputValue())).toBe(240);
  await undo(page);
  await expect(page.getByLabel('Font size')).toHaveValue('48');
});

test('A3, A12: a placement is copied to another object; a hit shape is clicked where nothing is drawn', async ({
  page,
}) => {
  await newPiece(page);
  await addKind(page, 'Box');
  await commit(page, 'Place x', '90');
  await commit(page, 'Turn ° z', '30');
  await item(page, 'Box').click();
  await page.locator('body').press('c');
  await addKind(page, 'Ellipse');
  await item(page, 'Ellipse').click();
  await page.locator('body').press('v');
  await expect(page.getByLabel('Place x')).toHaveValue('90');
  await expect(page.getByLabel('Turn ° z')).toHaveValue('30');
  await undo(page);
  await expect(page.getByLabel('Place x')).toHaveValue('0');
  await commit(page, 'Place x', '-200');
  await page.locator('summary', { hasText: 'Hit shape' }).click();
  await page.getByLabel('Where it is clicked').selectOption('rect');
  await commit(page, 'Hit shape w', '300');
  await page.getByRole('button', { name: 'Add a reaction' }).click();
  await page.getByRole('button', { name: 'Run', exact: true }).click();
  const box = await page.getByLabel('Live frame').boundingBox();
  if (!box) throw new Error('no frame');
  const scale = Math.min((box.width - 36) / 960, (box.height - 28) / 540);
  // 120 px left of the middle of an ellipse that is 80 px wide.
  await page.mouse.click(box.x + box.width / 2 - 320 * scale, box.y + box.height / 2);
  await expect(page.getByText('Ellipse was clicked').first()).toBeVisible();
});

test('A3: pointing at a field shows its axis on the view', async ({ page }) => {
  await newPiece(page);
  await addKind(page, 'Box');
  await page.getByLabel('Turn ° y').hover();
  await expect(page.locator('[data-axis="rotation.y"] path')).toHaveCount(2);
  await page.getByLabel('Place x').hover();
  await expect(page.locator('[data-axis="position.x"]')).toHaveCount(1);
  await page.getByLabel('Name', { exact: true }).hover();
  await expect(page.locator('[data-axis]')).toHaveCount(0);
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
  await page.getByRole('complementary', { name: 'Objects' }).evaluate((e) => e.scrollTo({ top: 400 * 25 }));
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
    const b = await page.locator(`[data-handle="${name}"] circle`).boundingBox();
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

test('A1: reactions, sizes, mask and parent of several are changed at once, each step undone', async ({
  page,
}) => {
  await newPiece(page);
  for (const x of ['-200', '0', '200']) {
    await addKind(page, 'Rectangle');
    await commit(page, 'Place x', x);
  }
  await addKind(page, 'Ellipse');
  await commit(page, 'Size w', '300');
  // A row's name goes on with what its object carries.
  const row = (name: string) => page.getByRole('treeitem', { name: new RegExp(`^${name}\\b`) });
  const three = async () => {
    await row('Rectangle').first().click();
    await row('Rectangle 3').click({ modifiers: ['Shift'] });
    await expect(page.getByRole('heading', { name: '3 objects' })).toBeVisible();
  };
  await three();
  await page.getByRole('button', { name: 'Add a reaction' }).click();
  await page.getByLabel('Action', { exact: true }).selectOption({ label: 'hide' });
  await commit(page, 'Size w', '/2');
  await commit(page, 'Size w', '60');
  await page.getByText('Mask', { exact: true }).click();
  await page.getByLabel('Mask', { exact: true }).selectOption({ label: 'Ellipse' });
  await page.getByLabel('Parent').selectOption({ label: 'Ellipse' });
  await expect(row('Rectangle 2')).toHaveAttribute('aria-level', '2');
  // Each hides itself.
  await row('Rectangle 3').click();
  await expect(page.getByLabel('Object', { exact: true }).locator('option:checked')).toHaveText(
    'Rectangle 3',
  );
  await expect(page.getByLabel('Size w', { exact: true })).toHaveValue('60');
  await expect(page.locator('[data-link="parent"]')).toBeVisible();
  const middle = await at(page, 0, 20);
  await page.getByRole('button', { name: 'Run', exact: true }).click();
  await page.mouse.click(middle.x, middle.y);
  await expect(page.getByText('Rectangle 2 was clicked').first()).toBeVisible();
  await page.getByRole('button', { name: 'Stop', exact: true }).click();

  await undo(page);
  await expect(row('Rectangle 2')).toHaveAttribute('aria-level', '1');
  await undo(page);
  await three();
  await expect(page.getByRole('group').filter({ hasText: 'Mask' }).last()).toContainText('none');
  await undo(page);
  await undo(page);
  await undo(page);
  await three();
  await expect(page.getByText('Does nothing by itself yet.')).toBeVisible();
});

test('what is typed into a field reaches its own object, also when another is chosen at once; Escape forgets it', async ({
  page,
}) => {
  await newPiece(page);
  await addKind(page, 'Rectangle');
  await addKind(page, 'Ellipse');
  await page.getByLabel('Place x', { exact: true }).fill('200');
  await item(page, 'Rectangle').click();
  await expect(page.getByLabel('Place x', { exact: true })).toHaveValue('0');
  await page.getByLabel('Name', { exact: true }).fill('Sign');
  // On the view, the pointer goes down on the other before the field loses the focus.
  const ellipse = await at(page, 200, 0);
  await page.mouse.click(ellipse.x, ellipse.y);
  await expect(page.getByLabel('Place x', { exact: true })).toHaveValue('200');
  await expect(page.getByLabel('Name', { exact: true })).toHaveValue('Ellipse');
  await expect(item(page, 'Sign')).toBeVisible();
  await page.getByLabel('Place x', { exact: true }).fill('5');
  await page.keyboard.press('Escape');
  await expect(page.getByLabel('Place x', { exact: true })).toHaveValue('200');
  await expect(page.getByRole('button', { name: 'Undo “Renamed Rectangle”' })).toBeEnabled();
});

test('with nothing selected the piece itself is changed: frame, ground, light, angle, frame numbers', async ({
  page,
}) => {
  await newPiece(page);
  await page.getByRole('button', { name: 'Add a box' }).click();
  await page.locator('body').press('Escape');
  await commit(page, 'Frame width', '600');
  await page.getByLabel('Kind of ground').selectOption('linear');
  await page.getByLabel('Colour of stop 1').fill('#123456');
  await page.getByLabel('How the frame fits its space').selectOption('cover');
  await commit(page, 'Light elevation', '100');
  await expect(page.getByLabel('Light elevation')).toHaveValue('90');
  await commit(page, 'Frame numbers a second', '24');
  await page.getByRole('slider', { name: 'View angle' }).press('ArrowRight');
  await page.getByRole('button', { name: 'Take this one' }).click();
  await expect(page.getByText(/^5° \/ 0°$/).last()).toBeVisible();
  // Times may be typed in frame numbers of the piece.
  await item(page, 'Box').click();
  await page.getByRole('button', { name: 'Add a reaction' }).click();
  await page.getByText('only if, how often').click();
  await commit(page, 'Cooldown, seconds', '36f');
  await expect(page.getByLabel('Cooldown, seconds')).toHaveValue('1.5');
  await undo(page);
  await undo(page);
  await page.locator('body').press('Escape');
  for (let i = 0; i < 7; i++) await undo(page);
  await page.locator('body').press('Escape');
  await expect(page.getByLabel('Frame width')).toHaveValue('960');
  await expect(page.getByRole('button', { name: 'Undo “Added Box”' })).toBeEnabled();
});
