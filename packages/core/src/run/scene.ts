/** From poses to what is seen: matrices, and faces that are painted and hit. */
import { invert, MAT, multiply } from '../base/index.ts';
import { CHANNELS } from '../model/index.ts';
import {
  buildFaces,
  FaceList,
  type Fixing,
  findContacts,
  lightDirection,
  PaintOrder,
  PointHits,
  viewMatrix,
  worldMatrix,
} from '../world/index.ts';
import type { Program } from './program.ts';
import { AZIMUTH, ELEVATION, FRAME_HEIGHT, FRAME_WIDTH, PUTS, type RunState } from './state.ts';

export interface Angle {
  readonly azimuth: number;
  readonly elevation: number;
}

interface Frame {
  readonly width: number;
  readonly height: number;
}

/** The matrices of the objects of a pose, all at once or each when it is asked for. */
class Matrices {
  /** World matrices, 12 numbers an object. */
  world = new Float64Array(0);
  /** As `world`, and turned to the view. */
  viewWorld = new Float64Array(0);
  protected readonly view = new Float64Array(MAT);
  readonly #unview = new Float64Array(MAT);
  /** Filled anew for each pose, which may be one a tick. */
  readonly #fixing = {
    overlays: [] as Fixing['overlays'],
    halfWidth: 0,
    halfHeight: 0,
    unview: this.#unview,
  };
  #program: Program | null = null;
  #values: Float64Array = new Float64Array(0);
  /** The pose of which each object's matrices are, by the pose's number. */
  #of = new Int32Array(0);
  #pose = 0;

  /** Matrices are of this pose from now on, once they are asked for. */
  begin(program: Program, values: Float64Array, angle: Angle, frame: Frame = program.piece.frame): void {
    const n = program.objects.length;
    if (this.#of.length !== n) {
      this.world = new Float64Array(n * MAT);
      this.viewWorld = new Float64Array(n * MAT);
      this.#of = new Int32Array(n);
      this.#pose = 0;
    }
    this.#program = program;
    this.#values = values;
    this.#pose++;
    viewMatrix(angle, this.view);
    // The view only turns, so its inverse is always there.
    invert(this.#unview, 0, this.view, 0);
    const fixing = this.#fixing;
    fixing.overlays = program.geometry.overlays;
    fixing.halfWidth = frame.width / 2;
    fixing.halfHeight = frame.height / 2;
  }

  /** Works out the matrices of object `i`, and of all above it, unless they are there. */
  need(i: number): void {
    if (i < 0 || this.#of[i] === this.#pose) return;
    const { parent } = (this.#program as Program).geometry;
    this.need(parent[i] as number);
    worldMatrix(this.world, parent, this.#values, i, this.#fixing);
    multiply(this.viewWorld, i * MAT, this.view, 0, this.world, i * MAT);
    this.#of[i] = this.#pose;
  }

  /** Works out the matrices alone, of all objects: what asks where something is needs no faces. */
  lay(...of: Parameters<Matrices['begin']>): void {
    this.begin(...of);
    for (let i = 0; i < this.#of.length; i++) this.need(i);
  }

  /** Where the pivot of object `i` is, in the world, or on the screen (px from the frame's middle, y up). */
  pivotInto(values: Float64Array, i: number, onScreen: boolean, out: Float64Array): void {
    this.need(i);
    const m = onScreen ? this.viewWorld : this.world;
    const o = i * MAT;
    const p = i * CHANNELS + 9;
    for (let r = 0; r < 3; r++)
      out[r] =
        (m[o + r] as number) * (values[p] as number) +
        (m[o + 3 + r] as number) * (values[p + 1] as number) +
        (m[o + 6 + r] as number) * (values[p + 2] as number) +
        (m[o + 9 + r] as number);
  }

  /** Where one px along an axis (0, 1, 2) of the parent of object `i` leads on the screen. */
  axisInto(program: Program, i: number, axis: number, out: Float64Array): void {
    const { parent, overlays } = program.geometry;
    const p = parent[i] as number;
    this.need(p);
    const isFixed = overlays[i] !== null && overlays[i] !== undefined;
    for (let r = 0; r < 2; r++) {
      if (isFixed) out[r] = r === axis ? 1 : 0;
      else
        out[r] =
          p < 0 ? (this.view[3 * axis + r] as number) : (this.viewWorld[p * MAT + 3 * axis + r] as number);
    }
  }
}

/** Poses → faces in painting order, with buffers that are reused from call to call. */
export class FaceBuilder extends Matrices {
  faces = new FaceList();
  /** The list of the call before, which the sorter asks what has changed. */
  #before = new FaceList();
  #seen = new Float64Array(0);
  readonly #sorter = new PaintOrder();

  /** As `place`, and in painting order. */
  build(...of: Parameters<FaceBuilder['place']>): FaceList {
    const [program, values] = of;
    const faces = this.place(...of);
    if (program.piece.light.contact ?? true) {
      // The view's second column is upward.
      const up = this.view.subarray(3, 6);
      findContacts(faces, program.geometry, values, this.viewWorld, up, this.#seen);
    }
    this.#sorter.sort(faces);
    return faces;
  }

  /** The faces in the order of the tree. `frame` is what people see of the piece: objects on top stand at its edges. `skip` leaves out the objects with a 1 there: by default the guides, which are seen only while making. */
  place(
    program: Program,
    values: Float64Array,
    angle: Angle,
    skip: Uint8Array | null = program.guides,
    frame: Frame = program.piece.frame,
  ): FaceList {
    this.lay(program, values, angle, frame);
    if (this.#seen.length !== program.objects.length) this.#seen = new Float64Array(program.objects.length);
    [this.faces, this.#before] = [this.#before, this.faces];
    const [x, y, z] = lightDirection(program.piece.light);
    const v = this.view;
    const at = (r: number) => (v[r] as number) * x + (v[3 + r] as number) * y + (v[6 + r] as number) * z;
    buildFaces(this.faces, program.geometry, values, this.viewWorld, [at(0), at(1), at(2)], this.#seen, skip);
    return this.faces;
  }
}

/** What can be hit at the present tick, from the angle of the run; worked out when somebody asks. */
export class Scene {
  readonly #owner: { readonly program: Program; readonly state: RunState };
  readonly #builder = new FaceBuilder();
  /** Of the few objects whose places are asked for. */
  readonly #matrices = new Matrices();
  #pose = new Float64Array(0);
  #facesFresh = false;
  #laidFresh = false;
  #hitsFresh = false;
  #hits: PointHits | null = null;
  #of: Program | null = null;
  /** The values that were last told to `hits`; those that may change, and which of them have. */
  #known = new Float64Array(0);
  #watched: number[] = [];
  readonly #isWatched = new Set<number>();
  #moved = new Int32Array(64);
  readonly #seen = new Float64Array(4).fill(Number.NaN);
  readonly #view = new Float64Array(MAT);

  constructor(owner: { readonly program: Program; readonly state: RunState }) {
    this.#owner = owner;
  }

  /** The pose, the angle or the frame is another. */
  changed(): void {
    this.#facesFresh = false;
    this.#laidFresh = false;
    this.#hitsFresh = false;
  }

  /** The values of the tick are there: what moves by itself after them asks for places among these. */
  posed(): void {
    this.#laidFresh = false;
  }

  /** All faces, in tree order: who paints them sorts them. */
  faces(): FaceList {
    if (!this.#facesFresh) {
      const { program, state } = this.#owner;
      this.#builder.place(program, state.values, this.#angle(), program.guides, this.#frame());
      this.#facesFresh = true;
    }
    return this.#builder.faces;
  }

  // What people see, in rows of its own: it is asked in each tick.
  readonly #seenFrom = { azimuth: 0, elevation: 0 };
  readonly #seenIn = { width: 0, height: 0 };
  #angle(): Angle {
    const { one } = this.#owner.state;
    this.#seenFrom.azimuth = one[AZIMUTH] as number;
    this.#seenFrom.elevation = one[ELEVATION] as number;
    return this.#seenFrom;
  }
  #frame(): Frame {
    const { one } = this.#owner.state;
    this.#seenIn.width = one[FRAME_WIDTH] as number;
    this.#seenIn.height = one[FRAME_HEIGHT] as number;
    return this.#seenIn;
  }

  /** The matrices of the pose on screen, those of `object` worked out; −1 for none. */
  #laid(object: number): Matrices {
    if (!this.#laidFresh) {
      const { program, state } = this.#owner;
      // As the pose is now: who asks next may ask after something has been moved.
      if (this.#pose.length !== state.values.length) this.#pose = new Float64Array(state.values.length);
      this.#pose.set(state.values);
      this.#matrices.begin(program, this.#pose, this.#angle(), this.#frame());
      this.#laidFresh = true;
    }
    this.#matrices.need(object);
    return this.#matrices;
  }

  /** Where the pivot of an object is in the pose on screen: in the world, or on the screen (px from the middle, y up). */
  pivot(object: number, onScreen: boolean, out: Float64Array): void {
    this.#laid(object).pivotInto(this.#owner.state.values, object, onScreen, out);
  }

  /** The matrix of an object in the world, in the pose on screen: 12 numbers, not to be changed. */
  matrix(object: number): Float64Array {
    return this.#laid(object).world.subarray(object * MAT, (object + 1) * MAT);
  }

  /** Where one px along an axis (0, 1, 2) of an object's parent leads on the screen. */
  axis(object: number, axis: number, out: Float64Array): void {
    this.#laid(-1).axisInto(this.#owner.program, object, axis, out);
  }

  /** A way along the axes of an object's parent, in the world; with the parent's scale. */
  wayInWorld(object: number, way: ArrayLike<number>): Float64Array {
    const p = this.#owner.program.geometry.parent[object] as number;
    const out = Float64Array.from(way);
    if (p < 0) return out;
    const { world } = this.#laid(p);
    for (let r = 0; r < 3; r++)
      out[r] = [0, 1, 2].reduce(
        (sum, k) => sum + (way[k] as number) * (world[p * MAT + 3 * k + r] as number),
        0,
      );
    return out;
  }

  /** A way in the world as the parent of an object sees it in the pose on screen; without the parent's scale. */
  seenFromParent(object: number, way: readonly number[]): number[] {
    const p = this.#owner.program.geometry.parent[object] as number;
    if (p < 0) return [...way];
    const { world } = this.#laid(p);
    const inverse = new Float64Array(MAT);
    if (!invert(inverse, 0, world, p * MAT)) return [...way];
    return [0, 1, 2].map((r) =>
      way.reduce((sum, n, column) => sum + n * (inverse[3 * column + r] as number), 0),
    );
  }

  /** The topmost object at a point of the frame (px from its middle, y up), by number; −1 for none. */
  hit(x: number, y: number): number {
    let hits = this.#hits;
    if (hits === null || this.#of !== this.#owner.program) hits = this.#begin();
    else if (!this.#hitsFresh) this.#follow(hits);
    this.#hitsFresh = true;
    return hits.hit(x, y);
  }

  #begin(): PointHits {
    const { program, state } = this.#owner;
    this.#hits = new PointHits(program.geometry, state.values, program.guides);
    this.#of = program;
    this.#known = state.values.slice();
    this.#watched = [...program.written];
    this.#isWatched.clear();
    for (const at of this.#watched) this.#isWatched.add(at);
    for (let k = 0; k < (state.one[PUTS] as number); k++) this.#watch(state.putList[k] as number);
    this.#seen.fill(Number.NaN);
    this.#look(this.#hits);
    return this.#hits;
  }

  /** Tells what is not as it was when somebody asked last. */
  #follow(hits: PointHits): void {
    const { state } = this.#owner;
    const known = this.#known;
    const { values } = state;
    this.#look(hits);
    for (let k = 0; k < (state.one[PUTS] as number); k++) this.#watch(state.putList[k] as number);
    if (this.#moved.length < this.#watched.length) this.#moved = new Int32Array(this.#watched.length * 2);
    let count = 0;
    for (let k = 0; k < this.#watched.length; k++) {
      const at = this.#watched[k] as number;
      if (known[at] === values[at]) continue;
      known[at] = values[at] as number;
      this.#moved[count++] = at;
    }
    hits.change(values, this.#moved, count);
  }

  /** What was put once may be released, so it is watched from then on. */
  #watch(at: number): void {
    if (this.#isWatched.has(at)) return;
    this.#isWatched.add(at);
    this.#watched.push(at);
  }

  #look(hits: PointHits): void {
    const { one } = this.#owner.state;
    const seen = this.#seen;
    let same = true;
    for (let k = 0; k < 4; k++) {
      const now = one[AZIMUTH + k] as number;
      if (seen[k] !== now) same = false;
      seen[k] = now;
    }
    if (same) return;
    viewMatrix({ azimuth: seen[0] as number, elevation: seen[1] as number }, this.#view);
    hits.look({ view: this.#view, halfWidth: (seen[2] as number) / 2, halfHeight: (seen[3] as number) / 2 });
  }
}
