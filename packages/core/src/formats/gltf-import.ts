/**
 * glTF 2.0 models (.glb, or .gltf with its data inside) as objects: nodes as groups, each set of triangles a mesh in its
 * base colour. The package @gltf-transform/core reads buffers and accessors; what they may claim is bounded first. What
 * is not understood is listed.
 * It is long since nodes, meshes and colours are read along one walk, within one budget.
 */
import {
  type Document,
  GLB_BUFFER,
  type GLTF,
  getBounds,
  type Node,
  type Primitive,
  WebIO,
} from '@gltf-transform/core';
import { strFromU8 } from 'fflate';
import {
  decompose,
  extentOf,
  type IdKind,
  linearToRgb,
  type Problem,
  type Result,
  rgbToHex,
} from '../base/index.ts';
import {
  defaultBase,
  MAX_TRIANGLES,
  type MeshAsset,
  namer,
  orderBetween,
  type SceneObject,
  type Vec3,
} from '../model/index.ts';
import type { ElementOf } from './brought.ts';
import { sound } from './made.ts';

export interface GltfImport {
  /** Parents before children; the first is the group that holds all. */
  readonly objects: SceneObject[];
  /** What is known of their nodes, by their ids. */
  readonly elements: ReadonlyMap<string, ElementOf>;
  readonly seen: GltfSeen;
  readonly assets: MeshAsset[];
  readonly notes: string[];
}

/** The point of the model that became the middle, and px to one unit of the model. */
export type GltfSeen = readonly [x: number, y: number, z: number, k: number];

const MAX_NODES = 2000;
const MAX_DEPTH = 64;
const MAX_CORNERS = 1_000_000;
/** Extensions that may be required although nothing here looks at them: the triangles can be read without. */
const HARMLESS = /^KHR_(mesh_quantization|texture_transform|materials_\w+|lights_punctual)$/;
/** How much of the room the model fills. */
const FILLS = 0.6;

class Broken extends Error {}

/** Reads a model. `seen`: how an older version of it was, which it is to lie over; else it is made to fit into `room`, px. */
export async function importGltf(
  bytes: Uint8Array,
  name: string,
  newId: (kind: IdKind) => string,
  room: { readonly width: number; readonly height: number },
  seen?: GltfSeen,
): Promise<Result<GltfImport>> {
  const problem = (message: string): Result<GltfImport> => {
    const problems: Problem[] = [{ code: 'gltf', path: '', message }];
    return { ok: false, problems };
  };
  try {
    const { json, bin } = container(bytes);
    const notes = stripped(json);
    checkClaims(json);
    const resources: Record<string, Uint8Array<ArrayBuffer>> = bin ? { [GLB_BUFFER]: bin } : {};
    const doc = await new WebIO().readJSON({ json, resources });
    const value = new Builder(newId, notes).build(doc, name, room, seen);
    const read = sound(value.objects);
    return read.ok ? { ok: true, value: { ...value, objects: read.value } } : read;
  } catch (e) {
    if (e instanceof Broken) return problem(e.message);
    return problem('The model is broken: its parts do not fit together.');
  }
}

/** The document and its binary part, of either form of file. */
function container(b: Uint8Array): { json: GLTF.IGLTF; bin: Uint8Array<ArrayBuffer> | null } {
  const view = new DataView(b.buffer, b.byteOffset, b.byteLength);
  if (b.length < 12 || view.getUint32(0, true) !== 0x46546c67) return { json: parse(b), bin: null };
  if (view.getUint32(4, true) !== 2)
    throw new Broken(`The model is of glTF version ${view.getUint32(4, true)}: only version 2 is read.`);
  if (view.getUint32(8, true) > b.length) throw new Broken('The model is broken: its end is missing.');
  let json: GLTF.IGLTF | null = null;
  let bin: Uint8Array<ArrayBuffer> | null = null;
  for (let at = 12; at + 8 <= b.length; ) {
    const length = view.getUint32(at, true);
    const kind = view.getUint32(at + 4, true);
    if (at + 8 + length > b.length)
      throw new Broken('The model is broken: a part is not as long as it says.');
    const part = b.slice(at + 8, at + 8 + length);
    if (kind === 0x4e4f534a) json ??= parse(part);
    else if (kind === 0x004e4942) bin ??= part;
    at += 8 + length;
  }
  if (!json) throw new Broken('The model is broken: it holds no description.');
  return { json, bin };
}

