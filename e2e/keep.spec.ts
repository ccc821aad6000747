import { expect, type Page, test } from '@playwright/test';
import { addKind, newPiece, ON_SHELF, openChute } from './helpers.ts';

const importText = (page: Page, text: string) =>
  page
    .getByLabel('File to import')
    .setInputFiles({ name: 'file.json', mimeType: 'application/json', buffer: Buffer.from(text) });

test('a killed tab loses at most a second: all but that is there again, undo too', async ({
  page,
  context,
}) => {
  await newPiece(page);
  const url = page.url();
  for (const n of [1, 2, 3]) {
    await page.getByRole('button', { name: 'Add an object' }).click();
    await page.getByRole('menuitem', { name: 'Ellipse' }).click();
    await expect(page.getByRole('treeitem')).toHaveCount(n);
  }
  await page.getByLabel('Place x').fill('77');
  await page.keyboard.press('Enter');
  await expect(page.getByText(/^✓ kept/)).toBeVisible();
  const cdp = await context.newCDPSession(page);
  void cdp.send('Page.crash').catch(() => {});
  await page.waitForEvent('crash');
  const again = await context.newPage();
  await again.goto(url);
  await expect(again.getByRole('treeitem')).toHaveCount(3);
  await again.getByRole('treeitem', { name: 'Ellipse 3' }).click();
  await expect(again.getByLabel('Place x')).toHaveValue('77');
  await expect(again.getByText('being edited in another tab')).toBeHidden();
  for (let i = 0; i < 4; i++) await again.locator('body').press('ControlOrMeta+z');
  await expect(again.getByText('Nothing here yet')).toBeVisible();
});

test('undo and redo, with names, through everything and across reloads', async ({ page }) => {
  await openChute(page);
  await page.getByRole('treeitem', { name: /^Lid/ }).click();
  await page.getByLabel('Name', { exact: true }).fill('Hat');
  await page.keyboard.press('Enter');
  await page.getByLabel('Size h').fill('20');
  await page.keyboard.press('Enter');
  await page.locator('[data-state="open"]').press(' ');
  await page.getByLabel('Name of the state').fill('wide open');
  await page.keyboard.press('Enter');
  await page.locator('[data-state="wide open"]').press('Delete');
  await expect(page.locator('[data-state="wide open"]')).toBeHidden();
  await page.reload();
  const names = ['Deleted wide open', 'Renamed open', 'Sized Hat', 'Renamed Lid'];
  for (const name of names) {
    await page.getByRole('button', { name: `Undo “${name}”` }).click();
    await page.reload();
  }
  await expect(page.getByRole('treeitem', { name: /^Lid/ })).toBeVisible();
  await expect(page.locator('[data-state="open"]')).toBeVisible();
  for (const name of names.toReversed()) await page.getByRole('button', { name: `Redo “${name}”` }).click();
  await expect(page.getByRole('treeitem', { name: /^Hat/ })).toBeVisible();
  await expect(page.locator('[data-state="wide open"]')).toBeHidden();
});

test('deleting an object takes its machine and reactions along; one undo brings all back', async ({
  page,
}) => {
  await openChute(page);
  const before = await page.getByRole('treeitem').count();
  const tickets = await page.getByRole('button', { name: /^Transition:/ }).count();
  await page.getByRole('treeitem', { name: /^Chute/ }).click();
  await page.locator('body').press('Delete');
  await expect(page.getByRole('button', { name: /^Transition:/ })).toHaveCount(0);
  await page.locator('body').press('ControlOrMeta+z');
  await expect(page.getByRole('treeitem')).toHaveCount(before);
  await expect(page.getByRole('button', { name: /^Transition:/ })).toHaveCount(tickets);
});

for (const [what, text, sentence] of [
  ['not JSON', '{"format": "apple-tick",', 'JSON'],
  ['a newer version', '{"format":"apple-tick","version":99}', 'newer'],
  ['NaN', '{"format":"apple-tick","version":1,"fps":NaN}', 'JSON'],
  ['something else', '[1,2,3]', 'piece'],
] as const)
  test(`a wrong file, ${what}, is answered with a sentence, and the shelf stays`, async ({ page }) => {
    await page.goto('/');
    const before = ON_SHELF;
    await expect(page.getByRole('listitem')).toHaveCount(before);
    await importText(page, text);
    const dialog = page.getByRole('dialog');
    await expect(dialog).toContainText('Nothing was changed');
    await expect(dialog.getByRole('list', { name: 'Problems' })).toContainText(sentence);
    await dialog.getByRole('button', { name: 'Close' }).click();
    await expect(page.getByRole('listitem')).toHaveCount(before);
  });

