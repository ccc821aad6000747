import { readFileSync } from 'node:fs';
import { gzipSync } from 'node:zlib';
import { expect, test } from '@playwright/test';
import { drag, middle, newPiece, ON_SHELF, openChute } from './helpers.ts';

test('the shelf shows the demo with a picture; a new piece opens', async ({ page }) => {
  await page.goto('/');
  const card = page
    .getByRole('listitem')
    .filter({ has: page.getByRole('button', { name: /^Chute/ }) })
    .first();
  const picture = card.locator('img');
  await expect(picture).toBeVisible();
  const colours = () =>
    picture.evaluate((img: HTMLImageElement) => {
      const c = new OffscreenCanvas(img.naturalWidth || 1, img.naturalHeight || 1);
      const ctx = c.getContext('2d');
      ctx?.drawImage(img, 0, 0);
      const d = ctx?.getImageData(0, 0, c.width, c.height).data ?? [];
      return new Set(
        Array.from({ length: d.length / 4 }, (_, i) => `${d[i * 4]},${d[i * 4 + 1]},${d[i * 4 + 2]}`),
      ).size;
    });
  await expect.poll(colours).toBeGreaterThan(10);
});

test('the shelf comes with at most 230 KB, and an address begins a new piece at once', async ({ page }) => {
  const dist = new URL('../packages/desk/dist/', import.meta.url);
  const html = readFileSync(new URL('index.html', dist), 'utf8');
  const first = [...html.matchAll(/(?:src|href)="\/(assets\/[^"]+\.(?:js|css))"/g)].map(
    (m) => m[1] as string,
  );
  expect(first.length).toBeGreaterThan(2);
  const sizes = first.map((f) => gzipSync(readFileSync(new URL(f, dist)), { level: 9 }).length);
  expect(sizes.reduce((a, b) => a + b)).toBeLessThanOrEqual(230 * 1024);
  await page.goto('/new');
  await expect(page.getByRole('heading', { name: 'Objects', exact: true })).toBeVisible();
  await expect(page).toHaveURL(/\/piece\//);
  // It is a piece like any other, and going back does not make another one.
  await page.getByRole('button', { name: 'Add a box' }).click();
  await page.goto('/');
  await expect(page.getByRole('button', { name: /^Untitled piece/ })).toHaveCount(1);
});

test('from an empty page to a flap that tips on a click, by hand', async ({ page }) => {
  await newPiece(page);
  await page.getByRole('button', { name: 'Add a box' }).click();
  await page.getByLabel('Size h').fill('90+10');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Size h')).toHaveValue('100');

  // The pivot, dragged near the top edge, snaps to it; the object stays where it is.
  await page.getByRole('button', { name: 'Pivot', exact: true }).click();
  const pivot = await middle(page, '[data-handle="pivot"]');
  const box = await page.locator('canvas[aria-label="Frame"]').boundingBox();
  const scale = Math.min(((box?.width ?? 0) - 36) / 960, ((box?.height ?? 0) - 28) / 540);
  await drag(page, pivot, 3, -50 * scale + 4);
  await page.mouse.up();
  await expect(page.getByLabel('Pivot y')).toHaveValue('50');
  await expect(page.getByLabel('Place y')).toHaveValue('0');

  // A reaction, a machine, a clip, keyed by moving.
  await page.getByRole('button', { name: 'Add a reaction' }).click();
  await page.getByLabel('Action', { exact: true }).selectOption('toggle');
  await page.getByRole('button', { name: 'Add a machine to Box' }).first().click();
  await page.getByRole('button', { name: 'Add ▾' }).click();
  await page.getByRole('menuitem', { name: 'A state that plays a new clip' }).click();
  await page.getByRole('button', { name: 'Unfold its timeline' }).click();
  await expect(page.getByText('Moves are keyed into')).toBeVisible();
  await page.getByLabel('Playhead, seconds').fill('0.7');
  await page.keyboard.press('Enter');
  await page.getByRole('treeitem', { name: /Box/ }).click();
  await page.getByLabel('Turn ° x').fill('-68');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /^Key at/ })).toHaveCount(2);
  await page.getByRole('button', { name: 'Key at 0.00 s' }).press('Enter');
  await page.getByRole('button', { name: 'swings past', exact: true }).click();
  await page.getByRole('button', { name: 'Fold' }).click();

  // A transition dragged from panel to panel, another by the keyboard.
  const rest = await page.locator('[data-state="at rest"]').boundingBox();
  const moving = await page.locator('[data-state="moving"]').boundingBox();
  if (!rest || !moving) throw new Error('no panels');
  await drag(page, { x: rest.x + rest.width - 3, y: rest.y + 60 }, moving.x + 60 - rest.x - rest.width, 0);
  await page.mouse.up();
  // What sets it off is asked at once; what is not among it is set in the properties.
  await page.getByRole('button', { name: 'something else…' }).click();
  await expect(page.getByRole('button', { name: 'Transition: not yet set' })).toBeVisible();
  await page.getByRole('button', { name: 'condition', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Transition: Box on is on' })).toBeVisible();

  await page.getByRole('button', { name: 'Run', exact: true }).click();
  await page.getByRole('switch', { name: 'Box on' }).click();
  await expect(page.getByText('Box at rest → moving').first()).toBeVisible();
  await page.getByRole('button', { name: 'Stop' }).click();
});

