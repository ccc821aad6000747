/**
 * What stops the visitor and what is dragged: blockers, seen in the plane of the move. A body is the hull of a thing's own
 * blockers, without any its pivot; it slides along what it meets.
 */
import { composeLocal, cosDeg, MAT, multiply, sinDeg, transformPoint } from '../../base/index.ts';
import { type Blocker, CHANNELS } from '../../model/index.ts';
import type { Context } from '../../run/context.ts';
import { PLACE_CHANNELS } from '../../run/places.ts';
import type { Program } from '../../run/program.ts';
import type { RunState } from '../../run/state.ts';
import { isShownNow, isWithin } from '../../run/tree.ts';
import { convexHull, distanceTo, grownBy, slide } from '../../world/index.ts';
import type { BlockerProgram } from './program.ts';

/** What blockers touch and push, by number: the visitor, what is dragged. */
export const BODIES = [0, 1] as const;

/** Half of what is endless, px. */
const ENDLESS = 1e6;
/** A way shorter than this is rounding, and none, px. */
export const NO_DISTANCE = 1e-9;
/** What is so near a blocker touches it, px. */
const TOUCH = 0.1;
/** More than rounding can be wrong in what only chooses whom to ask, px. */
const SLACK = 1e-3;
/** Corners of what is round. */
const ROUND = 32;

/** The plane of a move: its two axes, and the one along which it is seen; whether depth along that counts. */
export interface Plane {
  readonly axes: readonly [number, number];
  readonly deep: number;
  readonly counts: boolean;
  /** It goes along one axis, and stops where it meets something. */
  readonly line: boolean;
}
export function planeOf(along: string): Plane {
  const line = along.length === 1;
  if (along === 'x' || along === 'xy' || along === 'y') return { axes: [0, 1], deep: 2, counts: false, line };
  if (along === 'yz') return { axes: [1, 2], deep: 0, counts: true, line };
  return { axes: [0, 2], deep: 1, counts: true, line };
}

/** How a blocker is seen in a plane, as its owner stands in the world; made anew when that changes. */
interface Seen {
  readonly world: Float64Array;
  readonly axes: Plane['axes'];
  readonly hull: Float64Array;
  /** The middle of its corners, in the world. */
  readonly middle: readonly number[];
  /** The least and greatest along the two axes, and along the one on which it is seen. */
  readonly range: readonly [low: number, high: number][];
}

/** Where an object was when somebody asked last. */
interface Place {
  /** It, and all above it; whether anything but a put may move one of them. */
  readonly chain: readonly number[];
  readonly moves: boolean;
  /** The values that the matrix was worked out from. */
  readonly from: Float64Array;
  readonly world: Float64Array;
  version: number;
  /** It stands there while the same values are put; −1 when it may move at any time. */
  puts: number;
}

export class Blocking {
  readonly #run: Context;
  readonly #local = new Float64Array(MAT);
  readonly #above = new Float64Array(MAT);
  readonly #point = new Float64Array(3);
  readonly #seen = new Map<Blocker, Seen>();
  readonly #places = new Map<number, Place>();
  #written: ReadonlySet<number> = new Set();
  #versions = 0;
  #of: Program | null = null;
  #state: RunState | null = null;

  constructor(run: Context) {
    this.#run = run;
  }

  /** The object of a body, −1 where there is none; a visitor that is dragged, too, is one body. */
  objectOf(body: number): number {
    const { program, services } = this.#run;
    if (body === 0) return program.visitor;
    const dragged = services.dragged();
    return dragged === program.visitor ? -1 : dragged;
  }

  /** The axes along which a body moves. */
  along(body: number): string {
    const { program, services } = this.#run;
    return body === 0 ? (program.piece.visitor?.plane ?? 'xz') : services.draggedAlong();
  }

  /** All blockers, by number. */
  get all(): readonly BlockerProgram[] {
    return this.#run.program.parts.blockers ?? [];
  }

  /** How far a thing comes that would go by `way` in the world, px; written to `way`. */
  stop(object: number, displacement: Float64Array, along: string): void {
    if (this.all.length === 0) return;
    const plane = planeOf(along);
    const [i, j] = plane.axes;
    const [wx, wy] = [displacement[i] as number, displacement[j] as number];
    const { from, hulls } = this.around(object, plane, Math.hypot(wx, wy));
    if (hulls.length === 0) return;
    const [x, y] = slide(
      hulls.map((h) => h.hull),
      from,
      [wx, wy],
      !plane.line,
    );
    displacement[i] = x - from[0];
    displacement[j] = y - from[1];
  }

  /** The numbers of the blockers that a thing touches: its body is so near one that would stop it. */
  contacts(object: number, along: string): number[] {
    const { from, hulls } = this.around(object, planeOf(along), TOUCH);
    return hulls.flatMap(({ hull, blocker }) => (distanceTo(hull, ...from) <= TOUCH ? [blocker] : []));
  }

