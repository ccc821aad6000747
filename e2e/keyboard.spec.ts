/** Each job of `acts.spec.ts` by keyboard alone: no pointer is moved, and every control is reached as keys reach it. */
import { expect, type Page, test } from '@playwright/test';
import { log, newPiece } from './helpers.ts';

/** What has the focus, by the name that is read out. */
const focused = (page: Page) =>
  page.evaluate(() => {
    const el = document.activeElement as HTMLElement | null;
    if (!el || el === document.body) return '';
    const labels = (el as HTMLInputElement).labels;
    return (el.getAttribute('aria-label') ?? labels?.[0]?.textContent ?? el.textContent ?? '')
      .replace(/\s+/g, ' ')
      .trim();
  });

class Keys {
  private readonly page: Page;
  constructor(page: Page) {
    this.page = page;
  }
  press(...keys: string[]): Promise<void> {
    return keys.reduce((before, k) => before.then(() => this.page.keyboard.press(k)), Promise.resolve());
  }
  /** Does a command by its name. */
  async command(name: string) {
    await this.press('ControlOrMeta+k');
    await this.page.keyboard.type(name);
    await this.press('Enter');
    await expect(this.page.getByRole('dialog', { name: 'Commands' })).toHaveCount(0);
  }
  /** Goes by Tab, forwards or backwards, to the next thing of this name. */
  async to(name: string | RegExp, way: 'Tab' | 'Shift+Tab' = 'Tab') {
    const is = (now: string) => (typeof name === 'string' ? now === name : name.test(now));
    for (let n = 0; n < 160; n++) {
      if (is(await focused(this.page))) return;
      await this.press(way);
    }
    throw new Error(`${name} is not reached`);
  }
  async push(name: string | RegExp, way?: 'Tab' | 'Shift+Tab') {
    await this.to(name, way);
    await this.press('Enter');
  }
  /** Picks from a list by the beginning of its words. */
  async pick(label: string | RegExp, words: string) {
    await this.to(label);
    await this.press('Space');
    await this.page.keyboard.type(words, { delay: 5 });
    await this.press('Enter');
  }
  /** Goes down an open menu to the entry of these words, and takes it. */
  async take(words: RegExp) {
    for (let n = 0; n < 20 && !words.test(await focused(this.page)); n++) await this.press('ArrowDown');
    await this.press('Enter');
  }
  async fill(label: string, value: string) {
    await this.to(label);
    await this.press('ControlOrMeta+a');
    await this.page.keyboard.type(value);
    await this.press('Enter');
  }
}

test.beforeEach(async ({ page }) => {
  // Whatever moves the pointer is not by keyboard.
  await page.addInitScript(() => {
    addEventListener('pointerdown', () => document.documentElement.setAttribute('data-pointed', ''), true);
  });
  await newPiece(page);
});
test.afterEach(async ({ page }) => {
  expect(await page.evaluate(() => document.documentElement.hasAttribute('data-pointed'))).toBe(false);
});

test('a masked press that strikes on a key', async ({ page }) => {
  const k = new Keys(page);
  await k.command('add a rectangle');
  await k.command('add a rectangle');
  await k.press('e');
  await k.push(/^Mask/);
  await k.pick('Mask', 'only inside Rectangle');
  await k.press('t');
  await k.push(/^Strikes on a key/);
  await k.press('t');
  await k.push('Transition: key k goes down');
  await k.press('e');
  await k.to('Keyboard key of the event');
  await k.press('j', 'Tab', 'Escape');
  await expect(page.getByRole('button', { name: 'Transition: key j goes down' })).toBeVisible();
});

test('a flap hung at its left edge', async ({ page }) => {
  const k = new Keys(page);
  await k.command('add a rectangle');
  await k.press('e');
  await k.push('Pivot middle left');
  await k.press('t');
  await k.push(/^Opens and closes/);
  await k.command('only this');
  await expect(page.locator('[data-state="opening"]')).toBeVisible();
});

test('a flap that opens as the visitor comes near', async ({ page }) => {
  const k = new Keys(page);
  await k.command('add an ellipse');
  await k.press('e');
  await k.fill('Place x', '-340');
  await k.press('e');
  await k.push('let the person walk Ellipse', 'Shift+Tab');
  await k.command('add a rectangle');
  await k.press('e');
  await k.push('Pivot middle left');
  await k.press('a');
  await k.press('e');
  await k.fill('Turn ° z', '-70');
  await k.press('h');
  await k.push('and back again');
  await k.push('Ellipse comes near');
  await expect(page.getByRole('button', { name: /Undo “Wired at rest/ })).toBeVisible();
});

test('a rig of four parts with one clip, started with the piece', async ({ page }) => {
  const k = new Keys(page);
  for (const kind of ['rectangle', 'ellipse', 'rectangle', 'box'])
    await k.command(`add a${kind === 'ellipse' ? 'n' : ''} ${kind}`);
  await k.press('ControlOrMeta+a', 'ControlOrMeta+j', 'a', 'e');
  await k.fill('Turn ° z', '20');
  await k.press('h');
  await k.push('the piece starts');
  await k.press('r');
  await expect(log(page, /at rest → .*moves/)).toHaveCount(1);
});

test('fades in, slides in, swaps its look, and all again as a scene in order', async ({ page }) => {
  const k = new Keys(page);
  await k.command('add a rectangle');
  await k.press('t');
  await k.push(/^Appears/);
  for (const name of [/^Slides in from outside/, /^Shows its looks in turn/]) {
    await k.press('e');
    await k.push('recipes', 'Shift+Tab');
    await k.push(name);
  }
  await k.command('make a scene of what it does');
  await expect(page.locator('[data-cue]')).toHaveCount(3);
});

