/** Objects as faces in their own space: what is worked out once, when a piece is compiled. */
import { flatten, hexToOklab, type Subpath } from '../base/index.ts';
import {
  ANCHORS,
  CH_FILL,
  CH_LOOK,
  CH_OPACITY,
  CH_SHOWN,
  CHANNELS,
  type Fill,
  type FontName,
  fillColor,
  type Gradient,
  isSolid,
  layoutText,
  lookNumber,
  type SceneObject,
  type Stroke,
  sizeOf,
  subpathsOf,
  type TextLayout,
  type Vec3,
  withLook,
} from '../model/index.ts';
import { ellipseOutline, type Outline, pathOutline, rectOutline } from './outline.ts';

/** A flat thing is seen from both sides; a face of a solid from outside only. */
export const FLAT = 0;
export const CONVEX = 1;
export const SOLID = 2;

/** Lines round the faces of solids: none; a thin dark one; one of the face's own colour, which closes seams. */
export const EDGE_NONE = 0;
export const EDGE_LINE = 1;
export const EDGE_SEAM = 2;

export interface LocalFace {
  /** The plane: where (0, 0) lies, and one px along u and v, in the object's space. u × v points outward. */
  readonly origin: Vec3;
  readonly u: Vec3;
  readonly v: Vec3;
  readonly outline: Outline;
  readonly side: typeof FLAT | typeof CONVEX | typeof SOLID;
  readonly edge: typeof EDGE_NONE | typeof EDGE_LINE | typeof EDGE_SEAM;
}

/** How an object is painted besides its one colour; null where that is all. */
export interface FaceStyle {
  /** False: only the stroke is drawn. */
  readonly filled: boolean;
  readonly gradient: Gradient | null;
  readonly stroke: Stroke | null;
  /** Words instead of the filled outline, which is then only what is hit. */
  readonly text: FaceText | null;
  /** A picture in the outline's box, or the part `cut` of it. */
  readonly image: FaceImage | null;
}

export interface FaceImage {
  readonly asset: string;
  readonly cut: readonly [number, number, number, number] | null;
  readonly pixel: boolean;
}

export interface FaceText extends TextLayout {
  readonly font: FontName;
  readonly size: number;
  readonly weight: number;
}

/** One drawing of an object. */
export interface ObjectGeometry {
  readonly faces: readonly LocalFace[];
  /** Half width, half height and depth of a ball, px; null for everything else. */
  readonly ball: Vec3 | null;
  readonly style: FaceStyle | null;
  /** Where it is hit instead of where it is drawn; null: where it is drawn. */
  readonly hit: LocalFace | null;
  /** Its own colour, 0xrrggbb: it stands while the fill that is written is the object's base; else that one does. */
  readonly rgb: number;
}

/** One mask that an object shows through: a region of `Geometry.regions`, and on which side of it. */
export interface MaskUse {
  readonly region: number;
  readonly inside: boolean;
}

/** Where an object on top is fixed: the anchor as −1, 0, 1 of the half frame, and px from there. */
export interface OverlayPlace {
  readonly ax: number;
  readonly ay: number;
  readonly x: number;
  readonly y: number;
}

export interface Geometry {
  /** Number of each object's parent, or −1; parents come first. */
  readonly parent: Int32Array;
  readonly objects: readonly ObjectGeometry[];
  /** The other drawings of an object, by the number of the look; null where it has none. */
  readonly looks: readonly (ReadonlyMap<number, ObjectGeometry> | null)[];
  /** The base colour of each object as OKLab, three numbers each. */
  readonly plain: Float64Array;
  /** The masks of each object, its own and those above it; null for none. */
  readonly masks: readonly (readonly MaskUse[] | null)[];
  /** The objects whose outlines make up each mask. */
  readonly regions: readonly (readonly number[])[];
  /** Objects on top have a place; what lies below one has 1 in `onTop` only. */
  readonly overlays: readonly (OverlayPlace | null)[];
  readonly onTop: Uint8Array;
}

/** What one object record comes to; kept by the record, which is never changed in place. */
interface ObjectParts {
  readonly base: Float64Array;
  readonly drawing: ObjectGeometry;
  readonly looks: ReadonlyMap<number, ObjectGeometry> | null;
  readonly overlay: OverlayPlace | null;
}

