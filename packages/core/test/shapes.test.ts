import { describe, expect, it } from 'vitest';
import { invert, MAT, multiply, transformPoint } from '../src/base/index.ts';
import {
  boundsOf,
  defaultBase,
  emptyPiece,
  type Piece,
  resized,
  type SceneObject,
  sizeOf,
  type Vec3,
} from '../src/model/index.ts';
import { compile, FaceBuilder } from '../src/runtime/index.ts';
import { FILL_COLOR, FILL_GRADIENT, faceContains, hitTop, viewMatrix } from '../src/world/index.ts';
import { seeded } from '../testing/random.ts';

type Kind<K extends SceneObject['kind']> = Extract<SceneObject, { kind: K }>;
const common = (id: string) => ({
  id,
  name: id,
  parent: null,
  order: id,
  tags: [],
  hint: '',
  base: defaultBase(),
});
const L_SHAPE: [number, number][] = [
  [-50, -50],
  [50, -50],
  [50, -10],
  [-10, -10],
  [-10, 50],
  [-50, 50],
];
const prism: Kind<'prism'> = {
  ...common('ob_p'),
  kind: 'prism',
  rule: 'nonzero',
  depth: 40,
  subpaths: [{ closed: true, nodes: L_SHAPE.map((at) => ({ at })) }],
};
const cylinder: Kind<'cylinder'> = { ...common('ob_c'), kind: 'cylinder', size: [80, 60, 50] };
const ball: Kind<'ball'> = { ...common('ob_b'), kind: 'ball', size: [90, 60, 40] };
const pieceWith = (...objects: SceneObject[]): Piece => ({
  ...emptyPiece('p', 'Test'),
  objects: Object.fromEntries(objects.map((o) => [o.id, o])),
});
const faces = (p: Piece, view = { azimuth: 0, elevation: 0 }) => {
  const program = compile(p);
  const b = new FaceBuilder();
  b.build(program, program.base, view);
  return b;
};

/** Inside the solid grown by `grow`, in its own space: the slow reference asks this along each line of sight. */
const inside: Record<string, (p: Vec3, grow: number) => boolean> = {
  ob_c: ([x, y, z], g) => (x / (40 * g)) ** 2 + (z / (25 * g)) ** 2 <= 1 && Math.abs(y) <= 30 * g,
  ob_b: ([x, y, z], g) => (x / (45 * g)) ** 2 + (y / (30 * g)) ** 2 + (z / (20 * g)) ** 2 <= 1,
  ob_p: ([x, y, z], g) => {
    const m = 50 * (g - 1);
    const inBox = (x0: number, y0: number, x1: number, y1: number) =>
      x >= x0 - m && x <= x1 + m && y >= y0 - m && y <= y1 + m;
    return Math.abs(z) <= 20 + m && (inBox(-50, -50, 50, -10) || inBox(-50, -50, -10, 50));
  },
};

describe('solids', () => {
  it.each([cylinder, ball, prism])('the outline of a $kind is what lines of sight meet', (solid) => {
    const random = seeded(solid.kind.length * 7);
    for (let round = 0; round < 12; round++) {
      const turn: Vec3 = [360 * random(), 360 * random(), 360 * random()];
      const scale: Vec3 = [0.6 + random(), 0.6 + random(), 0.6 + random()];
      const view = { azimuth: 360 * random() - 180, elevation: 180 * random() - 90 };
      const b = faces(pieceWith({ ...solid, base: { ...solid.base, rotation: turn, scale } }), view);
      const toView = new Float64Array(MAT);
      multiply(toView, 0, viewMatrix(view), 0, b.world, 0);
      const back = new Float64Array(MAT);
      invert(back, 0, toView, 0);
      const meets = (x: number, y: number, grow: number) => {
        const p = new Float64Array(3);
        for (let z = -160; z <= 160; z += 0.8) {
          transformPoint(p, 0, back, 0, x, y, z);
          if (inside[solid.id]?.([p[0] as number, p[1] as number, p[2] as number], grow)) return true;
        }
        return false;
      };
      let wrong = 0;
      for (let n = 0; n < 60; n++) {
        const [x, y] = [180 * (random() - 0.5), 180 * (random() - 0.5)];
        const covered = hitTop(b.faces, x, y) >= 0;
        if (covered && !meets(x, y, 1.04)) wrong++;
        if (!covered && meets(x, y, 0.96)) wrong++;
      }
      expect(wrong, `round ${round}`).toBe(0);
    }
  });

  it('a box in the notch of a prism is in front of it from one side and behind it from the other', () => {
    const box: Kind<'box'> = {
      ...common('ob_x'),
      kind: 'box',
      size: [30, 30, 30],
      base: { ...defaultBase(), position: [15, 15, 0] },
    };
    const p = pieceWith(prism, box);
    const top = (azimuth: number) => {
      const b = faces(p, { azimuth, elevation: 0 });
      return compile(p).objects[hitTop(b.faces, 0, 15)]?.id;
    };
    expect(top(90)).toBe('ob_x');
    expect(top(-90)).toBe('ob_p');
    expect(top(0)).toBe('ob_x');
  });

  it('of a closed solid only what looks at the viewer is drawn, mirrored or not', () => {
    for (const sx of [1, -1]) {
      const b = faces(pieceWith({ ...cylinder, base: { ...cylinder.base, scale: [sx, 1, 1] } }), {
        azimuth: 20,
        elevation: 30,
      });
      // One cap, and half of the 32 sides.
      expect(b.faces.count).toBeGreaterThanOrEqual(16);
      expect(b.faces.count).toBeLessThanOrEqual(18);
    }
  });
});

