/** What is shown is what runs, and what is chosen is what is meant: through the page, as people use it. */
import { expect, type Page, test } from '@playwright/test';
import {
  addKind,
  at,
  commit,
  drag,
  item,
  middle,
  newPiece,
  oneRow,
  openChute,
  pips,
  twoRows,
  undo,
} from './helpers.ts';

/** Lines of the log: each stands there once, and besides as the cause of others. */
const happened = (page: Page, words: string) =>
  page.getByRole('list', { name: /^What happened/ }).getByText(words, { exact: true });
const draw = async (
  page: Page,
  kind: string,
  from: readonly [number, number],
  to: readonly [number, number],
) => {
  await page.getByRole('button', { name: 'Draw ▾' }).click();
  await page.getByRole('menuitem', { name: kind, exact: true }).click();
  const a = await at(page, ...from);
  await drag(page, a, (to[0] - from[0]) * a.scale, (from[1] - to[1]) * a.scale);
  await page.mouse.up();
};

test('the keyboard in the live frame: focus is the pointer, Enter a press and a click; other keys are the desk’s', async ({
  page,
}) => {
  await openChute(page);
  await page.getByRole('button', { name: 'Run', exact: true }).click();
  await page.getByLabel('Live frame').focus();
  await page.keyboard.press('Tab');
  await expect(page.getByRole('button', { name: 'Open the chute' })).toBeFocused();
  // Its hint stands there, as for a pointer.
  await expect(page.getByRole('status').filter({ hasText: 'Open the chute' })).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(happened(page, 'Flap was clicked')).toHaveCount(1);
  await expect(
    page
      .getByRole('list', { name: /^What happened/ })
      .getByText('shut → tipping')
      .first(),
  ).toBeVisible();
  await expect(page.getByText('cannot be seen')).toHaveCount(0);
  await page.keyboard.press('Space');
  await expect(happened(page, 'Flap was clicked')).toHaveCount(2);
  // R is not heard by the piece: it stops the run, from there and after a click in the frame.
  await page.keyboard.press('r');
  await expect(page.getByRole('button', { name: 'Run', exact: true })).toBeVisible();
  await page.keyboard.press('r');
  await page.getByLabel('Live frame').click({ position: { x: 300, y: 100 } });
  await page.keyboard.press('r');
  await expect(page.getByRole('button', { name: 'Run', exact: true })).toBeVisible();
});

test('letters right after drawing are its name; Enter in a field gives the keys back', async ({ page }) => {
  await newPiece(page);
  await draw(page, 'Rectangle', [-60, 60], [60, -60]);
  await page.keyboard.type('crate');
  await page.keyboard.press('Enter');
  await expect(item(page, 'crate')).toHaveAttribute('aria-selected', 'true');
  await expect(page.getByRole('button', { name: 'Run', exact: true })).toBeVisible();
  await commit(page, 'Place x', '40');
  await page.keyboard.press('r');
  await expect(page.getByRole('button', { name: 'Stop', exact: true })).toBeVisible();
});

test('with a clip open another thing is not keyed into it: it is folded in sight, and takes the thing in when asked', async ({
  page,
}) => {
  await oneRow(page);
  await addKind(page, 'Ball');
  await expect(pips(page)).toHaveCount(0);
  const offer = page.getByRole('status').filter({ hasText: 'Ball is not in' });
  await expect(offer).toBeVisible();
  await commit(page, 'Place y', '70');
  // That was its base: it stands there with everything folded.
  await expect(page.getByLabel('Place y', { exact: true })).toHaveValue('70');
  await offer.getByRole('button', { name: /^Add it to/ }).click();
  await expect(pips(page)).toHaveCount(2);
  await commit(page, 'Place y', '90');
  await expect(pips(page)).toHaveCount(4);
});

test('choosing a thing brings its lanes, or recipes when it has none', async ({ page }) => {
  await openChute(page);
  await page.getByRole('treeitem', { name: /^Lawn/ }).click();
  await expect(page.getByRole('region', { name: 'Recipes for Lawn' })).toBeVisible();
  await page.getByRole('treeitem', { name: /^Flap/ }).click();
  await expect(page.locator('[data-state="tipping"]')).toBeVisible();
});

test('new reactions begin empty, and nothing that was made on the way is left', async ({ page }) => {
  await newPiece(page);
  await addKind(page, 'Rectangle');
  await page.getByRole('button', { name: 'Add a reaction' }).click();
  const action = page.getByLabel('Action', { exact: true });
  await expect(action).toHaveValue('');
  await action.selectOption('toggle');
  await expect(page.getByRole('button', { name: 'Rectangle on switch' })).toBeVisible();
  await action.selectOption('hide');
  await expect(page.getByRole('button', { name: 'Rectangle on switch' })).toHaveCount(0);
  // A motor drives numbers only, and has no limit until it is given one.
  await action.selectOption('motor');
  const properties = page.getByLabel('Property', { exact: true });
  await expect(properties.locator('option', { hasText: /^(fill|words)$/ })).toHaveCount(0);
  await expect(page.getByLabel('Limit of the rate')).toHaveCount(0);
  await page.getByRole('button', { name: '+ limit' }).click();
  await commit(page, 'Limit of the rate', '0');
  await expect(page.getByLabel('Limit of the rate')).toHaveValue('0');
});

