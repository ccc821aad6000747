/** Anything placed in a piece. `base` is what it is when nothing animates it. */
import { z } from 'zod';
import { clamp } from '../base/math.ts';
import { colorSchema, FARTHEST, idSchema, length, nameSchema, type Vec3, vec3 } from './common.ts';

const amount = z.number().min(0, 'must lie between 0 and 1').max(1, 'must lie between 0 and 1');
const extent = z.number().min(0, 'must not be negative').max(1e6, 'is too large');
const point = z.tuple([length, length]);

const gradientStops = z
  .array(z.strictObject({ at: amount, color: colorSchema, opacity: amount.optional() }))
  .min(2, 'must hold at least two stops')
  .max(64);
/** Places are px in the object's own space, y up. */
export const gradientSchema = z.discriminatedUnion('gradient', [
  z.strictObject({ gradient: z.literal('linear'), from: point, to: point, stops: gradientStops }),
  z.strictObject({
    gradient: z.literal('radial'),
    centre: point,
    radius: extent,
    /** The bright spot, when it is not the centre. */
    focus: point.optional(),
    stops: gradientStops,
  }),
]);
export type Gradient = z.infer<typeof gradientSchema>;
export const fillSchema = z.union([colorSchema, z.literal('none'), gradientSchema]);
export type Fill = z.infer<typeof fillSchema>;

export const strokeSchema = z.strictObject({
  color: colorSchema,
  /** Px at 100 %, half to each side of the outline. */
  width: z.number().min(0.01, 'is too thin').max(1000, 'is too thick'),
  cap: z.enum(['butt', 'round', 'square']).default('butt'),
  join: z.enum(['miter', 'round', 'bevel']).default('miter'),
  opacity: amount.optional(),
});
export type Stroke = z.infer<typeof strokeSchema>;

export const ANCHORS = [
  'top left',
  'top',
  'top right',
  'left',
  'middle',
  'right',
  'bottom left',
  'bottom',
  'bottom right',
] as const;
export type Anchor = (typeof ANCHORS)[number];
export const overlaySchema = z.strictObject({
  anchor: z.enum(ANCHORS),
  /** Px from the anchor, x right and y up. */
  offset: point.default([0, 0]),
  /** Per cent of the object's own width and height, besides. */
  ofOwn: z.tuple([z.number().min(-1000).max(1000), z.number().min(-1000).max(1000)]).default([0, 0]),
});
export type Overlay = z.infer<typeof overlaySchema>;

export const baseSchema = z.strictObject({
  /** Where the object's origin is, px, in its parent's space. */
  position: vec3.default([0, 0, 0]),
  /** Degrees about x, y, z; applied in the order Rx · Ry · Rz. */
  rotation: vec3.default([0, 0, 0]),
  scale: vec3.default([1, 1, 1]),
  /** The point it turns and scales about, px, in its own space. */
  pivot: vec3.default([0, 0, 0]),
  opacity: amount.default(1),
  shown: z.boolean().default(true),
  fill: fillSchema.default('#c9c2ae'),
  /** The id of the look that it has; '' or absent for its own drawing. */
  look: z.union([idSchema, z.literal('')]).optional(),
});
export type Base = z.infer<typeof baseSchema>;

const threshold = z.number().min(0.01, 'must lie between 0.01 and 1').max(1, 'must lie between 0.01 and 1');
/**
 * It and what lies below it show only inside (or outside) the projected outline of another object, of pictures where
 * they are as opaque as `alpha` when that is given; or, with `alpha` alone, where a picture itself is so opaque.
 */
export const maskSchema = z.union([
  z.strictObject({
    by: idSchema,
    side: z.enum(['inside', 'outside']).default('inside'),
    alpha: threshold.optional(),
  }),
  z.strictObject({ alpha: threshold }),
]);
export type Mask = z.infer<typeof maskSchema>;

const common = {
  id: idSchema,
  name: nameSchema,
  parent: idSchema.nullable(),
  /** Fractional index among its siblings, compared by code units; ties by id. */
  order: z.string().min(1, 'must not be empty').max(200),
  base: baseSchema,
  stroke: strokeSchema.nullable().optional(),
  tags: z.array(idSchema).max(64).default([]),
  /** Words shown to the person who points at it. */
  hint: z.string().max(200).default(''),
  /** Where it can be clicked instead of where it is drawn, px in its own space; works unseen too. */
  hitShape: z
    .strictObject({
      kind: z.enum(['rect', 'ellipse']),
      size: z.tuple([extent, extent]),
      at: point.optional(),
    })
    .nullable()
    .optional(),
  /** Seen only while making. */
  guide: z.boolean().optional(),
  /** Cannot be taken hold of on the view. */
  locked: z.boolean().optional(),
  /** Fixed to the frame, whatever its size and the view. */
  overlay: overlaySchema.nullable().optional(),
  /** Several drawings of it, swapped in place; each says only what differs. */
  looks: z.lazy(() => z.array(lookSchema).max(200)).optional(),
  mask: z.lazy(() => maskSchema.nullable()).optional(),
  // What later versions of the format fill; only its empty value is read so far.
  colliders: z.array(z.never('zones and blockers are not read by this version')).optional(),
};
const flatSize = z.tuple([extent, extent]);
const solidSize = z.tuple([extent, extent, extent]);