describe('fills and strokes', () => {
  const line: Kind<'path'> = {
    ...common('ob_l'),
    kind: 'path',
    rule: 'nonzero',
    stroke: { color: '#20302a', width: 10, cap: 'round', join: 'round' },
    subpaths: [
      { closed: true, nodes: [{ at: [-50, -50] }, { at: [50, -50] }, { at: [50, 50] }, { at: [-50, 50] }] },
    ],
    base: { ...defaultBase(), fill: 'none' },
  };

  it('without a fill only the stroke is hit; a colour that is written fills it', () => {
    const p = pieceWith(line);
    const b = faces(p);
    expect(hitTop(b.faces, 0, 0)).toBe(-1);
    expect(hitTop(b.faces, 54, 0)).toBe(0);
    expect(hitTop(b.faces, 56, 0)).toBe(-1);
    const program = compile(p);
    const values = program.base.slice();
    values[14] = 0.9;
    const again = new FaceBuilder().build(program, values, { azimuth: 0, elevation: 0 });
    expect(again.fill[0]).toBe(FILL_COLOR);
    expect(hitTop(again, 0, 0)).toBe(0);
  });

  it('with neither fill nor stroke there is nothing to hit', () => {
    expect(faces(pieceWith({ ...line, stroke: null })).faces.count).toBe(0);
  });

  it('a gradient stands until a colour is written over it', () => {
    const rect: Kind<'rect'> = {
      ...common('ob_r'),
      kind: 'rect',
      size: [40, 40],
      radius: 0,
      base: {
        ...defaultBase(),
        fill: {
          gradient: 'linear',
          from: [0, 20],
          to: [0, -20],
          stops: [
            { at: 0, color: '#dce7e2' },
            { at: 1, color: '#f4eee2' },
          ],
        },
      },
    };
    const program = compile(pieceWith(rect));
    const values = program.base.slice();
    const fill = () => new FaceBuilder().build(program, values, { azimuth: 0, elevation: 0 }).fill[0];
    expect(fill()).toBe(FILL_GRADIENT);
    values[15] = 0.1;
    expect(fill()).toBe(FILL_COLOR);
  });

  it('holes and stars are hit by what is filled', () => {
    const star: Kind<'polygon'> = {
      ...common('ob_s'),
      kind: 'polygon',
      size: [100, 100],
      sides: 5,
      star: 0.4,
    };
    const b = faces(pieceWith(star));
    expect(faceContains(b.faces, 0, 0, 48)).toBe(true);
    // Between two tips.
    expect(faceContains(b.faces, 0, 30, 41)).toBe(false);
  });
});

describe('sizes', () => {
  it('every kind is resized along one axis, to what was asked, the others as they were', () => {
    const polygon: Kind<'polygon'> = { ...common('ob_g'), kind: 'polygon', points: L_SHAPE };
    for (const o of [cylinder, ball, prism, polygon] as SceneObject[])
      for (const axis of [0, 1, 2]) {
        const before = sizeOf(o);
        if (before[axis] === 0) continue;
        const after = sizeOf(resized(o, axis, 73));
        expect(after[axis]).toBeCloseTo(73, 9);
        for (const other of [0, 1, 2].filter((k) => k !== axis))
          expect(after[other]).toBeCloseTo(before[other] as number, 9);
      }
    expect(boundsOf(prism)).toEqual([
      [-50, -50, -20],
      [50, 50, 20],
    ]);
  });
});