  /**
   * What would stop a thing within `far` px: the place of its pivot in the plane, and the hulls, grown by its body, of the
   * blockers there with their numbers.
   */
  around(
    object: number,
    plane: Plane,
    far: number,
    /** What lies in this one does not stop it; −1 for none. */
    not = -1,
  ): {
    from: [x: number, y: number];
    hulls: { hull: Float64Array; blocker: number; middle: readonly number[] }[];
  } {
    const { program } = this.#run;
    const [i, j] = plane.axes;
    const pivot = this.#pivot(object);
    const own = this.all.filter((b) => isWithin(program, b.object, object));
    const bodies = own.flatMap((b) =>
      this.counts(b) ? this.#corners(b.blocker, this.worldOf(b.object)) : [],
    );
    const corners = bodies.length > 0 ? bodies : [pivot];
    const body = convexHull(
      corners.map((p) => [(p[i] as number) - (pivot[i] as number), (p[j] as number) - (pivot[j] as number)]),
    );
    // What the body comes over at most: sliding, it goes no farther than its way is long.
    const reach = [i, j, plane.deep].map((axis, k): [number, number] => {
      const [low, high] = rangeOf(corners, axis);
      return k < 2 ? [low - far - SLACK, high + far + SLACK] : [low, high];
    });
    const isVisitor = object === program.visitor;
    const tags = program.objects[object]?.tags ?? [];
    const hulls: { hull: Float64Array; blocker: number; middle: readonly number[] }[] = [];
    for (const [n, b] of this.all.entries()) {
      const { blocker, object: owner } = b;
      if (isWithin(program, owner, object) || !this.counts(b)) continue;
      if (not >= 0 && isWithin(program, owner, not)) continue;
      if (isVisitor && !blocker.visitor) continue;
      // With tags it stops only what has one of them; the visitor by its own switch.
      if (!isVisitor && blocker.tags.length > 0 && !blocker.tags.some((t) => tags.includes(t))) continue;
      const { hull, range, middle } = this.#seenIn(plane, blocker, owner);
      if (meetsRange(range, reach, plane.counts))
        hulls.push({ hull: grownBy(hull, body), blocker: n, middle });
    }
    return { from: [pivot[i] as number, pivot[j] as number], hulls };
  }

