/**
 * glTF 2.0 models (.glb, or .gltf with its data inside) as objects: nodes as groups, each set of triangles a mesh with a
 * colour for each triangle, animations as clips. The packages @gltf-transform/core and @gltf-transform/extensions read
 * buffers and accessors; what they may claim is bounded first. What is not understood is listed.
 */
import {
  type Document,
  GLB_BUFFER,
  getBounds,
  type Node,
  type Primitive,
  type Texture,
  WebIO,
} from '@gltf-transform/core';
import { EXTMeshoptCompression, KHRMeshQuantization, KHRTextureTransform } from '@gltf-transform/extensions';
import { MeshoptDecoder } from 'meshoptimizer/decoder';
import {
  decompose,
  extentOf,
  type IdKind,
  linearToRgb,
  type Problem,
  type Result,
  rgbToHex,
  timesRgb,
} from '../base/index.ts';
import {
  type Clip,
  defaultBase,
  MAX_TRIANGLES,
  type MeshAsset,
  namer,
  orderBetween,
  type SceneObject,
  type Vec3,
} from '../model/index.ts';
import type { ElementOf } from './brought.ts';
import { Broken, checkClaims, container, stripped } from './gltf-claims.ts';
import { fewer, oneColor, type Pixels, type RawMesh, rawMesh, tidy } from './gltf-mesh.ts';
import { clipsOf, type Placed } from './gltf-motion.ts';
import { sound } from './made.ts';

export interface GltfImport {
  /** Parents before children; the first is the group that holds all. */
  readonly objects: SceneObject[];
  /** What is known of their nodes, by their ids. */
  readonly elements: ReadonlyMap<string, ElementOf>;
  readonly seen: GltfSeen;
  readonly assets: MeshAsset[];
  readonly clips: Clip[];
  /** Triangles that the file draws, and those that are left. */
  readonly faces: { readonly had: number; readonly has: number };
  readonly notes: string[];
}

export interface GltfOptions {
  /** How an older version of it was, which it is to lie over; else it is made to fit into the room. */
  readonly seen?: GltfSeen | undefined;
  /** At most so many triangles are drawn; more in the file are made fewer. */
  readonly faces?: number | undefined;
  /** Decodes a picture; null where it cannot. Without it pictures give no colours. */
  readonly decode?: (bytes: Uint8Array, mime: string) => Promise<Pixels | null>;
}

/** The point of the model that became the middle, and px to one unit of the model. */
export type GltfSeen = readonly [x: number, y: number, z: number, k: number];

const MAX_DEPTH = 64;
/** How much of the room the model fills. */
const FILLS = 0.6;
/** A mesh of so few triangles is not made simpler. */
const FEW = 12;

/** Reads a model, which is made to fit into `room`, px. */
export async function importGltf(
  bytes: Uint8Array,
  name: string,
  newId: (kind: IdKind) => string,
  room: { readonly width: number; readonly height: number },
  options: GltfOptions = {},
): Promise<Result<GltfImport>> {
  const problem = (message: string): Result<GltfImport> => {
    const problems: Problem[] = [{ code: 'gltf', path: '', message }];
    return { ok: false, problems };
  };
  try {
    const { json, bin } = container(bytes);
    const notes = stripped(json, options.decode !== undefined);
    checkClaims(json);
    const resources: Record<string, Uint8Array<ArrayBuffer>> = bin ? { [GLB_BUFFER]: bin } : {};
    if (json.extensionsUsed?.includes('EXT_meshopt_compression')) await MeshoptDecoder.ready;
    const doc = await new WebIO()
      .registerExtensions([EXTMeshoptCompression, KHRMeshQuantization, KHRTextureTransform])
      .registerDependencies({ 'meshopt.decoder': MeshoptDecoder })
      .readJSON({ json, resources });
    const pictures = await decoded(doc, options.decode);
    const value = await new Builder(newId, notes, pictures).build(doc, name, room, options);
    const read = sound(value.objects);
    return read.ok ? { ok: true, value: { ...value, objects: read.value } } : read;
  } catch (e) {
    if (e instanceof Broken) return problem(e.message);
    return problem('The model is broken: its parts do not fit together.');
  }
}

async function decoded(doc: Document, decode: GltfOptions['decode']): Promise<Map<Texture, Pixels>> {
  const pictures = new Map<Texture, Pixels>();
  for (const t of doc.getRoot().listTextures()) {
    const image = t.getImage();
    const pixels = image && decode ? await decode(image, t.getMimeType()) : null;
    if (pixels) pictures.set(t, pixels);
  }
  return pictures;
}

class Builder {
  private readonly newId: (kind: IdKind) => string;
  private readonly notes: string[];
  private readonly pictures: ReadonlyMap<Texture, Pixels>;
  private readonly objects: SceneObject[] = [];
  private readonly elements = new Map<string, ElementOf>();
  private readonly assets: MeshAsset[] = [];
  private readonly known = new Map<Primitive, Made | null>();
  private readonly raw = new Map<Primitive, RawMesh>();
  private readonly placed = new Map<Node, Placed>();
  private readonly lastOrder = new Map<string, string>();
  private readonly names = new Map<string, (name: string) => string>();
  private lines = 0;
  /** Px for one unit of the model. */
  private k = 1;

  constructor(newId: (kind: IdKind) => string, notes: string[], pictures: ReadonlyMap<Texture, Pixels>) {
    this.newId = newId;
    this.notes = notes;
    this.pictures = pictures;
  }

