import { expect, it } from 'vitest';
import { sizeOf } from './Parts.tsx';

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