test('wrong types, a missing reference, doubled names and a cycle are each told with their place', async ({
  page,
}) => {
  await page.goto('/');
  const piece = await (await page.request.get('/api/starters')).json();
  const chute = structuredClone(
    piece.starters.find((s: { title: string }) => s.title === 'Hinge that turns back').piece,
  );
  chute.objects.ob_flap.parent = 'ob_grip';
  chute.objects.ob_lid.base.opacity = 7;
  await importText(page, JSON.stringify(chute));
  const list = page.getByRole('list', { name: 'Problems' });
  await expect(list).toContainText('objects.ob_lid.base.opacity');
  await page.getByRole('button', { name: 'Close' }).click();
  chute.objects.ob_lid.base.opacity = 1;
  chute.reactions[Object.keys(chute.reactions)[0] as string].object = 'ob_gone';
  await importText(page, JSON.stringify(chute));
  await expect(list).toContainText('its own ancestor');
  await expect(list).toContainText('There is no object with the id "ob_gone"');
});

test('reading a large file can be cancelled', async ({ page }) => {
  await page.goto('/');
  const before = ON_SHELF;
  await expect(page.getByRole('listitem')).toHaveCount(before);
  await page.getByLabel('File to import').evaluate((input: HTMLInputElement) => {
    const keys = Array.from({ length: 200_000 }, (_, i) => `{"t":${i},"value":1,"easing":"hold"}`).join(',');
    const list = new DataTransfer();
    list.items.add(
      new File([`{"format":"apple-tick","version":1,"clips":[${`[${keys}],`.repeat(6)}0]}`], 'big.json'),
    );
    input.files = list.files;
    input.dispatchEvent(new Event('change', { bubbles: true }));
  });
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByRole('dialog')).toBeHidden();
  await expect(page.getByRole('listitem')).toHaveCount(before);
});

test('a page that is left right after an edit has kept it', async ({ page }) => {
  await newPiece(page);
  await addKind(page, 'Rectangle');
  for (const x of ['11', '22', '33']) {
    await page.getByRole('treeitem', { name: 'Rectangle' }).click();
    await page.getByLabel('Place x', { exact: true }).fill(x);
    await page.evaluate(() => {
      (document.activeElement as HTMLElement).blur();
      location.reload();
    });
    await page.waitForEvent('load');
    await page.getByRole('treeitem', { name: 'Rectangle' }).click();
    await expect(page.getByLabel('Place x', { exact: true })).toHaveValue(x);
  }
  await page.locator('body').press('ControlOrMeta+z');
  await expect(page.getByLabel('Place x', { exact: true })).toHaveValue('22');
});

test('a page that is left in the middle of a write has kept the edit too', async ({ page }) => {
  await newPiece(page);
  await addKind(page, 'Rectangle');
  // Edits are written about 250 ms after they were made.
  for (let wait = 216; wait < 250; wait += 3) {
    const x = String(1000 + wait);
    await page.getByRole('treeitem', { name: 'Rectangle' }).click();
    await page.getByLabel('Place x', { exact: true }).fill(x);
    const loaded = page.waitForEvent('load');
    await page.evaluate((ms) => {
      (document.activeElement as HTMLElement).blur();
      setTimeout(() => location.reload(), ms);
    }, wait);
    await loaded;
    await page.getByRole('treeitem', { name: 'Rectangle' }).click();
    await expect(page.getByLabel('Place x', { exact: true })).toHaveValue(x);
  }
});

test('the pieces of the first visit come once each, also where the page is left while they come', async ({
  page,
}) => {
  let fetched = 0;
  await page.route('**/api/starters/*.webp', async (route) => {
    // The first comes; what comes after it hangs.
    if (route.request().resourceType() !== 'fetch' || fetched++ === 0) await route.continue();
  });
  const kept = () =>
    page.evaluate(
      () =>
        new Promise<number>((done) => {
          const open = indexedDB.open('apple-tick');
          open.onsuccess = () => {
            const count = open.result.transaction('pieces').objectStore('pieces').count();
            count.onsuccess = () => done(count.result);
          };
        }),
    );
  await page.goto('/');
  await expect(page.getByRole('button', { name: /^Hinge that turns back/ }).first()).toBeVisible();
  await expect.poll(kept).toBe(1);
  await page.unroute('**/api/starters/*.webp');
  await page.reload();
  await expect.poll(kept).toBe(2);
  await page.reload();
  await expect(page.getByRole('button', { name: /^Chute/ }).first()).toBeVisible();
  expect(await kept()).toBe(2);
});
