/** The parts of a picture that hang together, found by how opaque its px are. */
import type { Cut } from './cut.ts';

/** How opaque each px is, 0–255, row by row from the top. */
export interface Opacity {
  readonly width: number;
  readonly height: number;
  readonly alpha: Uint8Array;
}

/** From here on a px is a part's; less is a shadow's edge. */
const SEEN = 16;
/** Px of clear ground across which two spots are still one part, and the least sides of a part. */
const GAP = 2;
const LEAST = 3;

interface Run {
  readonly from: number;
  to: number;
  readonly spot: number;
}

/** A rectangle round each part that hangs together, in the order in which one reads. */
export function partsIn({ width, height, alpha }: Opacity): Cut[] {
  const above: number[] = [];
  const boxes: [x0: number, y0: number, x1: number, y1: number][] = [];
  const top = (i: number): number => {
    let at = i;
    while (above[at] !== at) at = above[at] as number;
    return at;
  };
  // Rows that are near enough to hang together with the present one.
  let near: Run[][] = [];
  for (let y = 0; y < height; y++) {
    const runs: Run[] = [];
    for (let x = 0; x < width; x++) {
      if ((alpha[y * width + x] as number) < SEEN) continue;
      const last = runs.at(-1);
      if (last && x - last.to <= GAP + 1) last.to = x;
      else {
        above.push(above.length);
        boxes.push([x, y, x, y]);
        runs.push({ from: x, to: x, spot: above.length - 1 });
      }
      const { spot } = runs.at(-1) as Run;
      (boxes[spot] as number[])[2] = x;
    }
    for (const r of runs)
      for (const q of near.flat()) {
        if (q.from > r.to + GAP + 1 || q.to < r.from - GAP - 1) continue;
        const [a, b] = [top(q.spot), top(r.spot)];
        if (a !== b) above[Math.max(a, b)] = Math.min(a, b);
      }
    near = [...near, runs].slice(-GAP - 1);
  }
  const whole = new Map<number, [number, number, number, number]>();
  boxes.forEach((box, i) => {
    const to = whole.get(top(i));
    if (!to) whole.set(top(i), [...box]);
    else {
      to[0] = Math.min(to[0], box[0]);
      to[1] = Math.min(to[1], box[1]);
      to[2] = Math.max(to[2], box[2]);
      to[3] = Math.max(to[3], box[3]);
    }
  });
  const found = [...whole.values()]
    .map(([x0, y0, x1, y1]): Cut => [x0, y0, x1 - x0 + 1, y1 - y0 + 1])
    .filter((c) => c[2] >= LEAST && c[3] >= LEAST);
  return inReadingOrder(found);
}

/** Row by row: what begins above the middle of the first of a row is in it. */
function inReadingOrder(cuts: readonly Cut[]): Cut[] {
  const left = cuts.toSorted((a, b) => a[1] - b[1]);
  const out: Cut[] = [];
  while (left.length > 0) {
    const [first] = left as [Cut];
    const row = left.filter((c) => c[1] < first[1] + first[3] / 2);
    out.push(...row.sort((a, b) => a[0] - b[0]));
    for (const c of row) left.splice(left.indexOf(c), 1);
  }
  return out;
}

/** A rectangle drawn round something, made as small as what it holds; as it was where it holds nothing. */
export function tightened({ width, height, alpha }: Opacity, [x, y, w, h]: Cut): Cut {
  let [x0, y0, x1, y1] = [width, height, -1, -1];
  for (let j = Math.max(0, Math.floor(y)); j < Math.min(height, Math.ceil(y + h)); j++)
    for (let i = Math.max(0, Math.floor(x)); i < Math.min(width, Math.ceil(x + w)); i++)
      if ((alpha[j * width + i] as number) >= SEEN) {
        x0 = Math.min(x0, i);
        y0 = Math.min(y0, j);
        x1 = Math.max(x1, i);
        y1 = Math.max(y1, j);
      }
  return x1 < 0 ? [x, y, w, h] : [x0, y0, x1 - x0 + 1, y1 - y0 + 1];
}