function parse(b: Uint8Array): GLTF.IGLTF {
  let json: unknown;
  try {
    json = JSON.parse(strFromU8(b));
  } catch {
    throw new Broken('The file does not hold a glTF model: its description is not sound JSON.');
  }
  const version = (json as { asset?: { version?: unknown } } | null)?.asset?.version;
  if (typeof json !== 'object' || json === null || typeof version !== 'string')
    throw new Broken('The file does not hold a glTF model: it names no version.');
  if (!version.startsWith('2'))
    throw new Broken(`The model is of glTF version ${version.slice(0, 20)}: only version 2 is read.`);
  return json as GLTF.IGLTF;
}

/** Takes out what is not read, so that nothing of it is loaded; returns it in words. */
function stripped(json: GLTF.IGLTF): string[] {
  const notes: string[] = [];
  const note = (n: number | undefined, one: string, many: string) => {
    if (n) notes.push(n === 1 ? one : `${n} ${many}`);
  };
  note(json.textures?.length, 'a texture (the base colour is used)', 'textures (the base colours are used)');
  note(json.animations?.length, 'an animation', 'animations');
  note(
    json.skins?.length,
    'a skin (the model stands as it was bound)',
    'skins (the model stands as it was bound)',
  );
  note(json.cameras?.length, 'a camera', 'cameras');
  for (const key of [
    'textures',
    'images',
    'samplers',
    'animations',
    'skins',
    'cameras',
    'extensions',
  ] as const)
    delete json[key];
  json.materials = json.materials?.map((m) => ({
    name: m.name,
    doubleSided: m.doubleSided ?? false,
    alphaMode: m.alphaMode ?? 'OPAQUE',
    pbrMetallicRoughness: { baseColorFactor: m.pbrMetallicRoughness?.baseColorFactor ?? [1, 1, 1, 1] },
  })) as GLTF.IMaterial[];
  for (const n of json.nodes ?? []) {
    delete n.skin;
    delete n.camera;
    delete n.extensions;
  }
  let morphs = 0;
  for (const m of json.meshes ?? [])
    for (const p of m.primitives) {
      if (p.extensions?.['KHR_draco_mesh_compression']) throw packed('KHR_draco_mesh_compression');
      if (p.targets) morphs++;
      delete p.targets;
      delete p.extensions;
    }
  note(morphs, 'a set of morph targets', 'sets of morph targets');
  const beyond = json.extensionsRequired?.find((x) => !HARMLESS.test(x));
  if (beyond) throw packed(beyond);
  delete json.extensionsRequired;
  delete json.extensionsUsed;
  return notes;
}

function packed(extension: string): Broken {
  return new Broken(
    `The model needs the extension ${extension.slice(0, 60)}, which is not read. Save it without.`,
  );
}

/** What the document says of its sizes, before memory is given to it. */
function checkClaims(json: GLTF.IGLTF): void {
  const outside = json.buffers?.find((b) => b.uri !== undefined && !b.uri.startsWith('data:'));
  if (outside)
    throw new Broken(
      `The model's data lie in another file, "${String(outside.uri).slice(0, 60)}". Save it as a .glb, which holds everything.`,
    );
  let corners = 0;
  for (const a of json.accessors ?? []) {
    if (!Number.isInteger(a.count) || a.count < 0) throw new Broken('The model is broken: a count is wrong.');
    corners += a.count;
  }
  if (corners > MAX_CORNERS)
    throw new Broken(
      `The model is too fine: it holds ${corners.toLocaleString('en')} values of corners. At most ${MAX_TRIANGLES.toLocaleString('en')} triangles can be brought in.`,
    );
  if ((json.nodes?.length ?? 0) > MAX_NODES)
    throw new Broken(`The model has more than ${MAX_NODES.toLocaleString('en')} nodes.`);
}

class Builder {
  private readonly newId: (kind: IdKind) => string;
  private readonly notes: string[];
  private readonly objects: SceneObject[] = [];
  private readonly elements = new Map<string, ElementOf>();
  private readonly assets: MeshAsset[] = [];
  private readonly known = new Map<Primitive, Made | null>();
  private readonly lastOrder = new Map<string, string>();
  private readonly names = new Map<string, (name: string) => string>();
  private triangles = 0;
  private lines = 0;
  private tinted = 0;
  /** Px for one unit of the model. */
  private k = 1;

  constructor(newId: (kind: IdKind) => string, notes: string[]) {
    this.newId = newId;
    this.notes = notes;
  }

