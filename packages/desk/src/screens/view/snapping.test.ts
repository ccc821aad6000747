import { seeded } from '@apple-tick/core/testing';
import { expect, it } from 'vitest';
import { union } from '../../session/view/screen-boxes.ts';
import { snapMove, touches } from './snapping.ts';

const box = (x0: number, y0: number, w: number, h: number) => ({ x0, y0, x1: x0 + w, y1: y0 + h });

it('the nearer of edges and middles wins on each axis by itself', () => {
  const moving = box(0, 0, 10, 10);
  const target = box(100, 50, 20, 20);
  // Its right edge comes near the target's left edge; nothing is near in y.
  const a = snapMove(moving, 88, 5, [target]);
  expect([a.dx, a.dy]).toEqual([90, 5]);
  expect(a.lines).toEqual([{ x1: 100, x2: 100, y1: 5, y2: 70 }]);
  // Its middle meets the target's middle in y.
  const b = snapMove(moving, 40, 57, [target]);
  expect([b.dx, b.dy]).toEqual([40, 55]);
});

it('out of reach nothing changes, and without targets nothing is asked', () => {
  expect(snapMove(box(0, 0, 10, 10), 83, 0, [box(100, 50, 20, 20)])).toEqual({ dx: 83, dy: 0, lines: [] });
  expect(snapMove(box(0, 0, 10, 10), 3, 4, [])).toEqual({ dx: 3, dy: 4, lines: [] });
});

it('whatever the movement, a snap moves by no more than its reach', () => {
  const random = seeded(8);
  for (let n = 0; n < 500; n++) {
    const [dx, dy] = [200 * random(), 200 * random()];
    const targets = Array.from({ length: 4 }, () => box(200 * random(), 200 * random(), 40, 30));
    const s = snapMove(box(0, 0, 25, 15), dx, dy, targets);
    expect(Math.abs(s.dx - dx)).toBeLessThanOrEqual(6);
    expect(Math.abs(s.dy - dy)).toBeLessThanOrEqual(6);
    expect(s.lines.length === 0).toBe(s.dx === dx && s.dy === dy);
  }
});

it('boxes are joined, and touch where they meet', () => {
  expect(union(undefined, box(1, 2, 3, 4))).toEqual(box(1, 2, 3, 4));
  expect(union(box(0, 0, 1, 1), box(5, 5, 1, 1))).toEqual(box(0, 0, 6, 6));
  expect(touches(box(0, 0, 1, 1), box(1, 1, 1, 1))).toBe(true);
  expect(touches(box(0, 0, 1, 1), box(2, 0, 1, 1))).toBe(false);
});
