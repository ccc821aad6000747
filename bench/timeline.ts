/**
 * A timeline of 50,000 pips in the built desk: what a frame of scrolling, zooming and dragging 500 of them costs the page,
 * against putting the same rows on the page anew from their markup.
 */
import { spawn } from 'node:child_process';
import { defaultBase, emptyPiece, type Piece } from '@apple-tick/core/model';
import { chromium, type Page } from '@playwright/test';
import { BROWSER, BROWSER_ARGS } from '../scripts/browser.mjs';

const ROWS = 50;
const KEYS = 1000;
const STEPS = 60;
const port = 4397;
const server = spawn(process.execPath, ['packages/server/dist/main.js'], {
  cwd: new URL('..', import.meta.url),
  env: { ...process.env, PORT: String(port), LOG_LEVEL: 'warn' },
  stdio: 'inherit',
});

function manyKeys(): Piece {
  const p = emptyPiece('bench', 'Many keys');
  const object = (id: string, parent: string | null) => ({
    ...{ id, name: id, parent, order: id, tags: [], hint: '', base: defaultBase() },
    ...{ kind: 'group' as const },
  });
  p.objects['ob_root'] = object('ob_root', null);
  const tracks = Array.from({ length: ROWS }, (_, i) => {
    const id = `ob_${String(i).padStart(2, '0')}`;
    p.objects[id] = object(id, 'ob_root');
    const keys = Array.from({ length: KEYS }, (_, k) => ({
      t: k / 50,
      value: Math.round(100 * Math.sin(k / 7 + i)),
      easing: 'linear' as const,
    }));
    return { object: id, property: 'position.x', mode: 'absolute' as const, keys };
  });
  const clip = { id: 'cl_many', name: 'many', root: 'ob_root', duration: KEYS / 50, cues: [], tracks };
  p.clips['cl_many'] = { ...clip, loop: 'once' };
  return p;
}

const median = (list: readonly number[]) => [...list].sort((a, b) => a - b)[list.length >> 1] as number;
const frames = (page: Page) =>
  page.evaluate(
    () => new Promise<void>((done) => requestAnimationFrame(() => requestAnimationFrame(() => done()))),
  );

try {
  await new Promise((done) => setTimeout(done, 1500));
  const browser = await chromium.launch({ executablePath: BROWSER, args: BROWSER_ARGS });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  const cdp = await page.context().newCDPSession(page);
  await cdp.send('Performance.enable');
  /** Milliseconds of the page's own work until now. */
  const worked = async () => {
    const { metrics } = await cdp.send('Performance.getMetrics');
    return 1000 * (metrics.find((m) => m.name === 'TaskDuration')?.value ?? 0);
  };
  const longTasks = () =>
    page.evaluate(() => (window as unknown as { longTasks: number[] }).longTasks.splice(0));
  /** Work of the page per step, ms, and its longest task; tasks under 50 ms are not told, and count as that. */
  const costs = async (step: (i: number) => Promise<void>) => {
    const list: number[] = [];
    await longTasks();
    for (let i = 0; i < STEPS; i++) {
      const before = await worked();
      await step(i);
      await frames(page);
      list.push((await worked()) - before);
    }
    return { frame: median(list), longest: Math.max(50, ...(await longTasks())) };
  };
  await page.addInitScript(() => {
    const list: number[] = [];
    Object.assign(window, { longTasks: list });
    new PerformanceObserver((seen) => {
      for (const e of seen.getEntries()) list.push(e.duration);
    }).observe({ type: 'longtask' });
  });
  await page.goto(`http://127.0.0.1:${port}/`);
  await page.getByLabel('File to import').setInputFiles({
    name: 'many.tick.json',
    mimeType: 'application/json',
    buffer: Buffer.from(JSON.stringify(manyKeys())),
  });
  await page.getByRole('tab', { name: 'Clips' }).click();
  await page.getByRole('button', { name: 'Open many' }).dblclick();
  const timeline = page.getByRole('group', { name: 'Timeline' }).first();
  await timeline.waitFor();
  const box = await timeline.boundingBox();
  if (!box) throw new Error('no timeline');
  const [x, y] = [box.x + box.width * 0.6, box.y + box.height * 0.6];
  await page.mouse.move(x, y);
  await frames(page);

  const bare = await costs(() =>
    timeline.evaluate((el) => {
      const copy = el.cloneNode(false) as HTMLElement;
      const html = el.innerHTML;
      const { left, top, width, height } = el.getBoundingClientRect();
      Object.assign(copy.style, { position: 'fixed', left: `${left}px`, top: `${top}px` });
      Object.assign(copy.style, { width: `${width}px`, height: `${height}px`, background: 'white' });
      document.querySelector('[data-bare]')?.remove();
      copy.dataset['bare'] = '';
      document.body.append(copy);
      copy.innerHTML = html;
      copy.getBoundingClientRect();
    }),
  );
  await page.evaluate(() => document.querySelector('[data-bare]')?.remove());
  const scrolled = await costs((i) => page.mouse.wheel(0, i % 12 < 6 ? 60 : -60));
  await page.keyboard.down('Control');
  const zoomed = await costs((i) => page.mouse.wheel(0, i % 12 < 6 ? -40 : 40));
  await page.keyboard.up('Control');
  await timeline.press('0');
  // Four rows under their objects' names, and of each an eighth of its keys; the box is begun where there are none.
  const [head, ruler] = [238, 40];
  const wide = box.width - head;
  await page.mouse.move(box.x + head - 8, box.y + ruler + 4);
  await page.mouse.down();
  await page.mouse.move(box.x + head + wide * 0.105, box.y + ruler + 4 * 48 - 6, { steps: 4 });
  await page.mouse.up();
  const chosen = await page
    .getByText(/^\d+ keys$/)
    .first()
    .textContent();
  const pip = { x: box.x + head + wide * 0.05, y: box.y + ruler + 30 };
  await page.mouse.move(pip.x, pip.y);
  await page.mouse.down();
  const dragged = await costs((i) => page.mouse.move(pip.x + 5 + i * 1.5, pip.y));
  await page.mouse.up();
  const tell = (what: string, { frame, longest }: typeof bare) => {
    const [m, most] = [frame / bare.frame, longest / bare.frame];
    process.stdout.write(
      `timeline of ${ROWS * KEYS} pips, ${what}: a frame ${m.toFixed(2)} (goal ≤ 1.5), the longest task at most ${most.toFixed(2)} (goal ≤ 3) × a bare redraw of its rows\n`,
    );
  };
  tell('scrolled', scrolled);
  tell('zoomed', zoomed);
  tell(`${chosen} dragged`, dragged);
  await browser.close();
} finally {
  server.kill();
}
