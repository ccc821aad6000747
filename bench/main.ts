/** Ratios within this one run; nothing here is an absolute time. */
import {
  CURVE,
  compileClip,
  compileCurve,
  EASE_ROW,
  evaluateCurve,
  sampleTrack,
  writeEasing,
} from '@apple-tick/core/anim';
import { type Clip, EASING_PRESETS } from '@apple-tick/core/model';

const TRACKS = 300;
const KEYS = 12;
const clip: Clip = {
  id: 'cl_bench',
  name: 'bench',
  root: 'ob_0',
  duration: KEYS - 1,
  loop: 'loop',
  cues: [],
  tracks: Array.from({ length: TRACKS }, (_, i) => ({
    object: `ob_${i}`,
    property: 'rotation.x',
    mode: 'absolute' as const,
    keys: Array.from({ length: KEYS }, (_, k) => ({
      t: k,
      value: Math.sin(i * 7 + k * 3) * 90,
      easing: {
        bezier: [...EASING_PRESETS[k % 2 ? 'ease-in-out' : 'overshoot']] as [number, number, number, number],
      },
    })),
  })),
};
const data = compileClip(clip);
const out = new Float64Array(TRACKS);

function engine(t: number): void {
  for (let i = 0; i < TRACKS; i++) sampleTrack(data, i, t, out, i);
}

// The bare loop: the same keys and the same exact solve, with nothing else around them.
const times = new Float64Array(TRACKS * KEYS);
const values = new Float64Array(TRACKS * KEYS);
const pool = new Float64Array(2 * CURVE);
const rows = new Float64Array(2 * EASE_ROW);
[EASING_PRESETS.overshoot, EASING_PRESETS['ease-in-out']].forEach((bezier, i) => {
  writeEasing(rows, i * EASE_ROW, { bezier: [...bezier] });
  compileCurve(pool, i * CURVE, rows, i * EASE_ROW);
});
clip.tracks.forEach((t, i) => {
  t.keys.forEach((k, n) => {
    times[i * KEYS + n] = k.t;
    values[i * KEYS + n] = k.value as number;
  });
});
function bare(t: number): void {
  for (let i = 0; i < TRACKS; i++) {
    let k = i * KEYS;
    while ((times[k + 1] as number) <= t) k++;
    const x = (t - (times[k] as number)) / ((times[k + 1] as number) - (times[k] as number));
    const e = evaluateCurve(pool, k % 2 ? CURVE : 0, x);
    out[i] = (values[k] as number) + ((values[k + 1] as number) - (values[k] as number)) * e;
  }
}

function time(f: (t: number) => void): number {
  const start = performance.now();
  for (let n = 0; n < 2000; n++) f(((n * 0.37) % (KEYS - 1.001)) + 0.0005);
  return performance.now() - start;
}
time(engine);
time(bare);
const ratios = Array.from({ length: 9 }, () => time(engine) / time(bare)).sort((a, b) => a - b);
console.log(`clip evaluation ÷ bare loop: ${(ratios[4] as number).toFixed(2)} (goal ≤ 2)`);
