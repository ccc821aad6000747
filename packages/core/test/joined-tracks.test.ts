import { expect, it } from 'vitest';
import { compileClip, joinTracks, sampleTrack } from '../src/anim/index.ts';
import type { Clip, Easing, Track } from '../src/model/index.ts';
import { seeded } from '../testing/random.ts';

const EASINGS: Easing[] = [
  'linear',
  'hold',
  'auto',
  { bezier: [0.3, 0.1, 0.4, 1] },
  { bezier: [0.42, 0, 0.58, 1] },
  { steps: 4, position: 'jump-end' },
  { linear: [0, [0.7, 20], 0.4, 1] },
];

it('the tracks of many clips side by side are sampled as each by itself, and equal curves are kept once', () => {
  const random = seeded(7);
  const some = <T>(list: readonly T[]) => list[Math.floor(random() * list.length)] as T;
  const clips = Array.from({ length: 40 }, (_, n): Clip => {
    const tracks = ['position.x', 'rotation.z', 'opacity', 'fill'].slice(Math.floor(random() * 4));
    return {
      ...{ id: `cl_${n}`, name: 'a', root: 'ob_a', duration: 4, loop: 'once', cues: [] },
      tracks: (n % 9 === 0 ? [] : tracks).map((property): Track => {
        const color = property === 'fill';
        return {
          ...{ object: 'ob_a', property, mode: property === 'rotation.z' ? 'offset' : 'absolute' },
          keys: Array.from({ length: 1 + Math.floor(random() * 5) }, (_, k) => {
            const value = color ? some(['#ff0000', '#00ff80', '#123456']) : Math.round(random() * 100) / 100;
            return { t: k * 0.7, value, easing: some(EASINGS) };
          }),
        };
      }),
    };
  });
  const data = clips.map(compileClip);
  const joined = joinTracks(data);
  const own = new Float64Array(3);
  const together = new Float64Array(3);
  let first = 0;
  for (const d of data) {
    for (let k = 0; k < d.start.length; k++) {
      expect(joined.gain[first + k]).toBe(d.gain[k]);
      expect(joined.offset[first + k]).toBe(d.offset[k]);
      for (let n = 0; n < 20; n++) {
        const t = random() * 4;
        sampleTrack(d, k, t, own, 0);
        sampleTrack(joined, first + k, t, together, 0);
        expect([...together]).toEqual([...own]);
      }
    }
    first += d.start.length;
  }
  expect(first).toBe(joined.start.length);
  const names = new Set(data.flatMap((d) => [...d.curveAt.keys()]));
  const alone = data.reduce((n, d) => n + d.curves.length, 0);
  // Thirty-odd clips use the same few curves, besides those that are worked out from their keys.
  expect(joined.curves.length).toBeLessThan(alone);
  expect(names.size).toBeGreaterThan(10);
});
