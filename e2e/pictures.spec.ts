import { readFileSync } from 'node:fs';
import { expect, type Page, test } from '@playwright/test';
import { colour, commit, drag, dropFiles, newPiece } from './helpers.ts';

const PRESS = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 400 300">
  <defs><linearGradient id="g" x1="0" y1="0" x2="0" y2="1"><stop offset="0" stop-color="#dce7e2"/><stop offset="1" stop-color="#815a15"/></linearGradient></defs>
  <rect width="400" height="300" fill="#f4eee2"/>
  <g id="frame" transform="translate(60 40)">
    <rect id="left" width="30" height="200" fill="#c4935a"/>
    <rect id="right" x="230" width="30" height="200" fill="#c4935a"/>
    <rect id="beam" x="-10" y="-20" width="280" height="34" rx="6" fill="#d8ac72" stroke="#815a15" stroke-width="4"/>
  </g>
  <g id="screw" transform="rotate(12 190 120)"><rect x="180" y="50" width="20" height="120" fill="#93907f"/>
    <ellipse cx="190" cy="180" rx="70" ry="24" fill="#b23529"/></g>
  <path id="tub" d="M80 220 C 90 290 290 290 300 220 Z" fill="url(#g)" stroke="#20302a" stroke-width="3" stroke-linejoin="round"/>
  <circle cx="330" cy="80" r="24" fill="#dfa83f" fill-opacity=".6"/>
  <path d="M310 200 q 20 -40 40 0 t 40 0" fill="none" stroke="#356d47" stroke-width="6" stroke-linecap="round"/>
</svg>`;
const file = (name: string, text: string, mimeType = 'image/svg+xml') => ({
  name,
  mimeType,
  buffer: Buffer.from(text),
});
const bringIn = (page: Page, name: string, text: string) =>
  page
    .getByLabel('File to bring in')
    .setInputFiles(file(name, text, name.endsWith('.svg') ? 'image/svg+xml' : 'text/plain'));

test('A10: an SVG looks as in the browser itself, its groups are kept, undo takes it back', async ({
  page,
}) => {
  await newPiece(page);
  await bringIn(page, 'Press.svg', PRESS);
  await expect(page.getByRole('status')).toContainText('11 objects were brought in.');
  await expect(page.getByRole('treeitem', { name: 'screw', exact: true })).toHaveAttribute('aria-level', '2');
  await expect(page.getByRole('treeitem', { name: 'beam', exact: true })).toHaveAttribute('aria-level', '3');
  await page.getByRole('button', { name: 'Good' }).click();
  await page.locator('body').press('Escape');
  // The same file drawn by Chromium's own SVG, at the same place and size, compared point by point.
  const far = await page.evaluate(async (text) => {
    const canvas = document.querySelector('canvas') as HTMLCanvasElement;
    const scale = Math.min((canvas.clientWidth - 36) / 960, (canvas.clientHeight - 28) / 540);
    const ratio = canvas.width / canvas.clientWidth;
    const k = scale * ratio;
    const img = new Image();
    img.src = `data:image/svg+xml,${encodeURIComponent(text.replace('<svg ', '<svg width="400" height="300" '))}`;
    await img.decode();
    const other = document.createElement('canvas');
    other.width = canvas.width;
    other.height = canvas.height;
    const ctx = other.getContext('2d') as CanvasRenderingContext2D;
    ctx.drawImage(img, canvas.width / 2 - 200 * k, canvas.height / 2 - 150 * k, 400 * k, 300 * k);
    const a = canvas.getContext('2d')?.getImageData(0, 0, canvas.width, canvas.height).data ?? [];
    const b = ctx.getImageData(0, 0, canvas.width, canvas.height).data;
    let asked = 0;
    let wrong = 0;
    for (let y = Math.ceil(canvas.height / 2 - 148 * k); y < canvas.height / 2 + 148 * k; y++)
      for (let x = Math.ceil(canvas.width / 2 - 198 * k); x < canvas.width / 2 + 198 * k; x++) {
        const i = (y * canvas.width + x) * 4;
        asked++;
        const d = Math.max(...[0, 1, 2].map((n) => Math.abs((a[i + n] as number) - (b[i + n] as number))));
        if (d > 40) wrong++;
      }
    return { asked, wrong };
  }, PRESS);
  expect(far.asked).toBeGreaterThan(20_000);
  // Only rims differ, by the way they are smoothed.
  expect(far.wrong / far.asked).toBeLessThan(0.004);
  await page.locator('body').press('ControlOrMeta+z');
  await expect(page.getByText('Nothing here yet')).toBeVisible();
  await page.locator('body').press('ControlOrMeta+Shift+z');
  await page.reload();
  await expect(page.getByRole('treeitem', { name: 'tub', exact: true })).toBeVisible();
});

test('A10: by dropping and by pasting; what is not understood is listed and never runs', async ({ page }) => {
  await newPiece(page);
  let ran = false;
  await page.exposeFunction('ran', () => {
    ran = true;
  });
  const hostile = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><script>ran()</script><rect id="&lt;img src=x onerror=ran()&gt;" width="9" height="9" onclick="ran()"/><foreignObject><iframe src="javascript:ran()"/></foreignObject></svg>`;
  await dropFiles(page, { 'hostile.svg': hostile });
  await expect(page.getByRole('status')).toContainText(
    'One object was brought in. Left out or taken otherwise: <script>, a script in onclick, <foreignObject>.',
  );
  await expect(page.getByRole('treeitem', { name: '<img src=x onerror=ran()>' })).toBeVisible();
  await page.evaluate((text) => {
    const data = new DataTransfer();
    data.setData('text/plain', text);
    document.body.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true }));
  }, PRESS);
  await expect(page.getByRole('treeitem', { name: 'tub', exact: true })).toBeVisible();
  expect(ran).toBe(false);
});

