import { expect, type Page, test } from '@playwright/test';
import { addKind, commit, drag, item, newPiece, undo } from './helpers.ts';

const run = (page: Page) => page.getByRole('button', { name: 'Run', exact: true }).click();
const stop = (page: Page) => page.getByRole('button', { name: 'Stop', exact: true }).click();
const happened = (page: Page, words: string | RegExp) =>
  page.getByRole('list', { name: /^What happened/ }).getByText(words, { exact: true });
const addVisitor = async (page: Page) => {
  await page.getByRole('button', { name: 'Add an object' }).click();
  await page.getByRole('menuitem', { name: 'Visitor', exact: true }).click();
};
/** What the run says of the visitor's place now. */
const written = async (page: Page, label: string) => {
  await page.getByRole('treeitem', { name: /^Visitor/ }).click();
  const row = page.getByRole('region', { name: 'Who writes this' }).locator('li', { hasText: label });
  return Number.parseFloat((await row.locator('.num').textContent()) ?? 'NaN');
};
const angle = async (page: Page, name: string) => {
  await page.getByRole('button', { name: 'View angles' }).click();
  await page.getByRole('menuitem', { name }).click();
};

test('D17: a visitor is added, walks by keyboard keys, its way is drawn; undo takes it all back in steps', async ({
  page,
}) => {
  await newPiece(page);
  await addVisitor(page);
  const part = page.getByRole('region', { name: 'Visitor' });
  await expect(part.getByLabel('Speed, px a second')).toHaveValue('160');
  await commit(page, 'Speed, px a second', '300');
  await part.getByLabel('Where it walks').selectOption({ label: 'to left and right' });
  await expect(part.getByLabel('Keyboard keys for up')).toBeHidden();
  const right = part.getByLabel('Keyboard keys for right');
  await right.press('k');
  await expect(right).toHaveValue('ArrowRight, d, k');
  await right.press('d');
  await expect(right).toHaveValue('ArrowRight, k');
  await run(page);
  // The frame hears the keyboard at once.
  await page.keyboard.down('k');
  await expect(page.locator('[data-walked]')).toBeVisible();
  await page.keyboard.up('k');
  const x = await written(page, 'place x');
  expect(x).toBeGreaterThan(0);
  await page.getByLabel('Live frame').focus();
  await page.keyboard.down('ArrowLeft');
  await expect.poll(() => written(page, 'place x')).not.toBe(x);
  await page.keyboard.up('ArrowLeft');
  await stop(page);
  await page.reload();
  await item(page, 'Visitor').click();
  await expect(right).toHaveValue('ArrowRight, k');
  for (const keys of ['ArrowRight, d, k', 'ArrowRight, d']) {
    await undo(page);
    await expect(right).toHaveValue(keys);
  }
  for (let i = 0; i < 3; i++) await undo(page);
  await expect(page.getByRole('treeitem')).toHaveCount(0);
});

for (const view of ['Front', 'Three-quarter', 'Top'])
  test(`D17: the visitor goes after the pointer that is pressed on it, seen ${view}`, async ({ page }) => {
    await newPiece(page);
    await addVisitor(page);
    await commit(page, 'Speed, px a second', '2000');
    await angle(page, view);
    await run(page);
    const box = await page.getByLabel('Live frame').boundingBox();
    if (!box) throw new Error('no frame');
    const head = await page.getByLabel('Live frame').evaluate((c: HTMLCanvasElement) => {
      // The head is the one thing of its colour.
      const ctx = c.getContext('2d') as CanvasRenderingContext2D;
      const { data, width } = ctx.getImageData(0, 0, c.width, c.height);
      let [x, y, n] = [0, 0, 0];
      for (let i = 0; i < data.length; i += 4) {
        const [r, g, b] = [data[i] as number, data[i + 1] as number, data[i + 2] as number];
        if (r < 200 || g < 130 || g > 200 || b > 170 || r - b < 55) continue;
        x += (i / 4) % width;
        y += Math.floor(i / 4 / width);
        n++;
      }
      return { x: (x / n) * (c.clientWidth / c.width), y: (y / n) * (c.clientHeight / c.height), n };
    });
    expect(head.n).toBeGreaterThan(50);
    await drag(page, { x: box.x + head.x, y: box.y + head.y }, 120, 0);
    await expect(page.locator('[data-walked]')).toBeVisible();
    await page.mouse.up();
    expect(await written(page, 'place x')).toBeGreaterThan(40);
    await stop(page);
  });