  build(doc: Document, name: string, room: { width: number; height: number }, was?: GltfSeen): GltfImport {
    const root = doc.getRoot();
    const scene = root.getDefaultScene() ?? root.listScenes()[0];
    if (!scene || scene.listChildren().length === 0) throw new Broken('The model is empty: it has no scene.');
    for (const n of scene.listChildren()) checkDepth(n, 0, new Set());
    const { min, max } = getBounds(scene);
    const [x, y, z] = [0, 1, 2].map((i) => (max[i] as number) - (min[i] as number)) as [
      number,
      number,
      number,
    ];
    if (![x, y, z].every((n) => Number.isFinite(n) && n >= 0) || Math.max(x, y, z) <= 0)
      throw new Broken('The model is empty: it has no triangles.');
    this.k = was?.[3] ?? Math.min((room.width * FILLS) / Math.max(x, z), (room.height * FILLS) / (y || 1e-9));
    const top = this.group(name, null, defaultBase());
    const middle = [0, 1, 2].map((i) => ((max[i] as number) + (min[i] as number)) / 2) as Vec3;
    const centre: Vec3 = was ? [was[0], was[1], was[2]] : middle;
    for (const n of scene.listChildren()) this.node(n, top, centre);
    if (this.assets.length === 0) throw new Broken('The model is empty: it has no triangles.');
    if (this.lines > 0)
      this.notes.push(
        this.lines === 1 ? 'a set of lines or points' : `${this.lines} sets of lines or points`,
      );
    if (this.tinted > 0) this.notes.push('colours of corners (their mean is used)');
    const { objects, elements, assets, notes } = this;
    return { objects, elements, seen: [...centre, this.k], assets, notes };
  }

  private node(n: Node, parent: string, less: Vec3): void {
    const t = n.getTranslation();
    const position = [0, 1, 2].map((i) => tidy(((t[i] as number) - (less[i] as number)) * this.k)) as Vec3;
    // Theirs has a fourth row, which says nothing.
    const matrix = Float64Array.from(n.getMatrix().filter((_, i) => i % 4 < 3));
    const { rotation, scale } = decompose(matrix, 0);
    const base = {
      ...defaultBase(),
      position,
      rotation: rotation.map((d) => Math.round(d * 1e4) / 1e4 + 0) as Vec3,
      scale: scale.map(tidy) as Vec3,
    };
    const made = (n.getMesh()?.listPrimitives() ?? [])
      .map((p) => this.mesh(p, n.getMesh()?.getName() || n.getName() || 'Mesh'))
      .filter((m) => m !== null);
    const name = n.getName() || n.getMesh()?.getName() || 'Part';
    const [only] = made;
    const named = { named: Boolean(n.getName() || n.getMesh()?.getName()) };
    if (only && made.length === 1 && n.listChildren().length === 0) {
      this.elements.set(this.place(only, name, parent, base), named);
      return;
    }
    if (made.length === 0 && n.listChildren().length === 0) return;
    const group = this.group(name, parent, base);
    this.elements.set(group, named);
    for (const m of made) this.place(m, m.asset.name, group, defaultBase());
    for (const child of n.listChildren()) this.node(child, group, [0, 0, 0]);
  }

  private group(name: string, parent: string | null, base: SceneObject['base']): string {
    const id = this.newId('objects');
    this.objects.push({ ...this.common(id, name, parent), base, kind: 'group' });
    return id;
  }

  /** A mesh turns about the node's own origin, while its geometry is centred on the object's. */
  private place(m: Made, name: string, parent: string, base: SceneObject['base']): string {
    const id = this.newId('objects');
    const { centre } = m;
    const at = base.position.map((p, i) => tidy(p + (centre[i] as number))) as Vec3;
    const pivot = centre.map((c) => tidy(-c)) as Vec3;
    this.objects.push({
      ...this.common(id, name, parent),
      base: { ...base, position: at, pivot, fill: m.color, opacity: m.opacity },
      kind: 'mesh',
      size: m.size,
      asset: m.asset.id,
    });
    return id;
  }

  private common(id: string, name: string, parent: string | null) {
    const owner = parent ?? '';
    const unique = this.names.get(owner) ?? namer([]);
    this.names.set(owner, unique);
    const own = unique(name.slice(0, 190));
    const order = orderBetween(this.lastOrder.get(owner) ?? null, null);
    this.lastOrder.set(owner, order);
    return { id, name: own, parent, order, tags: [], hint: '' };
  }

  /** The asset of a set of triangles, made once however many nodes show it. */
  private mesh(p: Primitive, name: string): Made | null {
    let made = this.known.get(p);
    if (made === undefined) {
      made = this.made(p, name.slice(0, 190));
      this.known.set(p, made);
    }
    return made;
  }

