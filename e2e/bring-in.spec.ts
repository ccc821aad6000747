/** A10, A5: models, sounds, a picture's alpha as mask, and pictures on faces, as a user brings them in. */
import { readFileSync } from 'node:fs';
import { Document, WebIO } from '@gltf-transform/core';
import { expect, type Page, test } from '@playwright/test';
import { addKind, at, colour, commit, dropFiles, newPiece, section } from './helpers.ts';

/** A red crate 2 units wide with a lid of its own, as a .glb. */
async function crate(): Promise<Buffer> {
  const doc = new Document();
  const buffer = doc.createBuffer();
  const corners = [-1, 1].flatMap((x) => [-1, 1].flatMap((y) => [-1, 1].flatMap((z) => [x, y, z])));
  const sides = [0, 1, 3, 2, 4, 6, 7, 5, 0, 4, 5, 1, 2, 3, 7, 6, 0, 2, 6, 4, 1, 5, 7, 3];
  const triangles: number[] = [];
  for (let i = 0; i < sides.length; i += 4) {
    const [a, b, c, d] = sides.slice(i, i + 4) as [number, number, number, number];
    triangles.push(a, b, c, a, c, d);
  }
  const box = (color: [number, number, number, number]) =>
    doc.createMesh().addPrimitive(
      doc
        .createPrimitive()
        .setAttribute(
          'POSITION',
          doc.createAccessor().setType('VEC3').setArray(new Float32Array(corners)).setBuffer(buffer),
        )
        .setIndices(
          doc.createAccessor().setType('SCALAR').setArray(new Uint16Array(triangles)).setBuffer(buffer),
        )
        .setMaterial(doc.createMaterial().setBaseColorFactor(color)),
    );
  const root = doc.createNode('Crate').setMesh(box([1, 0, 0, 1]));
  root.addChild(
    doc
      .createNode('Lid')
      .setMesh(box([0, 0, 1, 1]))
      .setTranslation([0, 1.25, 0])
      .setScale([1, 0.25, 1]),
  );
  doc.createScene().addChild(root);
  return Buffer.from(await new WebIO().writeBinary(doc));
}
const bringIn = (page: Page, name: string, buffer: Buffer) =>
  page.getByLabel('File to bring in').setInputFiles({ name, mimeType: '', buffer });
const brighterRed = async (page: Page, x: number, y: number) => {
  const c = await colour(page, x, y);
  return Number.parseInt(c.slice(1, 3), 16) > 150 && Number.parseInt(c.slice(5), 16) < 60;
};

test('a model dropped in keeps its parts and colours, turns, is undone, and is there after a reload', async ({
  page,
}) => {
  await newPiece(page);
  await dropFiles(page, { 'Crate.glb': await crate() });
  await expect(page.getByRole('treeitem', { name: 'Lid', exact: true })).toHaveAttribute('aria-level', '3');
  await page.getByRole('button', { name: 'Good' }).click();
  await page.locator('body').press('Escape');
  // 2 × 2.5 units in 324 px: the crate from −162 to 97, the lid above it.
  await expect.poll(() => brighterRed(page, 60, -100)).toBe(true);
  expect(await brighterRed(page, 60, 130)).toBe(false);
  await page.getByRole('treeitem', { name: 'Lid', exact: true }).click();
  await expect(page.getByText('12 triangles, brought in')).toBeVisible();
  await commit(page, 'Size w', '20');
  await expect.poll(() => colour(page, 60, 130)).toBe('#dce7e2');
  await page.locator('body').press('ControlOrMeta+z');
  await page.locator('body').press('ControlOrMeta+z');
  await expect(page.getByText('Nothing here yet')).toBeVisible();
  await page.locator('body').press('ControlOrMeta+Shift+z');
  await expect.poll(() => brighterRed(page, 60, -100)).toBe(true);
  await page.reload();
  await expect.poll(() => brighterRed(page, 60, -100)).toBe(true);
});

