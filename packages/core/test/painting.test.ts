import { describe, expect, it } from 'vitest';
import {
  CH_SHOWN,
  CHANNELS,
  defaultBase,
  emptyPiece,
  type Piece,
  type SceneObject,
  type Vec3,
} from '../src/model/index.ts';
import { type Angle, compile, FaceBuilder, type Program } from '../src/runtime/index.ts';
import { faceContains, hitTop } from '../src/world/index.ts';
import { seeded } from '../testing/random.ts';

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

/** The object of the face that is painted last where it covers the point. */
function paintedLast(b: FaceBuilder, x: number, y: number): number {
  const { faces } = b;
  for (let i = faces.count - 1; i >= 0; i--) {
    const f = faces.order[i] as number;
    if (faceContains(faces, f, x, y)) return faces.object[f] as number;
  }
  return -1;
}

/** Compares points all over the frame of a built piece with the slow reference; how many. */
function agreesNow(program: Program, b: FaceBuilder, step: number): number {
  const name = (object: number) => program.objects[object]?.name;
  let asked = 0;
  for (let x = -200; x <= 200; x += step)
    for (let y = -200; y <= 200; y += step) {
      const want = nearest(b, x, y);
      if (want.object < 0 || !want.clear) continue;
      asked++;
      expect(name(paintedLast(b, x, y)), `painted at ${x}, ${y}`).toBe(name(want.object));
      expect(name(hitTop(b.faces, x, y)), `hit at ${x}, ${y}`).toBe(name(want.object));
    }
  return asked;
}

function agrees(piece: Piece, view: { azimuth: number; elevation: number }): number {
  const program = compile(piece);
  const b = new FaceBuilder();
  b.build(program, program.base, view);
  return agreesNow(program, b, 9.7);
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

  it('is as right in the hundredth frame as in the first, whatever moves, turns, hides and comes back', () => {
    const random = seeded(20261126);
    const between = (a: number, z: number) => a + (z - a) * random();
    for (let scene = 0; scene < 6; scene++) {
      const specs = Array.from({ length: 9 }, (_, i): Spec => {
        const kind = (['box', 'rect', 'ellipse', 'box'] as const)[i % 4] as Spec['kind'];
        const side = () => between(30, 170);
        return {
          name: `o${i}`,
          kind,
          size: kind === 'box' ? [side(), side(), side()] : [side(), side()],
          at: [between(-90, 90), between(-90, 90), between(-90, 90)],
          turn: [between(0, 360), between(0, 360), between(0, 360)],
        };
      });
      const program = compile(pieceOf(specs));
      const values = program.base.slice();
      const [kept, view] = [new FaceBuilder(), { azimuth: between(-90, 90), elevation: between(0, 60) }];
      for (let frame = 0; frame < 60; frame++) {
        // Two of them move as one round the middle now and then, and what cuts them goes along.
        const turned = Math.floor(random() * 9);
        for (let i = turned; i < Math.min(9, turned + 2); i++) {
          const row = i * CHANNELS;
          if (random() < 0.5) values[row + 4] = (values[row + 4] as number) + between(-20, 20);
          else values[row] = (values[row] as number) + between(-20, 20);
          if (random() < 0.1) values[row + CH_SHOWN] = 1 - (values[row + CH_SHOWN] as number);
        }
        if (random() < 0.05) view.azimuth += 7;
        kept.build(program, values, view);
        expect(agreesNow(program, kept, 31.3)).toBeGreaterThan(0);
        // What is split anew without need would grow from frame to frame.
        const anew = new FaceBuilder().build(program, values, view);
        expect(kept.faces.count).toBeLessThan(anew.count + 60);
      }
    }
  });

  it('things that turn together stay split where they cut each other', () => {
    const p = pieceOf([
      { name: 'wheel', kind: 'box', size: [10, 10, 10], at: [0, 0, 0] },
      { name: 'one', kind: 'rect', size: [160, 90], at: [0, 0, 0], turn: [0, 40, 0] },
      { name: 'two', kind: 'rect', size: [160, 90], at: [0, 0, 0], turn: [0, -40, 0] },
    ]);
    for (const id of ['ob_1x', 'ob_2x']) (p.objects[id] as { parent: string | null }).parent = 'ob_0x';
    const program = compile(p);
    const values = program.base.slice();
    const kept = new FaceBuilder();
    const pieces = new Set<unknown>();
    for (let turn = 0; turn < 50; turn++) {
      values[4] = turn;
      const faces = kept.build(program, values, { azimuth: 10, elevation: 12 });
      for (let f = 0; f < faces.count; f++)
        if (faces.piece[f] && (faces.object[f] as number) > 0) pieces.add(faces.piece[f]);
      agreesNow(program, kept, 21.7);
    }
    // The same two parts of the same face all along; the wheel's own faces come and go, and cut anew.
    expect(pieces.size).toBeLessThan(30);
  });

  it('what is seen through the hole of a ring is not cut by it', () => {
    const p = pieceOf([
      { name: 'rim', kind: 'box', size: [10, 10, 10], at: [0, 0, 0] },
      { name: 'axle', kind: 'box', size: [12, 12, 120], at: [0, 0, 0] },
    ]);
    const round = (r: number) => ({
      closed: true,
      nodes: [-1, 1].flatMap((x) => [-x, x].map((y) => ({ at: [x * r, y * r] as [number, number] }))),
    });
    const { size: _size, ...rim } = p.objects['ob_0x'] as unknown as Record<string, unknown>;
    p.objects['ob_0x'] = {
      ...rim,
      ...{ kind: 'prism', depth: 20, rule: 'evenodd', subpaths: [round(90), round(60)] },
    } as unknown as SceneObject;
    const program = compile(p);
    const b = new FaceBuilder();
    const faces = b.build(program, program.base, { azimuth: 20, elevation: 15 });
    expect(Array.from({ length: faces.count }, (_, f) => faces.piece[f]).filter(Boolean)).toEqual([]);
    const name = (x: number, y: number) => program.objects[paintedLast(b, x, y)]?.name;
    // Of the hole one sees the two walls that look toward the viewer: the left one and the lower one. Beside the axle there is nothing.
    expect([name(-57, 0), name(0, -57), name(45, 0), name(0, 0)]).toEqual(['rim', 'rim', undefined, 'axle']);
  });

  it('nothing is in order at once, and again', () => {
    const program = compile(pieceOf([]));
    const b = new FaceBuilder();
    for (let i = 0; i < 3; i++) expect(b.build(program, program.base, VIEWS[0] as Angle).count).toBe(0);
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