/** A point of a path with the handles before and after it, relative to the point. */
const nodeSchema = z.strictObject({ at: point, in: point.optional(), out: point.optional() });
const subpathSchema = z.strictObject({
  closed: z.boolean(),
  nodes: z.array(nodeSchema).min(1, 'must hold at least one point').max(20000),
});
/** Points of a path in all, and of a prism, each of whose points makes a wall. */
export const MAX_POINTS = 20_000;
export const MAX_WALLS = 2_000;
const upTo = (most: number, what: string) =>
  z
    .array(subpathSchema)
    .min(1, 'must hold at least one subpath')
    .max(2000)
    .refine(
      (list) => list.reduce((n, x) => n + x.nodes.length, 0) <= most,
      `must hold at most ${most} points in all: ${what}`,
    );
const subpaths = upTo(MAX_POINTS, 'simplify the drawing, or bring it in as a picture');
const rule = z.enum(['nonzero', 'evenodd']).default('nonzero');

const imageFields = {
  asset: idSchema,
  cut: z.tuple([length.min(0), length.min(0), length.min(1), length.min(1)]).optional(),
  /** Its px are seen as squares instead of being smoothed. */
  pixel: z.boolean().default(false),
};
const pictureSchema = z.strictObject({
  asset: idSchema,
  cut: imageFields.cut,
  pixel: imageFields.pixel.unwrap().optional(),
});
export type FacePicture = z.infer<typeof pictureSchema>;
export const BOX_FACES = ['front', 'back', 'left', 'right', 'top', 'bottom'] as const;
export type FaceName = (typeof BOX_FACES)[number];
/** Pictures on the faces of a solid, each stretched over its whole face. */
const onFaces = <const N extends readonly FaceName[]>(names: N) =>
  z
    .strictObject(
      Object.fromEntries(names.map((n) => [n, pictureSchema.optional()])) as Record<
        N[number],
        z.ZodOptional<typeof pictureSchema>
      >,
    )
    .optional();
/** The faces of a kind that can carry a picture. */
export const FACES_OF = {
  box: BOX_FACES,
  cylinder: ['top', 'bottom'],
  prism: ['front', 'back'],
} as const;

const textFields = {
  text: z.string().max(5000),
  font: z.enum(['serif', 'sans', 'mono']).default('sans'),
  size: z.number().min(1, 'is too small').max(2000, 'is too large').default(32),
  weight: z.number().min(100).max(900).default(400),
  align: z.enum(['left', 'center', 'right']).default('left'),
};

const polygonSchema = z
  .strictObject({
    ...common,
    kind: z.literal('polygon'),
    /** Its corners, px; or a regular one by `size` and `sides`. */
    points: z.array(point).min(3, 'must hold at least three points').max(5000).optional(),
    size: flatSize.optional(),
    sides: z.number().int('must be a whole number').min(3).max(200).optional(),
    /** Makes it a star: the inner corners' distance from the middle, as a part of the outer ones'. */
    star: z.number().min(0.02).max(1).optional(),
  })
  .refine(
    (p) => (p.points === undefined) === (p.size !== undefined && p.sides !== undefined),
    'must have either "points", or "size" and "sides"',
  );

export const sceneObjectSchema = z.discriminatedUnion('kind', [
  z.strictObject({ ...common, kind: z.literal('group') }),
  z.strictObject({ ...common, kind: z.literal('rect'), size: flatSize, radius: length.min(0).default(0) }),
  z.strictObject({ ...common, kind: z.literal('ellipse'), size: flatSize }),
  polygonSchema,
  z.strictObject({ ...common, kind: z.literal('path'), subpaths, rule }),
  /** A picture, or a part of it: `cut` is x, y, width, height in its own px, y down. */
  z.strictObject({ ...common, kind: z.literal('image'), size: flatSize, ...imageFields }),
  /** Words in a bundled font; `size` is the font's, px. Its own box is what is hit. */
  z.strictObject({ ...common, kind: z.literal('text'), ...textFields }),
  z.strictObject({ ...common, kind: z.literal('box'), size: solidSize, pictures: onFaces(FACES_OF.box) }),
  /** Round about the y axis: width and depth are its diameters, height its length. */
  z.strictObject({
    ...common,
    kind: z.literal('cylinder'),
    size: solidSize,
    pictures: onFaces(FACES_OF.cylinder),
  }),
  z.strictObject({ ...common, kind: z.literal('ball'), size: solidSize }),
  /** Closed outlines pushed along z, half of `depth` to each side. */
  z.strictObject({
    ...common,
    kind: z.literal('prism'),
    subpaths: upTo(MAX_WALLS, 'each makes a wall'),
    rule,
    depth: extent,
    pictures: onFaces(FACES_OF.prism),
  }),
  /** A solid brought in: the mesh of its asset, stretched to `size` round its middle, flat-shaded. */
  z.strictObject({ ...common, kind: z.literal('mesh'), size: solidSize, asset: idSchema }),
]);
export type SceneObject = z.infer<typeof sceneObjectSchema>;

