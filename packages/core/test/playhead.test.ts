import { describe, expect, it } from 'vitest';
import {
  crossingPosition,
  fold,
  instantOf,
  newPlay,
  type Playhead,
  playPosition,
  rebase,
  startPosition,
} from '../src/anim/index.ts';
import { seeded } from '../testing/random.ts';

const head = (p0: number, speed: number): Playhead => newPlay(p0, 0, speed);
const noCues = new Float64Array();
type Loop = 'once' | 'loop' | 'there-and-back';

/**
 * The naive reference: walks in steps of 1/4096 s and notes each cue it passes, in the half-open way of §5, and each
 * end of a pass. Everything in it is a multiple of the step, so nothing is rounded.
 */
function walk(p0: number, speed: 1 | -1, d: number, loop: Loop, cues: number[], steps: number): number[] {
  const out: number[] = [];
  const at = (raw: number) => {
    const isEnd = loop === 'once' ? raw === (speed > 0 ? d : 0) : Math.abs(raw % d) === 0 && raw !== p0;
    const places = loop === 'there-and-back' ? cues.flatMap((c) => [c, 2 * d - c]) : cues;
    const period = loop === 'once' ? Number.POSITIVE_INFINITY : loop === 'loop' ? d : 2 * d;
    const isCue = places.some((c) =>
      period === Number.POSITIVE_INFINITY ? raw === c : (((raw - c) % period) + period) % period === 0,
    );
    if (isEnd || isCue) out.push(raw);
  };
  for (let n = 0; n <= steps; n++) {
    const raw = p0 + speed * (n / 4096);
    if (loop === 'once' && (raw > d || raw < 0)) break;
    at(raw);
  }
  return out;
}

