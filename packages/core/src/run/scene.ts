/** From poses to what is seen: matrices, and faces that are painted and hit. */
import { invert, MAT, multiply } from '../base/index.ts';
import {
  buildFaces,
  FaceList,
  hitTop,
  lightDirection,
  PaintOrder,
  viewMatrix,
  worldMatrices,
} from '../world/index.ts';
import type { Program } from './compile.ts';
import { AZIMUTH, ELEVATION, FRAME_HEIGHT, FRAME_WIDTH, type RunState } from './state.ts';

export interface Angle {
  readonly azimuth: number;
  readonly elevation: number;
}

/** Poses → faces in painting order, with buffers that are reused from call to call. */
export class FaceBuilder {
  readonly faces = new FaceList();
  /** World matrices of the pose last built, 12 numbers an object. */
  world = new Float64Array(0);
  private viewWorld = new Float64Array(0);
  private seen = new Float64Array(0);
  private readonly sorter = new PaintOrder();
  private readonly view = new Float64Array(MAT);
  private readonly unview = new Float64Array(MAT);

  /** As `place`, and in painting order. */
  build(...of: Parameters<FaceBuilder['place']>): FaceList {
    this.place(...of);
    this.sorter.sort(this.faces);
    return this.faces;
  }

  /** The faces in the order of the tree. `frame` is what people see of the piece: objects on top stand at its edges. `skip` leaves out the objects with a 1 there: by default the guides, which are seen only while making. */
  place(
    program: Program,
    values: Float64Array,
    angle: Angle,
    skip: Uint8Array | null = program.guides,
    frame: { readonly width: number; readonly height: number } = program.piece.frame,
  ): FaceList {
    const n = program.objects.length;
    if (this.seen.length !== n) {
      this.world = new Float64Array(n * MAT);
      this.viewWorld = new Float64Array(n * MAT);
      this.seen = new Float64Array(n);
    }
    viewMatrix(angle, this.view);
    // The view only turns, so its inverse is always there.
    invert(this.unview, 0, this.view, 0);
    worldMatrices(this.world, program.geometry.parent, values, {
      overlays: program.geometry.overlays,
      halfWidth: frame.width / 2,
      halfHeight: frame.height / 2,
      unview: this.unview,
    });
    for (let i = 0; i < n; i++) multiply(this.viewWorld, i * MAT, this.view, 0, this.world, i * MAT);
    const [x, y, z] = lightDirection(program.piece.light);
    const v = this.view;
    const at = (r: number) => (v[r] as number) * x + (v[3 + r] as number) * y + (v[6 + r] as number) * z;
    buildFaces(this.faces, program.geometry, values, this.viewWorld, [at(0), at(1), at(2)], this.seen, skip);
    return this.faces;
  }
}

/** What can be hit at the present tick: the faces from the angle of the run, worked out when somebody asks. */
export class Scene {
  private readonly owner: { readonly program: Program; readonly state: RunState };
  private readonly builder = new FaceBuilder();
  private fresh = false;

  constructor(owner: { readonly program: Program; readonly state: RunState }) {
    this.owner = owner;
  }

  changed(): void {
    this.fresh = false;
  }

  /** In tree order: who paints them sorts them. */
  faces(): FaceList {
    if (!this.fresh) {
      const { program, state } = this.owner;
      const [azimuth, elevation] = [state.one[AZIMUTH] as number, state.one[ELEVATION] as number];
      const frame = { width: state.one[FRAME_WIDTH] as number, height: state.one[FRAME_HEIGHT] as number };
      this.builder.place(program, state.values, { azimuth, elevation }, program.guides, frame);
      this.fresh = true;
    }
    return this.builder.faces;
  }

  /** The topmost object at a point of the frame (px from its middle, y up), by number; −1 for none. */
  hit(x: number, y: number): number {
    return hitTop(this.faces(), x, y);
  }
}
