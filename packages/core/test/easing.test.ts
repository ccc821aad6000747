import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { compileClip, easeAt, sampleTrack } from '../src/anim/index.ts';
import { exp } from '../src/base/index.ts';
import { type Clip, type Easing, FAMILIES, type Key, type Track, WAYS } from '../src/model/index.ts';
import { seeded } from '../testing/random.ts';

const GRID = Array.from({ length: 201 }, (_, i) => i / 200);

/** The functions in the words of CSS, as our easing. */
function ofCss(css: string): Easing {
  const [, name, inside] = /^(\w+)\((.*)\)$/.exec(css) as unknown as [string, string, string];
  const parts = inside.split(',').map((x) => x.trim());
  if (name === 'steps') return { steps: Number(parts[0]), position: parts[1] as 'jump-end' };
  return {
    linear: parts.flatMap((p): (number | [number, number])[] => {
      const [value, ...places] = p.split(/\s+/);
      return places.length === 0
        ? [Number(value)]
        : places.map((at): [number, number] => [Number(value), Number.parseFloat(at)]);
    }),
  };
}

describe('easings', () => {
  it('steps and stops are those of Chromium, on its ten and twelve', () => {
    const all = JSON.parse(readFileSync(new URL('data/steps-and-stops.json', import.meta.url), 'utf8')) as {
      css: string;
      progress: number[];
    }[];
    expect(all).toHaveLength(22);
    for (const { css, progress } of all)
      progress.forEach((y, i) => {
        expect(Math.abs(easeAt(ofCss(css), i / 100) - y), `${css} at ${i} %`).toBeLessThan(5e-12);
      });
  });

  it('e^x is what the language has, to the last digits', () => {
    const random = seeded(3);
    for (let i = 0; i < 5000; i++) {
      const x = random() * 400 - 200;
      expect(Math.abs(exp(x) / Math.exp(x) - 1)).toBeLessThan(1e-14);
    }
    expect(exp(0)).toBe(1);
  });

  it('the families are their closed forms', () => {
    const plain: Record<(typeof FAMILIES)[number], (x: number, inOut: boolean) => number> = {
      sine: (x) => 1 - Math.cos((x * Math.PI) / 2),
      quad: (x) => x ** 2,
      cubic: (x) => x ** 3,
      quart: (x) => x ** 4,
      quint: (x) => x ** 5,
      expo: (x) => (x === 0 ? 0 : 2 ** (10 * x - 10)),
      circ: (x) => 1 - Math.sqrt(1 - x ** 2),
      back: (x, inOut) => {
        const c = inOut ? 1.70158 * 1.525 : 1.70158;
        return (c + 1) * x ** 3 - c * x ** 2;
      },
    };
    for (const family of FAMILIES)
      for (const way of WAYS)
        for (const x of GRID) {
          const f = (u: number) => plain[family](u, way === 'in-out');
          const want =
            way === 'in'
              ? f(x)
              : way === 'out'
                ? 1 - f(1 - x)
                : x < 0.5
                  ? f(2 * x) / 2
                  : 1 - f(2 - 2 * x) / 2;
          expect(Math.abs(easeAt({ family, way }, x) - want), `${family} ${way} at ${x}`).toBeLessThan(1e-9);
        }
  });

  it('elastic is its closed form, and ends where it is to', () => {
    for (const [amplitude, period] of [
      [1, 0.3],
      [1.8, 0.45],
      [3, 1],
    ] as const)
      for (const x of GRID.slice(1, -1)) {
        const shift = (period / (2 * Math.PI)) * Math.asin(1 / amplitude);
        const want = 1 + amplitude * 2 ** (-10 * x) * Math.sin(((x - shift) * 2 * Math.PI) / period);
        expect(Math.abs(easeAt({ elastic: { amplitude, period } }, x) - want)).toBeLessThan(1e-9);
      }
    expect(easeAt({ elastic: { amplitude: 2, period: 0.4 } }, 1)).toBe(1);
    expect(easeAt({ elastic: { amplitude: 2, period: 0.4 } }, 0)).toBe(0);
  });

  it('a spring is the oscillator that small steps integrate to, below, at and above critical damping', () => {
    for (const damping of [0.1, 0.35, 0.7, 1, 1.4, 3]) {
      const omega =
        damping < 1
          ? Math.log(1000) / damping
          : damping === 1
            ? 9.233413476451586
            : Math.log(1000) / (damping - Math.sqrt(damping ** 2 - 1));
      // Runge and Kutta's fourth order, on x″ = ω²(1 − x) − 2ζω x′.
      const steps = 20000;
      const h = 1 / steps;
      let [x, v] = [0, 0];
      const a = (y: number, w: number) => omega ** 2 * (1 - y) - 2 * damping * omega * w;
      for (let i = 1; i < steps; i++) {
        const [k1, l1] = [v, a(x, v)];
        const [k2, l2] = [v + (h / 2) * l1, a(x + (h / 2) * k1, v + (h / 2) * l1)];
        const [k3, l3] = [v + (h / 2) * l2, a(x + (h / 2) * k2, v + (h / 2) * l2)];
        const [k4, l4] = [v + h * l3, a(x + h * k3, v + h * l3)];
        x += (h / 6) * (k1 + 2 * k2 + 2 * k3 + k4);
        v += (h / 6) * (l1 + 2 * l2 + 2 * l3 + l4);
        if (i % 500 === 0)
          expect(Math.abs(easeAt({ spring: { damping } }, i / steps) - x), `${damping} ${i}`).toBeLessThan(
            1e-7,
          );
      }
      expect(easeAt({ spring: { damping } }, 1)).toBe(1);
      expect(Math.abs(1 - easeAt({ spring: { damping } }, 1 - 1e-9))).toBeLessThan(0.0015);
    }
  });

  it('a bounce is a ball that falls, each rebound a quarter as high, its time half as long', () => {
    for (const n of [1, 2, 3, 7]) {
      // The plain way: piece after piece along time, one gravity for all.
      let whole = 1;
      for (let k = 0; k < n; k++) whole += 0.5 ** k;
      const gravity = 2 * whole * whole;
      const height = (x: number) => {
        let [from, speed] = [1 / whole, (gravity * 1) / whole / 2];
        if (x <= from) return 1 - (gravity / 2) * x * x;
        for (let k = 0; k < n; k++, speed /= 2) {
          const time = (2 * speed) / gravity;
          if (x <= from + time) return speed * (x - from) - (gravity / 2) * (x - from) ** 2;
          from += time;
        }
        return 0;
      };
      for (const x of GRID)
        expect(Math.abs(easeAt({ bounce: n }, x) - (1 - height(x))), `${n} at ${x}`).toBeLessThan(1e-9);
    }
  });
});

