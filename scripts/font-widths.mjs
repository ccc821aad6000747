// Writes the advance widths of the bundled fonts into the core, so that a text is as wide in Node as in a browser.
// Run by hand after a font changes: node scripts/font-widths.mjs
// The widths are measured in Chromium, glyph by glyph at 1000 px, without kerning.
import { readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { chromium } from '@playwright/test';
import { BROWSER, BROWSER_ARGS } from './browser.mjs';

const root = path.resolve(import.meta.dirname, '..');
const FONTS = {
  serif: '@fontsource-variable/fraunces/files/fraunces-latin-wght-normal.woff2',
  sans: '@fontsource-variable/public-sans/files/public-sans-latin-wght-normal.woff2',
  mono: '@fontsource/ibm-plex-mono/files/ibm-plex-mono-latin-400-normal.woff2',
};
/** Printable ASCII and Latin-1, and the marks that people type besides. */
const RANGES = [
  [0x20, 95],
  [0xa0, 96],
  [0x2013, 2],
  [0x2018, 2],
  [0x201c, 2],
  [0x2022, 1],
  [0x2026, 1],
  [0x20ac, 1],
];
const CHARACTERS = RANGES.flatMap(([first, n]) => Array.from({ length: n }, (_, i) => first + i));

const browser = await chromium.launch({
  executablePath: BROWSER,
  args: BROWSER_ARGS,
});
const page = await browser.newPage();
const data = {};
for (const [name, file] of Object.entries(FONTS)) {
  const bytes = readFileSync(path.join(root, 'node_modules', file)).toString('base64');
  data[name] = await page.evaluate(
    async ({ name, bytes, characters }) => {
      const face = new FontFace(name, `url(data:font/woff2;base64,${bytes})`, { weight: '100 900' });
      document.fonts.add(await face.load());
      const ctx = document.createElement('canvas').getContext('2d');
      ctx.fontKerning = 'none';
      const out = {};
      for (const weight of [400, 700]) {
        ctx.font = `${weight} 1000px ${name}`;
        out[weight] = characters.map(
          (c) => Math.round(ctx.measureText(String.fromCodePoint(c)).width * 10) / 10,
        );
      }
      return out;
    },
    { name: `made-${name}`, bytes, characters: CHARACTERS },
  );
}
await browser.close();
const list = (numbers) => `[${numbers.join(', ')}]`;
/** Two digits of base 52, the lower first: from ( on so many characters need no escape in a string. */
const digits = (n) => String.fromCharCode(40 + (n % 52), 40 + Math.floor(n / 52));
const coded = (widths) =>
  widths[400].map((thin, i) => digits(2 * thin) + digits(2 * (widths[700][i] - thin) + 52)).join('');
const text = `// Made by scripts/font-widths.mjs from the bundled fonts: do not change by hand.
/** The characters that have widths here, as first code point and number of those that follow one another. */
export const WIDTH_RANGES = [
${RANGES.map((r) => `  ${list(r)},`).join('\n')}
] as const;
/**
 * Advance widths in halves of a thousandth of the font size, in the order of WIDTH_RANGES: of each character the one at
 * weight 400, and 52 more than what it gains up to weight 700. Each is two digits of base 52, the lower first, from ( on.
 */
export const WIDTHS = {
${Object.entries(data)
  .map(([name, w]) => `  ${name}:\n    '${coded(w)}',`)
  .join('\n')}
} as const;
`;
writeFileSync(path.join(root, 'packages/core/src/model/font-widths.ts'), text);