const partsCache = new WeakMap<SceneObject, ObjectParts>();

function partsOf(o: SceneObject): ObjectParts {
  let parts = partsCache.get(o);
  if (!parts) {
    parts = {
      base: baseRow(o),
      drawing: geometryOf(o),
      looks:
        o.looks && o.looks.length > 0
          ? new Map(o.looks.map((l) => [lookNumber(l.id), geometryOf(withLook(o, l))]))
          : null,
      overlay: overlayOf(o),
    };
    partsCache.set(o, parts);
  }
  return parts;
}

/** The channels of an object's base. */
function baseRow(o: SceneObject): Float64Array {
  const row = new Float64Array(CHANNELS);
  const b = o.base;
  row.set(b.position, 0);
  row.set(b.rotation, 3);
  row.set(b.scale, 6);
  row.set(b.pivot, 9);
  row[CH_OPACITY] = b.opacity;
  row[CH_SHOWN] = b.shown ? 1 : 0;
  row[CH_LOOK] = lookNumber(b.look ?? '');
  hexToOklab(fillColor(b.fill) ?? '#000000', row, CH_FILL);
  return row;
}

/** The base channels and the geometry of all objects, which stand in the order of the tree. */
export function compileObjects(
  list: readonly SceneObject[],
  index: ReadonlyMap<string, number>,
): { base: Float64Array; geometry: Geometry } {
  const n = list.length;
  const base = new Float64Array(n * CHANNELS);
  const parent = new Int32Array(n);
  const plain = new Float64Array(n * 3);
  const onTop = new Uint8Array(n);
  const objects: ObjectGeometry[] = [];
  const looks: Geometry['looks'][number][] = [];
  const overlays: (OverlayPlace | null)[] = [];
  let masked = false;
  for (let i = 0; i < n; i++) {
    const o = list[i] as SceneObject;
    const parts = partsOf(o);
    const p = o.parent === null ? -1 : (index.get(o.parent) ?? -1);
    parent[i] = p;
    base.set(parts.base, i * CHANNELS);
    for (let k = 0; k < 3; k++) plain[i * 3 + k] = parts.base[CH_FILL + k] as number;
    onTop[i] = parts.overlay || (p >= 0 && onTop[p] === 1) ? 1 : 0;
    objects.push(parts.drawing);
    looks.push(parts.looks);
    overlays.push(parts.overlay);
    if (o.mask) masked = true;
  }
  const masks = masked ? masksOf(list, index, parent) : { masks: new Array(n).fill(null), regions: [] };
  return { base, geometry: { parent, objects, looks, plain, ...masks, overlays, onTop } };
}

function masksOf(
  objects: readonly SceneObject[],
  index: ReadonlyMap<string, number>,
  parent: Int32Array,
): Pick<Geometry, 'masks' | 'regions'> {
  const masks: (readonly MaskUse[] | null)[] = [];
  const regionOf = new Map<number, number>();
  const regions: number[][] = [];
  objects.forEach((o, i) => {
    const p = parent[i] as number;
    let chain = p >= 0 ? (masks[p] ?? null) : null;
    const by = o.mask ? index.get(o.mask.by) : undefined;
    if (o.mask && by !== undefined) {
      let region = regionOf.get(by);
      if (region === undefined) {
        region = regions.length;
        regionOf.set(by, region);
        regions.push(below(parent, by));
      }
      chain = [...(chain ?? []), { region, inside: o.mask.side === 'inside' }];
    }
    masks.push(chain);
  });
  return { masks, regions };
}

/** An object and everything below it, by number. */
function below(parent: Int32Array, root: number): number[] {
  const out: number[] = [];
  const inside = new Uint8Array(parent.length);
  for (let i = root; i < parent.length; i++) {
    const p = parent[i] as number;
    if (i !== root && (p < 0 || inside[p] === 0)) continue;
    inside[i] = 1;
    out.push(i);
  }
  return out;
}