  async build(
    doc: Document,
    name: string,
    room: { width: number; height: number },
    { seen: was, faces = MAX_TRIANGLES }: GltfOptions,
  ): Promise<GltfImport> {
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
    const drawn = await this.readMeshes(scene.listChildren(), Math.min(faces, MAX_TRIANGLES));
    const top = this.group(name, null, defaultBase());
    const middle = [0, 1, 2].map((i) => ((max[i] as number) + (min[i] as number)) / 2) as Vec3;
    const centre: Vec3 = was ? [was[0], was[1], was[2]] : middle;
    for (const n of scene.listChildren()) this.node(n, top, centre);
    if (this.assets.length === 0) throw new Broken('The model is empty: it has no triangles.');
    if (this.lines > 0)
      this.notes.push(
        this.lines === 1 ? 'a set of lines or points' : `${this.lines} sets of lines or points`,
      );
    const { clips, morphs, isCut } = clipsOf(root.listAnimations(), top, this.placed, this.newId);
    if (morphs > 0) this.notes.push('motion of morph targets');
    if (isCut) this.notes.push('motion beyond the first 100,000 keys');
    const { objects, elements, assets, notes } = this;
    return { objects, elements, seen: [...centre, this.k], assets, clips, faces: drawn, notes };
  }

  /** The triangles of all meshes that are shown, with as many as may be drawn, each mesh its part of them. */
  private async readMeshes(tops: readonly Node[], most: number): Promise<GltfImport['faces']> {
    const uses = new Map<Primitive, number>();
    const visit = (n: Node) => {
      for (const p of n.getMesh()?.listPrimitives() ?? []) uses.set(p, (uses.get(p) ?? 0) + 1);
      for (const c of n.listChildren()) visit(c);
    };
    for (const n of tops) visit(n);
    for (const p of uses.keys()) {
      const mesh = rawMesh(p, this.k, (t) => this.pictures.get(t) ?? null);
      if (mesh) this.raw.set(p, mesh);
      else this.lines++;
    }
    const counted = (least: number, greatest: number) => {
      let sum = 0;
      for (const [p, { triangles }] of this.raw) {
        const n = triangles.length / 3;
        if (n > least && n <= greatest) sum += n * (uses.get(p) as number);
      }
      return sum;
    };
    const had = counted(0, Number.POSITIVE_INFINITY);
    if (had <= most) return { had, has: had };
    // What is small is left as it is; of what is not, a little less than its part: none of them comes out exactly.
    const part = Math.max(0, (most - counted(0, FEW)) / counted(FEW, Number.POSITIVE_INFINITY));
    for (const slack of [1, 0.85, 0.6, 0.3]) {
      for (const [p, mesh] of this.raw) {
        const n = mesh.triangles.length / 3;
        if (n > FEW) this.raw.set(p, await fewer(mesh, Math.max(4, Math.floor(n * part * slack))));
      }
      if (counted(0, Number.POSITIVE_INFINITY) <= most) break;
    }
    const has = counted(0, Number.POSITIVE_INFINITY);
    const number = (n: number) => n.toLocaleString('en');
    if (has > most)
      throw new Broken(
        `The model is too fine: it has ${number(had)} triangles, and cannot be made simpler than ${number(has)}; at most ${number(most)} can be drawn.`,
      );
    this.notes.push(`made simpler: ${number(has)} triangles of ${number(had)}`);
    return { had, has };
  }

  private node(n: Node, parent: string, less: Vec3): void {
    const t = n.getTranslation();
    const away = less.map((x) => -x * this.k) as Vec3;
    const position = [0, 1, 2].map((i) => tidy((t[i] as number) * this.k + (away[i] as number))) as Vec3;
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
      const id = this.place(only, name, parent, base);
      this.elements.set(id, named);
      this.placed.set(n, { id, k: this.k, add: away.map((x, i) => x + (only.centre[i] as number)) as Vec3 });
      return;
    }
    if (made.length === 0 && n.listChildren().length === 0) return;
    const group = this.group(name, parent, base);
    this.elements.set(group, named);
    this.placed.set(n, { id: group, k: this.k, add: away });
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
    const raw = this.raw.get(p);
    if (!raw) return null;
    const { points, triangles, colors } = raw;
    if (points.length < 9 || triangles.length === 0) {
      this.notes.push('triangles without an area');
      return null;
    }
    const extents = ([0, 1, 2] as const).map((k) => extentOf(points, k));
    const centre = extents.map(([least, greatest]) => (least + greatest) / 2) as Vec3;
    const material = p.getMaterial();
    const [r, g, b, alpha] = (material?.getBaseColorFactor() ?? [1, 1, 1, 1]).map(clamp) as [
      number,
      number,
      number,
      number,
    ];
    // The colour of the material is the object's fill; where all its triangles are alike, that is theirs too.
    const one = colors && oneColor(colors);
    const factor = linearToRgb(r, g, b);
    const asset: MeshAsset = {
      id: this.newId('assets'),
      name,
      kind: 'mesh',
      points: points.map((x, i) => tidy(x - (centre[i % 3] as number))),
      triangles: [...triangles],
      ...(colors && one === null ? { colors: Array.from(colors, rgbToHex) } : {}),
      ...(material?.getDoubleSided() ? { twoSided: true } : {}),
    };
    this.assets.push(asset);
    return {
      asset,
      centre,
      size: extents.map(([least, greatest]) => tidy(greatest - least)) as Vec3,
      color: rgbToHex(one === null ? factor : timesRgb(factor, one)),
      opacity: material?.getAlphaMode() === 'BLEND' ? alpha : 1,
    };
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

function checkDepth(n: Node, depth: number, way: Set<Node>): void {
  if (depth > MAX_DEPTH || way.has(n))
    throw new Broken(
      `The model is broken: its nodes are nested more than ${MAX_DEPTH} deep, or in a circle.`,
    );
  way.add(n);
  for (const c of n.listChildren()) checkDepth(c, depth + 1, way);
  way.delete(n);
}
