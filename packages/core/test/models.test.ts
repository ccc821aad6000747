/** Models that are too fine, have pictures for colours, or move. */
import { Document, type Node, WebIO } from '@gltf-transform/core';
import { describe, expect, it } from 'vitest';
import { type IdKind, newId } from '../src/base/index.ts';
import { readPieceJson } from '../src/check/index.ts';
import { type GltfOptions, importGltf } from '../src/formats/index.ts';
import { emptyPiece, type Piece } from '../src/model/index.ts';
import { compile, poseClip } from '../src/runtime/index.ts';
import { worldMatrices } from '../src/world/index.ts';
import { seeded } from '../testing/random.ts';

type Q = [number, number, number, number];

const model = (make: (doc: Document, root: Node) => void): Promise<Uint8Array> => {
  const doc = new Document();
  doc.createBuffer();
  const root = doc.createNode('Top');
  doc.createScene().addChild(root);
  make(doc, root);
  return new WebIO().writeBinary(doc);
};
const numbers = (doc: Document, type: 'SCALAR' | 'VEC2' | 'VEC3' | 'VEC4', of: number[], whole = false) =>
  doc
    .createAccessor()
    .setType(type)
    .setArray(whole ? new Uint32Array(of) : new Float32Array(of))
    .setBuffer(doc.getRoot().listBuffers()[0] ?? null);

/** A ball of so many rings and segments, with u and v from 0 to 1. */
function ball(doc: Document, rings: number, material = doc.createMaterial()) {
  const [at, uv, triangles]: [number[], number[], number[]] = [[], [], []];
  for (let i = 0; i <= rings; i++)
    for (let j = 0; j <= rings; j++) {
      const [a, b] = [(Math.PI * i) / rings, (2 * Math.PI * j) / rings];
      at.push(Math.sin(a) * Math.cos(b), Math.cos(a), -Math.sin(a) * Math.sin(b));
      uv.push(j / rings, i / rings);
      const n = i * (rings + 1) + j;
      if (i < rings && j < rings)
        triangles.push(n, n + rings + 1, n + 1, n + 1, n + rings + 1, n + rings + 2);
    }
  const p = doc
    .createPrimitive()
    .setAttribute('POSITION', numbers(doc, 'VEC3', at))
    .setAttribute('TEXCOORD_0', numbers(doc, 'VEC2', uv))
    .setIndices(numbers(doc, 'SCALAR', triangles, true))
    .setMaterial(material);
  return doc.createMesh('Ball').addPrimitive(p);
}

const read = async (bytes: Uint8Array, options: GltfOptions = {}) => {
  const random = seeded(5);
  const taken = new Set<string>();
  const fresh = (kind: IdKind) => {
    const id = newId(kind, (x) => taken.has(x), random);
    taken.add(id);
    return id;
  };
  const r = await importGltf(bytes, 'model', fresh, { width: 400, height: 400 }, options);
  if (!r.ok) throw new Error(r.problems[0]?.message);
  const { objects, assets, clips } = r.value;
  const piece: Piece = {
    ...emptyPiece('p', 'Model'),
    objects: Object.fromEntries(objects.map((o) => [o.id, o])),
    assets: Object.fromEntries(assets.map((a) => [a.id, a])),
    clips: Object.fromEntries(clips.map((c) => [c.id, c])),
  };
  const checked = readPieceJson(JSON.parse(JSON.stringify(piece)));
  expect(checked.ok ? [] : checked.problems).toEqual([]);
  return { ...r.value, piece };
};

describe('models that are too fine', () => {
  it('are made simpler, as large and in the same place, and say so; fewer still where that is asked', async () => {
    const bytes = await model((doc, root) => {
      root.addChild(doc.createNode('Left').setMesh(ball(doc, 60)).setTranslation([-3, 0, 0]));
      root.addChild(doc.createNode('Right').setMesh(ball(doc, 40)).setTranslation([3, 0, 0]));
    });
    const { objects, assets, notes, faces } = await read(bytes);
    const has = assets.reduce((n, a) => n + a.triangles.length / 3, 0);
    expect(faces).toEqual({ had: 2 * (60 * 60 + 40 * 40), has });
    expect(has).toBeLessThanOrEqual(4000);
    expect(has).toBeGreaterThan(3600);
    expect(notes).toEqual([`made simpler: ${has.toLocaleString('en')} triangles of 10,400`]);
    // 8 units in 240 px: each ball 60 px wide.
    for (const o of objects)
      if (o.kind === 'mesh') for (const n of o.size) expect(Math.abs(n - 60)).toBeLessThan(1);
    const few = await read(bytes, { faces: 300 });
    expect(few.faces.has).toBeLessThanOrEqual(300);
    expect(few.faces.has).toBeGreaterThan(200);
    for (const o of few.objects)
      if (o.kind === 'mesh') for (const n of o.size) expect(Math.abs(n - 60)).toBeLessThan(8);
  });

  it('what is shown twice counts twice, what is seen from both sides once', async () => {
    const bytes = await model((doc, root) => {
      const shared = ball(doc, 20, doc.createMaterial().setDoubleSided(true));
      root.addChild(doc.createNode('A').setMesh(shared)).addChild(doc.createNode('B').setMesh(shared));
    });
    const { faces, assets } = await read(bytes);
    expect(faces.had).toBe(1600);
    expect(assets).toHaveLength(1);
    expect(assets[0]).toMatchObject({ twoSided: true });
  });
});

