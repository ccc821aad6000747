/** All objects of a piece as numbers and drawings: what is worked out once, when it is compiled. */
import { hexToOklab } from '../base/index.ts';
import {
  ANCHORS,
  type Asset,
  BLENDS,
  CH_DASH,
  CH_FILL,
  CHANNELS,
  type FacePicture,
  fillColor,
  lookNumber,
  PROPERTIES,
  propertyOf,
  type SceneObject,
  sizeOf,
  textNumber,
  textOf,
  withLook,
  writeValue,
} from '../model/index.ts';
import { alphaSubpaths } from './alpha.ts';
import { flatFace, geometryOf, type LocalFace, type ObjectGeometry, type SolidShapes } from './drawing.ts';
import { pathOutline } from './outline.ts';
import type { WrittenStops } from './written-stops.ts';

/**
 * What makes up a mask: objects, by their drawings' own faces; where `shapes` knows the drawing, by those of its
 * picture's alpha instead.
 */
export interface Region {
  readonly objects: readonly number[];
  readonly shapes: ReadonlyMap<ObjectGeometry, readonly LocalFace[]>;
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
  /** The drawings of an object with other words; null where it has none; and the numbers of those that have some. */
  readonly texts: readonly (TextDrawings | null)[];
  readonly texted: readonly number[];
  /** The base colour of each object as OKLab, three numbers each. */
  readonly plain: Float64Array;
  /** Where the dashes of each object begin as it says itself, px. */
  readonly dashes: Float64Array;
  /** The masks of each object, its own and those above it; null for none. */
  readonly masks: readonly (readonly MaskUse[] | null)[];
  readonly regions: readonly Region[];
  /** Objects on top have a place; what lies below one has 1 in `onTop` only. */
  readonly overlays: readonly (OverlayPlace | null)[];
  readonly onTop: Uint8Array;
  /**
   * What is painted as one: 0 for what has nothing below it and no blend, 1 for what has, more for what has a blend, which
   * is that less 2 in `BLENDS`.
   */
  readonly wholes: Uint8Array;
  /** By the number of an object, the stops of its gradients that something writes; null where no object has any. */
  readonly stops: ReadonlyMap<number, WrittenStops> | null;
}

/** So many texts of one object are kept drawn: a counter makes new ones all the time. */
const TEXTS = 400;

/** An object with other words than its own, drawn when they first come. */
class TextDrawings {
  /** The number of its own words. */
  readonly own: number;
  readonly #object: SceneObject;
  readonly #assets: ReadonlyMap<string, Asset | undefined>;
  readonly #solids: SolidShapes | null;
  readonly #made = new Map<number, Map<number, ObjectGeometry>>();

  constructor(
    object: SceneObject,
    assets: ReadonlyMap<string, Asset | undefined>,
    solids: SolidShapes | null,
  ) {
    this.#object = object;
    this.#solids = solids;
    this.#assets = assets;
    this.own = object.kind === 'text' ? textNumber(object.text) : 0;
  }

