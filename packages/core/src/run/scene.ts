/** From poses to what is seen: matrices, and faces that are painted and hit. */
import { invert, MAT, multiply } from '../base/index.ts';
import { CH_OPACITY, CHANNELS } from '../model/index.ts';
import {
  allParallel,
  buildFaces,
  byDepth,
  FaceList,
  type Fixing,
  lightDirection,
  PointHits,
  viewMatrix,
  worldMatrix,
} from '../world/index.ts';
import type { Depth, Program } from './program.ts';
import { AZIMUTH, ELEVATION, FRAME_HEIGHT, FRAME_WIDTH, type RunState } from './state.ts';

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
  /** Poses are counted: the one since which nothing of before holds, and by object the last that changed its own values, that asked for its matrices, and that worked them out. */
  #pose = 0;
  #anew = 0;
  #changed = new Int32Array(0);
  #asked = new Int32Array(0);
  #made = new Int32Array(0);

  /** Matrices are of this pose from now on, once they are asked for. */
  begin(program: Program, values: Float64Array, angle: Angle, frame: Frame = program.piece.frame): void {
    const n = program.objects.length;
    if (this.#made.length !== n) {
      this.world = new Float64Array(n * MAT);
      this.viewWorld = new Float64Array(n * MAT);
      this.#changed = new Int32Array(n);
      this.#asked = new Int32Array(n);
      this.#made = new Int32Array(n);
    }
    this.#program = program;
    this.#values = values;
    this.#anew = ++this.#pose;
    viewMatrix(angle, this.view);
    // The view only turns, so its inverse is always there.
    invert(this.#unview, 0, this.view, 0);
    const fixing = this.#fixing;
    fixing.overlays = program.geometry.overlays;
    fixing.halfWidth = frame.width / 2;
    fixing.halfHeight = frame.height / 2;
  }

  /** Of the values of the pose these are others now, by their indexes: `moved[0…count−1]`. */
  change(moved: Int32Array, count: number): void {
    if (count === 0) return;
    this.#pose++;
    for (let k = 0; k < count; k++) {
      const at = moved[k] as number;
      const i = Math.floor(at / CHANNELS);
      if (at - i * CHANNELS < CH_OPACITY) this.#changed[i] = this.#pose;
    }
  }

  /** Works out the matrices of object `i`, and of all above it, unless they are there. */
  need(i: number): void {
    if (i < 0 || this.#asked[i] === this.#pose) return;
    this.#asked[i] = this.#pose;
    const { parent } = (this.#program as Program).geometry;
    const p = parent[i] as number;
    this.need(p);
    const made = this.#made[i] as number;
    const isAbove = p >= 0 && (this.#made[p] as number) > made;
    if (made >= this.#anew && made >= (this.#changed[i] as number) && !isAbove) return;
    worldMatrix(this.world, parent, this.#values, i, this.#fixing);
    multiply(this.viewWorld, i * MAT, this.view, 0, this.world, i * MAT);
    this.#made[i] = this.#pose;
  }

  /** Works out the matrices alone, of all objects: what asks where something is needs no faces. */
  lay(...of: Parameters<Matrices['begin']>): void {
    this.begin(...of);
    for (let i = 0; i < this.#made.length; i++) this.need(i);
  }

  /** Where the pivot of object `i` is, in the world, or on the screen (px from the frame's middle, y up). */
  pivotInto(i: number, onScreen: boolean, out: Float64Array): void {
    this.need(i);
    const values = this.#values;
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
  #sorter: ReturnType<Depth['newOrder']> | null = null;

  /** As `place`, and in painting order. */
  build(...of: Parameters<FaceBuilder['place']>): FaceList {
    const [program, values] = of;
    const faces = this.place(...of);
    const { depth } = program;
    if (!depth) {
      byDepth(faces, allParallel(faces));
      return faces;
    }
    if (program.piece.light.contact ?? true) {
      // The view's second column is upward.
      const up = this.view.subarray(3, 6);
      depth.contacts(faces, program.geometry, values, this.viewWorld, up, this.#seen);
    }
    this.#sorter ??= depth.newOrder();
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

/**
 * Where things are and what can be hit in the pose of the present tick, from the angle of the run; worked out when
 * somebody asks, and of what has moved since somebody asked last.
 */
export class Scene {
  readonly #owner: { readonly program: Program; readonly state: RunState };
  readonly #builder = new FaceBuilder();
  /** Of the few objects whose places are asked for. */
  readonly #matrices = new Matrices();
  #hits: PointHits | null = null;
  #facesFresh = false;
  #fresh = false;
  /** The values as they were when somebody asked last, in which pose of which state that was, and which have moved since. */
  #known = new Float64Array(0);
  #knownIn: RunState | null = null;
  #knownPose = 0;
  #moved = new Int32Array(64);
  #count = 0;
  readonly #seen = new Float64Array(4).fill(Number.NaN);
  readonly #view = new Float64Array(MAT);

  constructor(owner: { readonly program: Program; readonly state: RunState }) {
    this.#owner = owner;
  }

  /** The pose, the angle or the frame is another. */
  changed(): void {
    this.#facesFresh = false;
    this.#fresh = false;
  }

  /** The values of the tick are there: what moves by itself after them asks for places among these. */
  posed(): void {
    this.#fresh = false;
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
  #posedIn(object: number): Matrices {
    this.#bringUp();
    this.#matrices.need(object);
    return this.#matrices;
  }

  /** Where the pivot of an object is in the pose on screen: in the world, or on the screen (px from the middle, y up). */
  pivot(object: number, onScreen: boolean, out: Float64Array): void {
    this.#posedIn(object).pivotInto(object, onScreen, out);
  }

  /** The matrix of an object in the world, in the pose on screen: 12 numbers, not to be changed. */
  matrix(object: number): Float64Array {
    return this.#posedIn(object).world.subarray(object * MAT, (object + 1) * MAT);
  }

  /** Where one px along an axis (0, 1, 2) of an object's parent leads on the screen. */
  axis(object: number, axis: number, out: Float64Array): void {
    this.#posedIn(-1).axisInto(this.#owner.program, object, axis, out);
  }

  /** A way along the axes of an object's parent, in the world; with the parent's scale. */
  displacementInWorld(object: number, displacement: ArrayLike<number>): Float64Array {
    const p = this.#owner.program.geometry.parent[object] as number;
    const out = Float64Array.from(displacement);
    if (p < 0) return out;
    const { world } = this.#posedIn(p);
    for (let r = 0; r < 3; r++)
      out[r] = [0, 1, 2].reduce(
        (sum, k) => sum + (displacement[k] as number) * (world[p * MAT + 3 * k + r] as number),
        0,
      );
    return out;
  }

  /** A way in the world as the parent of an object sees it in the pose on screen; without the parent's scale. */
  seenFromParent(object: number, displacement: readonly number[]): number[] {
    const p = this.#owner.program.geometry.parent[object] as number;
    if (p < 0) return [...displacement];
    const { world } = this.#posedIn(p);
    const inverse = new Float64Array(MAT);
    if (!invert(inverse, 0, world, p * MAT)) return [...displacement];
    return [0, 1, 2].map((r) =>
      displacement.reduce((sum, n, column) => sum + n * (inverse[3 * column + r] as number), 0),
    );
  }

  /** The topmost object at a point of the frame (px from its middle, y up), by number; −1 for none. */
  hit(x: number, y: number): number {
    this.#bringUp();
    return (this.#hits ?? this.#beginHits()).hit(x, y);
  }

  #beginHits(): PointHits {
    const { program } = this.#owner;
    this.#hits = new PointHits(program.geometry, this.#known, program.guides);
    this.#look(this.#hits);
    return this.#hits;
  }

  /** Learns what is not as it was when somebody asked last. From here on to the next pose, this is the pose that is asked for. */
  #bringUp(): void {
    if (this.#fresh) return;
    this.#fresh = true;
    const { program, state } = this.#owner;
    if (this.#knownIn !== state) this.#begin(program, state);
    else {
      this.#compare(program, state);
      const turned = this.#isSeenAnew();
      if (turned) this.#matrices.begin(program, this.#known, this.#angle(), this.#frame());
      else this.#matrices.change(this.#moved, this.#count);
      if (turned && this.#hits) this.#look(this.#hits);
      this.#hits?.change(this.#known, this.#moved, this.#count);
    }
    this.#knownPose = state.posed;
  }

  #begin(program: Program, state: RunState): void {
    this.#hits = null;
    this.#knownIn = state;
    this.#known = state.values.slice();
    this.#moved = new Int32Array(this.#known.length);
    state.forgetAlone();
    this.#isSeenAnew();
    this.#matrices.begin(program, this.#known, this.#angle(), this.#frame());
  }

  /** Looks through what lanes have written since, and what something else has set. */
  #compare(program: Program, state: RunState): void {
    const { slots, firstSlot } = program.plain;
    const { posedIn, alone, aloneCount } = state;
    this.#count = 0;
    for (let i = 0; i < posedIn.length; i++) {
      if ((posedIn[i] as number) < this.#knownPose) continue;
      const end = firstSlot[i + 1] as number;
      for (let k = firstSlot[i] as number; k < end; k++) this.#learn(state.values, slots[k] as number);
    }
    for (let k = 0; k < aloneCount; k++) this.#learn(state.values, alone[k] as number);
    state.forgetAlone();
  }

  #learn(values: Float64Array, at: number): void {
    if (this.#known[at] === values[at]) return;
    this.#known[at] = values[at] as number;
    this.#moved[this.#count++] = at;
  }

  /** Whether people see it from another angle, or in another size, than when this was asked last. */
  #isSeenAnew(): boolean {
    const { one } = this.#owner.state;
    const seen = this.#seen;
    let same = true;
    for (let k = 0; k < 4; k++) {
      const now = one[AZIMUTH + k] as number;
      if (seen[k] !== now) same = false;
      seen[k] = now;
    }
    return !same;
  }

  #look(hits: PointHits): void {
    const { width, height } = this.#frame();
    viewMatrix(this.#angle(), this.#view);
    hits.look({ view: this.#view, halfWidth: width / 2, halfHeight: height / 2 });
  }
}