function overlayOf(o: SceneObject): OverlayPlace | null {
  if (!o.overlay) return null;
  const at = ANCHORS.indexOf(o.overlay.anchor);
  const [w, h] = sizeOf(o);
  return {
    ax: (at % 3) - 1,
    ay: 1 - Math.floor(at / 3),
    x: o.overlay.offset[0] + (o.overlay.ofOwn[0] * w) / 100,
    y: o.overlay.offset[1] + (o.overlay.ofOwn[1] * h) / 100,
  };
}

function geometryOf(o: SceneObject): ObjectGeometry {
  return {
    faces: facesOf(o),
    ball: o.kind === 'ball' ? [o.size[0] / 2, o.size[1] / 2, o.size[2] / 2] : null,
    style: styleOf(o),
    hit: hitFace(o),
    rgb: Number.parseInt((fillColor(o.base.fill) ?? '#000000').slice(1), 16),
  };
}

function hitFace(o: SceneObject): LocalFace | null {
  if (!o.hitShape) return null;
  const { kind, size, at } = o.hitShape;
  const outline = kind === 'rect' ? rectOutline(size[0], size[1]) : ellipseOutline(size[0], size[1]);
  return { origin: [at?.[0] ?? 0, at?.[1] ?? 0, 0], u: X, v: Y, outline, side: FLAT, edge: EDGE_NONE };
}

function styleOf(o: SceneObject): FaceStyle | null {
  const fill: Fill = o.base.fill;
  const stroke = isSolid(o) ? null : (o.stroke ?? null);
  const text = o.kind === 'text' ? { ...layoutText(o), font: o.font, size: o.size, weight: o.weight } : null;
  const image = o.kind === 'image' ? { asset: o.asset, cut: o.cut ?? null, pixel: o.pixel } : null;
  if (typeof fill === 'string' && fill !== 'none' && !stroke && !text && !image) return null;
  return {
    filled: fill !== 'none',
    gradient: typeof fill === 'object' && !isSolid(o) ? fill : null,
    stroke,
    text,
    image,
  };
}

const X: Vec3 = [1, 0, 0];
const Y: Vec3 = [0, 1, 0];
const ZERO: Vec3 = [0, 0, 0];

function facesOf(o: SceneObject): LocalFace[] {
  const flat = (outline: Outline): LocalFace[] => [
    { origin: ZERO, u: X, v: Y, outline, side: FLAT, edge: EDGE_NONE },
  ];
  switch (o.kind) {
    case 'group':
    case 'ball':
      return [];
    case 'image':
      return flat(rectOutline(o.size[0], o.size[1]));
    case 'rect':
      return flat(rectOutline(o.size[0], o.size[1], o.radius));
    case 'text': {
      const { width, height } = layoutText(o);
      return width > 0 ? flat(rectOutline(width, height)) : [];
    }
    case 'ellipse':
      return flat(ellipseOutline(o.size[0], o.size[1]));
    case 'polygon':
      return flat(pathOutline(subpathsOf(o) ?? [], false, (o.stroke?.width ?? 0) / 2));
    case 'path':
      return flat(pathOutline(o.subpaths, o.rule === 'evenodd', (o.stroke?.width ?? 0) / 2));
    case 'box':
      return boxFaces(o.size);
    case 'cylinder':
      return cylinderFaces(o.size);
    case 'prism':
      return prismFaces(o);
  }
}

/** Six rectangles; the plane of each is spanned by the other two axes, so that u × v points outward. */
function boxFaces(size: readonly [number, number, number]): LocalFace[] {
  const out: LocalFace[] = [];
  for (let axis = 0; axis < 3; axis++)
    for (const side of [1, -1]) {
      const [a, b] = side > 0 ? [(axis + 1) % 3, (axis + 2) % 3] : [(axis + 2) % 3, (axis + 1) % 3];
      out.push({
        origin: unit(axis, (side * (size[axis] as number)) / 2),
        u: unit(a, 1),
        v: unit(b, 1),
        outline: rectOutline(size[a] as number, size[b] as number),
        side: CONVEX,
        edge: EDGE_LINE,
      });
    }
  return out;
}

function unit(axis: number, length: number): Vec3 {
  return [axis === 0 ? length : 0, axis === 1 ? length : 0, axis === 2 ? length : 0];
}