for (const [what, name, text, sentence] of [
  ['another kind of file', 'notes.txt', 'hello', 'This kind of file cannot be brought in'],
  [
    'a picture of a kind that no browser reads',
    'scan.tif',
    'II*\0 and more',
    'A TIFF picture cannot be brought in',
  ],
  ['a picture that is no whole one', 'cut.gif', 'GIF89a', 'A GIF picture cannot be read by this browser'],
  ['broken XML', 'broken.svg', '<svg><g></svg>', 'cannot be read as SVG'],
  [
    'an entity bomb',
    'bomb.svg',
    `<!DOCTYPE s [<!ENTITY a "&b;&b;"><!ENTITY b "&a;&a;">]><svg>&b;</svg>`,
    'entities',
  ],
  [
    'far too deep nesting',
    'deep.svg',
    `<svg>${'<g>'.repeat(400)}${'</g>'.repeat(400)}</svg>`,
    'nested more than',
  ],
] as const)
  test(`a wrong file dropped in, ${what}, is explained, and the piece is as it was`, async ({ page }) => {
    await newPiece(page);
    await page.getByRole('button', { name: 'Add a box' }).click();
    await bringIn(page, name, text);
    await expect(page.getByRole('dialog')).toContainText(sentence);
    await page.getByRole('button', { name: 'Close' }).click();
    await expect(page.getByRole('treeitem')).toHaveCount(1);
    await expect(page.getByRole('button', { name: 'Undo “Added Box”' })).toBeEnabled();
  });

