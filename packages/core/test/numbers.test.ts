import { readFileSync } from 'node:fs';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { easeAt } from '../src/anim/index.ts';
import {
  composeLocal,
  cosDeg,
  drawUnit,
  hexToOklab,
  multiply,
  oklabToRgb,
  rgbToHex,
  seedStream,
  sinDeg,
} from '../src/base/index.ts';

const data = (name: string) => JSON.parse(readFileSync(path.join(import.meta.dirname, 'data', name), 'utf8'));

/** Exact bisection: the slow reference. */
function bisect(x1: number, y1: number, x2: number, y2: number, x: number): number {
  const at = (a: number, b: number, u: number) =>
    3 * a * u * (1 - u) * (1 - u) + 3 * b * u * u * (1 - u) + u * u * u;
  let lo = 0;
  let hi = 1;
  for (let i = 0; i < 200; i++) {
    const mid = (lo + hi) / 2;
    if (at(x1, x2, mid) < x) lo = mid;
    else hi = mid;
  }
  return at(y1, y2, (lo + hi) / 2);
}

describe('easing', () => {
  it('agrees with Chromium on its 38 curves to 1e-5', () => {
    const curves = data('cubic-bezier.json') as {
      args: [number, number, number, number];
      progress: number[];
    }[];
    expect(curves).toHaveLength(38);
    for (const c of curves)
      c.progress.forEach((y, i) => {
        expect(Math.abs(easeAt({ bezier: c.args }, i / 100) - y)).toBeLessThan(1e-5);
      });
  });

  it('agrees with exact bisection to 1e-9 on seeded random curves', () => {
    const words = new Uint32Array(4);
    seedStream(words, 0, 7, 'curves');
    const r = () => drawUnit(words, 0);
    for (let n = 0; n < 2000; n++) {
      const [x1, y1, x2, y2, x] = [r(), r() * 4 - 2, r(), r() * 4 - 2, r()];
      const difference = Math.abs(easeAt({ bezier: [x1, y1, x2, y2] }, x) - bisect(x1, y1, x2, y2, x));
      expect(difference, `${x1} ${y1} ${x2} ${y2} at ${x}`).toBeLessThan(1e-9);
    }
  });
});

describe('transforms', () => {
  it('agree with DOMMatrix on 95 hierarchies to 1e-9; there y points down', () => {
    type Node = Record<'origin' | 'translate' | 'rotate' | 'scale', [number, number, number]> &
      Record<'x' | 'y' | 'w' | 'h', number>;
    const cases = data('transforms.json') as { nodes: Node[]; worlds: number[][] }[];
    expect(cases).toHaveLength(95);
    for (const c of cases) {
      let world: Float64Array | null = null;
      c.nodes.forEach((n, i) => {
        const ox = n.origin[0] * n.w;
        const oy = n.origin[1] * n.h;
        // Ours: T(position + pivot) · R · S · T(−pivot) with y up: y and the turns about x and z change sign.
        const v = Float64Array.of(
          n.x + n.translate[0],
          -(n.y + n.translate[1]),
          n.translate[2] ?? 0,
          -n.rotate[0],
          n.rotate[1],
          -n.rotate[2],
          n.scale[0],
          n.scale[1],
          n.scale[2] ?? 1,
          ox,
          -oy,
          0,
        );
        const local = new Float64Array(12);
        composeLocal(local, 0, v, 0);
        const out = new Float64Array(12);
        if (world) multiply(out, 0, world, 0, local, 0);
        else out.set(local);
        world = out;
        const m = c.worlds[i] as number[];
        const flat = m.length === 6;
        // Of a 4×4, columns 0–3 and rows 0–2; of a 2×3, x and y only.
        for (let col = 0; col < 4; col++)
          for (let row = 0; row < 3; row++) {
            if (flat && (row === 2 || col === 2)) continue;
            const theirs = (flat ? m[(col === 3 ? 2 : col) * 2 + row] : m[col * 4 + row]) as number;
            const sign = (col === 1 ? -1 : 1) * (row === 1 ? -1 : 1);
            expect(Math.abs((out[col * 3 + row] as number) - sign * theirs)).toBeLessThan(
              1e-9 * Math.max(1, Math.abs(theirs)),
            );
          }
      });
    }
  });
});

describe('elementary functions', () => {
  it('sine and cosine of degrees are exact at right angles and close to the library elsewhere', () => {
    expect([0, 90, 180, 270, 360, -90].map(sinDeg)).toEqual([0, 1, -0, -1, 0, -1]);
    for (let d = -1000; d < 1000; d += 3.7) {
      expect(Math.abs(sinDeg(d) - Math.sin((d * Math.PI) / 180))).toBeLessThan(1e-12);
      expect(Math.abs(cosDeg(d) - Math.cos((d * Math.PI) / 180))).toBeLessThan(1e-12);
    }
  });

  it('every colour comes back from OKLab unchanged', () => {
    const lab = new Float64Array(3);
    for (let n = 0; n < 0xffffff; n += 4099) {
      const hex = rgbToHex(n);
      hexToOklab(hex, lab, 0);
      expect(rgbToHex(oklabToRgb(lab[0] as number, lab[1] as number, lab[2] as number))).toBe(hex);
    }
  });
});
