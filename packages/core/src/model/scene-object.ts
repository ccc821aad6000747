/** Anything placed in a piece. `base` is what it is when nothing animates it. */
import { dragSchema } from '../features/dragging/schema.ts';
import {
  defaultsOf,
  elseBecomes,
  type Fields,
  kinds,
  lazy,
  list,
  maybe,
  number,
  type Of,
  type OfFields,
  oneOf,
  orNull,
  own,
  record,
  ref,
  type Schema,
  table,
  text,
  toggle,
  tuple,
  union,
  withDefault,
} from '../grammar/index.ts';
import { ANCHORS } from './anchors.ts';
import { BLENDS } from './blends.ts';
import { broughtSchema } from './brought.ts';
import { amount, color, length, name, vec3 } from './common.ts';
import { FARTHEST, MAX_STOPS } from './limits.ts';

const extent = number({ min: 0, max: 1e6, low: 'must not be negative', high: 'is too large' });
const point = tuple(length, length);

const gradientStops = list(record({ at: amount, color, opacity: maybe(amount) }), {
  min: 2,
  max: MAX_STOPS,
  few: 'must hold at least two stops',
});
/** What is beyond the last stop: its colour, which is what holds when nothing is said; the stops mirrored; the stops again. */
const spread = maybe(oneOf(['pad', 'reflect', 'repeat']));
const factor = number({ min: -1e6, max: 1e6 });
/** Places are px in the object's own space, y up. */
export const gradientSchema = kinds(
  'gradient',
  record({ gradient: oneOf(['linear']), from: point, to: point, spread, stops: gradientStops }),
  record({
    gradient: oneOf(['radial']),
    centre: point,
    radius: extent,
    /** The bright spot, when it is not the centre; and the radius, px, within which it has the first stop's colour. */
    focus: maybe(point),
    focusRadius: maybe(extent),
    spread,
    /**
     * Of a spot that is an ellipse: how its places become those of the object, x' = a·x + c·y + e, y' = b·x + d·y + f,
     * written a, b, c, d, e, f.
     */
    matrix: maybe(tuple(factor, factor, factor, factor, length, length)),
    stops: gradientStops,
  }),
);
export type Gradient = Of<typeof gradientSchema>;
const fillSchema = union(color, oneOf(['none']), gradientSchema);
export type Fill = Of<typeof fillSchema>;

const strokeSchema = record({
  color: union(color, gradientSchema),
  /** Px at 100 %, half to each side of the outline. */
  width: number({ min: 0.01, max: 1000, low: 'is too thin', high: 'is too thick' }),
  cap: withDefault(oneOf(['butt', 'round', 'square']), 'butt'),
  join: withDefault(oneOf(['miter', 'round', 'bevel']), 'miter'),
  opacity: maybe(amount),
  /** How far a sharp corner may reach, as a part of the width: one that reaches farther is cut. Absent: 10. */
  miter: maybe(number({ min: 1, max: 1000, low: 'must be at least 1', high: 'is too large' })),
  /** Px of line and gap, in turn, begun anew when they end. Absent: no gaps. */
  dashes: maybe(
    list(number({ min: 0, max: FARTHEST, low: 'must not be negative', high: 'is too large' }), {
      min: 1,
      max: 64,
      few: 'must hold at least one length',
      rules: [{ predicate: (all) => all.some((n) => n > 0), says: 'must hold a length above 0' }],
    }),
  ),
  /** Where in the dashes the line begins, px. */
  dashStart: maybe(number({ min: -FARTHEST, max: FARTHEST })),
  /** It is painted before the fill, which covers its inner half. */
  under: maybe(toggle),
  /** Its width is that of the frame's px, however large the object is. */
  fixed: maybe(toggle),
});
export type Stroke = Of<typeof strokeSchema>;

export type Anchor = (typeof ANCHORS)[number];
const ofOwn = number({ min: -1000, max: 1000 });
const overlaySchema = record({
  anchor: oneOf(ANCHORS),
  /** Px from the anchor, x right and y up. */
  offset: withDefault(point, [0, 0]),
  /** Per cent of the object's own width and height, besides. */
  ofOwn: withDefault(tuple(ofOwn, ofOwn), [0, 0]),
});
export type Overlay = Of<typeof overlaySchema>;

export const baseSchema = record({
  /** Where the object's origin is, px, in its parent's space. */
  position: withDefault(vec3, [0, 0, 0]),
  /** Degrees about x, y, z; applied in the order Rx · Ry · Rz. */
  rotation: withDefault(vec3, [0, 0, 0]),
  scale: withDefault(vec3, [1, 1, 1]),
  /** The point it turns and scales about, px, in its own space. */
  pivot: withDefault(vec3, [0, 0, 0]),
  opacity: withDefault(amount, 1),
  shown: withDefault(toggle, true),
  fill: withDefault(fillSchema, '#c9c2ae'),
  /** The id of the look that it has; '' or absent for its own drawing. */
  look: maybe(elseBecomes(union(oneOf(['']), ref('looks')) as Schema<string>, '')),
});
export type Base = Of<typeof baseSchema>;

