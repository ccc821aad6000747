import AxeBuilder from '@axe-core/playwright';
import { expect, type Page, test } from '@playwright/test';
import { changeReaction, openChute } from './helpers.ts';

/** Texts that are cut off, and texts that lie over other texts, as they are on the screen now. */
const faults = (page: Page) =>
  page.evaluate(() => {
    const seen = [
      ...document.querySelectorAll<HTMLElement>('button, span, p, h1, h2, h3, label, a, summary, li'),
    ].filter(
      (e) =>
        [...e.childNodes].some((n) => n.nodeType === 3 && n.textContent?.trim()) &&
        e.checkVisibility({ visibilityProperty: true }) &&
        !e.closest('.sr-only, [aria-hidden="true"]'),
    );
    const cut = seen
      .filter((e) => e.scrollWidth > e.clientWidth + 1 && getComputedStyle(e).overflowX !== 'visible')
      // A ticket or chip that does not fit shortens and says the whole on hover.
      .filter((e) => !e.closest('[title]'))
      .map((e) => `cut: ${e.textContent}`);
    // Numbers in fields are read whole.
    for (const e of document.querySelectorAll<HTMLInputElement>('input.num'))
      if (e.checkVisibility({ visibilityProperty: true }) && e.scrollWidth > e.clientWidth + 1)
        cut.push(`cut: ${e.value} in ${e.ariaLabel}`);
    // What a scrolling part does not show now is not on the screen.
    const visible = (r: DOMRect, e: HTMLElement) => {
      let [x0, y0, x1, y1] = [r.left, r.top, r.right, r.bottom];
      for (let p: HTMLElement | null = e; p; p = p.parentElement) {
        if (getComputedStyle(p).overflowY === 'visible' && getComputedStyle(p).overflowX === 'visible')
          continue;
        const b = p.getBoundingClientRect();
        [x0, y0, x1, y1] = [
          Math.max(x0, b.left),
          Math.max(y0, b.top),
          Math.min(x1, b.right),
          Math.min(y1, b.bottom),
        ];
      }
      return { x0, y0, x1, y1 };
    };
    const rects = seen
      .map((e) => {
        const range = document.createRange();
        range.selectNodeContents(e);
        return { e, r: visible(range.getBoundingClientRect(), e), sticky: e.closest('.sticky') };
      })
      .filter(({ r }) => r.x1 > r.x0 && r.y1 > r.y0);
    const over: string[] = [];
    rects.forEach((a, i) => {
      for (const b of rects.slice(i + 1)) {
        if (a.e.contains(b.e) || b.e.contains(a.e) || a.sticky !== b.sticky) continue;
        const w = Math.min(a.r.x1, b.r.x1) - Math.max(a.r.x0, b.r.x0);
        const h = Math.min(a.r.y1, b.r.y1) - Math.max(a.r.y0, b.r.y0);
        if (w > 2 && h > 3) over.push(`${a.e.textContent} over ${b.e.textContent}`);
      }
    });
    if (document.documentElement.scrollWidth > innerWidth) over.push('the page is wider than the window');
    return [...cut, ...over];
  });

