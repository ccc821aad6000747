import { readFileSync } from 'node:fs';
import { chromium } from '@playwright/test';
import { BROWSER, BROWSER_ARGS } from './browser.mjs';

const b = await chromium.launch({ executablePath: BROWSER, args: BROWSER_ARGS });
const p = await b.newPage({ viewport: { width: 1060, height: 540 } });
const files = process.argv.slice(3);
await p.setContent(
  files
    .map(
      (f) =>
        `<img src="data:image/png;base64,${readFileSync(f).toString('base64')}" style="width:255px;border:1px solid red">`,
    )
    .join(''),
);
await p.screenshot({ path: process.argv[2] });
await b.close();