test('broken models are explained, and the piece is as it was', async ({ page }) => {
  await newPiece(page);
  const good = await crate();
  const short = good.subarray(0, 300);
  const outside = Buffer.from(
    '{"asset":{"version":"2.0"},"buffers":[{"uri":"../crate.bin","byteLength":9}]}',
  );
  for (const [name, bytes, sentence] of [
    ['short.glb', short, 'its end is missing'],
    ['outside.gltf', outside, 'lie in another file, "../crate.bin"'],
    ['text.gltf', Buffer.from('hello'), 'not sound JSON'],
  ] as const) {
    await bringIn(page, name, bytes);
    await expect(page.getByRole('dialog')).toContainText(sentence);
    await page.getByRole('button', { name: 'Close' }).click();
  }
  await expect(page.getByText('Nothing here yet')).toBeVisible();
});

/** Half a second of a tone, as a WAV of 8,000 samples a second. */
const tone = () => {
  const n = 4000;
  const b = Buffer.alloc(44 + 2 * n);
  b.write('RIFF', 0);
  b.writeUInt32LE(36 + 2 * n, 4);
  b.write('WAVEfmt ', 8);
  b.writeUInt32LE(16, 16);
  b.writeUInt16LE(1, 20);
  b.writeUInt16LE(1, 22);
  b.writeUInt32LE(8000, 24);
  b.writeUInt32LE(16000, 28);
  b.writeUInt16LE(2, 32);
  b.writeUInt16LE(16, 34);
  b.write('data', 36);
  b.writeUInt32LE(2 * n, 40);
  for (let i = 0; i < n; i++) b.writeInt16LE(Math.round(8000 * Math.sin(i / 3)), 44 + 2 * i);
  return b;
};