  #seenIn({ axes, deep }: Plane, blocker: Blocker, owner: number): Seen {
    const world = this.worldOf(owner);
    const before = this.#seen.get(blocker);
    if (before && before.axes[0] === axes[0] && before.axes[1] === axes[1]) {
      let k = 0;
      while (k < MAT && before.world[k] === world[k]) k++;
      if (k === MAT) return before;
    }
    const points = this.#corners(blocker, world);
    const hull = convexHull(points.map((p) => [p[axes[0]] as number, p[axes[1]] as number]));
    const range = [...axes, deep].map((axis) => rangeOf(points, axis));
    const middle = [0, 1, 2].map((axis) => mean(points, axis));
    const seen = { world: world.slice(), axes, hull, middle, range };
    this.#seen.set(blocker, seen);
    return seen;
  }

  /** Whether a blocker stops anything now: it is on, and its owner and all above that are shown. */
  counts({ blocker, object: owner, switchAt }: BlockerProgram): boolean {
    const { program, state } = this.#run;
    if (switchAt < 0 ? !blocker.on : (state.values[switchAt] as number) < 0.5) return false;
    return isShownNow(program, state, owner);
  }

  /** The matrix of an object in the world as its values are now; not to be changed, and good until the values change. */
  worldOf(object: number): Float64Array {
    return this.#placeOf(object).world;
  }

  /** A number that is another one whenever the place, turn, size or pivot of the object, or of one above it, is another. */
  versionOf(object: number): number {
    return this.#placeOf(object).version;
  }

  #placeOf(object: number): Place {
    const { program, state } = this.#run;
    if (this.#of !== program || this.#state !== state) {
      this.#of = program;
      this.#state = state;
      this.#places.clear();
      this.#written = new Set(program.written);
    }
    const known = this.#places.get(object);
    // Most of what blocks is moved by nothing.
    if (known?.puts === state.putsChanged) return known;
    const place = known ?? this.#begin(object);
    const { chain, from, world } = place;
    let same = true;
    let isPut = false;
    for (let n = 0; n < chain.length; n++) {
      const at = (chain[n] as number) * CHANNELS;
      for (let c = 0; c < PLACE_CHANNELS; c++) {
        const now = state.values[at + c] as number;
        if (state.putAt[at + c] !== 0) isPut = true;
        if (from[n * PLACE_CHANNELS + c] === now) continue;
        from[n * PLACE_CHANNELS + c] = now;
        same = false;
      }
    }
    place.puts = place.moves || isPut ? -1 : state.putsChanged;
    if (same) return place;
    place.version = ++this.#versions;
    composeLocal(world, 0, state.values, object * CHANNELS);
    for (let n = 1; n < chain.length; n++) {
      composeLocal(this.#local, 0, state.values, (chain[n] as number) * CHANNELS);
      multiply(this.#above, 0, this.#local, 0, world, 0);
      world.set(this.#above);
    }
    return place;
  }

  #begin(object: number): Place {
    const { parent } = this.#run.program.geometry;
    const chain: number[] = [];
    for (let o = object; o >= 0; o = parent[o] as number) chain.push(o);
    const moves = chain.some((o) => {
      for (let c = 0; c < PLACE_CHANNELS; c++) if (this.#written.has(o * CHANNELS + c)) return true;
      return false;
    });
    const from = new Float64Array(chain.length * PLACE_CHANNELS).fill(Number.NaN);
    const place: Place = { chain, moves, from, world: new Float64Array(MAT), version: 0, puts: -1 };
    this.#places.set(object, place);
    return place;
  }

  /** Writes the middle of a blocker's corners, in the world, to `out[o…]`. */
  middleInto({ blocker, object }: BlockerProgram, out: Float64Array, o: number): void {
    // Taken apart by number: asked in each tick, it must cost no memory.
    const middle = middleOf(blocker);
    transformPoint(out, o, this.worldOf(object), 0, middle[0], middle[1], middle[2]);
  }

  /** Writes where the pivot of an object is in the world, as its values are now, to `out[o…]`. */
  pivotInto(object: number, out: Float64Array, o: number): void {
    const at = object * CHANNELS + 9;
    const { values } = this.#run.state;
    transformPoint(
      out,
      o,
      this.worldOf(object),
      0,
      values[at] as number,
      values[at + 1] as number,
      values[at + 2] as number,
    );
  }

  #pivot(object: number): number[] {
    this.pivotInto(object, this.#point, 0);
    return [...this.#point];
  }

  /** The corners of a blocker, in the world in which its owner has a matrix. */
  #corners(b: Blocker, world: Float64Array): number[][] {
    return cornersOf(b).map(([x, y, z]) => {
      transformPoint(this.#point, 0, world, 0, x, y, z);
      return [...this.#point];
    });
  }
}

const mean = (points: readonly (readonly number[])[], axis: number) =>
  points.reduce((sum, p) => sum + (p[axis] as number), 0) / points.length;

const middles = new WeakMap<Blocker, readonly [number, number, number]>();
/** The middle of a blocker's corners in its owner's space. */
function middleOf(b: Blocker): readonly [number, number, number] {
  let middle = middles.get(b);
  if (!middle) {
    const points = cornersOf(b);
    middle = [mean(points, 0), mean(points, 1), mean(points, 2)];
    middles.set(b, middle);
  }
  return middle;
}

function rangeOf(points: readonly (readonly number[])[], axis: number): [number, number] {
  const all = points.map((p) => p[axis] as number);
  return [Math.min(...all), Math.max(...all)];
}

/** Whether two boxes overlap along both axes of a plane, and in depth where that counts. */
function meetsRange(a: Seen['range'], b: Seen['range'], inDepth: boolean): boolean {
  for (let k = 0; k < (inDepth ? 3 : 2); k++) {
    const [p, q] = [a[k] as [number, number], b[k] as [number, number]];
    if (p[1] < q[0] || p[0] > q[1]) return false;
  }
  return true;
}

/** The corners of a blocker in its owner's space; what is round has 32 round each axis. */
function cornersOf(b: Blocker): [number, number, number][] {
  const [x, y, z] = b.at;
  const half = (n: number | undefined) => Math.max(n ?? 0, 1) / 2;
  const deep = (n: number | undefined) => (b.through ? ENDLESS : half(n));
  if (b.shape === 'box') {
    const [w, h, d] = [half(b.size?.[0]), half(b.size?.[1]), deep(b.size?.[2])];
    return [-1, 1].flatMap((i) =>
      [-1, 1].flatMap((j) => [-1, 1].map((k): [number, number, number] => [x + i * w, y + j * h, z + k * d])),
    );
  }
  if (b.shape === 'outline') {
    const d = deep(b.depth);
    return (b.points ?? []).flatMap(([u, v]) =>
      [-d, d].map((k): [number, number, number] => [x + u, y + v, z + k]),
    );
  }
  const r = Math.max(b.radius ?? 0, 1);
  return Array.from({ length: ROUND }, (_, n) => (n * 360) / ROUND).flatMap((a) => {
    const [c, s] = [r * cosDeg(a), r * sinDeg(a)];
    const flat: [number, number, number] = [x + c, y + s, z];
    if (b.through)
      return [
        [flat[0], flat[1], z - ENDLESS],
        [flat[0], flat[1], z + ENDLESS],
      ] as [number, number, number][];
    return [flat, [x + c, y, z + s], [x, y + c, z + s]] as [number, number, number][];
  });
}
