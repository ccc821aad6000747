/**
 * `npm run drawings`: single features, real drawings and drawings made at random, as they are brought in and painted here
 * against what the browser paints of them. Nothing is fetched: all that is compared is installed with the tools.
 */

import { drawingOf, FEATURES } from './features.ts';
import type { Comparer } from './painted.ts';
import { openComparer } from './painted.ts';
import { randomDrawing } from './random.ts';
import { realDrawings } from './real.ts';

/** Per cent by which a picture may differ. */
const MOST = 2;

async function all(title: string, c: Comparer, list: readonly { name: string; text: string }[]) {
  let [right, silent] = [0, 0];
  const ratios: number[] = [];
  for (const { name, text } of list) {
    const r = await c.compare(text);
    ratios.push(r.reading / Math.max(r.parsing, 0.05));
    if (r.refused === null && r.difference <= MOST) {
      right++;
      continue;
    }
    if (r.refused === null && r.notes.length === 0) silent++;
    console.log(
      `  ${name}: ${r.refused ?? `${r.difference.toFixed(1)} % off; ${r.notes.join('; ') || 'not told'}`}`,
    );
  }
  ratios.sort((a, b) => a - b);
  const [median, largest] = [ratios[ratios.length >> 1] ?? 0, ratios.at(-1) ?? 0];
  console.log(
    `${title}: ${right} of ${list.length} within ${MOST} %, ${silent} of the others not told; reading ÷ the browser's parse: median ${median.toFixed(1)}, largest ${largest.toFixed(1)}`,
  );
}

const comparer = await openComparer(4396);
try {
  await all(
    'features',
    comparer,
    FEATURES.map((f) => ({ name: f.name, text: drawingOf(f) })),
  );
  await all('real drawings', comparer, realDrawings(80));
  const made = Array.from({ length: 500 }, (_, i) => ({
    name: `seed ${i + 1}`,
    text: randomDrawing(i + 1, 20),
  }));
  await all('drawings at random, of 20 shapes each', comparer, made);
} finally {
  await comparer.close();
}
