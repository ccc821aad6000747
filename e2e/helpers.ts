/** What several end-to-end tests do: open pieces, drag, find places. */
import { readdirSync } from 'node:fs';
import path from 'node:path';
import { expect, type Page } from '@playwright/test';

/** Cards on the shelf at the first visit: the demo, a small piece, and the starters. */
export const ON_SHELF =
  2 +
  readdirSync(path.resolve(import.meta.dirname, '../starters')).filter((f) => f.endsWith('.tick.json'))
    .length;

export async function openChute(page: Page): Promise<void> {
  await page.goto('/');
  await page
    .getByRole('button', { name: /^Chute/ })
    .first()
    .click();
  await expect(page.getByRole('heading', { name: 'Apple Tick' })).toBeVisible();
}
/** By its own address: the way over the shelf has tests of its own. */
export const newPiece = async (page: Page) => {
  await page.goto('/new');
  await expect(page.getByRole('heading', { name: 'Objects', exact: true })).toBeVisible();
};
export const drag = async (page: Page, from: { x: number; y: number }, dx: number, dy: number) => {
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(from.x + dx / 2, from.y + dy / 2);
  await page.mouse.move(from.x + dx, from.y + dy, { steps: 4 });
};
export const middle = async (page: Page, selector: string) => {
  const b = await page.locator(selector).first().boundingBox();
  if (!b) throw new Error(`nothing at ${selector}`);
  return { x: b.x + b.width / 2, y: b.y + b.height / 2 };
};

/** A new piece with a box, a machine, and a state whose new clip is unfolded, which turns "key as I move" on. */
export const boxWithOpenClip = async (page: Page) => {
  await newPiece(page);
  await page.getByRole('button', { name: 'Add a box' }).click();
  await page.getByRole('button', { name: 'Add a machine to Box' }).first().click();
  await page.getByRole('button', { name: 'Add ▾' }).click();
  await page.getByRole('menuitem', { name: 'A state that plays a new clip' }).click();
  await page.getByRole('button', { name: 'Unfold its timeline' }).click();
  await expect(page.getByRole('button', { name: 'key as I move: on' })).toBeVisible();
};

/** Adds an object of a kind by the tree's menu. */
export const addKind = async (page: Page, kind: string) => {
  await page.getByRole('button', { name: 'Add an object' }).click();
  await page.getByRole('menuitem', { name: kind, exact: true }).click();
};

/** A reaction is read; pressed, its words are there to be changed. */
export const changeReaction = (page: Page, words: string | RegExp = /^Change: /) =>
  page.getByRole('button', { name: words }).first().click();

/** Folds or unfolds a section of the properties. */
export const section = (page: Page, name: string) =>
  page.locator('summary').filter({ hasText: name }).first().click();

/** Types into a field and leaves it with Enter. */
export const commit = async (page: Page, label: string, value: string) => {
  await page.getByLabel(label, { exact: true }).fill(value);
  await page.keyboard.press('Enter');
};

/** Types a colour into the picker of a well, and closes it. */
export const pickColour = async (page: Page, label: string, color: string) => {
  await page.getByRole('button', { name: label, exact: true }).click();
  await page.getByLabel(`${label}, as a number`).fill(color);
  await page.keyboard.press('Enter');
};

/**
 * The colour of the view at a point, px of the piece round its middle (at 100 %, in a space of that width and height), or of
 * another canvas that lies over it.
 */
export const colour = (page: Page, x: number, y: number, width = 960, height = 540, canvas = 'canvas') =>
  page
    .locator(canvas)
    .first()
    .evaluate(
      (c: HTMLCanvasElement, p) => {
        const scale = Math.min((c.clientWidth - 36) / p.width, (c.clientHeight - 28) / p.height);
        const k = scale * (c.width / c.clientWidth);
        const d = c
          .getContext('2d')
          ?.getImageData(Math.round(c.width / 2 + p.x * k), Math.round(c.height / 2 - p.y * k), 1, 1).data;
        return `#${[0, 1, 2].map((i) => (d?.[i] ?? 0).toString(16).padStart(2, '0')).join('')}`;
      },
      { x, y, width, height },
    );

