import { seeded } from '@apple-tick/core/testing';
import { expect, it } from 'vitest';
import { arithmetic, written } from './fields.tsx';

it('sums typed by hand', () => {
  const cases: [string, number | null][] = [
    ['90/2', 45],
    ['2+3*4', 14],
    ['(2+3)*4', 20],
    ['-5', -5],
    ['10-2-3', 5],
    ['12,5', 12.5],
    ['3 × 4 ÷ 2', 6],
    ['−7', -7],
    ['45°', 45],
    ['30 px', 30],
    ['.5', 0.5],
    ['+15', 25],
    ['2(3)', null],
    ['1/0', null],
    ['', null],
    ['abc', null],
    ['1e9', null],
    ['(1+2', null],
    ['99999999', 1_000_000],
    ['0.5 s', 0.5],
    ['alert(1)', null],
  ];
  for (const [text, value] of cases) expect(arithmetic(text, 10), text).toBe(value);
});

it('frame numbers in fields of time', () => {
  expect(arithmetic('180f', 0, 60)).toBe(3);
  expect(arithmetic('+12f', 1, 24)).toBe(1.5);
  expect(arithmetic('90f/2 + 0.5', 0, 60)).toBe(1.25);
  expect(arithmetic('180f', 0)).toBeNull();
  expect(arithmetic('18ff', 0, 60)).toBeNull();
});

it('random sums agree with the language’s own arithmetic', () => {
  const random = seeded(3);
  const term = (depth: number): string => {
    const what = random();
    if (depth === 0 || what < 0.4) return String(1 + Math.floor(random() * 20));
    if (what < 0.5) return `(${term(depth - 1)})`;
    return `${term(depth - 1)}${'+-*/'[Math.floor(random() * 4)]}${term(depth - 1)}`;
  };
  for (let n = 0; n < 300; n++) {
    const text = term(4);
    // biome-ignore lint/security/noGlobalEval: the reference; its text is made here
    const expected = globalThis.eval(text) as number;
    const got = arithmetic(text, 0);
    if (!Number.isFinite(expected)) expect(got).toBeNull();
    else expect(got, text).toBeCloseTo(Math.max(-1e6, Math.min(1e6, expected)), 9);
  }
});

it('numbers in narrow fields keep to six characters', () => {
  const cases: [number, string, string][] = [
    [315.3694, '315.369', '315.4'],
    [-99.256, '-99.256', '-99.26'],
    [-0.0001, '0', '0'],
    [-9.8766, '-9.877', '-9.877'],
    [12345.6, '12345.6', '12346'],
    [40, '40', '40'],
  ];
  for (const [n, wide, short] of cases) expect([written(n, false), written(n, true)]).toEqual([wide, short]);
});
