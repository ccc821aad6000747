import { seeded } from '@apple-tick/core/testing';
import { expect, it } from 'vitest';
import { type ArcLayout, type LaneShape, layoutLane, NOTCH, type Rect, wholeTickets } from './layout.ts';

const overlap = (a: Rect, b: Rect) =>
  a.x < b.x + b.w && b.x < a.x + a.w && a.y < b.y + b.h && b.y < a.y + a.h;

function randomLane(random: () => number, most = 20): LaneShape {
  const states = Array.from({ length: 1 + Math.floor(random() * most) }, (_, i) => ({
    id: `s${i}`,
    name: `s${i}`,
  }));
  const pick = () => `s${Math.floor(random() * states.length)}`;
  const transitions = Array.from({ length: Math.floor(random() * 2.2 * states.length) }, (_, i) => ({
    id: `t${i}`,
    from: pick(),
    to: pick(),
    words: 'x'.repeat(Math.floor(random() * 60)),
  }));
  return { states, transitions };
}
/** Points along an arc, its curves drawn as their two ends and middle would be. */
function points({ path, far }: ArcLayout): { x: number; y: number }[] {
  const out: { x: number; y: number }[] = [];
  const line = (a: number[], b: number[]) => {
    for (let i = 0; i <= 60; i++)
      out.push({
        x: (a[0] as number) + (((b[0] as number) - (a[0] as number)) * i) / 60,
        y: (a[1] as number) + (((b[1] as number) - (a[1] as number)) * i) / 60,
      });
  };
  const n = [...path.matchAll(/-?[\d.]+(?:e-?\d+)?/g)].map((m) => Number(m[0]));
  if (far) {
    const [x1, edge, cy, x2, top] = n as [number, number, number, number, number];
    line([x1, edge], [x1, cy]);
    line([x2, top], [x2, edge]);
    return out;
  }
  const [x1, e1, y1, qx1, qy1, ax, ay, bx, qx2, qy2, x2, y2, e2] = n as [number, ...number[]];
  const curve = (a: number[], q: number[], b: number[]) => {
    for (let i = 0; i <= 20; i++) {
      const t = i / 20;
      const at = (k: number) =>
        (1 - t) ** 2 * (a[k] as number) + 2 * t * (1 - t) * (q[k] as number) + t * t * (b[k] as number);
      out.push({ x: at(0), y: at(1) });
    }
  };
  line([x1, e1 as number], [x1, y1 as number]);
  curve([x1, y1 as number], [qx1 as number, qy1 as number], [ax as number, ay as number]);
  line([ax as number, ay as number], [bx as number, ay as number]);
  curve([bx as number, ay as number], [qx2 as number, qy2 as number], [x2 as number, y2 as number]);
  line([x2 as number, y2 as number], [x2 as number, e2 as number]);
  return out;
}
const isIn = (p: { x: number; y: number }, r: Rect) =>
  p.x > r.x && p.x < r.x + r.w && p.y > r.y && p.y < r.y + r.h;

it('over 500 random lanes no ticket lies over a ticket, a panel or a foreign arc, and nothing is off the canvas', () => {
  const random = seeded(99);
  for (let n = 0; n < 500; n++) {
    const lane = randomLane(random);
    const l = layoutLane(lane, {
      width: 500 + random() * 1500,
      height: 150 + random() * 400,
      zoom: 0.5 + random() * 2,
    });
    expect(l.arcs).toHaveLength(lane.transitions.length);
    const panels = Object.values(l.panels);
    const lines = new Map(l.arcs.map((a) => [a.id, points(a)]));
    const faults: string[] = [];
    for (const [i, a] of l.arcs.entries()) {
      const line = lines.get(a.id) ?? [];
      if (a.ticket.w < NOTCH) faults.push(`${a.id} is too narrow`);
      for (const b of l.arcs.slice(i + 1))
        if (overlap(a.ticket, b.ticket)) faults.push(`${a.id} over ${b.id}`);
      if (panels.some((p) => overlap(a.ticket, p))) faults.push(`${a.id} over a panel`);
      for (const b of l.arcs)
        if (b !== a && line.some((p) => isIn(p, b.ticket))) faults.push(`${a.id} behind ${b.id}`);
      const { ticket: t, whole } = a;
      const far = [t, whole].map((r) => ({ x: r.x + r.w, y: r.y + r.h }));
      for (const p of [...line, t, whole, ...far])
        if (!(p.x >= 0 && p.y >= 0 && p.x <= l.width && p.y <= l.height)) faults.push(`${a.id} off`);
    }
    const ends = l.arcs.flatMap((a) => [a.head, { ...a.head, x: lines.get(a.id)?.[0]?.x as number }]);
    ends.forEach((a, i) => {
      for (const b of ends.slice(i + 1))
        if (a.y === b.y && Math.abs(a.x - b.x) < 11.999) faults.push(`ends at ${a.x}`);
    });
    expect(faults, `lane ${n}`).toEqual([]);
  }
});