test('run: the flap opens, turns back half-way from where it is, opens again and stays', async ({ page }) => {
  await openChute(page);
  await page.locator('body').press('r');
  const frame = page.getByLabel('Live frame');
  const box = await frame.boundingBox();
  if (!box) throw new Error('no frame');
  const scale = Math.min((box.width - 36) / 960, (box.height - 28) / 540);
  // A point of the flap near its hinge stays under the pointer in every position.
  const at = { x: box.x + box.width / 2 + 55 * scale, y: box.y + box.height / 2 + 50 * scale };
  // Paused and ticked by hand, so that half-way is half-way on a busy machine too.
  await page.getByRole('button', { name: 'Pause', exact: true }).click();
  const ticks = async (n: number) => {
    for (let i = 0; i < n; i++) await page.getByRole('button', { name: 'One tick' }).press('Enter');
  };
  await page.mouse.click(at.x, at.y);
  await ticks(1);
  await expect(page.getByText('Flap shut → tipping').first()).toBeVisible();
  await ticks(18);
  await page.mouse.click(at.x, at.y);
  await ticks(1);
  await expect(page.getByText('Flap tipping → back').first()).toBeVisible();
  await ticks(5);
  await page.getByRole('switch').click();
  await ticks(1);
  await expect(page.getByText('Flap back → tipping').first()).toBeVisible();
  await page.getByRole('button', { name: 'Go on' }).click();
  await expect(page.getByText('Flap tipping → open').first()).toBeVisible();
  // It stays: more than half a second of the run later it is still there.
  await expect(page.getByText(/^open · (0\.[6-9]|[1-9])/)).toBeVisible();
  // Editing goes on while it runs, and stays after Stop.
  await page.getByRole('treeitem', { name: /^Lid/ }).click();
  await page.getByLabel('Place y').fill('190');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Stop' }).click();
  await expect(page.getByLabel('Place y')).toHaveValue('190');
  await expect(page.getByText('not running')).toBeVisible();
});

test('a reload in the middle of a drag loses nothing, and one undo leads to before it', async ({ page }) => {
  await newPiece(page);
  await page.getByRole('button', { name: 'Add a box' }).click();
  const from = await middle(page, '[data-handle="pivot"]');
  await drag(page, { x: from.x + 20, y: from.y + 15 }, 90, 0);
  const placeX = () => page.getByLabel('Place x').inputValue();
  await expect.poll(async () => Number(await placeX())).toBeGreaterThan(50);
  const moved = await placeX();
  await page.reload();
  await page.getByRole('treeitem', { name: /Box/ }).click();
  await expect(page.getByLabel('Place x')).toHaveValue(moved);
  await expect(page.getByRole('button', { name: 'Undo “Moved Box”' })).toBeEnabled();
  await page.getByRole('button', { name: 'Undo “Moved Box”' }).click();
  await expect(page.getByLabel('Place x')).toHaveValue('0');
  await page.getByRole('button', { name: 'Redo “Moved Box”' }).click();
  await expect(page.getByLabel('Place x')).toHaveValue(moved);
});

test('a second tab follows and says so', async ({ page, context }) => {
  await newPiece(page);
  const second = await context.newPage();
  await second.goto(page.url());
  await expect(second.getByText('being edited in another tab')).toBeVisible();
  // What would be typed here would be nowhere when the other tab lets go.
  await expect(second.getByLabel('Name of the piece')).not.toBeEditable();
  await page.getByRole('button', { name: 'Add a box' }).click();
  await expect(second.getByRole('treeitem', { name: /Box/ })).toBeVisible();
  await page.close();
  await expect(second.getByText('being edited in another tab')).toBeHidden();
  await expect(second.getByLabel('Name of the piece')).toBeEditable();
});