test('D4, D17: what is near the visitor is noticed; a thing of the piece becomes the visitor, and stands again', async ({
  page,
}) => {
  await newPiece(page);
  await addKind(page, 'Box');
  await page.getByRole('button', { name: 'let the person walk Box' }).click();
  await page.getByLabel('How it faces').selectOption({ label: 'turns to where it goes' });
  await addKind(page, 'Ball');
  await commit(page, 'Place x', '120');
  await page.getByRole('button', { name: 'Add a zone' }).click();
  await page.getByRole('menuitem', { name: 'Notice what comes near' }).click();
  await commit(page, 'Near from', '60');
  await commit(page, 'Near until', '60');
  const zone = page.getByRole('group', { name: /^Ball/ });
  await expect(zone.getByLabel('the visitor, too')).toBeChecked();
  await run(page);
  await page.keyboard.down('ArrowRight');
  await expect(happened(page, /^Box came near Ball/)).toBeVisible();
  await page.keyboard.up('ArrowRight');
  await stop(page);
  await zone.getByLabel('the visitor, too').uncheck();
  await run(page);
  await page.keyboard.down('ArrowRight');
  await expect
    .poll(async () =>
      Number(
        await page
          .locator('[data-walked] path')
          .first()
          .getAttribute('d')
          .then((d) => d?.length),
      ),
    )
    .toBeGreaterThan(60);
  await page.keyboard.up('ArrowRight');
  await expect(happened(page, /^Box came near Ball/)).toHaveCount(0);
  await stop(page);
  await item(page, 'Box').click();
  await page.getByRole('button', { name: 'Let it stand' }).click();
  await expect(page.getByRole('button', { name: 'let the person walk Box' })).toBeVisible();
  await undo(page);
  await expect(page.getByLabel('How it faces').locator('option:checked')).toHaveText(
    'turns to where it goes',
  );
  await page.locator('body').press('Delete');
  await undo(page);
  await item(page, 'Box').click();
  await expect(page.getByRole('region', { name: 'Visitor' })).toBeVisible();
});

test('D17: blockers stop the visitor: made in one act, hatched, set in their sentence, undone step by step', async ({
  page,
}) => {
  await newPiece(page);
  await addKind(page, 'Box');
  await commit(page, 'Place x', '150');
  await commit(page, 'Place y', '40');
  await commit(page, 'Place z', '60');
  await addVisitor(page);
  await commit(page, 'Speed, px a second', '600');
  await item(page, 'Box').click();
  await page.getByRole('button', { name: 'Add a zone' }).click();
  await page.getByRole('menuitem', { name: 'Block what comes' }).click();
  const card = page.getByRole('group', { name: 'Box blocker' });
  await expect(card).toContainText('stops');
  await expect(page.locator('[data-zones]')).toContainText('Box blocker');
  await expect(page.locator('[data-zones] path[fill="url(#blocks)"]').first()).toBeVisible();
  const walk = async (log: () => Promise<void>) => {
    await run(page);
    await page.keyboard.down('ArrowRight');
    await expect(page.locator('[data-walked] path').first()).toHaveAttribute('d', /L/);
    await expect(page.locator('[data-zones] path[fill="url(#blocks)"]')).toHaveCount(0);
    await ticks(page);
    await page.keyboard.up('ArrowRight');
    await log();
    const x = await written(page, 'place x');
    await stop(page);
    return x;
  };
  /** Long enough to walk by a thing. */
  const ticks = async (p: Page) => {
    const from = Number.parseFloat((await p.locator('.num.text-apple').textContent()) ?? '0');
    await expect
      .poll(async () => Number.parseFloat((await p.locator('.num.text-apple').textContent()) ?? '0'))
      .toBeGreaterThan(from + 0.7);
  };
  const touches = happened(page, 'Visitor touches Box blocker');
  expect(await walk(() => expect(touches).toHaveCount(1))).toBeLessThan(150);
  await item(page, 'Box').click();
  await page.getByRole('button', { name: 'Add a reaction' }).click();
  await page.getByLabel('Event', { exact: true }).selectOption({ label: 'something touches it' });
  await expect(page.getByLabel('Zone of the event').locator('option:checked')).toHaveText('Box blocker');
  await expect(page.getByLabel('What is noticed').locator('option')).toContainText([
    'whatever it is',
    'Visitor',
  ]);
  await walk(() => expect(happened(page, /^Box reacted/)).toHaveCount(1));
  await undo(page);
  await undo(page);
  await item(page, 'Box').click();
  await card.getByLabel('the visitor, too').uncheck();
  expect(await walk(() => expect(touches).toHaveCount(0))).toBeGreaterThan(200);
  await undo(page);
  await item(page, 'Box').click();
  await expect(card.getByLabel('the visitor, too')).toBeChecked();
  await undo(page);
  await expect(card).toBeHidden();
});

test('D3: a blocker that comes upon the visitor pushes it along; a reaction hears who is crushed', async ({
  page,
}) => {
  await newPiece(page);
  await addKind(page, 'Box');
  await commit(page, 'Place x', '-250');
  await commit(page, 'Place z', '60');
  await page.getByRole('button', { name: 'Add a zone' }).click();
  await page.getByRole('menuitem', { name: 'Block what comes' }).click();
  await page.getByRole('button', { name: 'Add a reaction' }).click();
  await page.getByLabel('Event', { exact: true }).selectOption({ label: 'the piece starts' });
  await page.getByLabel('Action', { exact: true }).selectOption('tween');
  await page.getByLabel('Property', { exact: true }).selectOption({ label: 'place x' });
  await commit(page, 'How much', '300');
  await commit(page, 'Seconds of the tween', '1');
  await page.getByRole('treeitem', { name: /^Box/ }).click();
  await page.keyboard.press('Escape');
  await addVisitor(page);
  await run(page);
  await expect(happened(page, 'Visitor touches Box blocker')).toBeVisible();
  // The box comes to 50, is 100 wide, and the visitor stands before it.
  await expect.poll(() => written(page, 'place x')).toBeGreaterThan(100);
  await stop(page);
  await page.getByRole('treeitem', { name: /^Box/ }).click();
  await page.getByRole('button', { name: 'Add a reaction' }).click();
  await page
    .getByLabel('Event', { exact: true })
    .last()
    .selectOption({ label: 'something is crushed by it' });
  await expect(page.getByLabel('Zone of the event').locator('option:checked')).toHaveText('Box blocker');
});
