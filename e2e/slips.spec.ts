/**
 * Sixty slips that newcomers make, each tried as they make it: nothing is lost, nothing happens that was not meant, and
 * where something cannot be done it is said. `slip` counts them.
 */
import { expect, type Page, test } from '@playwright/test';
import { addKind, at, commit, drag, dropFiles, newPiece, oneRow, pips, undo } from './helpers.ts';

const slip = (what: string, see: () => Promise<void>) => test.step(what, see);
const of = (page: Page, label: string) => page.getByLabel(label, { exact: true });
const undoIs = (page: Page, words: string | RegExp) =>
  expect(page.getByRole('button', { name: words }).first()).toBeVisible();
const row = (page: Page, name: string) => page.getByRole('treeitem', { name: new RegExp(`^${name}(,|$)`) });
const noPageError = (page: Page) => {
  const errors: string[] = [];
  page.on('pageerror', (e) => errors.push(e.message));
  return errors;
};
const press = (page: Page, key: string) => page.locator('body').press(key);
test('slips 1–10: in a piece with nothing in it', async ({ page }) => {
  const errors = noPageError(page);
  await newPiece(page);
  await slip('1 keys that need something chosen, with nothing there', async () => {
    for (const key of [
      'Delete',
      'ControlOrMeta+z',
      'ControlOrMeta+d',
      'a',
      'm',
      'h',
      'u',
      'ControlOrMeta+j',
      'F2',
    ])
      await press(page, key);
    await undoIs(page, 'Undo');
    await expect(page.getByText('Nothing here yet.')).toBeVisible();
  });
  await slip('2 Run with nothing to run', async () => {
    await page.getByRole('button', { name: 'Run', exact: true }).click();
    await page.getByRole('button', { name: 'Stop', exact: true }).click();
  });
  await slip('3 Paste with something else on the clipboard', async () => {
    // Whatever a test before this one has copied is not on it any more.
    await page.getByLabel('Name of the piece').selectText();
    await page.keyboard.press('ControlOrMeta+c');
    await page.getByLabel('Name of the piece').blur();
    await press(page, 'ControlOrMeta+v');
    await undoIs(page, 'Undo');
  });
  await slip('4 Animate with nothing chosen is not offered', () =>
    expect(page.getByRole('button', { name: 'Animate', exact: true })).toBeDisabled(),
  );
  const [a, b] = [await at(page, -60, 60), await at(page, 60, -60)];
  await slip('5 a click where a drag was meant draws a thing of the usual size', async () => {
    await press(page, 's');
    await page.mouse.click(a.x, a.y);
    expect(Number(await of(page, 'Size w').inputValue())).toBeGreaterThan(20);
    await undo(page);
  });
  await slip('6 a drag of two px does as well', async () => {
    await press(page, 's');
    await drag(page, a, 2, 1);
    await page.mouse.up();
    expect(Number(await of(page, 'Size w').inputValue())).toBeGreaterThan(20);
    await undo(page);
  });
  await slip('7 drawn from the lower right to the upper left it has the size that one sees', async () => {
    await press(page, 's');
    await drag(page, b, a.x - b.x, a.y - b.y);
    await page.mouse.up();
    await expect(of(page, 'Size w')).toHaveValue(/^1(19|20)/);
    await undo(page);
  });
  await slip('8 Escape in the middle of drawing draws nothing', async () => {
    await press(page, 's');
    await drag(page, a, 80, 80);
    await page.keyboard.press('Escape');
    await page.mouse.up();
    await expect(page.getByRole('treeitem')).toHaveCount(0);
    await press(page, 'Escape');
  });
  await slip('9 the same shape twice has two names', async () => {
    await addKind(page, 'Rectangle');
    await addKind(page, 'Rectangle');
    await expect(row(page, 'Rectangle 2')).toBeVisible();
  });
  await slip('10 a press of undo too many is let be', async () => {
    for (let n = 0; n < 5; n++) await undo(page);
    await undoIs(page, 'Undo');
    await expect(page.getByRole('treeitem')).toHaveCount(0);
  });
  expect(errors).toEqual([]);
});

