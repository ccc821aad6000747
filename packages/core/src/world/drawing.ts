/** What one object is drawn as: its faces in its own space, and how they are painted. */
import {
  type Asset,
  type FacePicture,
  type Fill,
  type FontName,
  fillColor,
  type Gradient,
  isSolid,
  layoutText,
  type SceneObject,
  type Stroke,
  subpathsOf,
  type TextLayout,
  type Vec3,
} from '../model/index.ts';
import { ellipseOutline, type Outline, pathOutline, rectOutline } from './outline.ts';

/** A flat thing is seen from both sides; a face of a solid from outside only. */
export const FLAT = 0;
/** Of a solid, and on its convex hull: nothing of the solid hides it. */
export const OUTER = 1;
/** Of a solid, in a hollow of it. */
export const INNER = 2;

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
  readonly side: typeof FLAT | typeof OUTER | typeof INNER;
  readonly edge: typeof EDGE_NONE | typeof EDGE_LINE | typeof EDGE_SEAM;
  /** A colour of its own, 0xrrggbb, times which the object's is its colour. */
  readonly tint?: number;
  /** A picture over it, of a solid's face; absent for none. */
  readonly style?: FaceStyle;
  /**
   * Of a piece of a curved wall: the sine of the angle by which it has turned about v at its left and right end, seen from
   * its middle, so that its light runs on without a step.
   */
  readonly bend?: readonly [left: number, right: number];
}

/** How an object is painted besides its one colour; null where that is all. */
export interface FaceStyle {
  /** False: only the stroke is drawn. */
  readonly filled: boolean;
  readonly gradient: Gradient | null;
  readonly stroke: Stroke | null;
  /** How opaque the fill alone is, 0–1. */
  readonly fillOpacity: number;
  /** Words instead of the filled outline, which is then only what is hit. */
  readonly text: FaceText | null;
  /** A picture in the outline's box, or the part `cut` of it. */
  readonly image: FaceImage | null;
}

export interface FaceImage {
  readonly asset: string;
  readonly cut: readonly [number, number, number, number] | null;
  readonly pixel: boolean;
  /** Where it lies in the face's plane: left, bottom, width, height. */
  readonly box: readonly [number, number, number, number];
  /** Whether the face is more than the picture's own box, and cuts it to its outline. */
  readonly clipped: boolean;
}

export interface FaceText extends TextLayout {
  readonly font: FontName;
  readonly size: number;
  readonly weight: number;
  readonly spacing: number;
  readonly italic: boolean;
  readonly decoration: 'underline' | 'line-through' | null;
}

/** One drawing of an object. */
export interface ObjectGeometry {
  readonly faces: readonly LocalFace[];
  /** Whether some face carries a picture of its own. */
  readonly pictured: boolean;
  /** Half width, half height and depth of a ball, px; null for everything else. */
  readonly ball: Vec3 | null;
  /** Points of a solid, x, y, z each, of which the lowest are its foot; null for what is flat. */
  readonly foot: Float64Array | null;
  readonly style: FaceStyle | null;
  /** Where it is hit instead of where it is drawn; null: where it is drawn. */
  readonly hit: LocalFace | null;
  /** Its own colour, 0xrrggbb: it stands while the fill that is written is the object's base; else that one does. */
  readonly rgb: number;
}

/** How solids are drawn: what draws only flat things does without. */
export interface SolidShapes {
  facesOf(o: SceneObject, assets: ReadonlyMap<string, Asset | undefined>): LocalFace[];
  /** Points of a solid, x, y, z each, of which the lowest are its foot; `faces`: its own. */
  footOf(o: SceneObject, faces: readonly LocalFace[]): Float64Array;
}

type Shaped = Readonly<Record<string, unknown>> & { readonly base: SceneObject['base'] };

/** By the array that gives an object its schema, which its record keeps while it is moved, turned, or renamed. */
const shapeCache = new WeakMap<
  object,
  { of: SceneObject; assets: readonly unknown[]; made: ObjectGeometry }
>();

/** The drawing of an object as its record is, looks aside; without `solids` nothing of solids. */
export function geometryOf(
  o: SceneObject,
  assets: ReadonlyMap<string, Asset | undefined>,
  solids: SolidShapes | null,
): ObjectGeometry {
  const { size, subpaths, points } = o as { size?: unknown; subpaths?: object; points?: object };
  const key = subpaths ?? points ?? (typeof size === 'object' && size !== null ? size : null);
  const kept = key === null ? undefined : shapeCache.get(key);
  if (kept && sameShape(kept.of, o) && sameAssets(kept.assets, assets)) return kept.made;
  const made = madeGeometry(o, assets, solids);
  if (key !== null) shapeCache.set(key, { of: o, assets: [...assets.values()], made });
  return made;
}

