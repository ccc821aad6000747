/** What a reader accepts can be worked on; what cannot is refused by its place. Each case stopped the page or the command line. */
import { expect, it } from 'vitest';
import { MAX_TREE_DEPTH, readPiece } from '../src/check/index.ts';
import { importSvg } from '../src/formats/index.ts';
import { emptyPiece, namer, type SceneObject, writePiece } from '../src/model/index.ts';
import { compile, FaceBuilder, type Input, Run } from '../src/runtime/index.ts';
import { seeded } from '../testing/random.ts';
import { objectOf } from './box-piece.ts';

const pieceOf = (objects: readonly SceneObject[]) => {
  const p = emptyPiece('p', 'Large');
  for (const o of objects) p.objects[o.id] = o;
  p.view = { azimuth: 35, elevation: 29 };
  return p;
};
const read = (objects: readonly SceneObject[]) => {
  const r = readPiece(writePiece(pieceOf(objects)));
  return r.ok ? [] : r.problems.map((p) => `${p.path}: ${p.message}`);
};
const round = (n: number, r: number) =>
  Array.from({ length: n }, (_, i) => {
    const a = (i / n) * 2 * Math.PI;
    return [r * Math.cos(a) * (1 + 0.1 * (i % 2)), r * Math.sin(a)] as [number, number];
  });
const nested = (n: number) =>
  Array.from({ length: n }, (_, i) =>
    objectOf(`ob_${i}`, { kind: 'group' }, {}, { parent: i > 0 ? `ob_${i - 1}` : null }),
  );
const prism = (n: number) =>
  objectOf('ob_p', {
    kind: 'prism',
    depth: 40,
    rule: 'nonzero',
    subpaths: [{ closed: true, nodes: round(n, 200).map((at) => ({ at })) }],
  });

it('9,000 groups in one another, a prism of 20,000 walls and 20,000 shapes are refused by place and limit', () => {
  expect(read(nested(9_000))).toEqual([
    `objects.ob_${MAX_TREE_DEPTH}.parent: Objects lie in one another at most ${MAX_TREE_DEPTH} deep.`,
  ]);
  expect(read(nested(MAX_TREE_DEPTH))).toEqual([]);
  expect(read([prism(20_000)])).toEqual([
    'objects.ob_p.subpaths: The value must hold at most 2000 points in all: each makes a wall.',
  ]);
  expect(read(Array.from({ length: 20_000 }, (_, i) => objectOf(`ob_${i}`, { kind: 'group' })))).toEqual([
    'objects: The piece holds 20000 objects; at most 10000 can be worked on.',
  ]);
  const shapes = '<rect width="4" height="5"/>'.repeat(20_000);
  let n = 0;
  const svg = importSvg(
    `<svg xmlns="http://www.w3.org/2000/svg" width="99" height="99">${shapes}</svg>`,
    'many',
    (kind) => `${kind === 'objects' ? 'ob' : 'as'}_${n++}`,
    { width: 960, height: 540 },
  );
  expect(svg.ok ? '' : svg.problems[0]?.message).toMatch(/holds 20,001 shapes and groups; at most 10,000/);
});

it.each([
  ['2,000 walls', [prism(2000)], 'ob_p'],
  [
    '40 polygons of 5,000 points',
    Array.from({ length: 40 }, (_, i) =>
      objectOf(`ob_${i}`, { kind: 'polygon', points: round(5000, 100) }, { position: [0, 0, i] }),
    ),
    'ob_3',
  ],
])('something covered is looked for in a piece of %s, and the search ends', (_, objects, name) => {
  const cover = objectOf(
    'ob_z',
    { kind: 'rect', size: [4000, 4000], radius: 0 },
    { position: [0, 0, 900], rotation: [-29, 35, 0] },
  );
  const run = new Run(compile(pieceOf([...objects, cover])));
  run.step();
  run.step([{ at: 0, click: name } as Input]);
  expect(run.takeTrace().some((r) => r.missed)).toBe(true);
});

it('4,000 sheets on one another are painted from the back, in a time that grows with their number', () => {
  const sheets = (n: number) =>
    pieceOf(
      Array.from({ length: n }, (_, i) =>
        // Every other one lies behind, whatever its place in the tree.
        objectOf(
          `ob_${String(i).padStart(5, '0')}`,
          { kind: 'rect', size: [100, 100], radius: 0 },
          { position: [i % 30, i % 20, i % 2 ? i : -i] },
        ),
      ),
    );
  const program = compile(sheets(4000));
  const faces = new FaceBuilder().build(program, program.base, program.piece.view);
  const places = Array.from(faces.order.subarray(0, faces.count), (f) => {
    const o = program.objects[faces.object[f] as number] as SceneObject;
    return o.base.position[2];
  });
  expect(places).toEqual(places.toSorted((a, b) => a - b));
});

it('names for thousands alike are those that one after the other gets, in linear time', () => {
  const random = seeded(8);
  const wishes = Array.from(
    { length: 400 },
    () => ['a', 'a 2', 'b', 'b 7', 'c'][Math.floor(random() * 5)] as string,
  );
  const plain = new Set(['b', 'a 3']);
  const give = namer(plain);
  for (const wish of wishes) {
    let expected = wish;
    for (let n = 2; plain.has(expected); n++) expected = `${wish.replace(/ \d+$/, '')} ${n}`;
    plain.add(expected);
    expect(give(wish)).toBe(expected);
  }
  const many = namer([]);
  for (let i = 0; i < 200_000; i++) many('Shape');
  expect(many('Shape')).toBe('Shape 200001');
});