describe('colours of pictures', () => {
  /** Red on the left half, blue on the right. */
  const halves = async () => ({
    width: 64,
    height: 64,
    data: Uint8ClampedArray.from({ length: 64 * 64 * 4 }, (_, i) => {
      const isLeft = (i >> 2) % 64 < 32;
      return [isLeft ? 255 : 0, 0, isLeft ? 0 : 255, 255][i % 4] as number;
    }),
  });
  const painted = (rings: number, tint: Q = [1, 1, 1, 1]) =>
    model((doc, root) => {
      const texture = doc.createTexture('wood').setImage(new Uint8Array(8)).setMimeType('image/png');
      const material = doc.createMaterial().setBaseColorTexture(texture).setBaseColorFactor(tint);
      root.setMesh(ball(doc, rings, material));
    });

  it('each triangle has the mean of the picture over it; the material is the fill', async () => {
    // With 10 segments the border between the halves runs along one of them.
    const { assets, objects } = await read(await painted(10, [0, 0, 1, 1]), { decode: halves });
    const colors = assets[0]?.colors ?? [];
    expect(colors.filter((c) => c === '#ff0000')).toHaveLength(100);
    expect(colors.filter((c) => c === '#0000ff')).toHaveLength(100);
    expect(objects.at(-1)?.base.fill).toBe('#0000ff');
    // With 11 it runs through the middle of 22 triangles, which are of both.
    const mixed = (await read(await painted(11), { decode: halves })).assets[0]?.colors ?? [];
    expect(mixed.filter((c) => c !== '#ff0000' && c !== '#0000ff')).toHaveLength(22);
  });

  it('of one that is made simpler the colours stay where they were', async () => {
    const { assets } = await read(await painted(80), { decode: halves });
    const [asset] = assets;
    let wrong = 0;
    asset?.colors?.forEach((c, t) => {
      const z = [0, 1, 2].reduce(
        (n, k) => n + (asset.points[3 * (asset.triangles[3 * t + k] as number) + 2] as number),
        0,
      );
      // The left half of the picture lies on the far side (−z); a triangle 6 px from the border and more is wholly of it.
      if (Math.abs(z) > 18 && c !== (z < 0 ? '#ff0000' : '#0000ff')) wrong++;
    });
    expect(asset?.colors?.length).toBeLessThanOrEqual(4000);
    expect(wrong).toBe(0);
  });

  it('what is one colour all over has it as its fill', async () => {
    const plain = async () => ({ width: 1, height: 1, data: new Uint8ClampedArray([200, 100, 50, 255]) });
    const { assets, objects } = await read(await painted(6), { decode: plain });
    expect(assets[0]?.colors).toBeUndefined();
    expect(objects.at(-1)?.base.fill).toBe('#c86432');
    expect((await read(await painted(6))).notes).toEqual(['a texture that is no colour, or cannot be read']);
  });
});

