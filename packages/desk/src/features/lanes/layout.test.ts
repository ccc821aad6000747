import { expect, it } from 'vitest';
import { layoutLane, type Rect } from './layout.ts';

const overlap = (a: Rect, b: Rect) =>
  a.x < b.x + b.w && b.x < a.x + a.w && a.y < b.y + b.h && b.y < a.y + a.h;

it('over 500 random lanes no ticket lies over a ticket or a panel, and no ends within 12 px', () => {
  let seed = 99;
  const random = () => {
    seed = (Math.imul(seed, 1103515245) + 12345) & 0x7fffffff;
    return seed / 0x7fffffff;
  };
  for (let n = 0; n < 500; n++) {
    const states = Array.from({ length: 1 + Math.floor(random() * 9) }, (_, i) => ({ id: `s${i}` }));
    const pick = () => `s${Math.floor(random() * states.length)}`;
    const transitions = Array.from({ length: Math.floor(random() * 22) }, (_, i) => ({
      id: `t${i}`,
      from: pick(),
      to: pick(),
      words: 'x'.repeat(Math.floor(random() * 60)),
    }));
    const l = layoutLane({ states, transitions }, 500 + random() * 1500);
    expect(l.arcs).toHaveLength(transitions.length);
    l.arcs.forEach((a, i) => {
      for (const b of l.arcs.slice(i + 1)) expect(overlap(a.ticket, b.ticket), `lane ${n}`).toBe(false);
      for (const p of Object.values(l.panels)) expect(overlap(a.ticket, p), `lane ${n}`).toBe(false);
      expect(a.ticket.y).toBeGreaterThanOrEqual(0);
      expect(a.ticket.y + a.ticket.h).toBeLessThanOrEqual(l.height);
    });
    const ends = l.arcs.flatMap((a) => {
      const [, x, y] = /^M([\d.]+) ([\d.]+)Q/.exec(a.path) as unknown as [string, string, string];
      return [{ x: Number(x), y: Number(y) }, a.head];
    });
    ends.forEach((a, i) => {
      for (const b of ends.slice(i + 1))
        if (a.y === b.y) expect(Math.abs(a.x - b.x)).toBeGreaterThanOrEqual(12);
    });
  }
});