const track = (property: string, keys: Key[], more: Partial<Track> = {}): Clip => ({
  ...{ id: 'cl_a', name: 'a', root: 'ob_a', duration: 10, loop: 'once', cues: [] },
  tracks: [{ object: 'ob_a', property, mode: 'absolute', keys, ...more }],
});
const valueAt = (clip: Clip, t: number) => {
  const out = new Float64Array(3);
  sampleTrack(compileClip(clip), 0, t, out, 0);
  return out[0] as number;
};

describe('automatic segments', () => {
  it('pass through every key, never beyond one, without a corner, and stand still at both ends', () => {
    const random = seeded(11);
    for (let n = 0; n < 200; n++) {
      let t = 0;
      const keys = Array.from({ length: 6 }, (): Key => {
        t += 0.1 + random();
        return { t, value: Math.round(random() * 200 - 100), easing: 'auto' };
      });
      const clip = track('position.x', keys);
      const d = 1e-6;
      const slope = (at: number, side: 1 | -1) =>
        (side * (valueAt(clip, at + side * d) - valueAt(clip, at))) / d;
      keys.forEach((k, i) => {
        expect(valueAt(clip, k.t)).toBe(k.value);
        const next = keys[i + 1];
        if (next)
          for (let u = 0; u <= 1; u += 0.05) {
            const v = valueAt(clip, k.t + (next.t - k.t) * u);
            const [low, high] = [
              Math.min(k.value as number, next.value as number),
              Math.max(k.value as number, next.value as number),
            ];
            expect(v).toBeGreaterThanOrEqual(low - 1e-9);
            expect(v).toBeLessThanOrEqual(high + 1e-9);
          }
        if (i > 0 && next) expect(Math.abs(slope(k.t, 1) - slope(k.t, -1))).toBeLessThan(1);
      });
      expect(Math.abs(slope(keys[0]?.t as number, 1))).toBeLessThan(1);
    }
  });

  it('a colour comes out as it goes in', () => {
    const clip = track('fill', [
      { t: 0, value: '#000000', easing: 'auto' },
      { t: 1, value: '#808080', easing: 'auto' },
      { t: 3, value: '#ffffff', easing: 'linear' },
    ]);
    const early = valueAt(clip, 0.5);
    expect(early).toBeGreaterThan(0);
    expect(early).toBeLessThan(valueAt(clip, 1));
    expect(valueAt(clip, 2)).toBeGreaterThan(valueAt(clip, 1));
  });
});

describe('turns the shorter way', () => {
  it('go over 0, not back; a key itself is its own number', () => {
    const keys: Key[] = [
      { t: 0, value: 350, easing: 'linear' },
      { t: 1, value: 10, easing: 'linear' },
      { t: 2, value: -720, easing: 'linear' },
    ];
    const short = track('rotation.z', keys, { shortest: true });
    expect(valueAt(short, 0.5)).toBeCloseTo(360, 9);
    expect(valueAt(short, 1)).toBe(10);
    expect(valueAt(short, 1.5)).toBeCloseTo(5, 9);
    expect(valueAt(track('rotation.z', keys), 0.5)).toBeCloseTo(180, 9);
    // Only a turn has a shorter way.
    expect(valueAt(track('position.x', keys, { shortest: true }), 0.5)).toBeCloseTo(180, 9);
  });
});