  /** `look`: the number of its look, or 0. */
  drawing(look: number, text: number): ObjectGeometry {
    let known = this.#made.get(look);
    if (!known || known.size > TEXTS) {
      known = new Map();
      this.#made.set(look, known);
    }
    let drawing = known.get(text);
    if (!drawing) {
      const other = this.#object.looks?.find((l) => lookNumber(l.id) === look);
      const drawn = other ? withLook(this.#object, other) : this.#object;
      const worded = drawn.kind === 'text' ? { ...drawn, text: textOf(text) } : drawn;
      drawing = geometryOf(worded, this.#assets, this.#solids);
      known.set(text, drawing);
    }
    return drawing;
  }
}

/** What one object record comes to; kept by the record, which is never changed in place. */
interface ObjectParts {
  readonly drawing: ObjectGeometry;
  readonly looks: ReadonlyMap<number, ObjectGeometry> | null;
  readonly texts: TextDrawings | null;
  readonly overlay: OverlayPlace | null;
  /** The assets that it was made from. */
  readonly assets: ReadonlyMap<string, Asset | undefined>;
}
type Assets = Readonly<Record<string, Asset>>;

const partsCache = new WeakMap<SceneObject, ObjectParts>();

function partsOf(o: SceneObject, assets: Assets, solids: SolidShapes | null): ObjectParts {
  const kept = partsCache.get(o);
  if (kept && (kept.assets.size === 0 || stillThose(kept.assets, assets))) return kept;
  const ids = assetsUsed(o);
  const used = ids.size === 0 ? NO_ASSETS : new Map([...ids].map((id) => [id, assets[id]]));
  const parts: ObjectParts = {
    drawing: geometryOf(o, used, solids),
    looks:
      o.looks && o.looks.length > 0
        ? new Map(o.looks.map((l) => [lookNumber(l.id), geometryOf(withLook(o, l), used, solids)]))
        : null,
    texts:
      o.kind === 'text' || o.looks?.some((l) => l.kind === 'text') ? new TextDrawings(o, used, solids) : null,
    overlay: overlayOf(o),
    assets: used,
  };
  partsCache.set(o, parts);
  return parts;
}

const NO_ASSETS: ReadonlyMap<string, Asset | undefined> = new Map();
const NONE_USED: ReadonlySet<string> = new Set();

/** The assets that an object, or a look of it, is drawn from. */
function assetsUsed(o: SceneObject): ReadonlySet<string> {
  if (!o.looks && !('asset' in o) && !('pictures' in o)) return NONE_USED;
  const used = new Set<string>();
  for (const d of [o, ...(o.looks ?? [])]) {
    const { asset, pictures } = d as { asset?: string; pictures?: Record<string, FacePicture | undefined> };
    if (asset !== undefined) used.add(asset);
    for (const p of Object.values(pictures ?? {})) if (p) used.add(p.asset);
  }
  return used;
}

function stillThose(used: ReadonlyMap<string, Asset | undefined>, assets: Assets): boolean {
  for (const [id, asset] of used) if (assets[id] !== asset) return false;
  return true;
}

const COLORLESS = PROPERTIES.filter((p) => p.kind !== 'color');

/** Writes the channels of what an object has itself, without its colour. */
function writeBase(o: SceneObject, rows: Float64Array, at: number): void {
  for (const p of COLORLESS) {
    const value = propertyOf(o, p);
    if (value === null) rows[at + p.channel] = 0;
    else writeValue(p, value, rows, at + p.channel);
  }
}

/** What objects came to that stood in the same order with the same parents. */
interface Compiled {
  readonly objects: readonly SceneObject[];
  readonly assets: Assets;
  readonly base: Float64Array;
  readonly geometry: Geometry;
}

/**
 * The base channels and the geometry of all objects, which stand in the order of the tree. `like`: what many of these
 * very records have come to already; the work is then that of the others. `stopsOf`: written stops, by what the base holds. Without `solids` nothing is drawn of solids.
 */
export function compileObjects(
  list: readonly SceneObject[],
  index: ReadonlyMap<string, number>,
  stopsOf: (base: Float64Array) => Geometry['stops'],
  assets: Assets,
  solids: SolidShapes | null,
  like: Compiled | null = null,
): { base: Float64Array; geometry: Geometry } {
  const n = list.length;
  const known = like && like.objects.length === n ? like : null;
  const base = known ? known.base.slice() : new Float64Array(n * CHANNELS);
  const parent = known ? known.geometry.parent : new Int32Array(n);
  const plain = known ? known.geometry.plain.slice() : new Float64Array(n * 3);
  const dashes = known ? known.geometry.dashes.slice() : new Float64Array(n);
  const onTop = new Uint8Array(n);
  const wholes = new Uint8Array(n);
  const objects: ObjectGeometry[] = known ? [...known.geometry.objects] : new Array(n);
  const looks: Geometry['looks'][number][] = known ? [...known.geometry.looks] : new Array(n);
  const texts: Geometry['texts'][number][] = known ? [...known.geometry.texts] : new Array(n);
  const overlays: (OverlayPlace | null)[] = known ? [...known.geometry.overlays] : new Array(n);
  const texted: number[] = [];
  const serves = known !== null && known.assets === assets;
  let masked = false;
  for (let i = 0; i < n; i++) {
    const o = list[i] as SceneObject;
    if (o.mask) masked = true;
    if (!serves || known.objects[i] !== o) {
      const parts = partsOf(o, assets, solids);
      if (!known) parent[i] = o.parent === null ? -1 : (index.get(o.parent) ?? -1);
      const at = i * CHANNELS;
      writeBase(o, base, at);
      dashes[i] = base[at + CH_DASH] as number;
      if (known?.objects[i]?.base.fill !== o.base.fill) {
        hexToOklab(fillColor(o.base.fill) ?? '#000000', base, at + CH_FILL);
        for (let k = 0; k < 3; k++) plain[i * 3 + k] = base[at + CH_FILL + k] as number;
      }
      objects[i] = parts.drawing;
      looks[i] = parts.looks;
      texts[i] = parts.texts;
      overlays[i] = parts.overlay;
    }
    if (texts[i]) texted.push(i);
    const p = parent[i] as number;
    if (p >= 0 && wholes[p] === 0) wholes[p] = 1;
    if (o.blend) wholes[i] = 2 + BLENDS.indexOf(o.blend);
    onTop[i] = overlays[i] || (p >= 0 && onTop[p] === 1) ? 1 : 0;
  }
  const drawings = { parent, objects, looks };
  const masks = masked
    ? masksOf(list, index, assets, drawings)
    : { masks: new Array(n).fill(null), regions: [] };
  const stops = stopsOf(base);
  const geometry = { ...drawings, texts, texted, plain, dashes, ...masks, overlays, onTop, wholes, stops };
  return { base, geometry };
}

function masksOf(
  list: readonly SceneObject[],
  index: ReadonlyMap<string, number>,
  assets: Assets,
  of: Pick<Geometry, 'parent' | 'objects' | 'looks'>,
): Pick<Geometry, 'masks' | 'regions'> {
  const masks: (readonly MaskUse[] | null)[] = [];
  const regionOf = new Map<string, number>();
  const regions: Region[] = [];
  list.forEach((o, i) => {
    const p = of.parent[i] as number;
    let chain = p >= 0 ? (masks[p] ?? null) : null;
    const { mask } = o;
    // What is no picture has no opacity of its own to show by.
    const by = !mask ? undefined : 'by' in mask ? index.get(mask.by) : o.kind === 'image' ? i : undefined;
    if (mask && by !== undefined) {
      // A picture that cuts itself is only its own window; another's window is all that lies below it, too.
      const own = !('by' in mask);
      const key = `${own ? 'own' : 'all'}/${by}/${mask.alpha}`;
      let region = regionOf.get(key);
      if (region === undefined) {
        region = regions.length;
        regionOf.set(key, region);
        const objects = own ? [by] : below(of.parent, by);
        regions.push({ objects, shapes: alphaShapes(objects, mask.alpha, assets, of) });
      }
      chain = [...(chain ?? []), { region, inside: own || mask.side === 'inside' }];
    }
    masks.push(chain);
  });
  return { masks, regions };
}

/** The faces that stand for pictures where they are as opaque as `threshold`; none without one. */
function alphaShapes(
  objects: readonly number[],
  threshold: number | undefined,
  assets: Assets,
  of: Pick<Geometry, 'objects' | 'looks'>,
): Region['shapes'] {
  const shapes = new Map<ObjectGeometry, readonly LocalFace[]>();
  if (threshold === undefined) return shapes;
  for (const i of objects)
    for (const drawing of [of.objects[i] as ObjectGeometry, ...(of.looks[i]?.values() ?? [])]) {
      const image = drawing.style?.image;
      const asset = image ? assets[image.asset] : undefined;
      if (!image || asset?.kind !== 'image' || !asset.alpha) continue;
      const [w, h] = [image.box[2], image.box[3]];
      const [x, y, cw, ch] = image.cut ?? [0, 0, asset.width, asset.height];
      const part = [x / asset.width, y / asset.height, cw / asset.width, ch / asset.height] as const;
      const subpaths = alphaSubpaths(asset.alpha, threshold, w, h, part);
      shapes.set(drawing, subpaths.length === 0 ? [] : [flatFace(pathOutline(subpaths, true, 0))]);
    }
  return shapes;
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