  private made(p: Primitive, name: string): Made | null {
    const corners = corneredBy(p);
    const position = p.getAttribute('POSITION');
    if (!corners || !position) {
      this.lines++;
      return null;
    }
    const material = p.getMaterial();
    const twice = material?.getDoubleSided() ? 2 : 1;
    this.triangles += (corners.length / 3) * twice;
    if (this.triangles > MAX_TRIANGLES)
      throw new Broken(
        `The model is too fine: at most ${MAX_TRIANGLES.toLocaleString('en')} triangles can be brought in. Save a coarser one.`,
      );
    const points: number[] = [];
    const index = new Map<string, number>();
    const triangles = corners.map((c) => {
      if (c >= position.getCount())
        throw new Broken('The model is broken: a triangle has a corner too many.');
      const at = position.getElement(c, [0, 0, 0]).map((x) => tidy(x * this.k));
      if (!at.every((x) => Math.abs(x) < 1e6)) throw new Broken('The model is broken: a corner is nowhere.');
      const key = at.join('/');
      const known = index.get(key) ?? points.length / 3;
      if (known === points.length / 3) {
        index.set(key, known);
        points.push(...at);
      }
      return known;
    });
    if (points.length < 9) {
      this.notes.push('triangles without an area');
      return null;
    }
    // Seen from both sides: each triangle once more, the other way round.
    if (twice === 2)
      for (let i = triangles.length - 3; i >= 0; i -= 3)
        triangles.push(triangles[i] as number, triangles[i + 2] as number, triangles[i + 1] as number);
    const extents = ([0, 1, 2] as const).map((k) => extentOf(points, k));
    const centre = extents.map(([least, greatest]) => (least + greatest) / 2) as Vec3;
    const asset: MeshAsset = {
      id: this.newId('assets'),
      name,
      kind: 'mesh',
      points: points.map((x, i) => tidy(x - (centre[i % 3] as number))),
      triangles,
    };
    this.assets.push(asset);
    const factor = this.colorOf(p);
    return {
      asset,
      centre,
      size: extents.map(([least, greatest]) => tidy(greatest - least)) as Vec3,
      color: rgbToHex(linearToRgb(factor[0], factor[1], factor[2])),
      opacity: material?.getAlphaMode() === 'BLEND' ? clamp(factor[3]) : 1,
    };
  }

  /** Linear red, green, blue and opacity, each 0–1: the base colour, times the mean of the corners' own. */
  private colorOf(p: Primitive): [number, number, number, number] {
    const factor = (p.getMaterial()?.getBaseColorFactor() ?? [1, 1, 1, 1]).map(clamp);
    const tint = p.getAttribute('COLOR_0');
    if (tint && tint.getCount() > 0) {
      this.tinted++;
      const sum = [0, 0, 0];
      for (let i = 0; i < tint.getCount(); i++)
        tint.getElement(i, []).forEach((c, k) => {
          if (k < 3) sum[k] = (sum[k] as number) + c / tint.getCount();
        });
      for (let k = 0; k < 3; k++) factor[k] = clamp((factor[k] as number) * (sum[k] as number));
    }
    return factor as [number, number, number, number];
  }
}

interface Made {
  readonly asset: MeshAsset;
  /** Where the middle of the geometry lies from the node's origin, px. */
  readonly centre: Vec3;
  readonly size: [number, number, number];
  readonly color: string;
  readonly opacity: number;
}

const clamp = (x: number) => Math.max(0, Math.min(1, x));
/** Thousandths of a px; never −0. */
const tidy = (x: number) => Math.round(x * 1000) / 1000 + 0;

function checkDepth(n: Node, depth: number, way: Set<Node>): void {
  if (depth > MAX_DEPTH || way.has(n))
    throw new Broken(
      `The model is broken: its nodes are nested more than ${MAX_DEPTH} deep, or in a circle.`,
    );
  way.add(n);
  for (const c of n.listChildren()) checkDepth(c, depth + 1, way);
  way.delete(n);
}

/** Numbers of the corners, three a triangle; null for lines and points. glTF 2.0, 3.7.2.1. */
function corneredBy(p: Primitive): number[] | null {
  const mode = p.getMode();
  if (mode < 4) return null;
  const indices = p.getIndices();
  const n = indices?.getCount() ?? p.getAttribute('POSITION')?.getCount() ?? 0;
  const at = (i: number) => indices?.getScalar(i) ?? i;
  const out: number[] = [];
  if (mode === 4) for (let i = 0; i + 2 < n; i += 3) out.push(at(i), at(i + 1), at(i + 2));
  // In a strip every other triangle goes round the other way.
  else if (mode === 5)
    for (let i = 0; i + 2 < n; i++) out.push(at(i), at(i + 1 + (i % 2)), at(i + 2 - (i % 2)));
  else for (let i = 1; i + 1 < n; i++) out.push(at(0), at(i), at(i + 1));
  return out;
}