describe('animations', () => {
  const times = [0, 0.4, 1, 1.5];
  const turning = (how: 'LINEAR' | 'STEP' | 'CUBICSPLINE', turns: Q[], places: number[][]) =>
    model((doc, root) => {
      const arm = doc.createNode('Arm').setMesh(ball(doc, 6)).setTranslation([1, 2, 0]);
      root.addChild(arm.addChild(doc.createNode('Hand').setMesh(ball(doc, 4)).setTranslation([0, 3, 0])));
      const a = doc.createAnimation('Wave');
      const tangents = (of: number[][]) =>
        how === 'CUBICSPLINE' ? of.flatMap((v) => [v.map(() => 0), v, v.map(() => 0)]) : of;
      for (const [path, of, type] of [
        ['rotation', turns, 'VEC4'],
        ['translation', places, 'VEC3'],
      ] as const) {
        const sampler = doc
          .createAnimationSampler()
          .setInput(numbers(doc, 'SCALAR', times))
          .setOutput(numbers(doc, type, tangents(of).flat()))
          .setInterpolation(how);
        a.addSampler(sampler).addChannel(
          doc.createAnimationChannel().setTargetNode(arm).setTargetPath(path).setSampler(sampler),
        );
      }
    });

  /** What the standard says of the arm's turn and place at a time, slowly and plainly. */
  function wanted(
    how: string,
    turns: Q[],
    places: number[][],
    t: number,
  ): { turn: number[]; place: number[] } {
    const i = Math.min(
      times.length - 2,
      Math.max(
        0,
        times.findLastIndex((x) => x <= t),
      ),
    );
    const from = times[i] as number;
    let u = Math.min(1, (t - from) / ((times[i + 1] as number) - from));
    if (how === 'STEP') u = t >= (times.at(-1) as number) ? 1 : 0;
    // Without slopes at its keys a cubic spline is the usual smooth step.
    const w = how === 'CUBICSPLINE' ? u * u * (3 - 2 * u) : u;
    const mix = (a: number[], b: number[]) => a.map((x, k) => x + w * ((b[k] as number) - x));
    const [a, b] = [turns[i] as Q, turns[i + 1] as Q];
    const dot = a.reduce((n, x, k) => n + x * (b[k] as number), 0);
    let turn = mix(a, how === 'CUBICSPLINE' || dot >= 0 ? b : b.map((x) => -x));
    if (how === 'LINEAR') {
      const angle = Math.acos(Math.min(1, Math.abs(dot)));
      const s = Math.sin(angle) || 1;
      turn = a.map(
        (x, k) =>
          (Math.sin((1 - u) * angle) * x + Math.sign(dot || 1) * Math.sin(u * angle) * (b[k] as number)) / s,
      );
    }
    const length = Math.hypot(...turn);
    return {
      turn: turn.map((x) => x / length),
      place: mix(places[i] as number[], places[i + 1] as number[]),
    };
  }

  it.each(['LINEAR', 'STEP', 'CUBICSPLINE'] as const)(
    '%s: at any time all stand where the file says',
    async (how) => {
      const random = seeded(how.length);
      for (let round = 0; round < 12; round++) {
        const unit = (): Q => {
          const v = [0, 0, 0, 0].map(() => random() * 2 - 1);
          const n = Math.hypot(...v);
          return v.map((x) => x / n) as Q;
        };
        // Splines of turns that are nearly opposite run through nothing; those are no turns.
        const turns: Q[] = [unit()];
        while (turns.length < 4) {
          const q = unit();
          if ((turns.at(-1)?.reduce((n, x, k) => n + x * (q[k] as number), 0) as number) > 0.2) turns.push(q);
        }
        const places = times.map(() => [random() * 4, random() * 4, random() * 4]);
        const { piece, clips, objects, seen } = await read(await turning(how, turns, places));
        const [clip] = clips;
        expect(clip).toMatchObject({ name: 'Wave', duration: 1.5, loop: 'once', root: objects[0]?.id });
        const program = compile(piece);
        const values = program.base.slice();
        const world = new Float64Array(program.objects.length * 12);
        const hand = program.objects.findIndex((o) => o.name === 'Hand');
        for (let n = 0; n <= 60; n++) {
          const t = (1.5 * n) / 60 + 1e-4;
          values.set(program.base);
          poseClip(program, clip?.id ?? '', t, values);
          worldMatrices(world, program.geometry.parent, values);
          // The hand's origin, (0, 3, 0) of the arm, by p + q · v · q⁻¹; the model's middle lies at 0, 0, 0.
          const { turn, place } = wanted(how, turns, places, t);
          const [x, y, z, w] = turn as Q;
          const at = [6 * (x * y - w * z), 3 * (1 - 2 * (x * x + z * z)), 6 * (y * z + w * x)];
          const k = seen[3];
          for (let i = 0; i < 3; i++) {
            const is = world[hand * 12 + 9 + i] as number;
            expect(
              Math.abs(is - ((at[i] as number) + (place[i] as number) - (seen[i] as number)) * k),
            ).toBeLessThan(1);
          }
        }
      }
    },
  );

  it('keys that say nothing are left out: of a steady turn baked into sixty keys two are left', async () => {
    const bytes = await model((doc, root) => {
      root.setMesh(ball(doc, 4));
      const a = doc.createAnimation('Spin');
      const t = Array.from({ length: 61 }, (_, i) => i / 60);
      const sampler = doc
        .createAnimationSampler()
        .setInput(numbers(doc, 'SCALAR', t))
        .setOutput(
          numbers(
            doc,
            'VEC4',
            t.flatMap((x) => [0, 0, Math.sin(x * 3), Math.cos(x * 3)]),
          ),
        )
        .setInterpolation('LINEAR');
      a.addSampler(sampler).addChannel(
        doc.createAnimationChannel().setTargetNode(root).setTargetPath('rotation').setSampler(sampler),
      );
      // Of something that is not shown nothing is made.
      a.addChannel(
        doc
          .createAnimationChannel()
          .setTargetNode(doc.createNode('Bone'))
          .setTargetPath('rotation')
          .setSampler(sampler),
      );
    });
    const [clip] = (await read(bytes)).clips;
    const z = clip?.tracks.find((x) => x.property === 'rotation.z')?.keys.map((x) => x.value);
    expect(z).toHaveLength(2);
    expect(Number(z?.[1])).toBeCloseTo((6 * 180) / Math.PI, 1);
    expect(clip?.tracks).toHaveLength(3);
  });
});
