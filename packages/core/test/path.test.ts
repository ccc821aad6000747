import { describe, expect, it } from 'vitest';
import {
  controls,
  convexHull,
  distanceToContours,
  flatten,
  insideContours,
  pathBounds,
  polygonPath,
  type Subpath,
} from '../src/base/index.ts';
import { seeded } from '../testing/random.ts';

const random = seeded(404);
const num = (k: number) => Math.round((random() - 0.5) * k * 8) / 8;
const randomPath = (): Subpath => ({
  closed: random() < 0.6,
  nodes: Array.from({ length: 2 + Math.floor(random() * 5) }, () => ({
    at: [num(200), num(200)] as const,
    ...(random() < 0.7 ? { in: [num(120), num(120)] as const } : {}),
    ...(random() < 0.7 ? { out: [num(120), num(120)] as const } : {}),
  })),
});
/** The reference: every segment at 2000 steps of de Casteljau's construction. */
function walked(s: Subpath): [number, number][] {
  const out: [number, number][] = [];
  const n = s.nodes.length;
  for (let i = 0; i < (s.closed ? n : n - 1); i++) {
    const [a, b] = [s.nodes[i], s.nodes[(i + 1) % n]];
    if (!a || !b) continue;
    const c = controls(a, b);
    for (let k = 0; k <= 2000; k++) {
      const t = k / 2000;
      let pts = [0, 1, 2, 3].map((j) => [c[j * 2] as number, c[j * 2 + 1] as number] as [number, number]);
      while (pts.length > 1)
        pts = pts.slice(1).map((p, j) => {
          const q = pts[j] as [number, number];
          return [q[0] + (p[0] - q[0]) * t, q[1] + (p[1] - q[1]) * t];
        });
      out.push(pts[0] as [number, number]);
    }
  }
  return out;
}

describe('paths', () => {
  it('flattened curves lie within 0.06 px of the curves, and bounds are exact', () => {
    for (let round = 0; round < 60; round++) {
      const s = randomPath();
      const flat = flatten([s]);
      const points = walked(s);
      for (let i = 0; i < points.length; i += 37) {
        const [x, y] = points[i] as [number, number];
        expect(distanceToContours(flat, x, y), `round ${round}`).toBeLessThan(0.06);
      }
      const xs = points.map((p) => p[0]);
      const ys = points.map((p) => p[1]);
      const [x0, y0, x1, y1] = pathBounds([s]);
      // The walk misses an extremum by no more than its step.
      expect(Math.min(...xs) - x0).toBeGreaterThanOrEqual(-1e-9);
      expect(Math.min(...xs) - x0).toBeLessThan(0.01);
      expect(Math.max(...xs) - x1).toBeGreaterThan(-0.01);
      expect(Math.max(...ys) - y1).toBeLessThanOrEqual(1e-9);
      expect(Math.min(...ys) - y0).toBeLessThan(0.01);
    }
  });

  it('a hull is convex, turns anticlockwise, and leaves no point outside', () => {
    for (let round = 0; round < 60; round++) {
      const { points } = flatten([randomPath()]);
      const hull = convexHull(points);
      const n = hull.length / 2;
      let worst = 0;
      for (let i = 0; i < n; i++) {
        const [ax, ay] = [hull[i * 2] as number, hull[i * 2 + 1] as number];
        const j = (i + 1) % n;
        const [bx, by] = [hull[j * 2] as number, hull[j * 2 + 1] as number];
        for (let k = 0; k < points.length; k += 2) {
          const side =
            (bx - ax) * ((points[k + 1] as number) - ay) - (by - ay) * ((points[k] as number) - ax);
          worst = Math.min(worst, side);
        }
      }
      expect(worst).toBeGreaterThanOrEqual(-1e-6);
    }
  });

  it('inside agrees with the angle that the outline turns about a point', () => {
    for (let round = 0; round < 40; round++) {
      const c = flatten([{ ...randomPath(), closed: true }]);
      for (let k = 0; k < 40; k++) {
        const [x, y] = [num(220) + 0.031, num(220) + 0.017];
        let turned = 0;
        const n = c.points.length / 2;
        for (let i = 0; i < n; i++) {
          const at = (m: number) =>
            Math.atan2((c.points[(m % n) * 2 + 1] as number) - y, (c.points[(m % n) * 2] as number) - x);
          let d = at(i + 1) - at(i);
          if (d > Math.PI) d -= 2 * Math.PI;
          if (d < -Math.PI) d += 2 * Math.PI;
          turned += d;
        }
        const winding = Math.round(turned / (2 * Math.PI));
        expect(insideContours(c, false, x, y)).toBe(winding !== 0);
        expect(insideContours(c, true, x, y)).toBe(winding % 2 !== 0);
      }
    }
  });

  it('a hole is outside; a lone point, an empty path and a square are what they are', () => {
    const square = (r: number, way: 1 | -1): Subpath =>
      polygonPath([
        [-r, -r],
        [way * r, -way * r],
        [r, r],
        [-way * r, way * r],
      ]);
    const ring = flatten([square(10, 1), square(4, -1)]);
    expect(insideContours(ring, false, 7, 0)).toBe(true);
    expect(insideContours(ring, false, 0, 0)).toBe(false);
    expect(distanceToContours(ring, 7, 0)).toBe(3);
    expect(pathBounds([])).toEqual([0, 0, 0, 0]);
    const point = flatten([{ closed: false, nodes: [{ at: [3, 4] }] }]);
    expect(distanceToContours(point, 0, 0)).toBe(5);
  });
});
