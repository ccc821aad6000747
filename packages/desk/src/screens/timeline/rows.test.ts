import type { Clip } from '@apple-tick/core/model';
import { describe, expect, it } from 'vitest';
import { DENSE, rowsOf } from './rows.ts';

const clip = (rows: readonly (readonly [string, string])[]): Clip => ({
  ...{ id: 'cl_a', name: 'a', root: 'ob_a', duration: 1, loop: 'once', cues: [] },
  tracks: rows.map(([object, property]) => ({
    ...{ object, property, mode: 'absolute' as const },
    keys: [{ t: 0, value: 0, easing: 'linear' as const }],
  })),
});
const NONE = new Set<string>();
const all = { shows: () => true, folded: NONE, chosen: NONE, room: 250 };
const heights = (c: Clip, parts = {}) => rowsOf(c, { ...all, ...parts }).map((r) => r.height);

describe('rows of a timeline', () => {
  it('one row takes the room that there is, a few share it; switches stay low', () => {
    expect(heights(clip([['ob_a', 'rotation.x']]))).toEqual([220]);
    const three = heights(clip(['x', 'y', 'z'].map((a) => ['ob_a', `position.${a}`] as const)));
    expect(new Set(three).size).toBe(1);
    expect(three.reduce((a, b) => a + b)).toBeLessThanOrEqual(250);
    expect(heights(clip([['ob_a', 'shown']]))).toEqual([DENSE]);
  });

  it('of forty rows all are dense but the one that is worked on', () => {
    const many = clip(Array.from({ length: 40 }, (_, i) => [`ob_${i}`, 'rotation.x'] as const));
    const rows = rowsOf(many, { ...all, chosen: new Set(['ob_7 rotation.x']) });
    expect(rows).toHaveLength(80);
    expect(rows.filter((r) => r.height > DENSE)).toEqual([
      { kind: 'track', track: 7, under: true, height: 116 },
    ]);
  });

  it('rows of one object stand together under its name, and fold', () => {
    const two = clip([
      ['ob_a', 'rotation.x'],
      ['ob_b', 'rotation.x'],
      ['ob_a', 'opacity'],
    ]);
    const short = (parts = {}) =>
      rowsOf(two, { ...all, ...parts }).map((r) => (r.kind === 'object' ? r.object : r.track));
    expect(short()).toEqual(['ob_a', 0, 2, 'ob_b', 1]);
    expect(short({ folded: new Set(['ob_a']) })).toEqual(['ob_a', 'ob_b', 1]);
    expect(short({ shows: (t: { object: string }) => t.object === 'ob_b' })).toEqual([1]);
  });
});
