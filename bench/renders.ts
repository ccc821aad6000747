/** How many components React draws anew: in a frame of a run, at a tick, at a move of a drag. Counted in the built desk. */
import { spawn } from 'node:child_process';
import { chromium, type Page } from '@playwright/test';
import { BROWSER, BROWSER_ARGS } from '../scripts/browser.mjs';

const port = 4398;
const root = new URL('..', import.meta.url);
const server = spawn(process.execPath, ['packages/server/dist/main.js'], {
  cwd: root,
  env: { ...process.env, PORT: String(port), LOG_LEVEL: 'warn' },
  stdio: 'inherit',
});

/** Counts function components that did work, in the page: what React tells a developer's tool at each commit. */
function countRenders(): void {
  interface Fiber {
    tag: number;
    flags: number;
    child: Fiber | null;
    sibling: Fiber | null;
    alternate: Fiber | null;
  }
  const page = window as unknown as { renders: number } & Record<string, unknown>;
  page.renders = 0;
  const FUNCTIONS = [0, 11, 14, 15];
  const walk = (next: Fiber, before: Fiber | null): void => {
    if (FUNCTIONS.includes(next.tag) && (before === null || (next.flags & 1) === 1)) page.renders++;
    if (before !== null && next.child === before.child) return;
    for (let c = next.child; c; c = c.sibling)
      if (!c.alternate || before === null) walk(c, null);
      else if (c !== c.alternate) walk(c, c.alternate);
  };
  page['__REACT_DEVTOOLS_GLOBAL_HOOK__'] = {
    supportsFiber: true,
    renderers: new Map(),
    inject: () => 1,
    onCommitFiberRoot: (_: number, tree: { current: Fiber }) => walk(tree.current, tree.current.alternate),
    onCommitFiberUnmount: () => {},
    onPostCommitFiberRoot: () => {},
  };
}

const frames = (page: Page, n: number) =>
  page.evaluate(
    (count) =>
      new Promise<void>((done) => {
        let left = count;
        const next = () => (left-- > 0 ? requestAnimationFrame(next) : done());
        next();
      }),
    n,
  );
/** Components drawn anew by `work`, a time of `times`. */
async function renders(page: Page, times: number, work: () => Promise<void>): Promise<number> {
  const count = () => page.evaluate(() => (window as unknown as { renders: number }).renders);
  const before = await count();
  await work();
  await frames(page, 2);
  return ((await count()) - before) / times;
}
const say = (what: string, n: number, goal: number) =>
  console.log(`components drawn anew, ${what}: ${n.toFixed(0)} (goal ≤ ${goal})`);

const browser = await chromium.launch({
  executablePath: BROWSER,
  args: BROWSER_ARGS,
});
try {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  // What runs this file gives functions their names by this helper, which the page does not have.
  await page.addInitScript({ content: 'globalThis.__name = (f) => f' });
  await page.addInitScript(countRenders);
  for (let n = 0; ; n++) {
    if (
      await fetch(`http://127.0.0.1:${port}/api/health`).then(
        (r) => r.ok,
        () => false,
      )
    )
      break;
    if (n > 100) throw new Error('the server does not answer');
    await new Promise((done) => setTimeout(done, 100));
  }
  await page.goto(`http://127.0.0.1:${port}/`);
  await page
    .getByRole('button', { name: /^Windfall Mill/ })
    .first()
    .click();
  await page.getByRole('heading', { name: 'Objects', exact: true }).waitFor();
  await page.locator('body').press('r');
  await page.getByRole('button', { name: 'Pause', exact: true }).click();
  const tick = page.getByRole('button', { name: 'One tick' });
  await tick.click();
  say(
    'a tick of a run without events',
    await renders(page, 20, async () => {
      for (let i = 0; i < 20; i++) await tick.press('Enter');
    }),
    15,
  );
  await page.locator('body').press('r');
  const box = await page.getByLabel('Frame', { exact: true }).boundingBox();
  if (!box) throw new Error('no frame');
  const [x, y] = [box.x + box.width / 2 + 40, box.y + box.height / 2 + 40];
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + 10, y);
  await frames(page, 10);
  say(
    'a move of a drag',
    await renders(page, 20, async () => {
      for (let i = 0; i < 20; i++) {
        await page.mouse.move(x + 12 + i * 2, y);
        await frames(page, 2);
      }
    }),
    40,
  );
  await page.mouse.up();
  await page.locator('body').press('Escape');
  // What was dragged brought its own lanes.
  await page.getByRole('treeitem', { name: /^Flap/ }).click();
  await page.locator('[data-state="tipping"]').dblclick();
  const timeline = page.getByRole('group', { name: 'Timeline' });
  await timeline.press('ArrowRight');
  say(
    'a frame number of the playhead',
    await renders(page, 20, async () => {
      for (let i = 0; i < 20; i++) await timeline.press('ArrowRight');
    }),
    25,
  );
  await timeline.press('Escape');
  await page.locator('body').press('r');
  await page.getByRole('button', { name: 'Pause', exact: true }).click();
  const live = await page.getByLabel('Live frame').boundingBox();
  if (!live) throw new Error('no live frame');
  // From the flap, which has a hint, to the sky, which has none, and back; each with the tick that notices it.
  const places = [
    { x: live.x + live.width * 0.462, y: live.y + live.height * 0.58 },
    { x: live.x + live.width * 0.2, y: live.y + live.height * 0.2 },
  ];
  let hints = 0;
  const over = async (i: number) => {
    await page.mouse.move((places[i % 2] as { x: number }).x, (places[i % 2] as { y: number }).y);
    await tick.press('Enter');
    hints += await page.getByRole('status').filter({ hasText: /./ }).count();
  };
  await over(1);
  const each = await renders(page, 20, async () => {
    for (let i = 0; i < 20; i++) await over(i);
  });
  if (hints === 0) throw new Error('no hint was seen');
  say('only the hint changes, its tick with it', each, 10);
} finally {
  await browser.close();
  server.kill();
}
