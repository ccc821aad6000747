import { Document, type Node, WebIO } from '@gltf-transform/core';
import { strToU8 } from 'fflate';
import { describe, expect, it } from 'vitest';
import { newId } from '../src/base/index.ts';
import { checkIntegrity, readPieceJson } from '../src/check/index.ts';
import { importGltf } from '../src/formats/index.ts';
import { emptyPiece, type MeshAsset, type Piece, type SceneObject } from '../src/model/index.ts';
import { compile, FaceBuilder } from '../src/runtime/index.ts';
import { hitTop, meshFaces } from '../src/world/index.ts';
import { seeded } from '../testing/random.ts';
import { objectOf } from './box-piece.ts';

type V = [number, number, number];
const CUBE: V[] = [-1, 1].flatMap((x) => [-1, 1].flatMap((y) => [-1, 1].map((z): V => [x, y, z])));
/** Two triangles a side, anticlockwise from outside; corner 4·x + 2·y + z. */
const CUBE_FACES = [
  [0, 1, 3, 2],
  [4, 6, 7, 5],
  [0, 4, 5, 1],
  [2, 3, 7, 6],
  [0, 2, 6, 4],
  [1, 5, 7, 3],
].flatMap(([a, b, c, d]) => [a, b, c, a, c, d] as number[]);
const mesh = (points: V[], triangles: number[]): MeshAsset => ({
  id: 'as_m',
  name: 'Mesh',
  kind: 'mesh',
  points: points.flat(),
  triangles,
});
const area = (p: readonly { at: readonly [number, number] }[]) =>
  p.reduce((sum, { at }, i) => {
    const next = p[(i + 1) % p.length]?.at ?? at;
    return sum + (at[0] * next[1] - next[0] * at[1]) / 2;
  }, 0);

describe('meshes as faces', () => {
  it('a cube of twelve triangles is six squares, stretched to its size, and convex', () => {
    const { faces, convex } = meshFaces(mesh(CUBE, CUBE_FACES), [10, 20, 30]);
    expect(convex).toBe(true);
    expect(faces.map((f) => area(f.subpaths[0]?.nodes ?? [])).sort((a, b) => a - b)).toEqual([
      200, 200, 300, 300, 600, 600,
    ]);
  });

  it('whatever is merged, area and normals are those of the triangles', () => {
    const random = seeded(4);
    for (let round = 0; round < 60; round++) {
      // A field of heights, mostly level, so that patches of all schemas come about.
      const n = 5;
      const points: V[] = [];
      for (let i = 0; i <= n; i++) for (let j = 0; j <= n; j++) points.push([i, j, random() < 0.2 ? 1 : 0]);
      const triangles: number[] = [];
      for (let i = 0; i < n; i++)
        for (let j = 0; j < n; j++) {
          const a = i * (n + 1) + j;
          triangles.push(a, a + n + 1, a + n + 2, a, a + n + 2, a + 1);
        }
      const { faces } = meshFaces(mesh(points, triangles), [n, n, 1]);
      let flat = 0;
      for (const f of faces) {
        const nz = f.u[0] * f.v[1] - f.u[1] * f.v[0];
        const a = area(f.subpaths[0]?.nodes ?? []);
        expect(nz).toBeGreaterThan(0);
        expect(a).toBeGreaterThan(0);
        flat += a * nz;
      }
      // Seen from above they cover the field once.
      expect(flat).toBeCloseTo(n * n, 6);
    }
  });
});

const builder = (make: (doc: Document, root: Node) => void): Promise<Uint8Array> => {
  const doc = new Document();
  doc.createBuffer();
  const root = doc.createNode('Crate');
  doc.createScene().addChild(root);
  make(doc, root);
  return new WebIO().writeBinary(doc);
};
function cube(doc: Document, color: [number, number, number, number] = [1, 1, 1, 1]) {
  const buffer = doc.getRoot().listBuffers()[0] ?? null;
  const position = doc
    .createAccessor()
    .setType('VEC3')
    .setArray(new Float32Array(CUBE.flat()))
    .setBuffer(buffer);
  const indices = doc
    .createAccessor()
    .setType('SCALAR')
    .setArray(new Uint16Array(CUBE_FACES))
    .setBuffer(buffer);
  const material = doc.createMaterial().setBaseColorFactor(color);
  return doc.createPrimitive().setAttribute('POSITION', position).setIndices(indices).setMaterial(material);
}
const bringIn = (bytes: Uint8Array) => {
  const random = seeded(1);
  const taken = new Set<string>();
  return importGltf(
    bytes,
    'crate',
    (kind) => {
      const id = newId(kind, (x) => taken.has(x), random);
      taken.add(id);
      return id;
    },
    { width: 400, height: 400 },
  );
};
const good = async (bytes: Uint8Array) => {
  const r = await bringIn(bytes);
  if (!r.ok) throw new Error(r.problems[0]?.message);
  const { objects, assets } = r.value;
  const piece: Piece = {
    ...emptyPiece('p', 'Model'),
    objects: Object.fromEntries(objects.map((o) => [o.id, o])),
    assets: Object.fromEntries(assets.map((a) => [a.id, a])),
  };
  expect(readPieceJson(JSON.parse(JSON.stringify(piece))).ok).toBe(true);
  return { ...r.value, piece };
};
const why = async (bytes: Uint8Array) => {
  const r = await bringIn(bytes);
  return r.ok ? '' : (r.problems[0]?.message ?? '');
};

