// Which Chromium is driven. Debian's build without windows comes first: it takes a third less of a small machine.
import { existsSync } from 'node:fs';

const PLACES = ['/usr/bin/chromium-headless-shell', '/usr/bin/chromium'];

/** The path of the browser, or null when there is none; `CHROMIUM` names another. */
export function findBrowser() {
  return process.env.CHROMIUM ?? PLACES.find((p) => existsSync(p)) ?? null;
}

export const BROWSER = findBrowser() ?? '/usr/bin/chromium';

/** How it is started everywhere. Without windows it would round the widths of letters, if it were not told. */
export const BROWSER_ARGS = [
  '--no-sandbox',
  '--disable-gpu',
  '--font-render-hinting=none',
  '--disable-background-networking',
];
