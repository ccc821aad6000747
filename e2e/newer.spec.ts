/** Drawings that come in again: several at once, newer versions by drop, by paste, from the properties, and watched. */
import { expect, type Page, test } from '@playwright/test';
import { colour, commit, dropFiles, newPiece, pickColour, undo } from './helpers.ts';

const LANTERN = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 200 200">
  <g id="lantern"><rect id="body" x="50" y="50" width="100" height="120" fill="#c0392b"/>
  <circle id="lamp" cx="100" cy="110" r="30" fill="#f1c40f"/></g>
  <rect id="foot" x="40" y="170" width="120" height="14" fill="#2c3e50"/></svg>`;
const NEWER = LANTERN.replace('#c0392b', '#2980b9')
  .replace('r="30"', 'r="36"')
  .replace(/<rect id="foot"[^>]*>/, '<path id="hook" d="M90 50 L100 10 L110 50 Z" fill="#27ae60"/>');

const paste = (page: Page, text: string) =>
  page.evaluate((text) => {
    const clipboardData = new DataTransfer();
    clipboardData.setData('text/plain', text);
    document.body.dispatchEvent(new ClipboardEvent('paste', { clipboardData, bubbles: true }));
  }, text);
const part = (page: Page, name: string) => page.getByRole('treeitem', { name, exact: true });
const dialog = (page: Page) => page.getByRole('dialog', { name: /A newer version of/ });
const row = (page: Page, name: string) => dialog(page).getByRole('listitem').filter({ hasText: name });

test('four files dropped at once lie side by side where they were dropped, are one step, and keep what was left out', async ({
  page,
}) => {
  await newPiece(page);
  const square = (fill: string, more = '') =>
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 60 60"><rect width="60" height="60" fill="${fill}"/>${more}</svg>`;
  await dropFiles(
    page,
    {
      'a.svg': square('#c0392b'),
      'b.svg': square('#27ae60', '<video/>'),
      'c.svg': square('#2980b9', '<foreignObject width="9" height="9"/>'),
      'd.svg': square('#8e44ad'),
    },
    40,
    60,
  );
  await expect(
    page.getByText(/brought in, of 4 files\. Left out or taken otherwise: .*c\.svg:/),
  ).toBeVisible();
  // 60 px wide and 20 px apart: 300 px about (40, 60).
  for (const [x, fill] of [
    [-80, '#c0392b'],
    [0, '#27ae60'],
    [80, '#2980b9'],
    [160, '#8e44ad'],
  ] as const)
    await expect.poll(() => colour(page, x, 60)).toBe(fill);
  await undo(page);
  await expect(page.getByText('Nothing here yet')).toBeVisible();
  await page.locator('body').press('ControlOrMeta+Shift+z');
  await page.reload();
  await part(page, 'c').click();
  await expect(page.getByRole('list', { name: 'Left out or taken otherwise' })).toContainText(
    'foreignObject',
  );
});

test('a newer version dropped on the drawing is shown beside it, keeps what was animated and changed here, and is one step', async ({
  page,
}) => {
  await newPiece(page);
  await dropFiles(page, { 'lantern.svg': LANTERN }, 0, 0);
  await expect.poll(() => colour(page, -40, 40)).toBe('#c0392b');
  // The lamp is animated, and painted here in a colour of one's own.
  await part(page, 'lamp').click();
  await pickColour(page, 'Fill', '#ff00aa');
  await page.getByRole('button', { name: 'Add a machine to lamp' }).first().click();
  await page.getByRole('button', { name: 'Add ▾' }).click();
  await page.getByRole('menuitem', { name: 'A state that plays a new clip' }).click();
  await page.getByRole('button', { name: 'Unfold its timeline' }).click();
  await page.getByLabel('Playhead, seconds').fill('0.7');
  await page.keyboard.press('Enter');
  await page.getByRole('treeitem', { name: /^lamp/ }).click();
  await commit(page, 'Turn ° z', '90');
  await expect(page.getByRole('button', { name: /^Key at/ })).toHaveCount(2);
  await dropFiles(page, { 'lantern.svg': NEWER }, 0, 0);
  await expect(dialog(page)).toBeVisible();
  await expect(row(page, 'hook')).toContainText('new');
  await expect(row(page, 'foot')).toContainText('gone');
  await expect(row(page, 'body')).toContainText('fill');
  await expect(row(page, 'lamp')).toContainText('drawing');
  await dialog(page).getByRole('button', { name: 'Replace' }).click();
  await expect(page.getByText('lantern.svg was read again: 4 parts differ.')).toBeVisible();
  await expect.poll(() => colour(page, -40, 40)).toBe('#2980b9');
  await expect.poll(() => colour(page, 0, 80)).toBe('#27ae60');
  await expect(part(page, 'foot')).toHaveCount(0);
  // The keys are there still, and the colour.
  await expect(page.getByRole('button', { name: /^Key at/ })).toHaveCount(2);
  expect(await colour(page, 0, -10)).toBe('#ff00aa');
  await undo(page);
  await expect.poll(() => colour(page, -40, 40)).toBe('#c0392b');
  await expect(part(page, 'foot')).toBeVisible();
  await page.locator('body').press('ControlOrMeta+Shift+z');
  await page.reload();
  await expect.poll(() => colour(page, -40, 40)).toBe('#2980b9');
});

