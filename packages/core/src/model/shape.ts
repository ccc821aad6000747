/** What an object is shaped like: its outline where it has one, its bounds, and the same resized. */
import { cosDeg, pathBounds, polygonPath, type Subpath, sinDeg } from '../base/index.ts';
import type { Vec3 } from './common.ts';
import type { Fill, Gradient, KindOf, SceneObject } from './scene-object.ts';
import { layoutText } from './text-layout.ts';

/** The outline of a polygon, path or prism, px in the object's own space; null for every other kind. */
export function subpathsOf(o: SceneObject): readonly Subpath[] | null {
  switch (o.kind) {
    case 'path':
      return o.subpaths;
    case 'prism':
      return o.subpaths.map((s) => ({ ...s, closed: true }));
    case 'polygon':
      return polygonNodes(o);
    default:
      return null;
  }
}

/** The outline of a polygon as points that can be edited. */
export function polygonNodes(o: KindOf<'polygon'>): Subpath[] {
  return [polygonPath(o.points ?? regular(o))];
}

/** Corners of a regular polygon or star within its size, the first at the top. */
function regular(o: KindOf<'polygon'>): [number, number][] {
  const [w, h] = o.size ?? [0, 0];
  const sides = o.sides ?? 3;
  const n = o.star === undefined ? sides : 2 * sides;
  return Array.from({ length: n }, (_, i) => {
    const angle = 90 - (360 * i) / n;
    const reach = i % 2 === 1 && o.star !== undefined ? o.star : 1;
    return [(w / 2) * reach * cosDeg(angle), (h / 2) * reach * sinDeg(angle)];
  });
}

/** Least and greatest corner of the object's own box, px in its own space; zeros for a group. */
export function boundsOf(o: SceneObject): [least: Vec3, greatest: Vec3] {
  const subpaths = subpathsOf(o);
  if (subpaths) {
    const [x0, y0, x1, y1] = o.kind === 'polygon' && o.size ? centred(o.size) : pathBounds(subpaths);
    const d = o.kind === 'prism' ? o.depth / 2 : 0;
    return [
      [x0, y0, -d],
      [x1, y1, d],
    ];
  }
  if (o.kind === 'text') {
    const { width, height } = layoutText(o);
    return [
      [-width / 2, -height / 2, 0],
      [width / 2, height / 2, 0],
    ];
  }
  if (o.kind === 'group' || !('size' in o) || !o.size) {
    return [
      [0, 0, 0],
      [0, 0, 0],
    ];
  }
  const [w, h, d = 0] = o.size as readonly number[] as [number, number, number?];
  return [
    [-w / 2, -h / 2, -d / 2],
    [w / 2, h / 2, d / 2],
  ];
}

function centred([w, h]: readonly [number, number]): [number, number, number, number] {
  return [-w / 2, -h / 2, w / 2, h / 2];
}

/** Width, height, depth in px; a group has none, flat kinds have depth 0. */
export function sizeOf(o: SceneObject): Vec3 {
  const [a, b] = boundsOf(o);
  return [b[0] - a[0], b[1] - a[1], b[2] - a[2]];
}

/** Whether the kind has a depth of its own, and so is a solid. */
export function isSolid(o: SceneObject): boolean {
  return (
    o.kind === 'box' || o.kind === 'cylinder' || o.kind === 'ball' || o.kind === 'prism' || o.kind === 'mesh'
  );
}

/**
 * The object with another size along one axis (0 x, 1 y, 2 z); its own origin stays the middle of what grows. A text
 * keeps its proportions: its font grows.
 */
export function resized(o: SceneObject, axis: number, to: number): SceneObject {
  if (o.kind === 'group' || o.kind === 'instance') return o;
  const now = sizeOf(o)[axis] as number;
  const k = now > 0 ? to / now : 1;
  const base = { ...o.base, fill: axis < 2 ? scaledFill(o.base.fill, axis, k) : o.base.fill };
  const { stroke } = o;
  if (stroke && typeof stroke.color === 'object' && axis < 2)
    o = { ...o, stroke: { ...stroke, color: scaledGradient(stroke.color, axis, k) } };
  switch (o.kind) {
    case 'path':
    case 'prism': {
      if (o.kind === 'prism' && axis === 2) return { ...o, depth: to };
      const at = (p: readonly [number, number]): [number, number] =>
        axis === 0 ? [p[0] * k, p[1]] : axis === 1 ? [p[0], p[1] * k] : [p[0], p[1]];
      const subpaths = o.subpaths.map((s) => ({
        ...s,
        nodes: s.nodes.map((n) => ({
          at: at(n.at),
          ...(n.in ? { in: at(n.in) } : {}),
          ...(n.out ? { out: at(n.out) } : {}),
        })),
      }));
      return { ...o, base, subpaths };
    }
    case 'polygon': {
      if (axis === 2) return o;
      if (o.size) return { ...o, base, size: axis === 0 ? [to, o.size[1]] : [o.size[0], to] };
      const points = (o.points ?? []).map(([x, y]): [number, number] =>
        axis === 0 ? [x * k, y] : [x, y * k],
      );
      return { ...o, base, points };
    }
    case 'text':
      return axis === 2 ? o : { ...o, base, size: Math.max(1, Math.min(2000, o.size * k)) };
    default: {
      const size = [...o.size];
      if (axis >= size.length) return o;
      size[axis] = to;
      return { ...o, base, size } as SceneObject;
    }
  }
}

/** A gradient that follows a change of width (axis 0) or height (1). */
function scaledFill(fill: Fill, axis: number, k: number): Fill {
  return typeof fill === 'object' ? scaledGradient(fill, axis, k) : fill;
}

function scaledGradient(fill: Gradient, axis: number, k: number): Gradient {
  // Where a spot is an ellipse, it is the ellipse that grows.
  if (fill.gradient === 'radial' && fill.matrix) {
    const [a, b, c, d, e, f] = fill.matrix;
    return { ...fill, matrix: axis === 0 ? [a * k, b, c * k, d, e * k, f] : [a, b * k, c, d * k, e, f * k] };
  }
  const at = ([x, y]: readonly [number, number]): [number, number] => (axis === 0 ? [x * k, y] : [x, y * k]);
  return fill.gradient === 'linear'
    ? { ...fill, from: at(fill.from), to: at(fill.to) }
    : { ...fill, centre: at(fill.centre), ...(fill.focus ? { focus: at(fill.focus) } : {}) };
}
