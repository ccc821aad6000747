/** Where pictures are opaque, as masks; and pictures on the faces of solids. */
import { describe, expect, it } from 'vitest';
import { insideContours } from '../src/base/index.ts';
import { readPieceJson } from '../src/check/index.ts';
import {
  type Alpha,
  type Asset,
  emptyPiece,
  type Mask,
  type Piece,
  type SceneObject,
  type Vec3,
} from '../src/model/index.ts';
import { compile, FaceBuilder } from '../src/runtime/index.ts';
import { alphaSubpaths, hitTop, pathOutline } from '../src/world/index.ts';
import { seeded } from '../testing/random.ts';
import { objectOf } from './box-piece.ts';

const alphaOf = (columns: number, rows: number, at: (i: number, j: number) => number): Alpha => {
  let cells = '';
  for (let j = 0; j < rows; j++)
    for (let i = 0; i < columns; i++) cells += Math.round(at(i, j) * 15).toString(16);
  return { columns, rows, cells };
};
const asset = (alpha: Alpha | undefined, width = 100, height = 100): Asset => ({
  id: 'as_a',
  name: 'disc',
  kind: 'image',
  mime: 'image/png',
  width,
  height,
  hash: 'a'.repeat(64),
  ...(alpha ? { alpha } : {}),
});
/** A disc of half the picture's width, clear round it, soft at its edge. */
const DISC = alphaOf(64, 64, (i, j) => {
  const d = Math.hypot(i + 0.5 - 32, j + 0.5 - 32);
  return Math.max(0, Math.min(1, 16.5 - d));
});

describe('where a picture is opaque', () => {
  it('a disc comes out as a disc, whatever the size of the box', () => {
    const [loop, ...more] = alphaSubpaths(DISC, 0.5, 200, 100, [0, 0, 1, 1]);
    expect(more).toEqual([]);
    for (const { at } of loop?.nodes ?? []) expect(Math.hypot(at[0] / 50, at[1] / 25)).toBeCloseTo(1, 1.5);
  });

  it('agrees with the cells themselves: a middle is inside exactly when its cell is so opaque', () => {
    const random = seeded(12);
    for (let round = 0; round < 200; round++) {
      const [columns, rows] = [1 + Math.floor(random() * 9), 1 + Math.floor(random() * 9)];
      const threshold = [0.1, 0.5, 0.77, 1][round % 4] as number;
      const alpha = alphaOf(columns, rows, () => random());
      const outline = pathOutline(alphaSubpaths(alpha, threshold, columns, rows, [0, 0, 1, 1]), true, 0);
      for (let j = 0; j < rows; j++)
        for (let i = 0; i < columns; i++) {
          const level = Number.parseInt(alpha.cells[j * columns + i] as string, 16) / 15;
          // One that is just so opaque lies on the outline.
          if (Math.abs(level - threshold) < 0.05) continue;
          const [x, y] = [i + 0.5 - columns / 2, rows / 2 - j - 0.5];
          expect([round, i, j, insideContours(outline.contours, true, x, y)]).toEqual([
            round,
            i,
            j,
            level > threshold,
          ]);
        }
    }
  });

  it('an opaque picture is its whole box, a clear one nothing', () => {
    const full = alphaSubpaths(
      alphaOf(8, 4, () => 1),
      0.5,
      80,
      40,
      [0, 0, 1, 1],
    );
    const xs = full.flatMap((s) => s.nodes.map((n) => n.at[0]));
    expect([full.length, Math.min(...xs), Math.max(...xs)]).toEqual([1, -40, 40]);
    expect(
      alphaSubpaths(
        alphaOf(8, 4, () => 0),
        0.5,
        80,
        40,
        [0, 0, 1, 1],
      ),
    ).toEqual([]);
  });
});

const object = (id: string, kind: object, base: Partial<SceneObject['base']> = {}, mask?: Mask) =>
  objectOf(id, kind, base, mask ? { mask } : {});
const picture = (id: string, size: number, more: object = {}, base: object = {}, mask?: Mask) =>
  object(id, { kind: 'image', asset: 'as_a', size: [size, size], pixel: false, ...more }, base, mask);
