import { hexToOklab } from '@apple-tick/core/base';
import { expect, it } from 'vitest';
import { readHex, shadeHex, shadeOf } from './shades.ts';

/** Every 17th byte of each part, and some that lie between. */
const COLORS = Array.from(
  { length: 400 },
  (_, i) => `#${((i * 41943 + 977) % 0x1000000).toString(16).padStart(6, '0')}`,
);
const apart = (a: string, b: string) => {
  const [x, y] = [new Float64Array(3), new Float64Array(3)];
  hexToOklab(a, x, 0);
  hexToOklab(b, y, 0);
  return Math.hypot(...x.map((n, i) => n - (y[i] as number)));
};

it('a colour told as a shade is that colour again', () => {
  for (const c of COLORS) expect(apart(shadeHex(shadeOf(c)), c), c).toBeLessThan(0.012);
});

it('light, strength and hue go each by itself', () => {
  for (const c of COLORS) {
    const s = shadeOf(c);
    if (s.strength < 0.2 || s.light < 0.2 || s.light > 0.9) continue;
    const turned = shadeOf(shadeHex({ ...s, hue: (s.hue + 90) % 360 }));
    expect(turned.light, c).toBeCloseTo(s.light, 1);
    expect(turned.strength, c).toBeGreaterThan(s.strength - 0.1);
    expect(shadeOf(shadeHex({ ...s, strength: 0 })).strength).toBeLessThan(0.03);
  }
});

it('a grey keeps the hue that was chosen, black and white the strength too', () => {
  const like = { light: 0.5, strength: 0.7, hue: 123 };
  expect(shadeOf('#808080', like)).toMatchObject({ strength: 0, hue: 123 });
  expect(shadeOf('#000000', like)).toEqual({ light: 0, strength: 0.7, hue: 123 });
  expect(shadeOf('#ffffff', like)).toMatchObject({ strength: 0.7, hue: 123 });
});

it('colours are typed in three digits or six, with # or without', () => {
  expect(readHex(' B32 ')).toBe('#bb3322');
  expect(readHex('#B32529')).toBe('#b32529');
  expect(readHex('red')).toBeNull();
  expect(readHex('#12345')).toBeNull();
});
