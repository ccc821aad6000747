/** Light: shades near the fill, curved walls without steps, shadows where solids stand. */
import { describe, expect, it } from 'vitest';
import { cosDeg, sinDeg } from '../src/base/index.ts';
import { emptyPiece, type Piece, type SceneObject } from '../src/model/index.ts';
import { compile, FaceBuilder } from '../src/runtime/index.ts';
import { type FaceList, FILL_BENT } from '../src/world/index.ts';
import { seeded } from '../testing/random.ts';
import { objectOf } from './box-piece.ts';

const ANGLE = { azimuth: 35, elevation: 29 };
function faces(objects: SceneObject[], more: Partial<Piece> = {}): FaceList {
  const piece = { ...emptyPiece('p', 'Light'), ...more };
  for (const o of objects) piece.objects[o.id] = o;
  const program = compile(piece);
  return new FaceBuilder().build(program, program.base, ANGLE);
}
const lawn = objectOf('ob_lawn', { kind: 'box', size: [600, 20, 400] }, { position: [0, -110, 0] });
/** Its top is at −100. */
const standing = (id: string, size: number[], x: number, z: number, turn = 0, lift = 0) =>
  objectOf(
    id,
    { kind: 'box', size },
    { position: [x, -100 + (size[1] as number) / 2 + lift, z], rotation: [0, turn, 0] },
  );
/** The shadows, by the object on which they fall. */
function shadowsOn(list: FaceList, object: number) {
  const out = [];
  for (let f = 0; f < list.count; f++)
    if (list.object[f] === object && list.piece[f] === null) out.push(...(list.contacts[f] ?? []));
  return out;
}
const corners = (polygon: Float64Array) =>
  Array.from({ length: polygon.length / 2 }, (_, i) => [
    polygon[2 * i] as number,
    polygon[2 * i + 1] as number,
  ]);

describe('shades', () => {
  it('stay near the fill wherever the light comes from', () => {
    const random = seeded(3);
    for (let n = 0; n < 200; n++) {
      const light = { azimuth: random() * 720 - 360, elevation: random() * 180 - 90 };
      const list = faces([standing('ob_a', [80, 60, 40], 0, 0, random() * 360)], { light });
      for (let f = 0; f < list.count; f++) {
        expect(list.shade[f]).toBeGreaterThan(0.77);
        expect(list.shade[f]).toBeLessThan(1.06);
      }
    }
  });

  it('run on without a step round a cylinder', () => {
    const list = faces([
      objectOf('ob_a', { kind: 'cylinder', size: [80, 60, 80] }, { fill: '#c0a080', rotation: [20, 10, 5] }),
    ]);
    const walls: number[] = [];
    for (let f = 0; f < list.count; f++) if (list.fill[f] === FILL_BENT) walls.push(f);
    walls.sort((a, b) => (list.part[a] as number) - (list.part[b] as number));
    expect(walls.length).toBeGreaterThan(10);
    let steps = 0;
    walls.forEach((f, i) => {
      const next = walls[i + 1];
      if (next === undefined || list.part[next] !== (list.part[f] as number) + 1) return;
      const [a, b] = [list.ends[f * 2 + 1] as number, list.ends[next * 2] as number];
      for (const by of [16, 8, 0]) expect(Math.abs(((a >> by) & 255) - ((b >> by) & 255))).toBeLessThan(2);
      steps++;
    });
    expect(steps).toBeGreaterThan(9);
  });

  it('of the corners of a prism stay apart, while its curves are bent', () => {
    const square = {
      closed: true,
      nodes: [
        [0, 0],
        [50, 0],
        [50, 50],
        [0, 50],
      ].map((at) => ({ at })),
    };
    const list = faces([objectOf('ob_a', { kind: 'prism', subpaths: [square], depth: 40 })]);
    for (let f = 0; f < list.count; f++) expect(list.fill[f]).not.toBe(FILL_BENT);
  });
});