describe('glTF brought in', () => {
  it('keeps the hierarchy, the places, the base colours, and shares a mesh that is shown twice', async () => {
    const bytes = await builder((doc, root) => {
      // Linear 0.5 is sRGB 188 = bc.
      const box = doc.createMesh('Box').addPrimitive(cube(doc, [0.5, 0, 1, 1]));
      root.addChild(doc.createNode('Left').setMesh(box).setTranslation([-4, 0, 0]));
      const arm = doc
        .createNode('Arm')
        .setTranslation([4, 0, 0])
        .setRotation([0, 0, Math.SQRT1_2, Math.SQRT1_2]);
      arm.addChild(doc.createNode('Hand').setMesh(box).setTranslation([2, 0, 0]).setScale([1, 0.5, 1]));
      root.addChild(arm);
    });
    const { objects, assets, piece } = await good(bytes);
    expect(
      objects.map((o) => [o.name, o.kind, objects.find((p) => p.id === o.parent)?.name ?? null]),
    ).toEqual([
      ['crate', 'group', null],
      ['Crate', 'group', 'crate'],
      ['Left', 'mesh', 'Crate'],
      ['Arm', 'group', 'Crate'],
      ['Hand', 'mesh', 'Arm'],
    ]);
    expect(assets).toHaveLength(1);
    expect(objects[2]?.base.fill).toBe('#bc00ff');
    expect(objects[3]?.base.rotation).toEqual([0, 0, 90]);
    // From −5 to 4.5 (the hand is turned and half as wide) and from −1 to 3: 9.5 units in 240 px, 4 in 240 px.
    const k = 240 / 9.5;
    const program = compile(piece);
    const faces = new FaceBuilder().build(program, program.base, { azimuth: 0, elevation: 0 });
    const top = (x: number, y: number) => program.objects[hitTop(faces, x, y)]?.name ?? null;
    const at = (x: number, y: number) => top((x + 0.25) * k, (y - 1) * k);
    expect([at(-4, 0.9), at(-4, 1.1), at(4, 2.9), at(4.4, 2), at(4.6, 2)]).toEqual([
      'Left',
      null,
      'Hand',
      'Hand',
      null,
    ]);
  });

  it('reads strips and fans, sees double-sided ones from behind, and takes the mean of the corners of each triangle', async () => {
    const quad = (mode: 5 | 6, double: boolean) =>
      builder((doc, root) => {
        const buffer = doc.getRoot().listBuffers()[0] ?? null;
        const order =
          mode === 5 ? [0, 0, 0, 1, 0, 0, 0, 1, 0, 1, 1, 0] : [0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0];
        const position = doc
          .createAccessor()
          .setType('VEC3')
          .setArray(new Float32Array(order))
          .setBuffer(buffer);
        const tints = doc
          .createAccessor()
          .setType('VEC3')
          .setArray(new Float32Array([1, 0, 0, 1, 0, 0, 0, 0, 0, 0, 0, 0]))
          .setBuffer(buffer);
        const p = doc
          .createPrimitive()
          .setMode(mode)
          .setAttribute('POSITION', position)
          .setAttribute('COLOR_0', tints);
        p.setMaterial(doc.createMaterial().setDoubleSided(double));
        root.setMesh(doc.createMesh().addPrimitive(p));
      });
    for (const mode of [5, 6] as const)
      for (const double of [false, true]) {
        const { piece, objects, assets } = await good(await quad(mode, double));
        // Two of the quad's corners are red: both corners of one triangle (⅔ of the light), one of the other (⅓).
        expect(objects.at(-1)?.base.fill).toBe('#ffffff');
        expect(assets[0]?.colors?.toSorted()).toEqual(['#9c0000', '#d50000']);
        expect(assets[0]?.triangles).toHaveLength(6);
        const program = compile(piece);
        for (const azimuth of [0, 180]) {
          const faces = new FaceBuilder().build(program, program.base, { azimuth, elevation: 0 });
          expect(faces.count).toBe(azimuth === 0 || double ? 2 : 0);
        }
      }
  });

  it('lists what it leaves out', async () => {
    const bytes = await builder((doc, root) => {
      root.setMesh(doc.createMesh().addPrimitive(cube(doc)));
      const line = cube(doc).setMode(1);
      root.addChild(doc.createNode('Wire').setMesh(doc.createMesh().addPrimitive(line)));
      const texture = doc.createTexture('wood').setImage(new Uint8Array(8)).setMimeType('image/png');
      doc.getRoot().listMaterials()[0]?.setBaseColorTexture(texture);
      doc.createAnimation('spin');
    });
    expect((await good(bytes)).notes).toEqual([
      'a texture that is no colour, or cannot be read',
      'a set of lines or points',
    ]);
  });

  it('turns of any quaternion come out as the same turn about x, y, z', async () => {
    const random = seeded(9);
    for (let i = 0; i < 200; i++) {
      const q = [0, 0, 0, 0].map(() => random() * 2 - 1);
      if (i % 10 === 0) q.splice(0, 4, 0, Math.SQRT1_2, 0, i % 20 === 0 ? Math.SQRT1_2 : -Math.SQRT1_2);
      const len = Math.hypot(...q);
      const [x, y, z, w] = q.map((n) => n / len) as [number, number, number, number];
      const bytes = await builder((doc, root) => {
        root.setRotation([x, y, z, w]).setMesh(doc.createMesh().addPrimitive(cube(doc)));
      });
      const { objects } = await good(bytes);
      const [a, b, c] = (objects.at(-1) as SceneObject).base.rotation.map((d) => (d * Math.PI) / 180) as V;
      // Rx · Ry · Rz of the point 1, 2, 3 against q · p · q⁻¹.
      const rz = [Math.cos(c) - 2 * Math.sin(c), Math.sin(c) + 2 * Math.cos(c), 3] as V;
      const ry = [
        rz[0] * Math.cos(b) + rz[2] * Math.sin(b),
        rz[1],
        rz[2] * Math.cos(b) - rz[0] * Math.sin(b),
      ] as V;
      const turned = [
        ry[0],
        ry[1] * Math.cos(a) - ry[2] * Math.sin(a),
        ry[1] * Math.sin(a) + ry[2] * Math.cos(a),
      ];
      const t = [2 * (y * 3 - z * 2), 2 * (z - x * 3), 2 * (x * 2 - y)] as V;
      const wanted = [
        1 + w * t[0] + y * t[2] - z * t[1],
        2 + w * t[1] + z * t[0] - x * t[2],
        3 + w * t[2] + x * t[1] - y * t[0],
      ];
      turned.forEach((n, k) => {
        expect(n).toBeCloseTo(wanted[k] as number, 4);
      });
    }
  });

  it('explains what is broken or too much, and never throws', async () => {
    const bytes = await builder((doc, root) => {
      root.setMesh(doc.createMesh().addPrimitive(cube(doc)));
    });
    expect(await why(strToU8('not a model'))).toContain('not sound JSON');
    expect(await why(strToU8('{"asset":{"version":"1.0"}}'))).toContain('only version 2');
    expect(await why(strToU8('{"asset":{"version":"2.0"}}'))).toContain('no scene');
    expect(await why(bytes.slice(0, 200))).toContain('its end is missing');
    const doc = (part: object) => strToU8(JSON.stringify({ asset: { version: '2.0' }, ...part }));
    expect(await why(doc({ buffers: [{ uri: 'crate.bin', byteLength: 3 }] }))).toContain('"crate.bin"');
    expect(await why(doc({ accessors: [{ count: 4e9, type: 'VEC3', componentType: 5126 }] }))).toContain(
      'too fine',
    );
    expect(await why(doc({ extensionsRequired: ['EXT_packed'] }))).toContain('EXT_packed');
    const circle = { scenes: [{ nodes: [0] }], nodes: [{ children: [1] }, { children: [0] }] };
    expect(await why(doc(circle))).not.toBe('');
    // 401 cubes: none of them can be simpler than it is.
    const fine = await builder((d, root) => {
      const m = d.createMesh().addPrimitive(cube(d));
      for (let i = 0; i < 400; i++)
        root.addChild(d.createNode().setMesh(d.createMesh().addPrimitive(cube(d))));
      root.setMesh(m);
    });
    expect(await why(fine)).toContain(
      'it has 4,812 triangles, and cannot be made simpler than 4,812; at most 4,000 can be drawn',
    );
    // Any byte of the description may be wrong.
    const random = seeded(77);
    for (let i = 0; i < 300; i++) {
      const spoilt = bytes.slice();
      for (let n = 0; n < 3; n++) spoilt[Math.floor(random() * spoilt.length)] = Math.floor(random() * 256);
      const r = await bringIn(spoilt);
      if (r.ok) {
        const piece = {
          ...emptyPiece('p', 'x'),
          objects: Object.fromEntries(r.value.objects.map((o) => [o.id, o])),
        };
        const whole = { ...piece, assets: Object.fromEntries(r.value.assets.map((a) => [a.id, a])) };
        const read = readPieceJson(JSON.parse(JSON.stringify(whole)));
        expect(read.ok ? [] : read.problems).toEqual([]);
      } else expect(r.problems[0]?.message).toMatch(/\.$/);
    }
  });
});

it('a mesh asset that a picture names is a problem with its place', () => {
  const piece: Piece = {
    ...emptyPiece('p', 'x'),
    assets: { as_m: mesh(CUBE, CUBE_FACES) },
    objects: {
      ob_i: objectOf('ob_i', { kind: 'image', asset: 'as_m', size: [10, 10], pixel: false }),
    },
  };
  expect(checkIntegrity(piece)).toEqual([
    { code: 'asset', path: 'objects.ob_i.asset', message: 'The asset "Mesh" is a mesh, not a picture.' },
  ]);
});