test('export and import give an equal piece; a wrong file is explained and changes nothing', async ({
  page,
}) => {
  await openChute(page);
  await page.getByRole('link', { name: 'Hand over' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Export the file' }).click();
  const path = await (await download).path();
  const text = readFileSync(path, 'utf8');
  await page.goto('/');
  await page.getByLabel('File to import').setInputFiles({
    name: 'wrong.json',
    mimeType: 'application/json',
    buffer: Buffer.from(text.replace('"ob_chute"', '"__proto__"').replace('"fps": 60', '"fps": "fast"')),
  });
  await expect(page.getByRole('dialog')).toContainText('Nothing was changed');
  await page.getByRole('button', { name: 'Close' }).click();
  const before = await page.getByRole('listitem').count();
  await page
    .getByLabel('File to import')
    .setInputFiles({ name: 'c.json', mimeType: 'application/json', buffer: Buffer.from(text) });
  await expect(page.getByRole('heading', { name: 'Objects', exact: true })).toBeVisible();
  await page.getByRole('link', { name: 'Hand over' }).click();
  const again = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Export the file' }).click();
  const copy = JSON.parse(readFileSync(await (await again).path(), 'utf8'));
  expect({ ...copy, id: '' }).toEqual({ ...JSON.parse(text), id: '' });
  await page.goto('/');
  await expect(page.getByRole('listitem')).toHaveCount(before + 1);
});

test('by keyboard: unfold, step, fold, a new transition, undo after each', async ({ page }) => {
  await openChute(page);
  await page.locator('[data-state="tipping"]').press('Enter');
  const timeline = page.getByRole('group', { name: 'Timeline' });
  await timeline.press('ArrowRight');
  await timeline.press('ArrowRight');
  await expect(page.getByLabel('Playhead, seconds')).toHaveValue('0.033');
  await timeline.press('ControlOrMeta+ArrowRight');
  await expect(page.getByLabel('Playhead, seconds')).toHaveValue('0.7');
  await page.getByRole('button', { name: 'Key at 0.70 s' }).press('Enter');
  await page.getByLabel('Value of the key').fill('-40');
  await page.keyboard.press('Enter');
  await page.keyboard.press('ControlOrMeta+z');
  await expect(page.getByLabel('Value of the key')).toHaveValue('-68');
  await timeline.press('Escape');
  await expect(timeline).toBeHidden();

  const before = await page.getByRole('button', { name: /^Transition:/ }).count();
  await page.locator('[data-state="shut"]').press('t');
  await page.getByRole('menuitem', { name: 'to open' }).press('Enter');
  await expect(page.getByRole('button', { name: /^Transition:/ })).toHaveCount(before + 1);
  await expect(page.getByRole('button', { name: 'Transition: not yet set' })).toBeVisible();
  await page.getByLabel('Not before, seconds').fill('1.5');
  await page.keyboard.press('Enter');
  await page.getByLabel('Crossfade, seconds').fill('0.25');
  await page.keyboard.press('Enter');
  await expect(
    page.getByRole('button', { name: 'Transition: not before 1.5 s · fades 0.25 s' }),
  ).toBeVisible();
  for (let i = 0; i < 3; i++) await page.locator('[data-state="shut"]').press('ControlOrMeta+z');
  await expect(page.getByRole('button', { name: /^Transition:/ })).toHaveCount(before);

  await page.locator('body').press('?');
  await expect(page.getByRole('dialog')).toContainText('Run or stop');
  await page.keyboard.press('Escape');
  await page.keyboard.press('ControlOrMeta+k');
  await page.getByLabel('Search commands').fill('top');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'View angles' })).toContainText('0°/90°');
});

test('a hundred megabytes of noise are refused, and what was open is untouched', async ({ page }) => {
  await page.goto('/');
  const before = ON_SHELF;
  await expect(page.getByRole('listitem')).toHaveCount(before);
  await page.getByLabel('File to import').evaluate((input: HTMLInputElement) => {
    const list = new DataTransfer();
    list.items.add(new File([new Uint8Array(100 * 1024 * 1024).fill(120)], 'noise.json'));
    input.files = list.files;
    input.dispatchEvent(new Event('change', { bubbles: true }));
  });
  await expect(page.getByRole('dialog')).toContainText('larger than 64 MB');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('listitem')).toHaveCount(before);
});

test('turn, size and scale by their handles on the view; the pivot and the far edge stay', async ({
  page,
}) => {
  await newPiece(page);
  await page.getByRole('button', { name: 'Add a box' }).click();
  const value = async (label: string) => Number(await page.getByLabel(label, { exact: true }).inputValue());
  const pull = async (tool: string, handle: string, dx: number, dy: number) => {
    await page.getByRole('button', { name: tool, exact: true }).click();
    await drag(page, await middle(page, `[data-handle="${handle}"] rect`), dx, dy);
    await page.mouse.up();
    // The fields follow on the next frame.
    await page.evaluate(() => new Promise((d) => requestAnimationFrame(() => requestAnimationFrame(d))));
  };
  await pull('Size', 'size-x', 60, 0);
  const w = await value('Size w');
  expect(w).toBeGreaterThan(140);
  // The left edge was at −50 and the pivot at 0: both are still there.
  expect((await value('Place x')) - w / 2).toBeCloseTo(-50, 1);
  expect((await value('Place x')) + (await value('Pivot x'))).toBeCloseTo(0, 1);
  await pull('Scale', 'scale-y', 0, -31);
  expect(await value('Scale y')).toBeCloseTo(1.5, 1);
  await pull('Place', 'place-y', 0, -30);
  expect(await value('Place y')).toBeGreaterThan(30);
  await pull('Turn', 'turn-z', -40, 0);
  expect(Math.abs(await value('Turn ° z'))).toBeGreaterThan(20);
  // Each was one step with a name.
  for (const name of ['Turned', 'Moved', 'Scaled', 'Sized', 'Added']) {
    await expect(page.getByRole('button', { name: `Undo “${name} Box”` })).toBeEnabled();
    await page.locator('body').press('ControlOrMeta+z');
  }
  await expect(page.getByText('Nothing here yet. Begin with a shape.')).toBeVisible();
});