test('slips 11–26: in the fields', async ({ page }) => {
  const errors = noPageError(page);
  await newPiece(page);
  await addKind(page, 'Rectangle');
  const x = of(page, 'Place x');
  for (const [n, typed, stands] of [
    ['11 words in a number', 'left', '0'],
    ['12 nothing in a number', '', '0'],
    ['13 a comma for the point', '12,5', '12.5'],
    ['14 a sum', '100/4', '25'],
    ['15 a unit behind the number', '30px', '30'],
    ['16 far too much', '99999999', '1000000'],
    ['17 a stray space', ' 40 ', '40'],
    ['18 a division by nothing', '5/0', '40'],
  ] as const)
    await slip(n, async () => {
      await x.fill(typed);
      await x.press('Enter');
      await expect(x).toHaveValue(stands);
    });
  await slip('19 an opacity of more than all', async () => {
    await commit(page, 'Opacity', '5');
    await expect(of(page, 'Opacity')).toHaveValue('1');
  });
  await slip('20 an opacity in per cent', async () => {
    await commit(page, 'Opacity', '50%');
    await expect(of(page, 'Opacity')).toHaveValue('0.5');
  });
  await slip('21 a size below nothing', async () => {
    await commit(page, 'Size w', '-50');
    await expect(of(page, 'Size w')).toHaveValue(/^[0-9]/);
  });
  await slip('22 a name of nothing', async () => {
    await commit(page, 'Name', '  ');
    await expect(of(page, 'Name')).toHaveValue('Rectangle');
  });
  await slip('23 a name that is a script is words', async () => {
    await commit(page, 'Name', '<img src=x onerror=alert(1)>');
    await expect(page.getByRole('treeitem').first()).toContainText('<img src=x');
    await undo(page);
  });
  await slip('24 Delete in a field deletes letters, not the thing', async () => {
    await of(page, 'Name').click();
    await of(page, 'Name').press('Delete');
    await of(page, 'Name').press('Escape');
    await expect(row(page, 'Rectangle')).toBeVisible();
  });
  await slip('25 what is half typed is kept by a click into the view', async () => {
    await x.fill('77');
    const p = await at(page, 300, 200);
    await page.mouse.click(p.x, p.y);
    await row(page, 'Rectangle').click();
    await expect(x).toHaveValue('77');
  });
  await slip('26 Escape forgets what is half typed', async () => {
    await x.fill('99');
    await x.press('Escape');
    await expect(x).toHaveValue('77');
  });
  expect(errors).toEqual([]);
});

test('slips 27–34: among the objects', async ({ page }) => {
  const errors = noPageError(page);
  await newPiece(page);
  await addKind(page, 'Rectangle');
  await addKind(page, 'Ellipse');
  await slip('27 a group made of one thing alone, then taken back', async () => {
    await press(page, 'ControlOrMeta+j');
    await undo(page);
    await expect(page.getByRole('treeitem')).toHaveCount(2);
  });
  await press(page, 'ControlOrMeta+a');
  await press(page, 'ControlOrMeta+j');
  const group = page.getByRole('treeitem', { selected: true });
  await slip('28 a group dragged into its own part stays', async () => {
    const part = row(page, 'Ellipse');
    await group.dragTo(part);
    await expect(page.getByRole('treeitem')).toHaveCount(3);
    await expect(part).toHaveAttribute('aria-level', '2');
  });
  await slip('29 a group deleted by mistake comes back with all that is in it', async () => {
    await group.first().click();
    await press(page, 'Delete');
    await expect(page.getByRole('treeitem')).toHaveCount(0);
    await undo(page);
    await expect(page.getByRole('treeitem')).toHaveCount(3);
  });
  await slip('30 a name that is typed and left by Escape', async () => {
    await row(page, 'Ellipse').click();
    await press(page, 'F2');
    await page.keyboard.type('Nonsense');
    await page.keyboard.press('Escape');
    await expect(row(page, 'Ellipse')).toBeVisible();
  });
  await slip('31 a locked thing is not moved by a drag', async () => {
    await page.getByRole('checkbox', { name: 'locked' }).check();
    const p = await at(page, 0, 0);
    await drag(page, p, 60, 0);
    await page.mouse.up();
    await row(page, 'Ellipse').click();
    await expect(of(page, 'Place x')).toHaveValue('0');
    await page.getByRole('checkbox', { name: 'locked' }).uncheck();
  });
  await slip('32 hidden by the eye, it is still there, and comes back', async () => {
    await row(page, 'Ellipse').hover();
    await page
      .getByRole('button', { name: /^Hide while working/ })
      .first()
      .click({ force: true });
    await expect(row(page, 'Ellipse')).toBeVisible();
    await row(page, 'Ellipse').hover();
    await page
      .getByRole('button', { name: /^Show while working/ })
      .first()
      .click({ force: true });
  });
  await slip('33 a command that there is not says so, and the keys are the desk’s again', async () => {
    await press(page, 'ControlOrMeta+k');
    await page.getByLabel('Search commands').fill('zebra');
    await expect(page.getByText('Nothing found for “zebra”.')).toBeVisible();
    await page.keyboard.press('Enter');
    await page.keyboard.press('Escape');
    await expect(page.getByRole('dialog')).toHaveCount(0);
    await expect(page.getByRole('treeitem')).toHaveCount(3);
  });
  await slip('34 dragged far outside the frame, the way back is marked', async () => {
    await row(page, 'Ellipse').click();
    await commit(page, 'Place x', '4000');
    await expect(page.getByRole('button', { name: /Ellipse/ }).first()).toBeVisible();
    await undo(page);
  });
  expect(errors).toEqual([]);
});

