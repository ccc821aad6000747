import { expect, it } from 'vitest';
import { sizeIn, sizeOf } from './Parts.tsx';

it('parts of the screen begin as they were kept, within their sizes; what was pushed well below is folded', () => {
  expect(sizeOf('left', undefined)).toBe(190);
  expect(sizeOf('left', 'wide')).toBe(190);
  expect(sizeOf('left', Number.NaN)).toBe(190);
  expect(sizeOf('left', 10)).toBe(0);
  expect(sizeOf('left', 120)).toBe(150);
  expect(sizeOf('right', 9999)).toBe(520);
  expect(sizeOf('deck', 333.4)).toBe(333);
  expect(sizeOf('deck', 38)).toBe(38);
});

it('in a small window they begin smaller, so that the view has room; what is folded stays so', () => {
  expect(sizeIn('left', {}, 1280, 800)).toBe(190);
  expect(sizeIn('left', {}, 853, 533)).toBe(164);
  expect(sizeIn('right', {}, 853, 533)).toBe(259);
  expect(sizeIn('deck', {}, 853, 533)).toBe(249);
  expect(sizeIn('right', {}, 400, 300)).toBe(250);
  expect(sizeIn('left', { left: 0 }, 853, 533)).toBe(0);
});
