/** Where the objects of a drawing stand in one another: each has its own origin in the middle of what it holds. */
import { namer, orderBetween, type SceneObject } from '../model/index.ts';
import type { ElementOf } from './brought.ts';
import { apply, type Matrix, round } from './svg-matrix.ts';
import type { SvgElement } from './svg-tree.ts';

/** Least x, least y, greatest x, greatest y, px. */
export type Bounds = [number, number, number, number];

/** What stands for an element until its place within its parent is known. */
export interface Node {
  object: SceneObject;
  /** Least x, least y, greatest x, greatest y in its own px; null for an empty group. */
  bounds: Bounds | null;
  children: Node[];
  /** What it was made of, where that is one element. */
  element?: ElementOf;
  /** Where its own px are not those of what it lies in. */
  pose?: Pose;
}

/** A turn and a scale that an object keeps. */
export interface Pose {
  /** From its own px to those of what it lies in. */
  readonly toParent: Matrix;
  /** Degrees, anticlockwise. */
  readonly turn: number;
  readonly scale: readonly [number, number];
  /** The point that it turns about, in its own px; null where the file says none. */
  readonly pivot: readonly [number, number] | null;
}

/** The name that the file gives an element: its label or id. */
export const givenName = (el: SvgElement): string | undefined =>
  el.attributes['inkscape:label'] ?? el.attributes['id'];

/** What is known of the elements of nodes, by the ids of their objects; of several with one id the first has it. */
export function elementsOf(top: Node): Map<string, ElementOf> {
  const found = new Map<string, ElementOf>();
  const ids = new Set<string | undefined>();
  const visit = ({ object, element, children }: Node) => {
    if (element) found.set(object.id, ids.has(element.id) ? { ...element, id: undefined } : element);
    ids.add(element?.id);
    for (const c of children) visit(c);
  };
  visit(top);
  return found;
}

/** What an element is called: its label or id, else its kind. */
export function nameOf(el: SvgElement): string {
  const given = givenName(el);
  const kinds: Record<string, string> = {
    g: 'Group',
    rect: 'Rectangle',
    circle: 'Circle',
    use: 'Copy',
    svg: 'Group',
    image: 'Picture',
  };
  const name = (given ?? kinds[el.name] ?? el.name.charAt(0).toUpperCase() + el.name.slice(1)).trim();
  return name === '' ? 'Shape' : name.slice(0, 200);
}

/** The bounds that hold both. */
export function join(a: Node['bounds'], b: Node['bounds']): Node['bounds'] {
  if (!a || !b) return a ?? b;
  return [Math.min(a[0], b[0]), Math.min(a[1], b[1]), Math.max(a[2], b[2]), Math.max(a[3], b[3])];
}

/** The bounds of a node in the px of what it lies in. */
export function boundsIn({ bounds, pose }: Node): Bounds | null {
  if (!bounds || !pose) return bounds;
  const [x0, y0, x1, y1] = bounds;
  const corners = [
    apply(pose.toParent, x0, y0),
    apply(pose.toParent, x1, y0),
    apply(pose.toParent, x0, y1),
    apply(pose.toParent, x1, y1),
  ];
  const [xs, ys] = [corners.map((p) => p[0]), corners.map((p) => p[1])];
  return [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)];
}

/** Gives a node its place within its parent, whose middle is at `origin`, and the names and order of its children. */
export function place(
  node: Node,
  parent: string | null,
  origin: [number, number],
  order: string,
  out: SceneObject[],
): void {
  const { pose } = node;
  const b = node.bounds ?? (pose ? [0, 0, 0, 0] : [origin[0], origin[1], origin[0], origin[1]]);
  const middle: [number, number] = [(b[0] + b[2]) / 2, (b[1] + b[3]) / 2];
  const base = { ...node.object.base, ...placeOf(pose, middle, origin) };
  out.push({ ...node.object, parent, order, base } as SceneObject);
  const unique = namer([]);
  let last: string | null = null;
  for (const c of node.children) {
    last = orderBetween(last, null);
    c.object = { ...c.object, name: unique(c.object.name) };
    place(c, node.object.id, middle, last, out);
  }
}

/** Where an object stands whose own origin is at `middle` of its own px, within what has its own at `origin`. */
function placeOf(
  pose: Pose | undefined,
  middle: readonly [number, number],
  origin: readonly [number, number],
) {
  if (!pose) return { position: [round(middle[0] - origin[0]), round(middle[1] - origin[1]), 0] };
  const m = pose.toParent;
  const [x, y] = apply(m, ...middle);
  const v = pose.pivot ? [round(pose.pivot[0] - middle[0]), round(pose.pivot[1] - middle[1])] : [0, 0];
  const [vx, vy] = v as [number, number];
  // The pivot is where turn and scale leave it: the place is what is left.
  const [lx, ly] = [m[0] * vx + m[2] * vy, m[1] * vx + m[3] * vy];
  const exact = (n: number) => Math.round(n * 1e6) / 1e6 + 0;
  return {
    position: [round(x - origin[0] - vx + lx), round(y - origin[1] - vy + ly), 0],
    rotation: [0, 0, exact(pose.turn)],
    scale: [exact(pose.scale[0]), exact(pose.scale[1]), 1],
    pivot: [vx, vy, 0],
  };
}