// Colours differ by theme and not by size, places by size and not by theme.
for (const [theme, width, height, axe, layout] of [
  ['light', 1280, 800, true, true],
  ['dark', 1280, 800, true, false],
  ['light', 1024, 700, false, true],
] as const)
  test(`${axe ? 'nothing serious for axe' : ''}${axe && layout ? ', ' : ''}${layout ? 'no text cut off or over other text' : ''}: ${theme}, ${width}×${height}`, async ({
    page,
  }) => {
    test.slow();
    await page.addInitScript((t) => localStorage.setItem('apple-tick-theme', t), theme);
    await page.setViewportSize({ width, height });
    const check = async (where: string) => {
      if (layout) expect(await faults(page), where).toEqual([]);
      if (!axe) return;
      // There are no frames in the page, so nothing has to be put together in another one.
      const found = await new AxeBuilder({ page })
        .setLegacyMode(true)
        .options({ resultTypes: ['violations'] })
        .analyze();
      const serious = found.violations.filter((v) => v.impact === 'serious' || v.impact === 'critical');
      const told = serious.map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(' ')).join(', ')}`);
      expect(told, where).toEqual([]);
    };
    await page.goto('/');
    await expect(page.getByRole('listitem').first()).toBeVisible();
    await check('shelf');
    await openChute(page);
    await page.getByRole('treeitem', { name: /^Flap/ }).click();
    await check('a reaction that is read');
    await changeReaction(page);
    await page.getByText('only if, how often').click();
    await check('object');
    for (const part of ['Looks', 'Pictures on faces', 'Mask', 'On top', 'Hit shape'])
      await page.locator('summary', { hasText: part }).click();
    await page.getByLabel('fixed to the frame').check();
    await page.getByLabel('Where it is clicked').selectOption('rect');
    await check('more of an object');
    await page.getByRole('treeitem', { name: /^Lid/ }).click({ modifiers: ['ControlOrMeta'] });
    await check('several objects');
    await page.locator('body').press('Escape');
    await check('the piece');
    await page.getByRole('button', { name: 'Transition: done' }).first().click();
    await check('transition');
    await page.getByRole('button', { name: 'flap open switch' }).click();
    await check('signal');
    await page.locator('[data-state="tipping"]').press('Enter');
    await page.getByRole('button', { name: 'Add a cue' }).click();
    await check('cue');
    await page.getByRole('button', { name: 'Key at 0.70 s' }).press('Enter');
    await check('key');
    await page.getByRole('group', { name: 'Timeline' }).press('Escape');
    for (const kind of ['Burst', 'Flash', 'Shake']) {
      await page.getByRole('button', { name: 'Add a sound or effect' }).click();
      await page.getByRole('menuitem', { name: kind, exact: true }).click();
      await check(kind);
    }
    await page.getByRole('tab', { name: 'Cue sheets' }).click();
    await check('no cue sheet');
    await page.getByRole('button', { name: 'Add a cue sheet' }).click();
    for (const what of ['caption', 'tween', 'flash']) {
      await page.getByRole('button', { name: '+ cue', exact: true }).click();
      await page.getByLabel('Action', { exact: true }).selectOption(what);
    }
    await page.getByRole('button', { name: /^Cue cue,/ }).click();
    await page.getByRole('button', { name: '+ answers' }).click();
    await page.getByRole('button', { name: '+ wait for something' }).click();
    await check('cue sheet');
    await page.getByRole('treeitem', { name: /^Lid/ }).click();
    await page.getByRole('button', { name: 'let the person walk Lid' }).click();
    await check('visitor');
    await page.getByRole('tab', { name: 'Lanes' }).click();
    await page.getByRole('button', { name: 'Run', exact: true }).click();
    await page.getByRole('switch').click();
    await expect(page.getByText('Flap shut → tipping').first()).toBeVisible();
    await page.getByRole('button', { name: 'Pause', exact: true }).click();
    await check('run');
    await page.getByRole('button', { name: 'Stop' }).click();
    await page.getByRole('link', { name: 'Hand over' }).click();
    await expect(page.getByRole('button', { name: 'Export the file' })).toBeVisible();
    await check('hand over');
  });

test('the check itself finds a text that is cut off and one that lies over another', async ({ page }) => {
  await page.goto('/');
  await expect(page.getByText('Apple Tick', { exact: true })).toBeVisible();
  await page.evaluate(() => document.fonts.ready);
  await page.evaluate(() => {
    const cut = document.createElement('p');
    cut.textContent = 'far too long for its place';
    cut.style.cssText = 'width:40px;overflow:hidden;white-space:nowrap';
    const over = document.createElement('p');
    over.textContent = 'over';
    over.style.cssText = 'position:fixed;top:8px;left:40px';
    document.body.append(cut, over);
  });
  const found = await faults(page);
  expect(found).toContain('cut: far too long for its place');
  expect(found.some((f) => f.includes('over over') || f.endsWith('over over'))).toBe(true);
});
