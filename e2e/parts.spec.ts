/** Parts of drawings: copies of a symbol, a part drawn as another one, parts that were painted, pictures that are large. */
import { expect, type Page, test } from '@playwright/test';
import { at, colour, dropFiles, item, newPiece, section, undo } from './helpers.ts';

const svg = (inner: string) => `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 400 200">${inner}</svg>`;
const redo = (page: Page) => page.locator('body').press('ControlOrMeta+Shift+z');
const dialog = (page: Page) => page.getByRole('dialog', { name: /A newer version of/ });

const ORCHARD = svg(`<symbol id="apple" overflow="visible"><circle id="flesh" r="30" fill="#b23529"/>
  <rect id="stalk" x="-3" y="-44" width="6" height="20" fill="#7a4f1d"/></symbol>
  <rect id="ground" y="180" width="400" height="20" fill="#7fa982"/>
  <use id="left" href="#apple" x="100" y="100"/><use id="middle" href="#apple" x="200" y="100"/>
  <use id="right" href="#apple" transform="translate(300 100) scale(1.5)"/>`);

test('copies of a symbol are instances of one template; a newer version of the symbol changes all of them in one step', async ({
  page,
}) => {
  await newPiece(page);
  await dropFiles(page, { 'orchard.svg': ORCHARD });
  const apples = () => Promise.all([-100, 0, 100].map((x) => colour(page, x, 0)));
  await expect.poll(apples).toEqual(['#b23529', '#b23529', '#b23529']);
  await item(page, 'middle').click();
  await expect(
    page
      .getByText('instance of apple')
      .or(page.getByText(/in 3 places/))
      .first(),
  ).toBeVisible();
  await undo(page);
  await expect(page.getByText('Nothing here yet')).toBeVisible();
  await redo(page);
  await page.reload();
  await expect.poll(apples).toEqual(['#b23529', '#b23529', '#b23529']);
  await dropFiles(page, { 'orchard.svg': ORCHARD.replace('#b23529', '#dfa83f') });
  const rows = dialog(page).getByRole('listitem');
  await expect(rows).toHaveCount(1);
  await expect(rows).toContainText('flesh');
  await expect(rows).toContainText('changed');
  await dialog(page).getByRole('button', { name: 'Replace' }).click();
  await expect.poll(apples).toEqual(['#dfa83f', '#dfa83f', '#dfa83f']);
  await undo(page);
  await expect.poll(apples).toEqual(['#b23529', '#b23529', '#b23529']);
});

const FACE = svg(`<rect id="head" x="100" width="200" height="200" fill="#dcd1bd"/>
  <circle id="open" cx="200" cy="100" r="40" fill="#2980b9"/>
  <rect id="closed" x="10" y="80" width="60" height="60" fill="#c0392b"/>
  <g id="glow" style="filter:blur(2px)"><rect x="320" y="40" width="60" height="60" fill="#f1c40f"/></g>`);

test('a part is drawn as another part, in its place, and is that one’s look; what was painted is taken out; each is one undo', async ({
  page,
}) => {
  await newPiece(page);
  await dropFiles(page, { 'face.svg': FACE });
  await expect.poll(() => colour(page, 0, 0)).toBe('#2980b9');
  await item(page, 'open').click();
  await section(page, 'File');
  await page.getByRole('button', { name: 'Draw it as another part' }).click();
  await page.getByRole('menuitem', { name: 'closed' }).click();
  await expect.poll(() => colour(page, 0, 0)).toBe('#c0392b');
  await expect(page.getByRole('button', { name: 'Undo “Drew open as closed”' })).toBeVisible();
  await undo(page);
  await expect.poll(() => colour(page, 0, 0)).toBe('#2980b9');
  await section(page, 'Looks');
  await page.getByRole('button', { name: 'A look drawn as another part' }).press('Enter');
  await page.getByRole('menuitem', { name: 'closed' }).press('Enter');
  await expect(page.getByRole('button', { name: 'Put on closed' })).toHaveAttribute('aria-pressed', 'true');
  await expect.poll(() => colour(page, 0, 0)).toBe('#c0392b');
  await undo(page);
  await expect.poll(() => colour(page, 0, 0)).toBe('#2980b9');
  await item(page, 'glow').click();
  await expect(page.getByText('It is a picture, since a filter cannot be drawn as shapes.')).toBeAttached();
  await item(page, 'face').click();
  await page.getByRole('button', { name: 'Take out the painted part' }).click();
  await expect(item(page, 'glow')).toHaveCount(0);
  await page.reload();
  await expect(item(page, 'head')).toBeVisible();
  await expect(item(page, 'glow')).toHaveCount(0);
  await undo(page);
  await expect(item(page, 'glow')).toBeVisible();
});

test('a picture of 24 million px is shown while it is read, kept smaller, and as large as it is when asked', async ({
  page,
}) => {
  await newPiece(page);
  const p = await at(page, 0, 0);
  await page.evaluate(async (p) => {
    const canvas = new OffscreenCanvas(6000, 4000);
    const ctx = canvas.getContext('2d') as OffscreenCanvasRenderingContext2D;
    ctx.fillStyle = '#c0392b';
    ctx.fillRect(0, 0, 6000, 4000);
    const blob = await canvas.convertToBlob({ type: 'image/jpeg' });
    const dataTransfer = new DataTransfer();
    dataTransfer.items.add(new File([blob], 'field.jpg', { type: 'image/jpeg' }));
    document
      .querySelector('canvas')
      ?.dispatchEvent(
        new DragEvent('drop', { dataTransfer, bubbles: true, cancelable: true, clientX: p.x, clientY: p.y }),
      );
  }, p);
  await expect(page.getByAltText('What field.jpg shows')).toBeVisible();
  await expect(page.getByText(/A large picture is kept smaller/)).toBeVisible();
  await expect.poll(() => colour(page, 0, 0)).toMatch(/^#c[01]3\w2\w$/);
  await expect(
    page.getByText('It is kept with 2,048 × 1,365 px; the file has 6,000 × 4,000 px.'),
  ).toBeVisible();
  await page.getByRole('button', { name: 'Keep it as large as it is' }).click();
  await expect(page.getByText(/It is kept with/)).toHaveCount(0);
  await undo(page);
  await expect(page.getByText(/It is kept with/)).toBeVisible();
  await undo(page);
  await expect(page.getByText('Nothing here yet')).toBeVisible();
});
