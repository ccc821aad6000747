import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { expect, type Page, test } from '@playwright/test';
import { addKind, commit, item, newPiece, plainBase, undo } from './helpers.ts';

/** Changes what the browser keeps, behind the program's back. */
const spoil = (page: Page, part: object) =>
  page.evaluate(
    (change) =>
      new Promise<void>((done, fail) => {
        const open = indexedDB.open('apple-tick');
        open.onerror = () => fail(open.error);
        open.onsuccess = () => {
          const tx = open.result.transaction(['pieces', 'journal', 'assets'], 'readwrite');
          const id = location.pathname.split('/')[2] as string;
          const c = change as { row?: object; event?: unknown; assets?: boolean };
          if (c.row) {
            const got = tx.objectStore('pieces').get(id);
            got.onsuccess = () => tx.objectStore('pieces').put({ ...got.result, ...c.row });
          }
          if ('event' in c)
            tx.objectStore('journal').openCursor().onsuccess = (e) => {
              const at = (e.target as IDBRequest<IDBCursorWithValue | null>).result;
              if (!at) return;
              at.update({ ...at.value, event: c.event });
              at.continue();
            };
          if (c.assets) tx.objectStore('assets').clear();
          tx.oncomplete = () => {
            open.result.close();
            done();
          };
        };
      }),
    part,
  );
/** A PNG of a few px. */
const dot = async (page: Page) => {
  const url = await page.evaluate(() => {
    const c = document.createElement('canvas');
    c.width = c.height = 4;
    return c.toDataURL('image/png');
  });
  return Buffer.from(url.split(',')[1] as string, 'base64');
};
const kept = (page: Page) => expect(page.getByText(/✓ kept/)).toBeVisible();

test('a piece in the keeping that is cut, null or of a wrong shape is said to be broken; the shelf and others work', async ({
  page,
}) => {
  await newPiece(page);
  await commit(page, 'Name of the piece', 'Spoilt');
  await kept(page);
  const url = page.url();
  for (const row of [
    { piece: '{"format":"apple-tick","version":1,"obj' },
    { piece: null },
    { piece: '{"version":1,"objects":7}', name: null, changed: 'x' },
  ]) {
    await spoil(page, { row });
    await page.goto(url);
    await expect(page.getByRole('heading', { name: 'This piece cannot be opened' })).toBeVisible();
    const [file] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: 'Save what is kept as a file' }).click(),
    ]);
    expect(readFileSync(await file.path(), 'utf8').length).toBeGreaterThan(3);
    await page.getByRole('link', { name: 'Back to the shelf' }).click();
    await expect(page.getByText('It cannot be shown: what is kept is broken.')).toBeVisible();
    await page
      .getByRole('button', { name: /^Windfall Mill/ })
      .first()
      .click();
    await expect(item(page, 'Lawn')).toBeVisible();
    await page.goto(url);
  }
});

test('a broken object, history or journal costs only itself, and what was left out is said', async ({
  page,
}) => {
  await newPiece(page);
  await addKind(page, 'Box');
  await addKind(page, 'Ellipse');
  await kept(page);
  const text = await page.evaluate(
    () =>
      new Promise<string>((done) => {
        const open = indexedDB.open('apple-tick');
        open.onsuccess = () => {
          const got = open.result
            .transaction('pieces')
            .objectStore('pieces')
            .get(location.pathname.split('/')[2] as string);
          got.onsuccess = () => done(got.result.piece);
        };
      }),
  );
  const piece = JSON.parse(text);
  piece.objects = {
    ob_good: {
      id: 'ob_good',
      name: 'Good',
      parent: 'ob_gone',
      order: 'a0',
      kind: 'box',
      size: [50, 50, 50],
      base: {},
      tags: [],
      hint: '',
    },
    ob_bad: null,
  };
  piece.objects.ob_good.base = plainBase;
  await spoil(page, {
    row: { piece: JSON.stringify(piece), history: '{"undo":[nu', seq: 0 },
    event: '[{"kind":"pu',
  });
  await page.reload();
  await expect(item(page, 'Good')).toBeVisible();
  await page.getByText(/things of this piece are missing or were broken/).click();
  await expect(page.getByText(/^objects.ob_bad: /)).toBeVisible();
  await expect(page.getByText(/^history: /)).toBeVisible();
  await expect(page.getByText(/^journal: /)).toBeVisible();
  await item(page, 'Good').click();
  await commit(page, 'Place x', '33');
  await kept(page);
  await page.reload();
  await item(page, 'Good').click();
  await expect(page.getByLabel('Place x')).toHaveValue('33');
  await expect(page.getByText(/were broken and left out/)).toBeHidden();
});