const threshold = number({
  min: 0.01,
  max: 1,
  low: 'must lie between 0.01 and 1',
  high: 'must lie between 0.01 and 1',
});
/**
 * It and what lies below it show only inside (or outside) the projected outline of another object, of pictures where
 * they are as opaque as `alpha` when that is given; or, with `alpha` alone, where a picture itself is so opaque.
 */
const maskSchema = union(
  record({
    by: ref('objects'),
    side: withDefault(oneOf(['inside', 'outside']), 'inside'),
    alpha: maybe(threshold),
  }),
  record({ alpha: threshold }),
);
export type Mask = Of<typeof maskSchema>;

const common = {
  id: own('objects'),
  name,
  parent: orNull(ref('objects')),
  /** Fractional index among its siblings, compared by code units; ties by id. */
  order: text({ min: 1, max: 200, short: 'must not be empty' }),
  base: baseSchema,
  stroke: maybe(orNull(strokeSchema)),
  /** How opaque the fill alone is, without the stroke. */
  fillOpacity: maybe(amount),
  /** With what lies below it, as one. */
  blend: maybe(oneOf(BLENDS)),
  tags: withDefault(list(ref('tags'), { max: 64 }), []),
  /** Words shown to the person who points at it. */
  hint: withDefault(text({ max: 200 }), ''),
  /** Where it can be clicked instead of where it is drawn, px in its own space; works unseen too. */
  hitShape: maybe(
    orNull(record({ kind: oneOf(['rect', 'ellipse']), size: tuple(extent, extent), at: maybe(point) })),
  ),
  /** Seen only while making. */
  guide: maybe(toggle),
  /** Cannot be taken hold of on the view. */
  locked: maybe(toggle),
  /** Fixed to the frame, whatever its size and the view. */
  overlay: maybe(orNull(overlaySchema)),
  /** Several drawings of it, swapped in place; each says only what differs. */
  looks: maybe(lazy((): Schema<Look[]> => list(lookSchema, { max: 200 }))),
  mask: maybe(elseBecomes(orNull(maskSchema), null)),
  drag: maybe(orNull(dragSchema)),
  /** Its zones, each of which belongs to it alone. */
  colliders: maybe(list(ref('colliders'), { max: 64 })),
  /** What is known of the file that it came from. */
  brought: maybe(broughtSchema),
};
const range = tuple(number(), number());
/** What an instance gives a signal of its template: a constant, or another signal, perhaps mapped from one range to another. */
const givenSchema = union(
  number(),
  toggle,
  text({ max: 10000 }),
  record({ signal: ref('signals'), from: maybe(range), to: maybe(range) }),
);
export type Given = Of<typeof givenSchema>;
const flatSize = tuple(extent, extent);
const solidSize = tuple(extent, extent, extent);

/** Points of a path in all; and of a prism, each of whose points makes a wall. */
const MAX_POINTS = 60_000;
/** A point of a path with the handles before and after it, relative to the point. */
const nodeSchema = record({ at: point, in: maybe(point), out: maybe(point) });
const subpathSchema = record({
  closed: toggle,
  nodes: list(nodeSchema, { min: 1, max: MAX_POINTS, few: 'must hold at least one point' }),
});
const MAX_WALLS = 2_000;
const upTo = (most: number, what: string) =>
  list(subpathSchema, {
    min: 1,
    max: 20_000,
    few: 'must hold at least one subpath',
    rules: [
      {
        predicate: (all) => all.reduce((n, x) => n + x.nodes.length, 0) <= most,
        says: `must hold at most ${most} points in all: ${what}`,
      },
    ],
  });
const subpaths = upTo(MAX_POINTS, 'simplify the drawing, or bring it in as a picture');
const rule = oneOf(['nonzero', 'evenodd']);
const radius = number({ min: 0, max: FARTHEST, high: 'is too large' });

const cutSide = (min: number) => number({ min, max: FARTHEST, high: 'is too large' });
const cut = tuple(cutSide(0), cutSide(0), cutSide(1), cutSide(1));
const picture = ref('assets', 'image');
const pictureSchema = record({ asset: picture, cut: maybe(cut), pixel: maybe(toggle) });
export type FacePicture = Of<typeof pictureSchema>;
const BOX_FACES = ['front', 'back', 'left', 'right', 'top', 'bottom'] as const;
export type FaceName = (typeof BOX_FACES)[number];
/** Pictures on the faces of a solid, each stretched over its whole face. */
const onFaces = <const N extends readonly FaceName[]>(names: N) =>
  maybe(
    record(Object.fromEntries(names.map((n) => [n, maybe(pictureSchema)])) as Fields) as unknown as Schema<{
      [K in N[number]]?: FacePicture | undefined;
    }>,
  );
/** The faces of a kind that can carry a picture. */
export const FACES_OF = {
  box: BOX_FACES,
  cylinder: ['top', 'bottom'],
  prism: ['front', 'back'],
} as const;