describe('playhead', () => {
  it('cues and ends are met where a walk in small steps meets them', () => {
    const random = seeded(31);
    for (let round = 0; round < 400; round++) {
      const loop = (['once', 'loop', 'there-and-back'] as const)[Math.floor(random() * 3)] as Loop;
      const d = (1 + Math.floor(random() * 40)) / 64;
      const cues = Array.from({ length: Math.floor(random() * 4) }, () => Math.floor(random() * d * 64) / 64);
      const speed = random() < 0.5 ? 1 : -1;
      const p0 = loop === 'once' ? (speed > 0 ? 0 : d) : Math.floor(random() * d * 64) / 64;
      const expected = walk(p0, speed, d, loop, cues, 4096 * 2);
      const p = head(p0, speed);
      const got: number[] = [];
      const times = Float64Array.from(cues);
      for (;;) {
        const raw = crossingPosition(p, d, loop, times);
        if (Number.isNaN(raw) || Math.abs(raw - p0) > 2) break;
        got.push(raw);
        p.mark = raw;
        p.incl = true;
        if (loop === 'once' && raw === (speed > 0 ? d : 0)) p.ended = true;
      }
      expect(got.length, `round ${round}`).toBe(expected.length);
      got.forEach((raw, i) => {
        expect(raw, `round ${round}`).toBeCloseTo(expected[i] as number, 9);
      });
    }
  });

  it('folds as a walker that turns or jumps back would stand', () => {
    const d = 0.75;
    for (let n = -400; n <= 400; n++) {
      const raw = n / 64;
      let back = raw;
      while (back < 0) back += d;
      while (back >= d) back -= d;
      expect(fold(raw, d, 'loop', 1)).toBeCloseTo(back, 12);
      expect(fold(raw, d, 'loop', -1)).toBeCloseTo(back === 0 ? d : back, 12);
      let x = raw;
      while (x < 0 || x > d) x = x < 0 ? -x : 2 * d - x;
      expect(fold(raw, d, 'there-and-back', 1)).toBeCloseTo(x, 12);
    }
    expect(fold(9, d, 'once', 1)).toBe(d);
    expect(fold(-1, d, 'once', 1)).toBe(0);
    expect(fold(3, 0, 'loop', 1)).toBe(0);
  });

  it('begins where `from` says, per cent along the direction of play', () => {
    expect(startPosition('start', -1, 2, null)).toBe(2);
    expect(startPosition('here', 1, 2, 0.7)).toBe(0.7);
    expect(startPosition('here', -1, 2, null)).toBe(2);
    expect(startPosition({ seconds: 5 }, 1, 2, null)).toBe(2);
    expect(startPosition({ percent: 25 }, -1, 2, null)).toBe(1.5);
    expect(startPosition({ percent: 25 }, 1, 2, null)).toBe(0.5);
  });

  it('another speed goes on without a jump, and turned round at the end it is no longer done', () => {
    const p = { ...head(0, 1), ended: true, mark: 2, incl: true };
    rebase(p, 5, -0.5, 2, 'once', noCues);
    expect(playPosition(p, 5, 2, 'once')).toBe(2);
    expect(playPosition(p, 7, 2, 'once')).toBe(1);
    expect(p.ended).toBe(false);
    rebase(p, 7, 0, 2, 'once', noCues);
    expect(playPosition(p, 99, 2, 'once')).toBe(1);
    expect(crossingPosition(p, 2, 'once', noCues)).toBeNaN();
  });

  it('at the date of a turn a loop stands at the start of what comes, forwards and backwards, at any length and speed', () => {
    const random = seeded(5);
    for (let round = 0; round < 3000; round++) {
      const d = 0.001 + random() * 3;
      const speed = (random() < 0.5 ? -1 : 1) * (0.05 + random() * 8);
      const p = { ...newPlay(speed < 0 ? d : 0, random() * 100, speed) };
      for (let turn = 1; turn <= 4; turn++) {
        const raw = crossingPosition(p, d, 'loop', noCues);
        const place = fold(playPosition(p, instantOf(p, raw), d, 'loop'), d, 'loop', p.direction);
        expect(place, `round ${round}`).toBe(speed < 0 ? d : 0);
        p.mark = raw;
        p.incl = true;
      }
    }
  });

  it('a pause keeps the way that was gone: turned round after it, a done clip runs again', () => {
    const p = { ...head(0, 1), mark: 2, incl: true, ended: true };
    rebase(p, 5, 0, 2, 'once', noCues);
    rebase(p, 6, 1, 2, 'once', noCues);
    expect(p.ended).toBe(true);
    rebase(p, 7, 0, 2, 'once', noCues);
    rebase(p, 8, -1, 2, 'once', noCues);
    expect(p.ended).toBe(false);
    expect(crossingPosition(p, 2, 'once', noCues)).toBe(0);
  });
});

it('of many cues of a loop the next is found as by asking each of them', () => {
  const next = seeded(77);
  for (let n = 0; n < 3000; n++) {
    const d = [0.001, 0.5, 1, 7][Math.floor(next() * 4)] as number;
    const count = 13 + Math.floor(next() * 60);
    const cues = Float64Array.from({ length: count }, () =>
      next() < 0.1 ? (next() < 0.5 ? 0 : d) : next() * d,
    ).sort();
    const p = head(
      (next() - 0.5) * 20 * d,
      (next() < 0.5 ? -1 : 1) * ([0.1, 1, 1000][Math.floor(next() * 3)] as number),
    );
    // Mostly it stands somewhere, often at a cue or a turn, or next to one.
    const places = [
      p.p0,
      Math.round(p.p0 / d) * d,
      Math.floor(p.p0 / d) * d + (cues[Math.floor(next() * count)] as number),
    ];
    p.mark = (places[Math.floor(next() * 3)] as number) + (next() < 0.3 ? (next() - 0.5) * 4e-6 : 0);
    p.incl = next() < 0.5;
    const each = [...cues].map((c) => crossingPosition(p, d, 'loop', Float64Array.of(c)));
    const least = p.direction > 0 ? Math.min(...each) : Math.max(...each);
    expect(crossingPosition(p, d, 'loop', cues)).toBe(least);
  }
});