function cylinderFaces([w, h, d]: readonly [number, number, number]): LocalFace[] {
  const cap = ellipseOutline(w, d);
  const caps: LocalFace[] = [1, -1].map((side) => ({
    origin: [0, (side * h) / 2, 0],
    u: X,
    v: [0, 0, -side],
    outline: cap,
    side: CONVEX,
    edge: EDGE_LINE,
  }));
  // The cap's polygon lies in u, v = x, −z of the upper one; going round it anticlockwise from above.
  const { points } = cap.contours;
  const sides: LocalFace[] = [];
  for (let i = 0; i < 64; i += 2) {
    const j = (i + 2) % 64;
    const [ax, az] = [points[i * 2] as number, -(points[i * 2 + 1] as number)];
    const [bx, bz] = [points[j * 2] as number, -(points[j * 2 + 1] as number)];
    sides.push(wall([ax, 0, az], [bx, 0, bz], [0, 1, 0], h, CONVEX, EDGE_SEAM));
  }
  return [...caps, ...sides];
}

/** A rectangle standing on the middle line a–b; `up` is its height's direction, outward is (b − a) × up. */
function wall(
  a: Vec3,
  b: Vec3,
  up: Vec3,
  height: number,
  side: LocalFace['side'],
  edge: LocalFace['edge'],
): LocalFace {
  const along: Vec3 = [b[0] - a[0], b[1] - a[1], b[2] - a[2]];
  const len = Math.sqrt(along[0] * along[0] + along[1] * along[1] + along[2] * along[2]) || 1;
  return {
    origin: [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2, (a[2] + b[2]) / 2],
    u: [along[0] / len, along[1] / len, along[2] / len],
    v: up,
    outline: rectOutline(len, height),
    side,
    edge,
  };
}

function prismFaces(o: SceneObject & { kind: 'prism' }): LocalFace[] {
  const closed = subpathsOf(o) ?? [];
  const contours = flatten(closed);
  const outline = pathOutline(
    o.subpaths.every((s) => s.closed) ? o.subpaths : closed,
    o.rule === 'evenodd',
    0,
  );
  const half = o.depth / 2;
  // As many corners on its hull as it has: one convex outline.
  const convex = contours.ends.length === 1 && outline.hull.length === contours.points.length;
  const side = convex ? CONVEX : SOLID;
  const out: LocalFace[] = [
    { origin: [0, 0, half], u: X, v: Y, outline, side, edge: EDGE_LINE },
    {
      origin: [0, 0, -half],
      u: Y,
      v: X,
      outline: mirrored(closed, o.rule === 'evenodd'),
      side,
      edge: EDGE_LINE,
    },
  ];
  let start = 0;
  contours.ends.forEach((end, n) => {
    const turns = signedArea(contours.points, start, end) >= 0 ? 1 : -1;
    const curved = closed[n]?.nodes.some((q) => q.in || q.out) ?? false;
    for (let i = start; i < end; i++) {
      const j = i + 1 < end ? i + 1 : start;
      const at = (k: number): Vec3 => [
        contours.points[k * 2] as number,
        contours.points[k * 2 + 1] as number,
        0,
      ];
      const [a, b] = turns > 0 ? [at(i), at(j)] : [at(j), at(i)];
      out.push(wall(a, b, [0, 0, 1], o.depth, side, curved ? EDGE_SEAM : EDGE_LINE));
    }
    start = end;
  });
  return out;
}

/** The back of a prism is spanned by y and x, so its outline has them swapped. */
function mirrored(subpaths: readonly Subpath[], evenodd: boolean): Outline {
  const swap = (p: readonly [number, number]): [number, number] => [p[1], p[0]];
  const swapped = subpaths.map((s) => ({
    closed: true,
    nodes: s.nodes.map((n) => ({
      at: swap(n.at),
      ...(n.in ? { in: swap(n.in) } : {}),
      ...(n.out ? { out: swap(n.out) } : {}),
    })),
  }));
  return pathOutline(swapped, evenodd, 0);
}

function signedArea(p: Float64Array, start: number, end: number): number {
  let sum = 0;
  for (let i = start; i < end; i++) {
    const j = i + 1 < end ? i + 1 : start;
    sum += (p[i * 2] as number) * (p[j * 2 + 1] as number) - (p[j * 2] as number) * (p[i * 2 + 1] as number);
  }
  return sum / 2;
}