/** What a look may change; together with its object it must make a sound object of its kind. */
export const lookSchema = z.strictObject({
  id: idSchema,
  name: nameSchema,
  kind: z.enum(['rect', 'ellipse', 'polygon', 'path', 'text', 'box', 'cylinder', 'ball', 'prism']).optional(),
  size: z.union([flatSize, solidSize, textFields.size.unwrap()]).optional(),
  asset: imageFields.asset.optional(),
  cut: imageFields.cut,
  pixel: imageFields.pixel.unwrap().optional(),
  text: textFields.text.optional(),
  font: textFields.font.unwrap().optional(),
  weight: textFields.weight.unwrap().optional(),
  align: textFields.align.unwrap().optional(),
  radius: length.min(0).optional(),
  points: z.array(point).min(3).max(5000).optional(),
  sides: z.number().int().min(3).max(200).optional(),
  star: z.number().min(0.02).max(1).optional(),
  subpaths: subpaths.optional(),
  rule: z.enum(['nonzero', 'evenodd']).optional(),
  depth: extent.optional(),
  pictures: onFaces(BOX_FACES),
  fill: fillSchema.optional(),
  stroke: strokeSchema.nullable().optional(),
});
export type Look = z.infer<typeof lookSchema>;
export type ObjectKind = SceneObject['kind'];
export type KindOf<K extends ObjectKind> = Extract<SceneObject, { kind: K }>;

export function defaultBase(): Base {
  return baseSchema.parse({});
}

/** Places, turns, scales and pivots that a file can hold: what sums and inverses lead beyond is brought back. */
export function withinBounds<T extends { readonly base: Base }>(o: T): T {
  const { position, rotation, scale, pivot } = o.base;
  if (isNear(position) && isNear(rotation) && isNear(scale) && isNear(pivot)) return o;
  const back = (v: Vec3) => v.map((n) => (Number.isNaN(n) ? 0 : clamp(n, -FARTHEST, FARTHEST))) as Vec3;
  const base = { position: back(position), rotation: back(rotation), scale: back(scale), pivot: back(pivot) };
  return { ...o, base: { ...o.base, ...base } };
}

/** Also false for what is no number. Asked at every move of a drag, so it allocates nothing. */
function isNear([x, y, z]: Vec3): boolean {
  return (
    x >= -FARTHEST && x <= FARTHEST && y >= -FARTHEST && y <= FARTHEST && z >= -FARTHEST && z <= FARTHEST
  );
}

/** The colour that stands for a fill where only one can be: a gradient's first stop; null for none. */
export function fillColor(fill: Fill): string | null {
  if (typeof fill === 'object') return fill.stops[0]?.color ?? null;
  return fill === 'none' ? null : fill;
}

/** Objects with the same parent in their drawing order: by `order`, ties by id. */
export function compareSiblings(a: SceneObject, b: SceneObject): number {
  if (a.order !== b.order) return a.order < b.order ? -1 : 1;
  return a.id < b.id ? -1 : a.id > b.id ? 1 : 0;
}

/** Every object in the order of the tree: parents before children, siblings by `compareSiblings`. */
export function treeOrder(objects: Iterable<SceneObject>): SceneObject[] {
  const children = new Map<string | null, SceneObject[]>();
  for (const o of objects) {
    const list = children.get(o.parent);
    if (list) list.push(o);
    else children.set(o.parent, [o]);
  }
  for (const list of children.values()) list.sort(compareSiblings);
  const out: SceneObject[] = [];
  // A stack, not recursion: a deep tree from a file must not overflow.
  const stack = (children.get(null) ?? []).toReversed();
  for (let o = stack.pop(); o; o = stack.pop()) {
    out.push(o);
    const kids = children.get(o.id);
    if (kids) for (let i = kids.length - 1; i >= 0; i--) stack.push(kids[i] as SceneObject);
  }
  return out;
}