test('a scene of six lines and two moves, begun by coming near', async ({ page }) => {
  const k = new Keys(page);
  await k.command('add a rectangle');
  await k.command('add an ellipse');
  await k.command('add a cue sheet');
  await k.press('t');
  await k.push('Write what is said');
  const line = async (words: string) => {
    await k.to('Line of the scene');
    await page.keyboard.type(words);
    await k.press('Enter');
  };
  const move = async () => {
    await k.to('Line of the scene');
    await k.press('Enter', 'e');
    await k.pick('Action', 'tween');
    await k.press('t');
    await k.push('write on');
  };
  await line('Rectangle: Good morning!');
  await line('Is the mill up?');
  await move();
  await line('Ellipse: It is.');
  await line('And so are the apples.');
  await move();
  await line('Rectangle: Come and look.');
  await line('Ellipse: Gladly.');
  await expect(page.locator('[data-cue]')).toHaveCount(8);
  await k.press('Escape', 't');
  await k.push('Menu of scene');
  await k.take(/^Start it when something comes near/);
  await expect(page.getByRole('button', { name: /^Starts when something .*near/ })).toBeVisible();
});

test('a machine of five states with conditions, a crossfade, not before, and a blend', async ({ page }) => {
  const k = new Keys(page);
  await k.command('add a rectangle');
  await k.press('t');
  await k.push('Add a machine to Rectangle');
  await k.press('t');
  await k.push('Add ▾', 'Shift+Tab');
  await k.take(/^States, written/);
  await k.to('States in a line');
  await page.keyboard.type('at rest > opening > open > closing > at rest, jammed > at rest');
  await k.press('Enter', 't');
  await k.push('Transition: not yet set');
  await k.press('e');
  await k.push('condition');
  await k.press('t');
  await k.push('Transition: done');
  await k.press('e');
  await k.fill('Not before, seconds', '1');
  await k.fill('Crossfade, seconds', '0.3');
  await k.press('t');
  await k.to(/^State open,/);
  await k.press(' ', 'e');
  await k.pick('What the state does', 'blends by');
  await expect(page.getByRole('button', { name: 'State open, by amount' })).toBeVisible();
  await expect(
    page.getByRole('button', { name: /Transition: done · not before 1 s · fades 0.3 s/ }),
  ).toBeVisible();
});

test('a plate that fills, only for one tag, and opens a gate with a sound', async ({ page }) => {
  const k = new Keys(page);
  await k.command('add an ellipse');
  await k.press('e');
  await k.push('let the person walk Ellipse', 'Shift+Tab');
  await k.press('e');
  await k.to('Add a tag');
  // A new one stands last.
  await k.press('Space', 'End', 'Enter');
  await expect(page.getByLabel('Name of the new tag')).toBeFocused();
  await page.keyboard.type('heavy');
  await k.press('Enter');
  await k.command('add a rectangle');
  await k.press('t');
  await k.push(/^Fills while something is on it/);
  await k.command('add a box');
  await k.press('a', 'e');
  await k.fill('Turn ° z', '-90');
  await k.press('h');
  await k.push('and back again');
  await k.push('Rectangle full is on');
  await k.command('add a cue');
  await k.press('e');
  await k.pick('Action', 'play the sound');
  await expect(page.getByRole('button', { name: 'bell', exact: true })).toBeVisible();
});

test('of four with a number each one is drawn by odds', async ({ page }) => {
  const k = new Keys(page);
  await k.command('add a rectangle');
  await k.command('make a template');
  await k.press('Enter');
  await k.press('t');
  await k.push(/^Fills by a number/);
  await k.push('Out', 'Shift+Tab');
  for (const value of ['40', '60', '80']) {
    await k.command('place another');
    await k.press('e');
    await k.to(/^Rectangle amount of Rectangle/, 'Shift+Tab');
    await k.press('ControlOrMeta+a');
    await page.keyboard.type(value);
    await k.press('Enter');
  }
  await k.press('ControlOrMeta+a', 'ControlOrMeta+j', 't');
  await k.push(/^Draws by odds/);
  await expect(page.getByRole('button', { name: /^State / })).toHaveCount(5);
});

test('at 1 s something begins to turn for good', async ({ page }) => {
  const k = new Keys(page);
  await k.command('add a rectangle');
  await k.press('e');
  await k.push('Add a reaction', 'Shift+Tab');
  await k.pick('Event', 'after a time');
  await k.pick('Action', 'motor');
  await k.command('run or stop');
  await expect(log(page, /Rectangle turn z driven by a motor|Rectangle reacted/).first()).toBeVisible();
});

test('a gate that turns by 120° at each touch', async ({ page }) => {
  const k = new Keys(page);
  await k.command('add an ellipse');
  await k.press('e');
  await k.fill('Place x', '-340');
  await k.press('e');
  await k.push('let the person walk Ellipse', 'Shift+Tab');
  await k.command('add a rectangle');
  await k.press('t');
  await k.push(/^Turns by steps/);
  await k.press('e');
  await k.to('How much', 'Shift+Tab');
  await k.press('ControlOrMeta+a');
  await page.keyboard.type('120');
  await k.press('Enter', 'e');
  await k.to('Event', 'Shift+Tab');
  await page.keyboard.type('something touches it', { delay: 5 });
  await k.press('Enter');
  await expect(page.getByLabel('Event', { exact: true }).locator('option:checked')).toHaveText(
    'something touches it',
  );
});
