/** By fingers, at 1024×768: targets are large enough, two fingers move the view, arranging, posing and running work. */
import { expect, type Page, test } from '@playwright/test';
import { addKind, colour, item, newPiece } from './helpers.ts';

test.use({ viewport: { width: 1024, height: 768 }, hasTouch: true, isMobile: true });

/** Fingers on the page, each at px, as the browser hears them. */
const fingers = async (page: Page) => {
  const cdp = await page.context().newCDPSession(page);
  const send = (type: 'touchStart' | 'touchMove' | 'touchEnd', at: readonly (readonly [number, number])[]) =>
    cdp.send('Input.dispatchTouchEvent', { type, touchPoints: at.map(([x, y], id) => ({ x, y, id })) });
  return {
    drag: async (from: readonly [number, number], to: readonly [number, number]) => {
      await send('touchStart', [from]);
      for (let k = 1; k <= 5; k++)
        await send('touchMove', [
          [from[0] + ((to[0] - from[0]) * k) / 5, from[1] + ((to[1] - from[1]) * k) / 5],
        ]);
      await send('touchEnd', []);
    },
    send,
  };
};
const middleOf = async (page: Page) => {
  const b = await page.getByLabel('Frame', { exact: true }).boundingBox();
  if (!b) throw new Error('no frame');
  return {
    x: b.x + b.width / 2,
    y: b.y + b.height / 2,
    scale: Math.min((b.width - 36) / 960, (b.height - 28) / 540),
  };
};

/** What is pressed and smaller than 32 px, with its size. */
const small = (page: Page) =>
  page.evaluate(() =>
    [...document.querySelectorAll('button, select, summary, a.btn, [role=tab], [role=treeitem]')].flatMap(
      (el) => {
        const r = el.getBoundingClientRect();
        if (r.width === 0 || r.height === 0 || el.closest('.sr-only, [inert]')) return [];
        // What is drawn small is taken hold of round about.
        const more = el.matches('[data-small]') ? 20 : 0;
        return r.height + more < 31.5 || r.width + more < 31.5
          ? [
              `${Math.round(r.width)}×${Math.round(r.height)} ${el.getAttribute('aria-label') ?? el.textContent}`,
            ]
          : [];
      },
    ),
  );

test('what is pressed is 32 px or more on the shelf, in a piece, in a timeline and in a run', async ({
  page,
}) => {
  await page.goto('/');
  await expect(page.getByRole('button', { name: /^Windfall Mill/ }).first()).toBeVisible();
  expect(await small(page)).toEqual([]);
  await page
    .getByRole('button', { name: /^Windfall Mill/ })
    .first()
    .tap();
  await page.getByRole('treeitem', { name: /^Flap/ }).tap();
  await expect(page.getByLabel('Name', { exact: true })).toHaveValue('Flap');
  expect(await small(page)).toEqual([]);
  await page.getByRole('button', { name: 'Animate', exact: true }).tap();
  await page.getByRole('menuitem', { name: /^tipping/ }).tap();
  await expect(page.getByRole('button', { name: 'Fold', exact: true })).toBeVisible();
  expect(await small(page)).toEqual([]);
  await page.getByRole('button', { name: 'Run', exact: true }).tap();
  await expect(page.getByRole('button', { name: 'Stop', exact: true })).toBeVisible();
  expect(await small(page)).toEqual([]);
});

test('two fingers take the view along and zoom it; what the first had begun is taken back', async ({
  page,
}) => {
  await newPiece(page);
  await addKind(page, 'Rectangle');
  const m = await middleOf(page);
  const hand = await fingers(page);
  // The first finger takes hold of the thing; then the second comes.
  await hand.send('touchStart', [[m.x, m.y]]);
  await hand.send('touchMove', [[m.x + 12, m.y]]);
  await hand.send('touchStart', [
    [m.x + 12, m.y],
    [m.x + 112, m.y],
  ]);
  for (let k = 1; k <= 4; k++)
    await hand.send('touchMove', [
      [m.x + 12 - 10 * k, m.y],
      [m.x + 112 + 15 * k, m.y],
    ]);
  await hand.send('touchEnd', []);
  await expect(page.getByLabel('Place x', { exact: true })).toHaveValue('0');
  await expect(page.getByRole('button', { name: '200 %', exact: true })).toBeVisible();
  await expect(page.getByRole('button', { name: /Undo “Added Rectangle/ })).toBeVisible();
});

test('a thing is placed, posed, and clicked in a run by a finger', async ({ page }) => {
  await newPiece(page);
  await addKind(page, 'Rectangle');
  const hand = await fingers(page);
  const m = await middleOf(page);
  await hand.drag([m.x, m.y + 20], [m.x - 100 * m.scale, m.y + 20]);
  await expect
    .poll(async () => Math.round(Number(await page.getByLabel('Place x', { exact: true }).inputValue())))
    .toBe(-100);
  await page.getByRole('button', { name: 'Animate', exact: true }).tap();
  // The frame is where it was, whatever has opened below.
  const n = await middleOf(page);
  await hand.drag([n.x - 100 * n.scale, n.y + 15], [n.x, n.y + 15]);
  // Its place in the plane is keyed: x and y, at the beginning and at the end.
  await expect(page.getByRole('button', { name: /^Key at/ })).toHaveCount(4);
  const when = page.getByRole('button', { name: 'from at rest: when?' });
  await expect(async () => {
    await when.tap();
    await expect(page.getByRole('dialog', { name: 'What sets it off' })).toBeVisible({ timeout: 1000 });
  }).toPass();
  await page.getByRole('button', { name: 'Rectangle is clicked' }).tap();
  await page.getByRole('button', { name: 'Run', exact: true }).tap();
  const frame = page.getByLabel('Live frame');
  const b = await frame.boundingBox();
  if (!b) throw new Error('no frame');
  const scale = Math.min((b.width - 36) / 960, (b.height - 28) / 540);
  await page.touchscreen.tap(b.x + b.width / 2 - 100 * scale, b.y + b.height / 2);
  await expect.poll(() => colour(page, 0, 0)).toBe('#7fa982');
  await page.getByRole('button', { name: 'Stop', exact: true }).tap();
  await expect(
    item(page, 'Rectangle')
      .or(page.getByRole('treeitem', { name: /^Rectangle/ }))
      .first(),
  ).toBeVisible();
});