it('over 300 random lanes arcs that lie in one another do not cross', () => {
  const random = seeded(7);
  for (let n = 0; n < 300; n++) {
    const lane = randomLane(random, 12);
    const l = layoutLane(lane, { width: 1100, height: 270, zoom: 1 });
    const at = new Map(lane.states.map((s, i) => [s.id, i]));
    const spans = lane.transitions.map((t) => {
      const [from, to] = [at.get(t.from) as number, at.get(t.to) as number];
      const arc = l.arcs.find((a) => a.id === t.id) as ArcLayout;
      const p = points(arc);
      return {
        from,
        to,
        p,
        far: arc.far,
        low: Math.min(from, to),
        high: Math.max(from, to),
        above: to >= from,
      };
    });
    for (const outer of spans)
      for (const inner of spans) {
        if (outer === inner || outer.above !== inner.above || outer.far || inner.far) continue;
        if (!(outer.low <= inner.low && inner.high <= outer.high)) continue;
        if (outer.low === inner.low && outer.high === inner.high) continue;
        const edge = outer.p[0]?.y as number;
        // The outer one is further from the panels at every place where both are.
        for (const q of inner.p) {
          const over = outer.p.filter((o) => Math.abs(o.x - q.x) < 0.6);
          if (over.length === 0) continue;
          const most = Math.max(...over.map((o) => Math.abs(o.y - edge)));
          if (most < Math.abs(q.y - edge)) expect.fail(`lane ${n}: crossed at ${q.x}`);
        }
      }
  }
});

it('12 states with 24 transitions show names and the beginnings of their tickets without scrolling', () => {
  const states = Array.from({ length: 12 }, (_, i) => ({ id: `s${i}`, name: `s${i}` }));
  const transitions = Array.from({ length: 24 }, (_, i) => ({
    id: `t${String(i).padStart(2, '0')}`,
    from: `s${i % 12}`,
    to: `s${i < 12 ? (i + 1) % 12 : (i + 10) % 12}`,
    words: 'gust · 40 %',
  }));
  const l = layoutLane({ states, transitions }, { width: 1116, height: 287, zoom: 1 });
  expect(l.width).toBe(1116);
  expect(l.height).toBe(287);
  for (const p of Object.values(l.panels)) expect(p.w).toBeGreaterThanOrEqual(56);
  expect(l.arcs.filter((a) => a.ticket.w > 2 * NOTCH).length).toBeGreaterThanOrEqual(20);
});

it('panels grow with the room and shrink with their number; many are scrolled at a width in which they can be read', () => {
  const width = (n: number, zoom = 1) => {
    const states = Array.from({ length: n }, (_, i) => ({ id: `s${i}`, name: `s${i}` }));
    const l = layoutLane({ states, transitions: [] }, { width: 1116, height: 280, zoom });
    return { panel: l.panels.s0 as Rect, all: l.width };
  };
  const [one, four, eight, fourteen, thirty] = [1, 4, 8, 14, 30].map((n) => width(n));
  expect(one?.panel.w).toBeGreaterThan(four?.panel.w as number);
  expect(four?.panel.w).toBeGreaterThan(eight?.panel.w as number);
  expect(eight?.panel.h).toBeGreaterThanOrEqual(fourteen?.panel.h as number);
  expect([one, four, eight, fourteen].every((l) => l?.all === 1116)).toBe(true);
  expect(thirty?.all).toBeGreaterThan(2000);
  expect(thirty?.panel.w).toBeGreaterThanOrEqual(100);
  expect(width(8, 2).panel.w).toBeGreaterThan(eight?.panel.w as number);
});

it('of tickets that are to be read whole none lies over another', () => {
  const random = seeded(31);
  for (let n = 0; n < 200; n++) {
    const lane = randomLane(random, 9);
    const l = layoutLane(lane, { width: 900, height: 280, zoom: 1 });
    const ids = new Set(lane.transitions.filter((t) => t.from === 's0' || t.to === 's0').map((t) => t.id));
    const whole = [...wholeTickets(l, ids).values()];
    expect(whole).toHaveLength(ids.size);
    whole.forEach((a, i) => {
      for (const b of whole.slice(i + 1)) expect(overlap(a, b)).toBe(false);
    });
  }
});