test('slips 35–46: in motions, states and lanes', async ({ page }) => {
  const errors = noPageError(page);
  await oneRow(page);
  await slip('35 a playhead before the beginning', async () => {
    await commit(page, 'Playhead, seconds', '-3');
    await expect(of(page, 'Playhead, seconds')).toHaveValue('0');
  });
  await slip('36 a length of nothing', async () => {
    await commit(page, 'Length, seconds', '-1');
    await expect(of(page, 'Length, seconds')).not.toHaveValue(/-/);
    await undo(page);
  });
  await slip('37 all keys deleted, and taken back', async () => {
    await pips(page).first().click();
    await press(page, 'ControlOrMeta+a');
    await press(page, 'Delete');
    await expect(pips(page)).toHaveCount(0);
    await undo(page);
    await expect(pips(page)).toHaveCount(2);
  });
  await slip('38 Delete in the timeline with no key chosen leaves the thing, and says why', async () => {
    await row(page, 'Box').click();
    await page.getByRole('button', { name: 'A frame on' }).click();
    await page.getByRole('button', { name: 'A frame on' }).press('Delete');
    await expect(page.getByText('No key is chosen in the timeline, so nothing was deleted.')).toBeVisible();
    await expect(page.getByRole('treeitem')).toHaveCount(1);
  });
  await slip(
    '39 a key in the clip while nothing is moved: moved without keying changes the base, and that is said',
    async () => {
      await page.getByRole('button', { name: /^key as I move/ }).click();
      await expect(page.getByText('Moves change the base')).toBeVisible();
      await page.getByRole('button', { name: /^key as I move/ }).click();
    },
  );
  await page.getByRole('button', { name: 'Fold', exact: true }).click();
  const state = (name: string) => page.getByRole('button', { name: new RegExp(`^State ${name},`) });
  await slip('40 the last state of a lane is not deleted', async () => {
    await state('moving').click();
    await press(page, 'Delete');
    await expect(state('moving')).toHaveCount(0);
    await state('at rest').click();
    await press(page, 'Delete');
    await expect(state('at rest')).toBeVisible();
    await undo(page);
    await expect(state('moving')).toBeVisible();
  });
  await slip('41 two states of one name', async () => {
    await state('moving').click();
    await commit(page, 'Name of the state', 'at rest');
    await expect(state('moving')).toBeVisible();
  });
  await slip('42 the same way drawn twice is one way that waits', async () => {
    for (let n = 0; n < 2; n++) {
      await state('at rest').focus();
      await page.keyboard.press('t');
      await page.getByRole('menuitem', { name: 'to moving' }).press('Enter');
      await page.keyboard.press('Escape');
    }
    await expect(page.getByRole('button', { name: 'Transition: not yet set' })).toHaveCount(1);
  });
  await slip('43 a way that is not set does not go, and says so', async () => {
    await page.getByRole('button', { name: 'Transition: not yet set' }).click();
    await expect(page.getByText('not yet set').first()).toBeVisible();
    await page.getByRole('button', { name: 'Run', exact: true }).click();
    await page.getByRole('button', { name: 'Stop', exact: true }).click();
  });
  await slip('44 states written with nothing but commas', async () => {
    await page.getByRole('button', { name: 'Add ▾' }).click();
    await page.getByRole('menuitem', { name: /^States, written/ }).click();
    await of(page, 'States in a line').fill(' , > ,');
    await page.keyboard.press('Enter');
    await expect(page.getByRole('button', { name: /^State / })).toHaveCount(2);
  });
  await slip('45 a lane named with nothing', async () => {
    await commit(page, 'Name of the lane', ' ');
    await expect(of(page, 'Name of the lane')).toHaveValue('Box');
  });
  await slip('46 the machine deleted, and taken back with its states', async () => {
    await page.getByRole('button', { name: 'Add ▾' }).click();
    await page.getByRole('menuitem', { name: /^Delete the machine/ }).click();
    await expect(page.getByRole('button', { name: /^State / })).toHaveCount(0);
    await undo(page);
    await expect(page.getByRole('button', { name: /^State / })).toHaveCount(2);
  });
  expect(errors).toEqual([]);
});

