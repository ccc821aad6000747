import { composeLocal, MAT, multiply } from '@apple-tick/core/base';
import { type Base, defaultBase, type Vec3 } from '@apple-tick/core/model';
import { seeded } from '@apple-tick/core/testing';
import { describe, expect, it } from 'vitest';
import { movedTogether, type Placed, placementChanges } from './together.ts';

const part = seeded(5);
const random = (least: number, most: number) => least + (most - least) * part();
const vec = (least: number, most: number): Vec3 => [
  random(least, most),
  random(least, most),
  random(least, most),
];
const local = (b: Base) => {
  const m = new Float64Array(MAT);
  composeLocal(m, 0, Float64Array.from([...b.position, ...b.rotation, ...b.scale, ...b.pivot]), 0);
  return m;
};
const times = (a: Float64Array | undefined, b: Float64Array) => {
  if (!a) return b;
  const out = new Float64Array(MAT);
  multiply(out, 0, a, 0, b, 0);
  return out;
};
const point = (m: Float64Array, p: Vec3) =>
  [0, 1, 2].map(
    (k) =>
      (m[k] as number) * p[0] +
      (m[3 + k] as number) * p[1] +
      (m[6 + k] as number) * p[2] +
      (m[9 + k] as number),
  ) as Vec3;
/** An object somewhere, perhaps below a parent that is turned and evenly scaled. */
const placed = (id: string): Placed => {
  const base = {
    ...defaultBase(),
    position: vec(-200, 200),
    rotation: vec(-80, 80),
    pivot: vec(-30, 30),
    scale: vec(0.5, 2),
  };
  const even = random(0.5, 2);
  const above = {
    ...defaultBase(),
    position: vec(-50, 50),
    rotation: vec(-80, 80),
    scale: [even, even, even] as Vec3,
  };
  const space = random(0, 1) < 0.5 ? undefined : local(above);
  return { id, base, space, world: times(space, local(base)) };
};
const worldOf = (p: Placed, base: Base) => times(p.space, local(base));
const close = (a: Vec3, b: Vec3, digits = 3) => {
  a.forEach((x, k) => {
    expect(x).toBeCloseTo(b[k] as number, digits);
  });
};

describe('several as one', () => {
  it('turned about one point: every corner goes where a turn by hand takes it', () => {
    for (let round = 0; round < 100; round++) {
      const list = [placed('a'), placed('b'), placed('c')];
      const centre = vec(-50, 50);
      const degrees = random(-170, 170);
      const k = round % 3;
      const turn = [0, 1, 2].map((n) => (n === k ? degrees : 0)) as Vec3;
      const after = movedTogether(list, { centre, turn });
      const [c, s] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
      const [u, v] = [(k + 1) % 3, (k + 2) % 3] as [number, number];
      list.forEach((p, i) => {
        const corner = vec(-20, 20);
        const before = point(p.world, corner);
        const wanted = [...before] as Vec3;
        const [du, dv] = [
          (before[u] as number) - (centre[u] as number),
          (before[v] as number) - (centre[v] as number),
        ];
        wanted[u] = (centre[u] as number) + du * c - dv * s;
        wanted[v] = (centre[v] as number) + du * s + dv * c;
        close(point(worldOf(p, after[i]?.base as Base), corner), wanted);
      });
    }
  });

  it('scaled evenly, or along the axes of what is not turned: distances from the point grow by the factors', () => {
    for (let round = 0; round < 60; round++) {
      const even = round % 2 === 0;
      const p = placed('a');
      const straight = { ...p.base, rotation: [0, 90 * (round % 4), 0] as Vec3 };
      const list: Placed[] = even
        ? [p]
        : [{ ...p, base: straight, space: undefined, world: local(straight) }];
      const centre = vec(-50, 50);
      const f = random(0.3, 3);
      const scale: Vec3 = even ? [f, f, f] : [f, random(0.3, 3), 1];
      const [after] = movedTogether(list, { centre, scale });
      const corner = vec(-20, 20);
      const before = point(list[0]?.world as Float64Array, corner);
      const wanted = before.map(
        (x, k) => (centre[k] as number) + (x - (centre[k] as number)) * (scale[k] as number),
      ) as Vec3;
      close(point(worldOf(list[0] as Placed, after?.base as Base), corner), wanted);
    }
  });

  it('moved: all by as many px of the piece, whatever their parents', () => {
    const list = [placed('a'), placed('b'), placed('c'), placed('d')];
    const after = movedTogether(list, { centre: [0, 0, 0], by: [10, -20, 30] });
    list.forEach((p, i) => {
      const [x, y, z] = point(p.world, [1, 2, 3]);
      close(point(worldOf(p, after[i]?.base as Base), [1, 2, 3]), [x + 10, y - 20, z + 30]);
    });
  });

  it('angles go on: three quarters and a half round are not a half back', () => {
    const base = { ...defaultBase(), rotation: [0, 0, 270] as Vec3 };
    const p: Placed = { id: 'a', base, space: undefined, world: local(base) };
    const [after] = movedTogether([p], { centre: [0, 0, 0], turn: [0, 0, 180] });
    close(after?.base.rotation as Vec3, [0, 0, 450], 6);
    expect(placementChanges(base, after?.base as Base)).toEqual([['rotation.z', 450]]);
  });
});
