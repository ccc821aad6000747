import { seeded } from '@apple-tick/core/testing';
import { describe, expect, it } from 'vitest';
import type { Cut } from './cut.ts';
import { type Opacity, partsIn, tightened } from './find-parts.ts';

function picture(width: number, height: number, is: (x: number, y: number) => boolean): Opacity {
  const alpha = Uint8Array.from({ length: width * height }, (_, i) =>
    is(i % width, Math.floor(i / width)) ? 255 : 0,
  );
  return { width, height, alpha };
}
const holds = ([x, y, w, h]: Cut, px: number, py: number) => px >= x && px < x + w && py >= y && py < y + h;

/** Spots that hang together across two clear px, found by going from one px to the next. */
function naive({ width, height, alpha }: Opacity): string[] {
  const seen = new Set<number>();
  const out: Cut[] = [];
  for (let i = 0; i < width * height; i++) {
    if (seen.has(i) || !alpha[i]) continue;
    const stack = [i];
    seen.add(i);
    let [x0, y0, x1, y1] = [width, height, 0, 0];
    for (let at = stack.pop(); at !== undefined; at = stack.pop()) {
      const [x, y] = [at % width, Math.floor(at / width)];
      [x0, y0, x1, y1] = [Math.min(x0, x), Math.min(y0, y), Math.max(x1, x), Math.max(y1, y)];
      for (let dy = -3; dy <= 3; dy++)
        for (let dx = -3; dx <= 3; dx++) {
          const n = (y + dy) * width + x + dx;
          if (x + dx < 0 || x + dx >= width || y + dy < 0 || y + dy >= height) continue;
          if (alpha[n] && !seen.has(n)) {
            seen.add(n);
            stack.push(n);
          }
        }
    }
    if (x1 - x0 >= 2 && y1 - y0 >= 2) out.push([x0, y0, x1 - x0 + 1, y1 - y0 + 1]);
  }
  return out.map(String).sort();
}

describe('parts of a picture', () => {
  it('are the same as by going from px to px, in random pictures', () => {
    const random = seeded(11);
    for (let n = 0; n < 60; n++) {
      const spots = Array.from(
        { length: 12 },
        (): Cut => [random() * 70, random() * 50, random() * 14, random() * 14],
      );
      const p = picture(80, 60, (x, y) => spots.some((s) => holds(s, x, y)) || random() < 0.004);
      expect(partsIn(p).map(String).sort()).toEqual(naive(p));
    }
  });

  it('come in the order in which one reads', () => {
    const cells: Cut[] = [
      [2, 4, 10, 10],
      [20, 2, 10, 10],
      [40, 6, 10, 10],
      [3, 30, 10, 10],
      [22, 28, 10, 10],
    ];
    expect(partsIn(picture(60, 50, (x, y) => cells.some((c) => holds(c, x, y))))).toEqual(cells);
  });

  it('a rectangle drawn roughly is made as small as what it holds; one round nothing stays', () => {
    const p = picture(40, 40, (x, y) => holds([10, 12, 7, 5], x, y));
    expect(tightened(p, [4.5, 6.2, 20, 20])).toEqual([10, 12, 7, 5]);
    expect(tightened(p, [30, 30, 5, 5])).toEqual([30, 30, 5, 5]);
  });
});
