/** What is asked of objects, apart from their schemas: whoever only runs a piece needs this, and not those. */
import { clamp } from '../base/math.ts';
import type { Vec3 } from './common.ts';
import { FARTHEST } from './limits.ts';
import type { Base, Fill, SceneObject } from './scene-object.ts';

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
