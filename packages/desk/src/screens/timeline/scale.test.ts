import { expect, it } from 'vitest';
import { rulerStep } from '../../ui/ruler-step.ts';
import { clipTimes, keyTimes, snapTime, timeAt, xOf } from './scale.ts';

const scale = { from: 0, span: 2, width: 860 };

it('seconds and px are each other’s inverse; nothing lies before 0', () => {
  for (const t of [0, 0.37, 1, 2]) expect(timeAt(scale, xOf(scale, t))).toBeCloseTo(t, 12);
  expect(timeAt(scale, -50)).toBe(0);
});

it('a dragged time takes the nearest target in reach, else a frame number', () => {
  const near = xOf(scale, 0.701);
  expect(snapTime(scale, near, [0.69, 0.7, 0.9], 60)).toBe(0.7);
  expect(snapTime(scale, near, [0.9], 60)).toBeCloseTo(42 / 60, 12);
  expect(snapTime(scale, xOf(scale, 0.5), [], 24)).toBe(0.5);
  // Just out of reach: 7 px from the target.
  expect(snapTime(scale, xOf(scale, 0.9) + 7, [0.9], 60)).not.toBe(0.9);
});

it('the times of a clip are its ends, pips and cues, once each', () => {
  const tracks = [{ keys: [{ t: 0 }, { t: 0.7 }] }, { keys: [{ t: 0.3 }, { t: 0.7 }] }];
  expect(clipTimes({ duration: 0.8, tracks, cues: [{ t: 0.5 }] })).toEqual([0, 0.3, 0.5, 0.7, 0.8]);
  // From pip to pip neither the cue nor the end counts.
  expect(keyTimes({ tracks })).toEqual([0, 0.3, 0.7]);
});

it('marks of the ruler are at least 44 px apart', () => {
  for (const span of [0.3, 1, 4, 30, 4000]) {
    const s = { from: 0, span, width: 800 };
    expect(xOf(s, rulerStep(s)) - xOf(s, 0)).toBeGreaterThanOrEqual(40);
  }
});
