/** Anything placed in a piece. `base` is what it is when nothing animates it. */
import { z } from 'zod';
import { colorSchema, idSchema, length, nameSchema, vec3 } from './common.ts';

const amount = z.number().min(0, 'must lie between 0 and 1').max(1, 'must lie between 0 and 1');
const extent = z.number().min(0, 'must not be negative').max(1e6, 'is too large');

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
  fill: colorSchema.default('#c9c2ae'),
});
export type Base = z.infer<typeof baseSchema>;

const common = {
  id: idSchema,
  name: nameSchema,
  parent: idSchema.nullable(),
  /** Fractional index among its siblings, compared by code units; ties by id. */
  order: z.string().min(1, 'must not be empty').max(200),
  base: baseSchema,
  tags: z.array(idSchema).max(64).default([]),
  /** Words shown to the person who points at it. */
  hint: z.string().max(200).default(''),
  // What later versions of the format fill; only their empty values are read so far.
  overlay: z.null().optional(),
  looks: z.array(z.never('looks are not read by this version')).optional(),
  mask: z.null().optional(),
  colliders: z.array(z.never('zones and blockers are not read by this version')).optional(),
};
const flatSize = z.tuple([extent, extent]);

export const sceneObjectSchema = z.discriminatedUnion('kind', [
  z.strictObject({ ...common, kind: z.literal('group') }),
  z.strictObject({ ...common, kind: z.literal('rect'), size: flatSize, radius: length.min(0).default(0) }),
  z.strictObject({ ...common, kind: z.literal('ellipse'), size: flatSize }),
  z.strictObject({ ...common, kind: z.literal('box'), size: z.tuple([extent, extent, extent]) }),
]);
export type SceneObject = z.infer<typeof sceneObjectSchema>;
export type ObjectKind = SceneObject['kind'];

/** Width, height, depth in px; a group has none, flat kinds have depth 0. */
export function sizeOf(o: SceneObject): [number, number, number] {
  switch (o.kind) {
    case 'group':
      return [0, 0, 0];
    case 'box':
      return [...o.size];
    default:
      return [o.size[0], o.size[1], 0];
  }
}

export function defaultBase(): Base {
  return baseSchema.parse({});
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