/** A PNG of 4 × 2 px, each of its own colour. */
const tile = async (page: Page) => {
  const url = await page.evaluate(() => {
    const c = document.createElement('canvas');
    c.width = 4;
    c.height = 2;
    const ctx = c.getContext('2d') as CanvasRenderingContext2D;
    ['#b23529', '#356d47', '#2f6785', '#dfa83f', '#20302a', '#7b4a70', '#815a15', '#fffcf5'].forEach(
      (f, i) => {
        ctx.fillStyle = f;
        ctx.fillRect(i % 4, Math.floor(i / 4), 1, 1);
      },
    );
    return c.toDataURL('image/png');
  });
  return Buffer.from(url.slice(url.indexOf(',') + 1), 'base64');
};
test('A10: a PNG is brought in, pixel-sharp, cut into parts; handed over as a tickpack and opened again', async ({
  page,
}) => {
  await newPiece(page);
  await page
    .getByLabel('File to bring in')
    .setInputFiles({ name: 'Tile.png', mimeType: 'image/png', buffer: await tile(page) });
  await expect(page.getByText('Tile: 4 × 2 px')).toBeVisible();
  await page.getByLabel('pixels as squares').check();
  await page.getByLabel('Size w').fill('400');
  await page.keyboard.press('Enter');
  await page.getByLabel('Size h').fill('200');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Good' }).click();
  await expect.poll(() => colour(page, -150, 70)).toBe('#b23529');
  expect(await colour(page, 120, -70)).toBe('#fffcf5');
  // Only a part of it.
  await page.getByLabel('Part x').fill('2');
  await page.keyboard.press('Enter');
  await expect.poll(() => colour(page, -150, 70)).toBe('#2f6785');
  await page.locator('body').press('ControlOrMeta+z');
  await page.getByRole('button', { name: 'Cut it into parts…' }).click();
  await commit(page, 'Columns', '4');
  await commit(page, 'Rows', '2');
  await page.getByRole('button', { name: 'Equal cells' }).click();
  await page.getByRole('button', { name: 'Cut', exact: true }).click();
  await expect(page.getByRole('treeitem')).toHaveCount(9);
  await expect.poll(() => colour(page, -150, 70)).toBe('#b23529');
  await page.getByRole('treeitem', { name: 'Tile 1', exact: true }).click();
  await page.getByLabel('Place y').fill('150');
  await page.keyboard.press('Enter');
  await expect.poll(() => colour(page, -150, 70)).toBe('#dce7e2');
  await page.reload();
  await expect.poll(() => colour(page, 120, -70)).toBe('#fffcf5');

  await page.getByRole('link', { name: 'Hand over' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Export the file' }).click();
  const file = await download;
  expect(file.suggestedFilename()).toBe('Untitled piece.tickpack');
  const bytes = readFileSync(await (await file).path());
  await page.goto('/');
  // In another browser, as it were: nothing is kept here.
  await page.evaluate(
    () =>
      new Promise((done) => {
        const r = indexedDB.deleteDatabase('apple-tick');
        r.onsuccess = done;
        r.onblocked = done;
      }),
  );
  await page.reload();
  await page
    .getByLabel('File to import')
    .setInputFiles({ name: 'p.tickpack', mimeType: 'application/zip', buffer: bytes });
  await expect(page.getByRole('treeitem')).toHaveCount(9);
  await expect.poll(() => colour(page, 120, -70)).toBe('#fffcf5');
});

test('pictures that lie are harmless: a small file that claims 65535 × 65535, one cut short, a broken tickpack', async ({
  page,
}) => {
  await newPiece(page);
  const huge = await tile(page);
  huge.writeUInt32BE(65535, 16);
  huge.writeUInt32BE(65535, 20);
  const cut = (await tile(page)).subarray(0, 60);
  for (const [buffer, sentence] of [
    [huge, '65535 × 65535'],
    [cut, 'cannot be decoded'],
  ] as const) {
    await page.getByLabel('File to bring in').setInputFiles({ name: 'x.png', mimeType: 'image/png', buffer });
    await expect(page.getByRole('dialog')).toContainText(sentence);
    await page.getByRole('button', { name: 'Close' }).click();
  }
  await expect(page.getByText('Nothing here yet')).toBeVisible();
  await page.goto('/');
  await page.getByLabel('File to import').setInputFiles({
    name: 'x.tickpack',
    mimeType: 'application/zip',
    buffer: Buffer.from('PK\x03\x04nothing'),
  });
  await expect(page.getByRole('dialog')).toContainText('The file is broken');
});

test('a GIF that moves comes in as looks, with a clip that puts on each for its time', async ({ page }) => {
  // Three pictures of 1 × 1 px, red, blue and red again, shown 0.2, 0.3 and 0.5 s.
  const frame = (hundredths: number, index: 0 | 1) => [
    ...[0x21, 0xf9, 4, 0, hundredths, 0, 0, 0, 0x2c, 0, 0, 0, 0, 1, 0, 1, 0, 0],
    ...[2, 2, index === 0 ? 0x44 : 0x4c, 1, 0],
  ];
  const gif = Buffer.from([
    ...Buffer.from('GIF89a'),
    ...[1, 0, 1, 0, 0x80, 0, 0, 0xc1, 0x44, 0x36, 0x2f, 0x67, 0x85],
    ...[...frame(20, 0), ...frame(30, 1), ...frame(50, 0), 0x3b],
  ]);
  await newPiece(page);
  await page
    .getByLabel('File to bring in')
    .setInputFiles({ name: 'blink.gif', mimeType: 'image/gif', buffer: gif });
  await expect(page.getByRole('status')).toContainText('blink moves came as a clip.');
  await commit(page, 'Size w', '100');
  await commit(page, 'Size h', '100');
  await expect.poll(() => colour(page, 20, 20)).toBe('#c14436');
  await page.getByRole('button', { name: 'Put on picture 2' }).click();
  await expect.poll(() => colour(page, 20, 20)).toBe('#2f6785');
  await page.reload();
  await expect.poll(() => colour(page, 20, 20)).toBe('#2f6785');
});

test('a sheet is cut by what is clear, by hand and by keyboard, into parts that keep their scale, or a clip', async ({
  page,
}) => {
  await newPiece(page);
  // Three squares of 20 px on clear ground, 80 × 40 px.
  const url = await page.evaluate(() => {
    const c = document.createElement('canvas');
    [c.width, c.height] = [80, 40];
    const ctx = c.getContext('2d') as CanvasRenderingContext2D;
    for (const [i, fill] of ['#b23529', '#356d47', '#2f6785'].entries()) {
      ctx.fillStyle = fill;
      ctx.fillRect(3 + 26 * i, 10, 20, 20);
    }
    return c.toDataURL();
  });
  const buffer = Buffer.from(url.split(',')[1] ?? '', 'base64');
  await page.getByLabel('File to bring in').setInputFiles({ name: 'sheet.png', mimeType: '', buffer });
  await commit(page, 'Size w', '160');
  await commit(page, 'Size h', '80');
  const dialog = page.getByRole('dialog', { name: 'Cut sheet' });
  const open = () => page.getByRole('button', { name: 'Cut it into parts…' }).click();
  await open();
  await dialog.getByRole('button', { name: 'Find the parts' }).click();
  await expect(dialog.getByText('3 parts')).toBeVisible();
  await dialog.getByRole('button', { name: 'Part 2' }).focus();
  await page.keyboard.press('Delete');
  await expect(dialog.getByText('2 parts')).toBeVisible();
  // Drawn roughly by hand, it fits itself to the square.
  const board = await dialog.locator('[data-board]').boundingBox();
  if (!board) throw new Error('no picture');
  const k = board.width / 80;
  await drag(page, { x: board.x + 26 * k, y: board.y + 4 * k }, 25 * k, 32 * k);
  await page.mouse.up();
  await expect(dialog.getByText('3 parts')).toBeVisible();
  await dialog.getByRole('button', { name: 'Cut', exact: true }).click();
  await page.getByRole('treeitem', { name: 'sheet 3', exact: true }).click();
  await expect(page.getByLabel('Size w')).toHaveValue('40');
  for (const name of ['Part x', 'Part y', 'Part w', 'Part h'])
    await expect(page.getByLabel(name)).toBeVisible();
  await expect(page.getByLabel('Part x')).toHaveValue('29');
  await expect.poll(() => colour(page, 0, 0)).toBe('#356d47');
  await page.locator('body').press('ControlOrMeta+z');
  await page.getByRole('treeitem', { name: 'sheet', exact: true }).click();
  await open();
  await dialog.getByRole('button', { name: 'Find the parts' }).click();
  await dialog.getByLabel('What is made').selectOption('clip');
  await commit(page, 'Pictures a second', '4');
  await dialog.getByRole('button', { name: 'Cut', exact: true }).click();
  await expect(page.getByText('sheet moves came as a clip.')).toBeVisible();
  await expect.poll(() => colour(page, 0, 0)).toBe('#b23529');
  await page.getByRole('button', { name: 'Put on picture 3' }).click();
  await expect.poll(() => colour(page, 0, 0)).toBe('#2f6785');
  await page.reload();
  await expect.poll(() => colour(page, 0, 0)).toBe('#2f6785');
});