/**
 * Whether all that an object's geometry is made from is the same, besides its assets. One by one by their names: a drag
 * asks it of all that is dragged in each of its frames.
 */
function sameShape(one: SceneObject, other: SceneObject): boolean {
  const [a, b] = [one as unknown as Shaped, other as unknown as Shaped];
  return (
    a.base.fill === b.base.fill &&
    a.kind === b.kind &&
    a.size === b.size &&
    a.radius === b.radius &&
    a.points === b.points &&
    a.sides === b.sides &&
    a.star === b.star &&
    a.subpaths === b.subpaths &&
    a.rule === b.rule &&
    a.depth === b.depth &&
    a.hitShape === b.hitShape &&
    a.stroke === b.stroke &&
    a.fillOpacity === b.fillOpacity &&
    a.text === b.text &&
    a.font === b.font &&
    a.weight === b.weight &&
    a.align === b.align &&
    a.asset === b.asset &&
    a.cut === b.cut &&
    a.pixel === b.pixel &&
    a.pictures === b.pictures
  );
}

function sameAssets(kept: readonly unknown[], now: ReadonlyMap<string, Asset | undefined>): boolean {
  if (kept.length !== now.size) return false;
  let i = 0;
  for (const a of now.values()) if (kept[i++] !== a) return false;
  return true;
}

function madeGeometry(
  o: SceneObject,
  assets: ReadonlyMap<string, Asset | undefined>,
  solids: SolidShapes | null,
): ObjectGeometry {
  const faces = facesOf(o, assets, solids);
  return {
    faces,
    pictured: faces.some((f) => f.style !== undefined),
    ball: o.kind === 'ball' ? [o.size[0] / 2, o.size[1] / 2, o.size[2] / 2] : null,
    foot: isSolid(o) ? (solids?.footOf(o, faces) ?? null) : null,
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
  const text: FaceText | null =
    o.kind === 'text'
      ? {
          ...layoutText(o),
          ...{ font: o.font, size: o.size, weight: o.weight },
          ...{ spacing: o.spacing ?? 0, italic: o.italic ?? false, decoration: o.decoration ?? null },
        }
      : null;
  const image =
    o.kind === 'image' ? faceImage(o, [-o.size[0] / 2, -o.size[1] / 2, o.size[0], o.size[1]], false) : null;
  const fillOpacity = isSolid(o) ? 1 : (o.fillOpacity ?? 1);
  if (typeof fill === 'string' && fill !== 'none' && fillOpacity === 1 && !stroke && !text && !image)
    return null;
  return {
    filled: fill !== 'none',
    gradient: typeof fill === 'object' && !isSolid(o) ? fill : null,
    stroke,
    fillOpacity,
    text,
    image,
  };
}

export function faceImage(p: FacePicture, box: FaceImage['box'], clipped: boolean): FaceImage {
  return { asset: p.asset, cut: p.cut ?? null, pixel: p.pixel ?? false, box, clipped };
}

export const X: Vec3 = [1, 0, 0];
export const Y: Vec3 = [0, 1, 0];
const ZERO: Vec3 = [0, 0, 0];

export function flatFace(outline: Outline): LocalFace {
  return { origin: ZERO, u: X, v: Y, outline, side: FLAT, edge: EDGE_NONE };
}

function facesOf(
  o: SceneObject,
  assets: ReadonlyMap<string, Asset | undefined>,
  solids: SolidShapes | null,
): LocalFace[] {
  switch (o.kind) {
    case 'group':
    case 'instance':
    case 'ball':
      return [];
    case 'image':
      return [flatFace(rectOutline(o.size[0], o.size[1]))];
    case 'rect':
      return [flatFace(rectOutline(o.size[0], o.size[1], o.radius))];
    case 'text': {
      const { width, height } = layoutText(o);
      return width > 0 ? [flatFace(rectOutline(width, height))] : [];
    }
    case 'ellipse':
      return [flatFace(ellipseOutline(o.size[0], o.size[1]))];
    case 'polygon':
      return [flatFace(pathOutline(subpathsOf(o) ?? [], false, (o.stroke?.width ?? 0) / 2))];
    case 'path':
      return [flatFace(pathOutline(o.subpaths, o.rule === 'evenodd', (o.stroke?.width ?? 0) / 2))];
    default:
      return solids?.facesOf(o, assets) ?? [];
  }
}
