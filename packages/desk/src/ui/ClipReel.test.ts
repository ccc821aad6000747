import type { Clip } from '@apple-tick/core/model';
import { expect, it } from 'vitest';
import { reelAt } from './ClipReel.tsx';

const clip = (id: string, duration: number, loop: Clip['loop']): Clip => ({
  ...{ id, name: id, root: 'ob_a', duration, loop, tracks: [], cues: [] },
});

it('clips follow each other, each as it runs, and begin anew', () => {
  const clips = [clip('a', 1, 'once'), clip('b', 1, 'loop'), clip('c', 1, 'there-and-back')];
  const at = (t: number) => {
    const { clip: c, place } = reelAt(clips, t);
    return [c.id, Math.round(place * 1000) / 1000];
  };
  expect(at(0.25)).toEqual(['a', 0.25]);
  expect(at(1.4)).toEqual(['a', 1]);
  expect(at(1.75)).toEqual(['b', 0.25]);
  expect(at(2.75)).toEqual(['b', 0.25]);
  expect(at(4.25)).toEqual(['c', 0.25]);
  expect(at(5.75)).toEqual(['c', 0.25]);
  expect(at(8.3)).toEqual(['c', 0]);
  expect(at(8.5 + 0.25)).toEqual(['a', 0.25]);
});
