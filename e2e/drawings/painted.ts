/** A page in which drawings are compared with what the browser paints of them. */
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { chromium } from '@playwright/test';
import { build, preview } from 'vite';
import { BROWSER, BROWSER_ARGS } from '../../scripts/browser.mjs';
import type { Compared } from './page/main.ts';

export interface Comparer {
  compare(text: string, wantsPictures?: boolean): Promise<Compared>;
  close(): Promise<void>;
}

/** Builds and opens the page; `port` must be free. */
export async function openComparer(port: number): Promise<Comparer> {
  const outDir = mkdtempSync(`${tmpdir()}/drawings-`);
  const root = `${import.meta.dirname}/page`;
  await build({ root, logLevel: 'error', build: { outDir, target: 'es2022' } });
  const server = await preview({ root, logLevel: 'error', build: { outDir }, preview: { port } });
  const browser = await chromium.launch({ executablePath: BROWSER, args: BROWSER_ARGS });
  const page = await browser.newPage();
  await page.goto(`http://localhost:${port}/`);
  await page.waitForFunction('window.compareDrawing !== undefined');
  return {
    compare: (text, wantsPictures = false) =>
      page.evaluate(([t, w]) => window.compareDrawing(t, w), [text, wantsPictures] as const),
    close: async () => {
      await browser.close();
      await server.close();
      rmSync(outDir, { recursive: true });
    },
  };
}