test('a sound is brought in, played by a reaction, handed over, and one that is broken is explained', async ({
  page,
}) => {
  await page.addInitScript(() => {
    const start = AudioBufferSourceNode.prototype.start;
    const heard: number[] = [];
    Object.assign(globalThis, { heard });
    AudioBufferSourceNode.prototype.start = function (...a) {
      heard.push(this.buffer?.duration ?? 0);
      return start.apply(this, a);
    };
  });
  const heard = () => page.evaluate(() => (globalThis as unknown as { heard: number[] }).heard);
  await newPiece(page);
  await bringIn(page, 'broken.wav', tone().subarray(0, 20));
  await expect(page.getByRole('dialog')).toContainText('The sound is broken');
  await page.getByRole('button', { name: 'Close' }).click();
  await bringIn(page, 'Creak.wav', tone());
  await page.getByRole('button', { name: 'Creak 0.5 s' }).click();
  await page.getByRole('button', { name: 'Listen' }).click();
  await expect.poll(heard).toEqual([0.5]);

  await page.getByRole('button', { name: 'Add a box' }).click();
  await page.getByRole('button', { name: 'Add a reaction' }).click();
  await page.getByLabel('Action', { exact: true }).selectOption({ label: 'play the sound' });
  await expect(page.getByLabel('Sound', { exact: true }).locator('option:checked')).toHaveText('Creak');
  await page.getByRole('button', { name: 'Run', exact: true }).click();
  const view = await page.locator('canvas').first().boundingBox();
  await page.mouse.click((view?.x ?? 0) + (view?.width ?? 0) / 2, (view?.y ?? 0) + (view?.height ?? 0) / 2);
  await expect.poll(heard).toEqual([0.5, 0.5]);
  await page.getByRole('button', { name: 'Stop', exact: true }).click();

  await page.getByRole('link', { name: 'Hand over' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Export the file' }).click();
  const bytes = readFileSync(await (await download).path());
  await page.goto('/');
  await page
    .getByLabel('File to import')
    .setInputFiles({ name: 'p.tickpack', mimeType: 'application/zip', buffer: bytes });
  await page.getByRole('button', { name: 'Creak 0.5 s' }).click();
  await page.locator('body').press('Delete');
  await expect(page.getByRole('button', { name: 'Creak 0.5 s' })).toHaveCount(0);
  await page.locator('body').press('ControlOrMeta+z');
  await expect(page.getByRole('button', { name: 'Creak 0.5 s' })).toBeVisible();
});

/** A PNG of 80 × 80 px: a green disc of half the width, clear round it. */
const disc = async (page: Page) => {
  const url = await page.evaluate(() => {
    const c = document.createElement('canvas');
    c.width = 80;
    c.height = 80;
    const ctx = c.getContext('2d') as CanvasRenderingContext2D;
    ctx.fillStyle = '#356d47';
    ctx.arc(40, 40, 20, 0, 7);
    ctx.fill();
    return c.toDataURL('image/png');
  });
  return Buffer.from(url.slice(url.indexOf(',') + 1), 'base64');
};

test('a picture is a window where it is opaque, for itself and for others; undo gives back each step', async ({
  page,
}) => {
  await newPiece(page);
  await bringIn(page, 'Disc.png', await disc(page));
  await commit(page, 'Size w', '400');
  await commit(page, 'Size h', '400');
  await page.getByRole('button', { name: 'Good' }).click();
  await addKind(page, 'Rectangle');
  await commit(page, 'Size w', '500');
  await commit(page, 'Size h', '60');
  await expect.poll(() => colour(page, 150, 0)).toBe('#7fa982');
  await section(page, 'Mask');
  await page.getByLabel('Mask', { exact: true }).selectOption({ label: 'only inside Disc' });
  expect(await colour(page, 150, 0)).toBe('#7fa982');
  await page.getByLabel('where its picture is opaque').check();
  await expect.poll(() => colour(page, 150, 0)).toBe('#dce7e2');
  expect(await colour(page, 90, 20)).toBe('#7fa982');
  await page.getByLabel('Mask', { exact: true }).selectOption({ label: 'only outside Disc' });
  await expect.poll(() => colour(page, 150, 0)).toBe('#7fa982');
  expect(await colour(page, 90, 20)).toMatch(/^#3[56]/);
  await page.locator('body').press('ControlOrMeta+z');
  await expect.poll(() => colour(page, 150, 0)).toBe('#dce7e2');

  // What is clear in the picture is not clicked once it cuts itself.
  const clear = await at(page, 170, 150);
  await page.mouse.click(clear.x, clear.y);
  await expect(page.getByRole('treeitem', { selected: true })).toContainText('Disc');
  await page.getByLabel('Mask', { exact: true }).selectOption({ label: 'only where it is opaque' });
  await page.mouse.click(clear.x, clear.y);
  await expect(page.getByRole('treeitem', { selected: true })).toHaveCount(0);
});

test('a picture lies on the face of a box, upright and shaded, and is taken off again', async ({ page }) => {
  await newPiece(page);
  await bringIn(page, 'Disc.png', await disc(page));
  await page.getByRole('button', { name: 'Good' }).click();
  await commit(page, 'Place x', '-350');
  await addKind(page, 'Box');
  await commit(page, 'Size w', '200');
  await commit(page, 'Size h', '200');
  const before = await colour(page, 0, 0);
  await section(page, 'Pictures on faces');
  await page.getByLabel('Picture on the front').selectOption({ label: 'Disc' });
  // The green of the disc, a little darker, as the face is turned from the light.
  await expect.poll(() => colour(page, 0, 20)).not.toBe(before);
  const green = await colour(page, 0, 20);
  const part = (c: string, i: number) => Number.parseInt(c.slice(1 + 2 * i, 3 + 2 * i), 16);
  for (const i of [0, 1, 2]) {
    const shade = part(green, i) / part('#356d47', i);
    expect(shade).toBeGreaterThan(0.6);
    expect(shade).toBeLessThan(1);
    expect(shade).toBeCloseTo(part(before, 1) / part('#c4935a', 1), 1);
  }
  expect(await colour(page, 80, 80)).toBe(before);
  await page.reload();
  await expect.poll(() => colour(page, 0, 20)).toBe(green);
  await page.locator('body').press('ControlOrMeta+z');
  await expect.poll(() => colour(page, 0, 20)).toBe(before);
});

test('several files at once are brought in one after the other; a broken one among them is told and the rest goes on', async ({
  page,
}) => {
  await newPiece(page);
  const picture = await disc(page);
  await page.getByLabel('File to bring in').setInputFiles([
    { name: 'Disc.png', mimeType: 'image/png', buffer: picture },
    { name: 'Broken.png', mimeType: 'image/png', buffer: picture.subarray(0, 50) },
    { name: 'Crate.glb', mimeType: '', buffer: await crate() },
  ]);
  await expect(page.getByRole('dialog')).toContainText('Broken.png cannot be opened');
  await page.getByRole('button', { name: 'Close' }).click();
  await expect(page.getByRole('treeitem', { name: 'Lid', exact: true })).toBeVisible();
  await expect(page.getByRole('treeitem', { name: 'Disc', exact: true })).toBeVisible();
  await expect(page.getByRole('dialog')).toHaveCount(0);
});

/** A ball that is finer than can be drawn, on an arm that swings for a second. */
async function swing(): Promise<Buffer> {
  const doc = new Document();
  const buffer = doc.createBuffer();
  const [at, triangles]: [number[], number[]] = [[], []];
  const rings = 60;
  for (let i = 0; i <= rings; i++)
    for (let j = 0; j <= rings; j++) {
      const [a, b] = [(Math.PI * i) / rings, (2 * Math.PI * j) / rings];
      at.push(Math.sin(a) * Math.cos(b), Math.cos(a), -Math.sin(a) * Math.sin(b));
      const n = i * (rings + 1) + j;
      if (i < rings && j < rings)
        triangles.push(n, n + rings + 1, n + 1, n + 1, n + rings + 1, n + rings + 2);
    }
  const numbers = (type: 'SCALAR' | 'VEC3' | 'VEC4', of: Float32Array | Uint32Array) =>
    doc.createAccessor().setType(type).setArray(of).setBuffer(buffer);
  const ball = doc
    .createPrimitive()
    .setAttribute('POSITION', numbers('VEC3', new Float32Array(at)))
    .setIndices(numbers('SCALAR', new Uint32Array(triangles)))
    .setMaterial(doc.createMaterial().setBaseColorFactor([1, 0, 0, 1]));
  const arm = doc.createNode('Arm');
  arm.addChild(doc.createNode('Bob').setMesh(doc.createMesh().addPrimitive(ball)).setTranslation([0, -2, 0]));
  doc.createScene().addChild(arm);
  const sampler = doc
    .createAnimationSampler()
    .setInput(numbers('SCALAR', new Float32Array([0, 1])))
    .setOutput(numbers('VEC4', new Float32Array([0, 0, 0, 1, 0, 0, Math.SQRT1_2, Math.SQRT1_2])));
  doc
    .createAnimation('Swing')
    .addSampler(sampler)
    .addChannel(
      doc.createAnimationChannel().setTargetNode(arm).setTargetPath('rotation').setSampler(sampler),
    );
  return Buffer.from(await new WebIO().writeBinary(doc));
}

test('a model that is too fine is brought in with as many triangles as one chooses; its motion is a clip that plays', async ({
  page,
}) => {
  await newPiece(page);
  await dropFiles(page, { 'Swing.glb': await swing() });
  const dialog = page.getByRole('dialog', { name: 'Swing.glb is finer than can be drawn' });
  await expect(dialog).toContainText('It has 7,200 triangles');
  const has = async () => Number((await dialog.getByRole('status').textContent())?.replace(',', ''));
  expect(await has()).toBeGreaterThan(3500);
  await dialog.getByLabel('Triangles').fill('600');
  await expect.poll(has).toBeLessThanOrEqual(600);
  await page.getByRole('button', { name: 'Bring it in' }).click();
  await expect(page.getByText(/Swing came as a clip\. .*made simpler: \d+ triangles of 7,200/)).toBeVisible();
  await page.getByRole('button', { name: 'Good' }).click();
  // 2 units in 324 px: the ball fills the middle.
  await expect.poll(() => brighterRed(page, 0, 0)).toBe(true);
  await page.getByRole('tab', { name: 'Clips' }).click();
  await expect(page.getByText('Swing', { exact: true }).last()).toBeVisible();
  await page.locator('body').press('ControlOrMeta+z');
  await expect(page.getByText('Nothing here yet')).toBeVisible();
  await page.locator('body').press('ControlOrMeta+Shift+z');
  await page.reload();
  await expect.poll(() => brighterRed(page, 0, 0)).toBe(true);
});