test('in a timeline Delete and Ctrl-A mean its keys; a box may begin on the ruler', async ({ page }) => {
  await twoRows(page);
  const ruler = await middle(page, '[aria-label="Ruler"]');
  const pip = await middle(page, '[aria-label="Key at 0.00 s"]');
  await page.mouse.move(pip.x - 8, ruler.y);
  await page.mouse.down();
  await page.mouse.move(pip.x + 20, ruler.y + 60, { steps: 4 });
  await page.mouse.move(pip.x + 20, pip.y + 120, { steps: 4 });
  await page.mouse.up();
  await page.keyboard.press('Delete');
  await expect(pips(page)).toHaveCount(2);
  await expect(page.getByRole('treeitem', { name: /^Box/ })).toBeVisible();
  // The thing's properties are back.
  await expect(page.getByLabel('Place x', { exact: true })).toBeVisible();
  await page.getByRole('group', { name: 'Timeline' }).focus();
  await page.keyboard.press('Delete');
  await expect(page.getByRole('treeitem', { name: /^Box/ })).toBeVisible();
  await page.keyboard.press('ControlOrMeta+a');
  await page.keyboard.press('Delete');
  await expect(pips(page)).toHaveCount(0);
  await undo(page);
  await undo(page);
  await expect(pips(page)).toHaveCount(4);
});

test('a drag that is taken back leaves what can be redone', async ({ page }) => {
  await newPiece(page);
  await addKind(page, 'Rectangle');
  await commit(page, 'Place x', '40');
  await undo(page);
  const from = await at(page, 0, 0);
  await drag(page, from, 40, 10);
  await page.keyboard.press('Escape');
  await page.mouse.up();
  await page.locator('body').press('ControlOrMeta+Shift+z');
  await expect(page.getByLabel('Place x', { exact: true })).toHaveValue('40');
});

test('fixed to the frame a thing stays where it is seen; what waits outside is marked at the edge', async ({
  page,
}) => {
  await newPiece(page);
  await addKind(page, 'Rectangle');
  await commit(page, 'Place x', '200');
  await commit(page, 'Place y', '100');
  await page.locator('summary', { hasText: 'On top' }).click();
  await page.getByLabel('fixed to the frame').check();
  await expect(page.getByLabel('Place x', { exact: true })).toHaveValue('200');
  await expect(page.getByRole('button', { name: 'Anchor top right' })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
  await expect(page.getByLabel('Offset x')).toHaveValue('-480');
  await page.getByRole('button', { name: 'Anchor middle' }).click();
  await expect(page.getByLabel('Offset x')).toHaveValue('0');
  await page.getByRole('button', { name: 'Anchor left', exact: true }).click();
  await page.getByRole('button', { name: 'Just outside' }).click();
  const mark = page.getByRole('button', { name: /^Rectangle waits outside the frame, to the left/ });
  // While it is chosen its handles mark it.
  await expect(mark).toHaveCount(0);
  await page.locator('body').press('Escape');
  await mark.click();
  await expect(item(page, 'Rectangle')).toHaveAttribute('aria-selected', 'true');
});

test('a thing that is covered is what a drag moves while it is chosen; what is drawn over a solid lies before it', async ({
  page,
}) => {
  await newPiece(page);
  await addKind(page, 'Rectangle');
  await addKind(page, 'Ellipse');
  await commit(page, 'Size w', '400');
  await commit(page, 'Size h', '400');
  await item(page, 'Rectangle').click();
  const from = await at(page, 20, 15);
  await drag(page, from, 100 * from.scale, 0);
  await page.mouse.up();
  await expect(page.getByLabel('Place x', { exact: true })).not.toHaveValue('0');
  await expect(item(page, 'Rectangle')).toHaveAttribute('aria-selected', 'true');
  // A press alone chooses what is seen.
  const cover = await at(page, -60, -100);
  await page.mouse.click(cover.x, cover.y);
  await expect(item(page, 'Ellipse')).toHaveAttribute('aria-selected', 'true');
  await newPiece(page);
  await addKind(page, 'Box');
  await draw(page, 'Ellipse', [-20, 20], [20, -20]);
  await expect(page.getByLabel('Place z', { exact: true })).toHaveValue('31');
});

test('a run whose ticks stay slow is paused and says so; deleting says what went along', async ({ page }) => {
  await newPiece(page);
  await addKind(page, 'Rectangle');
  await addKind(page, 'Ellipse');
  await page.getByRole('button', { name: 'Add a reaction' }).click();
  await page.getByLabel('Action', { exact: true }).selectOption('hide');
  await page.getByLabel('Object', { exact: true }).selectOption({ label: 'Rectangle' });
  await item(page, 'Rectangle').click();
  await page.locator('body').press('Delete');
  await expect(page.getByText('With Rectangle went what others did to it: of Ellipse.')).toBeVisible();
  await page.getByLabel('File to bring in').waitFor({ state: 'attached' });
});

test('who writes a thing is told whole, without a word cut off', async ({ page }) => {
  await page.goto('/');
  await page
    .getByRole('button', { name: /^Windfall Mill/ })
    .first()
    .click();
  await page.getByRole('button', { name: 'Run', exact: true }).click();
  await page.getByRole('treeitem', { name: /^Wheel/ }).click();
  const writers = page.getByRole('region', { name: 'Who writes this' });
  await expect(writers.getByRole('listitem').first()).toBeVisible();
  const cut = await writers
    .getByRole('listitem')
    .evaluateAll((all) =>
      all.flatMap((li) =>
        [...li.children].filter((x) => x.scrollWidth > x.clientWidth).map((x) => x.textContent),
      ),
    );
  expect(cut).toEqual([]);
});