describe('contact shadows', () => {
  it('lie where boxes stand, in the plane of what they stand on', () => {
    const random = seeded(8);
    for (let n = 0; n < 100; n++) {
      const [w, d, turn] = [20 + random() * 80, 20 + random() * 80, random() * 360];
      const [x, z] = [(random() - 0.5) * 400, (random() - 0.5) * 250];
      const list = faces([lawn, standing('ob_m', [w, 50, d], x, z, turn)]);
      const shadows = shadowsOn(list, 0);
      expect(shadows).toHaveLength(1);
      const got = corners(shadows[0]?.polygon as Float64Array);
      expect(got).toHaveLength(4);
      // The top's u and v are x and −z.
      for (const [sx, sz] of [
        [1, 1],
        [1, -1],
        [-1, 1],
        [-1, -1],
      ] as const) {
        const [lx, lz] = [(sx * w) / 2, (sz * d) / 2];
        const [u, v] = [
          x + lx * cosDeg(turn) + lz * sinDeg(turn),
          -(z - lx * sinDeg(turn) + lz * cosDeg(turn)),
        ];
        expect(
          Math.min(...got.map((c) => Math.hypot((c[0] as number) - u, (c[1] as number) - v))),
        ).toBeLessThan(1e-6);
      }
    }
  });

  it('grow faint with the height, and are gone above it and below the ground', () => {
    const strength = (lift: number) =>
      shadowsOn(faces([lawn, standing('ob_m', [40, 40, 40], 0, 0, 0, lift)]), 0)[0]?.strength ?? 0;
    expect(strength(0)).toBe(1);
    expect(strength(6)).toBeCloseTo(0.5, 9);
    expect(strength(13)).toBe(0);
    expect(strength(-5)).toBe(1);
    expect(strength(-7)).toBe(0);
  });

  it('of a slab under another do not fall on that', () => {
    const path = standing('ob_n', [200, 3, 200], 0, 0, 0, 2);
    const slab = standing('ob_m', [300, 2, 300], 0, 0);
    expect(shadowsOn(faces([lawn, slab, path]), 2)).toEqual([]);
    expect(shadowsOn(faces([lawn, slab, path]), 0)).toHaveLength(2);
  });

  it('of a ball is round, of a wheel on its rim narrow', () => {
    const ball = objectOf(
      'ob_m',
      { kind: 'ball', size: [60, 60, 60] },
      { position: [40, -70, 10], rotation: [30, 50, 70] },
    );
    const round = shadowsOn(faces([lawn, ball]), 0);
    const far = corners(round[0]?.polygon as Float64Array).map(([u, v]) =>
      Math.hypot((u as number) - 40, (v as number) + 10),
    );
    // Its skin is cut 7.6 px above its lowest point, where it is 19.9 px wide.
    expect(Math.max(...far)).toBeLessThan(20.1);
    expect(Math.min(...far)).toBeGreaterThan(13);
    expect(far.length).toBeGreaterThan(6);
    const wheel = objectOf(
      'ob_m',
      { kind: 'cylinder', size: [80, 12, 80] },
      { position: [0, -60, 0], rotation: [90, 0, 0] },
    );
    const us = corners(shadowsOn(faces([lawn, wheel]), 0)[0]?.polygon as Float64Array).map(
      (c) => c[0] as number,
    );
    expect(Math.max(...us) - Math.min(...us)).toBeLessThan(45);
  });

  it('are not there where they are switched off, for what is beside, and for what carries the face', () => {
    const box = standing('ob_m', [40, 40, 40], 0, 0);
    const off = { azimuth: -40, elevation: 55, contact: false };
    expect(shadowsOn(faces([lawn, box], { light: off }), 0)).toEqual([]);
    expect(shadowsOn(faces([lawn, standing('ob_m', [40, 40, 40], 500, 0)]), 0)).toEqual([]);
    const part = objectOf(
      'ob_z',
      { kind: 'box', size: [200, 10, 200] },
      { position: [0, -25, 0] },
      { parent: 'ob_m' },
    );
    expect(shadowsOn(faces([box, part]), 1)).toEqual([]);
  });
});