test('what is unticked is left as it is; beside it comes in as another drawing; the same file changes nothing', async ({
  page,
}) => {
  await newPiece(page);
  await dropFiles(page, { 'lantern.svg': LANTERN }, 0, 0);
  await expect.poll(() => colour(page, -40, 40)).toBe('#c0392b');
  await dropFiles(page, { 'lantern.svg': NEWER }, 300, 0);
  await row(page, 'body').getByRole('checkbox').uncheck();
  await row(page, 'foot').getByRole('checkbox').press(' ');
  await dialog(page).getByRole('button', { name: 'Replace' }).press('Enter');
  await expect.poll(() => colour(page, 0, 80)).toBe('#27ae60');
  expect(await colour(page, -40, 40)).toBe('#c0392b');
  await expect(part(page, 'foot')).toBeVisible();
  await dropFiles(page, { 'lantern.svg': NEWER.replace('#27ae60', '#16a085') }, 200, 0);
  await dialog(page).getByRole('button', { name: 'Bring it in beside' }).click();
  await expect(part(page, 'lantern 2')).toBeVisible();
  await page.locator('body').press('Escape');
  await undo(page);
  await expect(part(page, 'lantern 2')).toHaveCount(0);
  // The very same file dropped on the drawing changes nothing; beside it, it is another copy.
  const now = NEWER.replace('#27ae60', '#16a085');
  await dropFiles(page, { 'same.svg': now }, 300, 200);
  await expect(part(page, 'same')).toBeVisible();
  await dropFiles(page, { 'same.svg': now }, 300, 200);
  await expect(page.getByText('Nothing in same.svg differs.')).toBeVisible();
  await expect(part(page, 'same 2')).toHaveCount(0);
  await dropFiles(page, { 'same.svg': now }, -300, -200);
  await expect(part(page, 'same 2')).toBeVisible();
  // A drawing of another name that has nothing in common is another drawing, wherever it is dropped.
  await dropFiles(
    page,
    {
      'star.svg':
        '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><circle id="star" r="4" cx="4" cy="4"/></svg>',
    },
    0,
    0,
  );
  await expect(part(page, 'star').first()).toBeVisible();
});

test('newer versions by paste, from the properties, and of a file that is watched', async ({ page }) => {
  await newPiece(page);
  await paste(page, `<!-- drawn elsewhere --><!DOCTYPE svg>${LANTERN}`);
  await expect.poll(() => colour(page, -40, 40)).toBe('#c0392b');
  await paste(page, NEWER);
  await dialog(page).getByRole('button', { name: 'Replace' }).click();
  await expect.poll(() => colour(page, -40, 40)).toBe('#2980b9');
  // From the properties, whatever the file is called.
  await page.getByLabel('Newer file').evaluate((el: HTMLInputElement) => {
    el.click = () => {};
  });
  await page.getByRole('button', { name: 'Replace with a newer file…' }).click();
  await page
    .getByLabel('Newer file')
    .setInputFiles({ name: 'other.svg', mimeType: '', buffer: Buffer.from(LANTERN) });
  await expect(row(page, 'hook')).toContainText('gone');
  await dialog(page).getByRole('button', { name: 'Replace' }).click();
  await expect.poll(() => colour(page, -40, 40)).toBe('#c0392b');
  // A wrong file is told, and nothing is lost.
  await page.getByRole('button', { name: 'Replace with a newer file…' }).click();
  await page
    .getByLabel('Newer file')
    .setInputFiles({ name: 'torn.svg', mimeType: '', buffer: Buffer.from('<svg') });
  await expect(page.getByRole('dialog', { name: 'torn.svg cannot be opened' })).toBeVisible();
  await page.keyboard.press('Escape');
  // A file that the browser may look at again.
  const write = (text: string) =>
    page.evaluate(async (text) => {
      const folder = await navigator.storage.getDirectory();
      const handle = await folder.getFileHandle('lantern.svg', { create: true });
      const out = await handle.createWritable();
      await out.write(text);
      await out.close();
      Object.assign(globalThis, { showOpenFilePicker: async () => [handle] });
    }, text);
  await write(LANTERN);
  await page.getByRole('button', { name: 'Watch a file…' }).click();
  await expect(page.getByRole('button', { name: 'Watched: stop' })).toBeVisible();
  await write(LANTERN.replace('#c0392b', '#123456'));
  await expect.poll(() => colour(page, -40, 40)).toBe('#123456');
  await expect(page.getByText('lantern.svg was read again: one part differs.')).toBeVisible();
  await undo(page);
  await expect.poll(() => colour(page, -40, 40)).toBe('#c0392b');
  await part(page, 'Picture').click();
  await page.getByRole('button', { name: 'Watched: stop' }).click();
  await expect(page.getByRole('button', { name: 'Watch a file…' })).toBeVisible();
});
