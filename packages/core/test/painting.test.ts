import { describe, expect, it } from 'vitest';
import { defaultBase, emptyPiece, type Piece, type SceneObject, type Vec3 } from '../src/model/index.ts';
import { compile, FaceBuilder } from '../src/run/index.ts';
import { faceContains, hitTop } from '../src/world/index.ts';

type Spec = { name: string; kind: 'box' | 'rect' | 'ellipse'; size: number[]; at: Vec3; turn?: Vec3 };

function pieceOf(specs: readonly Spec[]): Piece {
  const piece = emptyPiece('p', 'Test');
  specs.forEach((o, i) => {
    const id = `ob_${i}x`;
    const base = { ...defaultBase(), position: o.at, rotation: o.turn ?? [0, 0, 0] };
    const common = {
      id,
      name: o.name,
      parent: null,
      order: `a${String.fromCharCode(65 + i)}`,
      tags: [],
      hint: '',
      base,
    };
    piece.objects[id] = {
      ...common,
      kind: o.kind,
      size: o.size,
      ...(o.kind === 'rect' ? { radius: 0 } : {}),
    } as unknown as SceneObject;
  });
  return piece;
}

/** The slow reference: of all faces that cover the point, the one nearest to the viewer; ties the later in the tree. */
function nearest(b: FaceBuilder, x: number, y: number): { object: number; clear: boolean } {
  const depths: [number, number][] = [];
  const f = b.faces;
  for (let i = 0; i < f.count; i++) {
    if (!faceContains(f, i, x, y)) continue;
    const p = f.plane.subarray(i * 9, i * 9 + 9) as unknown as number[];
    const [cx, cy, cz, ux, uy, uz, vx, vy, vz] = p as [
      number,
      number,
      number,
      number,
      number,
      number,
      number,
      number,
      number,
    ];
    const det = ux * vy - uy * vx;
    const u = ((x - cx) * vy - (y - cy) * vx) / det;
    const v = (ux * (y - cy) - uy * (x - cx)) / det;
    depths.push([cz + uz * u + vz * v, f.object[i] as number]);
  }
  depths.sort((a, c) => c[0] - a[0] || c[1] - a[1]);
  const top = depths[0];
  const other = depths.find((d) => d[1] !== top?.[1]);
  return { object: top?.[1] ?? -1, clear: !other || (top as [number, number])[0] - other[0] > 1e-3 };
}

function agrees(piece: Piece, view: { azimuth: number; elevation: number }): number {
  const program = compile(piece);
  const b = new FaceBuilder();
  b.build(program, program.base, view);
  let asked = 0;
  for (let x = -200; x <= 200; x += 9.7)
    for (let y = -200; y <= 200; y += 9.7) {
      const want = nearest(b, x, y);
      if (want.object < 0 || !want.clear) continue;
      asked++;
      expect(program.objects[hitTop(b.faces, x, y)]?.name, `${x}, ${y}`).toBe(
        program.objects[want.object]?.name,
      );
    }
  return asked;
}

const VIEWS = [
  { azimuth: 0, elevation: 0 },
  { azimuth: 35, elevation: 29 },
  { azimuth: 0, elevation: 90 },
  { azimuth: -130, elevation: 12 },
];

describe('painting order', () => {
  it.each(VIEWS)('a large slab under small boxes comes out right at $azimuth/$elevation', (view) => {
    const boxes: Spec[] = [-90, -30, 40, 100].map((x, i) => ({
      name: `b${i}`,
      kind: 'box',
      size: [40, 50, 40],
      at: [x, 25, x * 0.7],
    }));
    const slab: Spec = { name: 'slab', kind: 'box', size: [360, 12, 360], at: [0, -6, 0] };
    expect(agrees(pieceOf([...boxes, slab]), view)).toBeGreaterThan(50);
  });

  it.each(VIEWS)('three beams in a ring are split at $azimuth/$elevation', (view) => {
    const beams: Spec[] = [
      { name: 'a', kind: 'box', size: [220, 16, 16], at: [0, 0, 10], turn: [0, 8, 60] },
      { name: 'b', kind: 'box', size: [220, 16, 16], at: [0, 0, 0], turn: [0, 8, 0] },
      { name: 'c', kind: 'box', size: [220, 16, 16], at: [0, 0, -10], turn: [0, 8, 120] },
    ];
    expect(agrees(pieceOf(beams), view)).toBeGreaterThan(20);
  });

  it.each(VIEWS)('sheets that pass through each other are split at $azimuth/$elevation', (view) => {
    const sheets: Spec[] = [
      { name: 'one', kind: 'rect', size: [200, 120], at: [0, 0, 0], turn: [10, 40, 0] },
      { name: 'two', kind: 'rect', size: [200, 120], at: [0, 0, 0], turn: [20, -40, 10] },
      { name: 'disc', kind: 'ellipse', size: [90, 60], at: [20, 0, 60], turn: [0, 20, 0] },
    ];
    expect(agrees(pieceOf(sheets), view)).toBeGreaterThan(50);
  });

  it('flat things in one plane follow the tree', () => {
    const piece = pieceOf([
      { name: 'under', kind: 'rect', size: [100, 100], at: [0, 0, 0] },
      { name: 'over', kind: 'ellipse', size: [60, 60], at: [0, 0, 0] },
    ]);
    const program = compile(piece);
    const faces = new FaceBuilder().build(program, program.base, { azimuth: 0, elevation: 0 });
    expect(program.objects[hitTop(faces, 0, 0)]?.name).toBe('over');
    // Outside the ellipse but inside its box the rectangle is hit: outlines count exactly.
    expect(program.objects[hitTop(faces, 20, 20)]?.name).toBe('over');
    expect(program.objects[hitTop(faces, 24, 24)]?.name).toBe('under');
  });
});
