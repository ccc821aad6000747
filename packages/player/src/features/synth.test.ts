import { expect, it } from 'vitest';
import { SYNTHS, synthesized } from './synth.ts';

it.each(SYNTHS)('a %s is heard, never too loud, dies away, and is the same each time', (name) => {
  const made = synthesized(name, 8000);
  expect(made).toEqual(synthesized(name, 8000));
  if (!made) return;
  const loudest = (from: number, to: number) =>
    made.slice(from * made.length, to * made.length).reduce((n, x) => Math.max(n, Math.abs(x)), 0);
  expect(loudest(0, 1)).toBeGreaterThan(0.1);
  expect(loudest(0, 1)).toBeLessThanOrEqual(1);
  expect(loudest(0.9, 1)).toBeLessThan(loudest(0, 0.5) / 3);
  expect(made.at(-1)).toBeCloseTo(0, 2);
  expect(made.every(Number.isFinite)).toBe(true);
});

it('what has another name is not made', () => {
  expect(synthesized('constructor', 8000)).toBeNull();
});
