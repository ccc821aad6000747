/** Gradients that go on beyond their ends, against the standard's words for them. */
import { seeded } from '@apple-tick/core/testing';
import { expect, it } from 'vitest';
import { flipped, gradientOf } from './gradients.ts';
import type { Context } from './types.ts';

type Gradient = Parameters<typeof gradientOf>[1];

/** A context that keeps what a gradient is made of. */
function recorder() {
  const made: { line: number[]; stops: { at: number; grey: number }[] } = { line: [], stops: [] };
  const create = (...line: number[]) => {
    made.line = line;
    const addColorStop = (at: number, color: string) =>
      made.stops.push({ at, grey: Number.parseInt(color.slice(1, 3), 16) });
    return { addColorStop };
  };
  return { made, ctx: { createLinearGradient: create, createRadialGradient: create } as unknown as Context };
}
/** The grey that stops come to at a place: the last one's beyond the end, a line between two. */
function greyAt(stops: readonly { at: number; grey: number }[], t: number): number {
  let before = stops[0] as { at: number; grey: number };
  if (t < before.at) return before.grey;
  for (const next of stops) {
    if (t < next.at)
      return before.grey + ((next.grey - before.grey) * (t - before.at)) / (next.at - before.at);
    before = next;
  }
  return before.grey;
}
const hex = (grey: number) => `#${grey.toString(16).padStart(2, '0').repeat(3)}`;

it('beyond its ends a gradient goes back and forth, begins again, or keeps its last colour', () => {
  const random = seeded(20261204);
  for (let turn = 0; turn < 300; turn++) {
    const greys = Array.from({ length: 2 + Math.floor(random() * 3) }, () => Math.floor(random() * 256));
    const places = greys.map(() => Math.round(random() * 100) / 100).sort((a, b) => a - b);
    const stops = greys.map((grey, i) => ({ at: places[i] as number, color: hex(grey) }));
    const plain = stops.map((s, i) => ({ at: s.at, grey: greys[i] as number }));
    const spread = (['pad', 'reflect', 'repeat'] as const)[turn % 3] as 'pad' | 'reflect' | 'repeat';
    const [x, length] = [random() * 100, 5 + random() * 50];
    const g: Gradient = { gradient: 'linear', from: [x, 0], to: [x + length, 0], spread, stops };
    const { made, ctx } = recorder();
    gradientOf(ctx, g, [0, 0, 100, 100]);
    const [a, , b] = made.line as [number, number, number];
    for (let k = 0; k < 20; k++) {
      const at = 100 * random();
      const t = (at - x) / length;
      const part = t - Math.floor(t);
      const want =
        spread === 'pad' ? t : spread === 'repeat' ? part : Math.floor(t) % 2 === 0 ? part : 1 - part;
      // Where the colour jumps, either side is right.
      if (plain.some((s) => Math.abs(s.at - want) < 1e-6) || part < 1e-6) continue;
      expect(greyAt(made.stops, (at - a) / (b - a)), JSON.stringify([g, at])).toBeCloseTo(
        greyAt(plain, want),
        3,
      );
    }
  }
});

it('a spot that goes on grows until it holds what is painted, along the way from its bright spot', () => {
  const { made, ctx } = recorder();
  const stops = [
    { at: 0, color: '#000000' },
    { at: 1, color: '#ffffff' },
  ];
  gradientOf(
    ctx,
    { gradient: 'radial', centre: [50, 50], radius: 10, focus: [45, 50], spread: 'repeat', stops },
    [0, 0, 100, 100],
  );
  const [fx, fy, inner, cx, cy, radius] = made.line as [number, number, number, number, number, number];
  const times = radius / 10;
  expect([fx, fy, inner]).toEqual([45, 50, 0]);
  expect([cx, cy]).toEqual([45 + 5 * times, 50]);
  for (const [x, y] of [
    [0, 0],
    [100, 0],
    [0, 100],
    [100, 100],
  ] as const)
    expect(Math.hypot(x - cx, y - cy)).toBeLessThanOrEqual(radius);
  expect(made.stops).toHaveLength(4 * times);
});

it('turned over, a gradient lies where it lay', () => {
  const stops = [
    { at: 0, color: '#000000' },
    { at: 1, color: '#ffffff' },
  ];
  expect(flipped({ gradient: 'radial', centre: [1, 2], radius: 3, focus: [2, 5], stops })).toMatchObject({
    centre: [1, -2],
    focus: [2, -5],
  });
  const bent = { gradient: 'radial' as const, centre: [0, 0] as [number, number], radius: 3, stops };
  expect(flipped({ ...bent, matrix: [1, 2, 3, 4, 5, 6] })).toMatchObject({ matrix: [1, -2, 3, -4, 5, -6] });
});