/** The row of an object in the tree, by its name alone: what it carries is part of a row's name. */
export const item = (page: Page, name: string) => page.getByRole('treeitem', { name, exact: true });
/** The page's place of a point of the frame, px from its middle, in the front view at 100 %. */
export const at = async (page: Page, x: number, y: number, frame = 'Frame') => {
  const box = await page.getByLabel(frame, { exact: true }).boundingBox();
  if (!box) throw new Error('no frame');
  const scale = Math.min((box.width - 36) / 960, (box.height - 28) / 540);
  return { x: box.x + box.width / 2 + x * scale, y: box.y + box.height / 2 - y * scale, scale };
};
/** Files dropped onto the frame at a point of the piece, by their names. */
export const dropFiles = async (
  page: Page,
  files: Record<string, string | Buffer>,
  x = 0,
  y = 0,
): Promise<void> => {
  const p = await at(page, x, y);
  const list = Object.entries(files).map(([name, of]): [string, number[]] => [name, [...Buffer.from(of)]]);
  await page.evaluate(
    ({ list, p }) => {
      const dataTransfer = new DataTransfer();
      for (const [name, bytes] of list) dataTransfer.items.add(new File([new Uint8Array(bytes)], name));
      document.querySelector('canvas')?.dispatchEvent(
        new DragEvent('drop', {
          dataTransfer,
          bubbles: true,
          cancelable: true,
          clientX: p.x,
          clientY: p.y,
        }),
      );
    },
    { list, p },
  );
};
export const undo = (page: Page) => page.locator('body').press('ControlOrMeta+z');

/** The base of an object in a file made by a test. */
export const plainBase = {
  position: [0, 0, 0],
  rotation: [0, 0, 0],
  scale: [1, 1, 1],
  pivot: [0, 0, 0],
  opacity: 1,
  shown: true,
  fill: '#b23529',
};

/** All pips of the open timeline that are drawn one by one. */
export const pips = (page: Page) => page.getByRole('button', { name: /^Key at/ });
/** A box whose place is keyed at 0 and 0.7 s. */
export async function oneRow(page: Page): Promise<void> {
  await boxWithOpenClip(page);
  await item(page, 'Box, 1 lane')
    .or(page.getByRole('treeitem', { name: /^Box/ }))
    .first()
    .click();
  await commit(page, 'Place x', '100');
  await expect(pips(page)).toHaveCount(2);
}
/** A box whose place and turn are keyed at 0 and 0.7 s. */
export async function twoRows(page: Page): Promise<void> {
  await oneRow(page);
  await commit(page, 'Turn ° z', '90');
  await expect(pips(page)).toHaveCount(4);
}
/** The row of a property in the open timeline. */
export const row = (page: Page, name: string) => page.getByRole('group', { name, exact: true });

/** Counts what a person does: a click, a drag, a typed field, a chord is one; a choice from a list two. */
export class Hands {
  actions = 0;
  private readonly page: Page;
  constructor(page: Page) {
    this.page = page;
  }
  async click(name: string | RegExp) {
    this.actions++;
    await this.page
      .getByRole('button', { name, exact: typeof name === 'string' })
      .first()
      .click();
  }
  async choose(button: string, entry: string) {
    this.actions += 2;
    await this.page.getByRole('button', { name: button, exact: true }).click();
    await this.page.getByRole('menuitem', { name: entry, exact: true }).click();
  }
  async drag(from: readonly [number, number], to: readonly [number, number]) {
    this.actions++;
    const a = await at(this.page, ...from);
    await drag(this.page, a, (to[0] - from[0]) * a.scale, (from[1] - to[1]) * a.scale);
    await this.page.mouse.up();
  }
  async type(label: string, value: string) {
    this.actions++;
    await commit(this.page, label, value);
  }
  /** Picks from a list of the properties. */
  async pick(label: string, option: string) {
    this.actions += 2;
    await this.page.getByLabel(label, { exact: true }).selectOption({ label: option });
  }
  async key(chord: string) {
    this.actions++;
    await this.page.locator('body').press(chord);
  }
}

/** Clicks in the frame of a run, px from its middle, y up. */
export const clickFrame = async (page: Page, x: number, y: number) => {
  const p = await at(page, x, y, 'Live frame');
  await page.mouse.click(p.x, p.y);
};
/** Runs the piece and stops the time at once. */
export const runPaused = async (page: Page) => {
  await page.getByRole('button', { name: 'Run', exact: true }).click();
  await page.getByRole('button', { name: 'Pause', exact: true }).click();
};
/** The lines of the log that say this. */
export const log = (page: Page, text: string | RegExp) =>
  page.getByRole('listitem').filter({ hasText: text });