const piece = (objects: SceneObject[], assets: Asset[]): Piece => {
  const p = {
    ...emptyPiece('p', 'Test'),
    objects: Object.fromEntries(objects.map((o) => [o.id, o])),
    assets: Object.fromEntries(assets.map((a) => [a.id, a])),
  };
  const read = readPieceJson(JSON.parse(JSON.stringify(p)));
  if (!read.ok) throw new Error(JSON.stringify(read.problems));
  return read.value;
};
const facesOf = (p: Piece, view = { azimuth: 0, elevation: 0 }) => {
  const program = compile(p);
  const faces = new FaceBuilder().build(program, program.base, view);
  return { program, faces };
};
const top = (p: Piece, x: number, y: number, view?: { azimuth: number; elevation: number }) => {
  const { program, faces } = facesOf(p, view);
  return program.objects[hitTop(faces, x, y)]?.id ?? null;
};

describe('a picture’s alpha as mask', () => {
  it('cuts the picture itself: what is clear is not hit', () => {
    const p = piece([picture('ob_p', 200, {}, {}, { alpha: 0.5 })], [asset(DISC)]);
    expect([top(p, 0, 0), top(p, 48, 0), top(p, 52, 0), top(p, 90, 90)]).toEqual([
      'ob_p',
      'ob_p',
      null,
      null,
    ]);
    const whole = piece([picture('ob_p', 200)], [asset(DISC)]);
    expect(top(whole, 90, 90)).toBe('ob_p');
  });

  it('is a window for others, inside or outside, and turns with the picture at any view', () => {
    for (const side of ['inside', 'outside'] as const)
      for (const azimuth of [0, 60]) {
        const window = picture('ob_p', 200, {}, { shown: false, position: [30, 0, 0] as Vec3 });
        const sheet = object(
          'ob_s',
          { kind: 'rect', size: [900, 900], radius: 0 },
          {},
          { by: 'ob_p', side, alpha: 0.5 },
        );
        const p = piece([window, sheet], [asset(DISC)]);
        const k = azimuth === 0 ? 1 : 0.5;
        for (const [x, y, within] of [
          [30, 0, true],
          [76, 0, true],
          [84, 0, false],
          [30, 54, false],
          [30, -46, true],
        ] as const)
          expect([side, azimuth, x, top(p, x * k, y, { azimuth, elevation: 0 })]).toEqual([
            side,
            azimuth,
            x,
            within === (side === 'inside') ? 'ob_s' : null,
          ]);
      }
  });

  it('follows the part that is cut out, the look, and a change of the asset', () => {
    // The right half of the picture holds the right half of the disc.
    const half = piece([picture('ob_p', 200, { cut: [50, 0, 50, 100] }, {}, { alpha: 0.5 })], [asset(DISC)]);
    expect([top(half, -95, 0), top(half, -5, 0), top(half, 5, 0), top(half, -95, 60)]).toEqual([
      'ob_p',
      'ob_p',
      null,
      null,
    ]);
    const opaque = { ...half, assets: { as_a: asset(undefined) } };
    expect(top(opaque, -95, 60)).toBe('ob_p');
    const looks = [{ id: 'lk_b', name: 'broken', asset: 'as_b' }];
    const other: Asset = { ...asset(alphaOf(2, 1, (i) => i)), id: 'as_b' };
    const p = piece(
      [picture('ob_p', 200, { looks }, { look: 'lk_b' }, { alpha: 0.5 })],
      [asset(DISC), other],
    );
    expect([top(p, 90, 90), top(p, -90, 0)]).toEqual(['ob_p', null]);
  });

  it('means nothing for what is no picture', () => {
    const sheet = object('ob_s', { kind: 'rect', size: [90, 90], radius: 0 }, {}, { alpha: 0.5 });
    expect(top(piece([sheet], []), 0, 0)).toBe('ob_s');
  });

  it('without a threshold the window is the picture’s box', () => {
    const sheet = object(
      'ob_s',
      { kind: 'rect', size: [900, 900], radius: 0 },
      {},
      { by: 'ob_p', side: 'inside' },
    );
    const p = piece([picture('ob_p', 200, {}, { shown: false }), sheet], [asset(DISC)]);
    expect([top(p, 95, 95), top(p, 105, 0)]).toEqual(['ob_s', null]);
  });
});