test('slips 47–54: in what is done, and in a run', async ({ page }) => {
  const errors = noPageError(page);
  await newPiece(page);
  await addKind(page, 'Rectangle');
  await page.getByRole('button', { name: 'Add a reaction' }).click();
  await slip('47 a reaction that does nothing yet says so, and a run goes', async () => {
    await expect(page.getByRole('group', { name: 'when Rectangle clicked: does nothing yet' })).toBeVisible();
    await page.getByRole('button', { name: 'Run', exact: true }).click();
    await page.getByRole('button', { name: 'Stop', exact: true }).click();
  });
  await slip('48 what there is nothing for is not offered', async () => {
    const offered = await of(page, 'Action').locator('option').allInnerTexts();
    expect(offered).not.toContain('play a clip');
    expect(offered).not.toContain('spawn');
  });
  await slip('49 a switch that does not exist yet is made with what asks for it', async () => {
    await of(page, 'Action').selectOption('toggle');
    await expect(page.getByRole('button', { name: /switch$/ })).toBeVisible();
    await undoIs(page, /^Undo “Added an action/);
  });
  await slip(
    '50 a signal in use is deleted: what used it is not left broken, and it comes back',
    async () => {
      await page.getByRole('button', { name: /switch$/ }).click();
      await press(page, 'Delete');
      await expect(page.getByRole('button', { name: /switch$/ })).toHaveCount(0);
      await undo(page);
      await row(page, 'Rectangle').click();
      await expect(of(page, 'Action')).toHaveValue('toggle');
    },
  );
  await slip('51 a recipe put on twice by mistake is taken off in one step', async () => {
    await page.getByRole('button', { name: 'recipes' }).click();
    await page
      .getByRole('dialog')
      .getByRole('button', { name: /^Lifts under/ })
      .click();
    await page.getByRole('button', { name: 'recipes' }).click();
    await page
      .getByRole('dialog')
      .getByRole('button', { name: /^Lifts under/ })
      .click();
    await undo(page);
    await undo(page);
    await expect(page.getByRole('button', { name: /^State / })).toHaveCount(0);
  });
  await page.getByRole('button', { name: 'Run', exact: true }).click();
  await slip('52 a click on what hears nothing is told, with a way on', async () => {
    await addSomethingBare(page);
  });
  await slip('53 a drag in a run does not move the thing in the piece', async () => {
    const p = await at(page, 0, 0, 'Live frame');
    await drag(page, p, 80, 0);
    await page.mouse.up();
    await page.getByRole('button', { name: 'Stop', exact: true }).click();
    await row(page, 'Rectangle').click();
    await expect(of(page, 'Place x')).toHaveValue('0');
  });
  await slip('54 the page is left in the middle of a run, and the piece is as it was', async () => {
    await page.getByRole('button', { name: 'Run', exact: true }).click();
    await page.getByRole('link', { name: 'Hand over…' }).click();
    await expect(page.getByRole('heading', { name: /^Hand over/ })).toBeVisible();
    await page.goBack();
    await expect(page.getByRole('button', { name: 'Run', exact: true })).toBeVisible();
    await expect(row(page, 'Rectangle')).toBeVisible();
  });
  expect(errors).toEqual([]);
});
const addSomethingBare = async (page: Page) => {
  const p = await at(page, 0, 0, 'Live frame');
  await page.mouse.click(p.x, p.y);
  await expect(page.getByText('Rectangle was clicked').first()).toBeVisible();
};

test('slips 55–60: with files and addresses', async ({ page }) => {
  const errors = noPageError(page);
  await newPiece(page);
  await slip('55 a letter dropped into the piece', async () => {
    await dropFiles(page, { 'letter.txt': 'Dear miller' });
    await expect(page.getByRole('dialog')).toContainText('letter.txt');
    await page.keyboard.press('Escape');
  });
  await slip('56 a drawing that breaks off says where', async () => {
    await dropFiles(page, { 'broken.svg': '<svg xmlns="http://www.w3.org/2000/svg"><rect width="10"' });
    await expect(page.getByRole('dialog')).toContainText('broken.svg');
    await page.keyboard.press('Escape');
    await expect(page.getByRole('treeitem')).toHaveCount(0);
  });
  await slip('57 a picture that is none', async () => {
    await dropFiles(page, { 'photo.png': 'not a picture' });
    await expect(page.getByRole('dialog')).toContainText('photo.png');
    await page.keyboard.press('Escape');
  });
  await slip('58 a drawing with a script in it runs none', async () => {
    await dropFiles(page, {
      'script.svg':
        '<svg xmlns="http://www.w3.org/2000/svg" width="20" height="20"><script>document.title="taken"</script><rect width="10" height="10" onclick="document.title=1"/></svg>',
    });
    await expect.poll(() => page.getByRole('treeitem').count()).toBeGreaterThan(0);
    expect(await page.title()).not.toBe('taken');
  });
  await slip('59 an address of a piece that is not there', async () => {
    await page.goto('/piece/no-such-piece');
    await expect(page.getByText('There is no such piece in this browser')).toBeVisible();
  });
  await slip('60 an address that is none', async () => {
    await page.goto('/nowhere');
    await expect(page.getByRole('link').first()).toBeVisible();
  });
  expect(errors).toEqual([]);
});