const words = text({ max: 5000 });
const font = oneOf(['serif', 'sans', 'mono']);
const fontSize = number({ min: 1, max: 2000, low: 'is too small', high: 'is too large' });
const weight = number({ min: 100, max: 900 });
const align = oneOf(['left', 'center', 'right']);
/** Px between letters, besides what the font has. */
const spacing = number({ min: -1000, max: 1000 });
const decoration = oneOf(['underline', 'line-through']);
const sides = number({ whole: 'must be a whole number', min: 3, max: 200 });
const star = number({ min: 0.02, max: 1 });
const corners = list(point, { min: 3, max: 5000, few: 'must hold at least three points' });

/** One descriptor for each kind of object: what it has besides what all objects have. */
export const OBJECT_KINDS = {
  group: {},
  rect: { size: flatSize, radius: withDefault(radius, 0) },
  ellipse: { size: flatSize },
  /** `points`: its corners, px; or a regular one by `size` and `sides`. `star` makes it one: the inner corners' distance from the middle, as a part of the outer ones'. */
  polygon: { points: maybe(corners), size: maybe(flatSize), sides: maybe(sides), star: maybe(star) },
  path: { subpaths, rule: withDefault(rule, 'nonzero') },
  /** A picture, or a part of it: `cut` is x, y, width, height in its own px, y down; `pixel`: its px are seen as squares instead of being smoothed. */
  image: { size: flatSize, asset: picture, cut: maybe(cut), pixel: withDefault(toggle, false) },
  /** Words in a bundled font; `size` is the font's, px. Its own box is what is hit. */
  text: {
    text: words,
    font: withDefault(font, 'sans'),
    size: withDefault(fontSize, 32),
    weight: withDefault(weight, 400),
    align: withDefault(align, 'left'),
    spacing: maybe(spacing),
    decoration: maybe(decoration),
    italic: maybe(toggle),
  },
  box: { size: solidSize, pictures: onFaces(FACES_OF.box) },
  /** Round about the y axis: width and depth are its diameters, height its length. */
  cylinder: { size: solidSize, pictures: onFaces(FACES_OF.cylinder) },
  ball: { size: solidSize },
  /** Closed outlines pushed along z, half of `depth` to each side. */
  prism: {
    subpaths: upTo(MAX_WALLS, 'each makes a wall'),
    rule: withDefault(rule, 'nonzero'),
    depth: extent,
    pictures: onFaces(FACES_OF.prism),
  },
  /** One use of a template: its own place, and values of its own for the template's signals, or other signals that give them. */
  instance: { template: ref('templates'), signals: withDefault(table(givenSchema), {}) },
  /** A solid brought in: the mesh of its asset, stretched to `size` round its middle, flat-shaded. */
  mesh: { size: solidSize, asset: ref('assets', 'mesh') },
} as const satisfies Record<string, Fields>;
export type ObjectKind = keyof typeof OBJECT_KINDS;

const RULES: Partial<Record<ObjectKind, { predicate: (o: never) => boolean; says: string }>> = {
  polygon: {
    predicate: (p: { points?: unknown; size?: unknown; sides?: unknown }) =>
      (p.points === undefined) === (p.size !== undefined && p.sides !== undefined),
    says: 'must have either "points", or "size" and "sides"',
  },
};

type Common = OfFields<typeof common>;
export type SceneObject = {
  [K in ObjectKind]: Common & { kind: K } & OfFields<(typeof OBJECT_KINDS)[K]>;
}[ObjectKind];
export const sceneObjectSchema = kinds(
  'kind',
  ...(Object.keys(OBJECT_KINDS) as ObjectKind[]).map((kind) => {
    const own = RULES[kind];
    return record(
      { ...common, kind: oneOf([kind]), ...OBJECT_KINDS[kind] } as Fields,
      ...(own ? [own as never] : []),
    );
  }),
) as unknown as Schema<SceneObject>;

/** What a look may change; together with its object it must make a sound object of its kind. */
const lookFields = {
  id: own('looks'),
  name,
  kind: maybe(oneOf(['rect', 'ellipse', 'polygon', 'path', 'text', 'box', 'cylinder', 'ball', 'prism'])),
  size: maybe(union(flatSize, solidSize, fontSize)),
  asset: maybe(picture),
  cut: maybe(cut),
  pixel: maybe(toggle),
  text: maybe(words),
  font: maybe(font),
  weight: maybe(weight),
  align: maybe(align),
  spacing: maybe(spacing),
  decoration: maybe(decoration),
  italic: maybe(toggle),
  radius: maybe(radius),
  points: maybe(corners),
  sides: maybe(sides),
  star: maybe(star),
  subpaths: maybe(subpaths),
  rule: maybe(rule),
  depth: maybe(extent),
  pictures: onFaces(BOX_FACES),
  fill: maybe(fillSchema),
  fillOpacity: maybe(amount),
  stroke: maybe(orNull(strokeSchema)),
};
export type Look = OfFields<typeof lookFields>;
const lookSchema: Schema<Look> = record(lookFields);
export type KindOf<K extends ObjectKind> = Extract<SceneObject, { kind: K }>;

export function defaultBase(): Base {
  return defaultsOf(baseSchema);
}
