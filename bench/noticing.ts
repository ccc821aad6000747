/** Zones: what noticing costs, against asking every pair. Ratios within this one run. */

import { invert, MAT, transformPoint } from '@apple-tick/core/base';
import { type Collider, defaultBase, emptyPiece, type Piece } from '@apple-tick/core/model';
import { compile, Run } from '@apple-tick/core/run';
import { seeded } from '@apple-tick/core/testing';
import { nearStretch, Stretches, stretchesIn, zoneShape } from '@apple-tick/core/world';

const THINGS = 1000;
const ZONES = 200;

/** Things that go to and fro by motors among zones, all over a wide ground. */
function crowd(things: number, zones: number): Piece {
  const p = emptyPiece('bench', 'Bench');
  p.tags['ta_a'] = { id: 'ta_a', name: 'a' };
  const random = seeded(7);
  const object = (id: string, more: object, x: number, y: number) => {
    p.objects[id] = {
      ...{ id, name: id, parent: null, order: id, kind: 'ellipse', size: [10, 10], tags: [], hint: '' },
      base: { ...defaultBase(), position: [x, y, 0] },
      ...more,
    } as Piece['objects'][string];
  };
  for (let z = 0; z < zones; z++) {
    const id = `co_${z}`;
    const common = { id, name: id, tags: ['ta_a'], visitor: true, on: true };
    p.colliders[id] = (
      z % 2
        ? { ...common, role: 'near', enter: 40, leave: 60 }
        : { ...common, role: 'zone', shape: 'box', at: [0, 0, 0], size: [60, 60, 60], through: true }
    ) as Collider;
    object(
      `ob_z${z}`,
      { kind: 'group', colliders: [id] },
      (random() - 0.5) * 8 * things,
      random() * 800 - 400,
    );
  }
  for (let i = 0; i < things; i++) {
    const id = `ob_t${i}`;
    object(id, { tags: ['ta_a'] }, (random() - 0.5) * 8 * things, random() * 800 - 400);
    p.reactions[`re_${i}`] = {
      ...{ id: `re_${i}`, object: id, on: { event: 'piece.start' }, when: [], after: 0, cooldown: 0 },
      ...{ limit: 'always' },
      actions: [{ do: 'motor', object: id, property: 'position.x', rate: random() * 200 - 100 }],
    } as Piece['reactions'][string];
  }
  return p;
}

const median = (list: number[]) => list.sort((a, b) => a - b)[list.length >> 1] as number;
const time = (f: () => void) => {
  const start = performance.now();
  f();
  return performance.now() - start;
};
/** Seconds for ticks of a run, after those in which it gets going. */
function ticks(p: Piece, n: number): number {
  const run = new Run(compile(p), { trace: false });
  for (let i = 0; i < 60; i++) run.step();
  return median(Array.from({ length: 5 }, () => time(() => repeat(n, () => run.step()))));
}
function repeat(n: number, f: () => void): void {
  for (let i = 0; i < n; i++) f();
}

const p = crowd(THINGS, ZONES);
const bare: Piece = {
  ...p,
  colliders: {},
  objects: Object.fromEntries(Object.values(p.objects).map((o) => [o.id, { ...o, colliders: [] }])),
};
const noticing = ticks(p, 30) - ticks(bare, 30);

/** Every pair: the place in the zone's space before and now, and the stretches between. */
const shapes = Object.values(p.colliders).map(zoneShape);
const world = new Float64Array(ZONES * MAT);
for (let z = 0; z < ZONES; z++) world.set([1, 0, 0, 0, 1, 0, 0, 0, 1, z * 40 - 4000, 0, 0], z * MAT);
const places = new Float64Array(THINGS * 3).map((_, i) => ((i * 7919) % 8000) - 4000);
const inverse = new Float64Array(MAT);
const from = new Float64Array(3);
const to = new Float64Array(3);
const found = new Stretches();
let crossings = 0;
const naive = median(
  Array.from({ length: 5 }, () =>
    time(() =>
      repeat(30, () => {
        for (let z = 0; z < ZONES; z++) {
          const shape = shapes[z] as (typeof shapes)[number];
          invert(inverse, 0, world, z * MAT);
          for (let i = 0; i < THINGS; i++) {
            const [x, y, zz] = [places[i * 3], places[i * 3 + 1], places[i * 3 + 2]] as [
              number,
              number,
              number,
            ];
            transformPoint(from, 0, inverse, 0, x, y, zz);
            transformPoint(to, 0, inverse, 0, x + 2, y, zz);
            if (shape.is === 'near') nearStretch(shape, false, from, to, found);
            else stretchesIn(shape, from, to, found);
            crossings += found.count;
          }
        }
      }),
    ),
  ),
);
console.log(
  `noticing among ${THINGS} moving things and ${ZONES} zones ÷ asking every pair: ${(noticing / naive).toFixed(3)} (goal ≤ 0.15; ${crossings > 0 ? 'some cross' : 'none crosses'})`,
);
// As much room for each: what it costs must grow with how many there are, and no faster.
const perThing = (n: number) => ticks(crowd(n, n / 5), 30) / n;
perThing(400);
const few = perThing(200);
for (const n of [800, 3200])
  console.log(
    `per thing at ${n} and ${n / 5} zones ÷ at 200 and 40: ${(perThing(n) / few).toFixed(2)} (goal ≤ 2)`,
  );