test('a full disk is said, nothing is called kept, and once there is room all of it is kept; a picture is refused by its reason', async ({
  page,
}) => {
  await page.addInitScript(() => {
    for (const name of ['put', 'add'] as const) {
      const real = IDBObjectStore.prototype[name];
      IDBObjectStore.prototype[name] = function (this: IDBObjectStore, ...args: [unknown]) {
        if ((window as { full?: boolean }).full) throw new DOMException('no room', 'QuotaExceededError');
        return real.apply(this, args as never);
      };
    }
  });
  await newPiece(page);
  await kept(page);
  const full = (yes: boolean) =>
    page.evaluate((x) => {
      (window as { full?: boolean }).full = x;
    }, yes);
  await full(true);
  await addKind(page, 'Box');
  await addKind(page, 'Ellipse');
  await expect(page.getByText(/Not kept. There is no room left in this browser/)).toBeVisible();
  await expect(page.getByText(/✓ kept/)).toBeHidden();
  await page.getByLabel('File to bring in').setInputFiles({
    name: 'dot.png',
    mimeType: 'image/png',
    buffer: await dot(page),
  });
  await expect(page.getByText(/There is no room for it in this browser/)).toBeVisible();
  await page.getByRole('button', { name: 'Close' }).click();
  await expect(page.getByRole('treeitem')).toHaveCount(2);
  // To the shelf to make room, and back: nothing is lost meanwhile.
  await page.getByRole('link', { name: 'Shelf' }).click();
  await expect(page.getByText(/Untitled piece is not kept yet/)).toBeVisible();
  await full(false);
  await expect(page.getByText(/Untitled piece is not kept yet/)).toBeHidden();
  await page.reload();
  await page.getByRole('button', { name: /^Untitled piece/ }).click();
  await expect(page.getByRole('treeitem')).toHaveCount(2);
  await undo(page);
  await expect(page.getByRole('treeitem')).toHaveCount(1);
});

for (const [what, script] of [
  ['no database', () => Object.defineProperty(window, 'indexedDB', { value: undefined })],
  [
    'a database that is denied',
    () => {
      IDBFactory.prototype.open = () => {
        throw new DOMException('denied', 'SecurityError');
      };
    },
  ],
] as const)
  test(`with ${what} one sentence says so, and the session works`, async ({ page }) => {
    await page.addInitScript(script);
    await page.addInitScript(() =>
      Object.defineProperty(Storage.prototype, 'getItem', {
        value: () => {
          throw new DOMException('denied', 'SecurityError');
        },
      }),
    );
    await newPiece(page);
    await expect(
      page.getByText('This browser keeps nothing: export the piece as a file before you leave.'),
    ).toBeVisible();
    await addKind(page, 'Box');
    await page.getByRole('link', { name: 'Shelf' }).click();
    await expect(page.getByText(/This browser keeps nothing/)).toBeVisible();
    await page.getByRole('button', { name: /^Untitled piece/ }).click();
    await expect(item(page, 'Box')).toBeVisible();
    await undo(page);
    await expect(page.getByText('Nothing here yet')).toBeVisible();
  });

test('without locks or channels a piece opens and is kept', async ({ page }) => {
  await page.addInitScript(() => {
    Object.defineProperty(Navigator.prototype, 'locks', { value: undefined });
    Object.defineProperty(window, 'BroadcastChannel', { value: undefined });
  });
  await newPiece(page);
  await addKind(page, 'Box');
  await kept(page);
  await page.reload();
  await expect(item(page, 'Box')).toBeVisible();
});

test('a piece deleted in another tab is not called kept; it can be kept again, or put back after a reload', async ({
  page,
  context,
}) => {
  await newPiece(page);
  await commit(page, 'Name of the piece', 'Binned');
  await addKind(page, 'Box');
  await kept(page);
  const shelf = await context.newPage();
  await shelf.goto('/');
  const remove = async () => {
    await shelf.getByRole('button', { name: 'More for Binned' }).click();
    await shelf.getByRole('menuitem', { name: 'Delete' }).click();
  };
  await remove();
  await expect(page.getByText('Deleted in another tab')).toBeVisible();
  await addKind(page, 'Ellipse');
  await expect(page.getByText(/✓ kept/)).toBeHidden();
  await page.getByRole('button', { name: 'Keep it again' }).click();
  await kept(page);
  await expect(shelf.getByRole('button', { name: /^Binned 2 objects/ })).toBeVisible();
  await remove();
  // What is still on its way to the database when a page goes is not done.
  await expect(page.getByText('Deleted in another tab')).toBeVisible();
  await shelf.reload();
  await shelf.getByRole('button', { name: 'Put back' }).click();
  await shelf.getByRole('button', { name: /^Binned 2 objects/ }).click();
  await expect(shelf.getByRole('treeitem')).toHaveCount(2);
});

test('a missing picture is told, what is exported says what it lacks, and can be read again', async ({
  page,
}) => {
  await newPiece(page);
  const buffer = await dot(page);
  await page.getByLabel('File to bring in').setInputFiles({ name: 'dot.png', mimeType: 'image/png', buffer });
  await expect(item(page, 'dot')).toBeVisible();
  await kept(page);
  await spoil(page, { assets: true });
  await page.reload();
  await expect(
    page.getByText('The picture “dot” is missing here, or broken: bring it in again.').first(),
  ).toBeVisible();
  await page.getByRole('link', { name: 'Hand over…' }).click();
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Export the file' }).click(),
  ]);
  await expect(page.getByText('The file lacks “dot”: it is missing here. Bring it in again.')).toBeVisible();
  const bytes = readFileSync(await file.path());
  const read = spawnSync(process.execPath, ['packages/cli/dist/main.js', 'validate', await file.path()], {
    encoding: 'utf8',
  });
  expect([read.status, read.stderr]).toEqual([0, '']);
  await page.goto('/');
  await page
    .getByLabel('File to import')
    .setInputFiles({ name: 'a.tickpack', mimeType: 'application/zip', buffer: bytes });
  await expect(item(page, 'dot')).toBeVisible();
});