describe('pictures on the faces of solids', () => {
  /** The face of the picture, and where its left lower and right lower corners are seen. */
  const seen = (o: SceneObject, view: { azimuth: number; elevation: number }) => {
    const { faces } = facesOf(piece([o], [asset(undefined)]), view);
    const f = [...Array(faces.count).keys()].filter((n) => faces.style[n]?.image);
    if (f.length !== 1) return f.length;
    const box = faces.style[f[0] as number]?.image?.box as readonly number[];
    const p = faces.plane.subarray((f[0] as number) * 9);
    const at = (u: number, v: number) =>
      [0, 1].map(
        (k) => Math.round((p[k] as number) + (p[3 + k] as number) * u + (p[6 + k] as number) * v) + 0,
      );
    const [x, y, w, h] = box as [number, number, number, number];
    return [...at(x, y), ...at(x + w, y), ...at(x, y + h)];
  };
  const box = (face: string) =>
    object('ob_b', { kind: 'box', size: [40, 60, 80], pictures: { [face]: { asset: 'as_a' } } });
  const [FRONT, RIGHT, LEFT, BACK] = [0, 90, -90, 180].map((azimuth) => ({ azimuth, elevation: 0 }));
  type View = { azimuth: number; elevation: number };

  it('lie upright as one looks at each face from outside', () => {
    expect(seen(box('front'), FRONT as View)).toEqual([-20, -30, 20, -30, -20, 30]);
    expect(seen(box('back'), BACK as View)).toEqual([-20, -30, 20, -30, -20, 30]);
    const sides = [seen(box('right'), RIGHT as View), seen(box('left'), RIGHT as View)];
    // The view from one side sees one of the two, upright; the other is turned away.
    expect(sides.filter((x) => x !== 0)).toEqual([[-40, -30, 40, -30, -40, 30]]);
    const others = [seen(box('right'), LEFT as View), seen(box('left'), LEFT as View)];
    expect(others.filter((x) => x !== 0)).toEqual([[-40, -30, 40, -30, -40, 30]]);
    expect(seen(box('top'), { azimuth: 0, elevation: 90 })).toEqual([-20, -40, 20, -40, -20, 40]);
    expect(seen(box('front'), BACK as View)).toBe(0);
  });

  it('also on the ends of cylinders and the outlines of prisms, cut to them', () => {
    const can = object('ob_c', {
      kind: 'cylinder',
      size: [40, 60, 80],
      pictures: { top: { asset: 'as_a' } },
    });
    expect(seen(can, { azimuth: 0, elevation: 90 })).toEqual([-20, -40, 20, -40, -20, 40]);
    const gable = {
      kind: 'prism',
      depth: 20,
      rule: 'nonzero',
      subpaths: [{ closed: true, nodes: [{ at: [0, 0] }, { at: [50, 0] }, { at: [0, 30] }] }],
    };
    const front = object('ob_p', { ...gable, pictures: { front: { asset: 'as_a' } } });
    expect(seen(front, FRONT as View)).toEqual([0, 0, 50, 0, 0, 30]);
    const back = object('ob_p', { ...gable, pictures: { back: { asset: 'as_a' } } });
    expect(seen(back, BACK as View)).toEqual([-50, 0, 0, 0, -50, 30]);
  });

  it('a face that a kind does not have is a problem with its place', () => {
    const can = {
      ...object('ob_c', { kind: 'cylinder', size: [4, 4, 4], pictures: { left: { asset: 'as_a' } } }),
    };
    const p = { ...emptyPiece('p', 'x'), objects: { ob_c: can }, assets: { as_a: asset(undefined) } };
    const read = readPieceJson(JSON.parse(JSON.stringify(p)));
    expect(read.ok ? '' : read.problems[0]?.path).toContain('objects.ob_c.pictures');
  });
});
