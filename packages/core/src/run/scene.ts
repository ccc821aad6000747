/** What is on the screen at the present tick: matrices and sorted faces, worked out when somebody asks. */
import { invert, MAT, multiply } from '../base/index.ts';
import {
  buildFaces,
  FaceList,
  lightDirection,
  PaintOrder,
  viewMatrix,
  worldMatrices,
} from '../world/index.ts';
import type { Program } from './compile.ts';

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

  /** `frame` is what people see of the piece: objects on top stand at its edges. `skip` leaves out the objects with a 1 there: by default the guides, which are seen only while making. */
  build(
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
    this.sorter.sort(this.faces);
    return this.faces;
  }
}

export class Scene {
  private readonly owner: { program: Program; state: { values: Float64Array; view: Angle } };
  private readonly builder = new FaceBuilder();
  private fresh = false;

  constructor(owner: { program: Program; state: { values: Float64Array; view: Angle } }) {
    this.owner = owner;
  }

  changed(): void {
    this.fresh = false;
  }

  /** What people see of the piece where it is shown, when that is not just its frame: px. */
  private frame: { readonly width: number; readonly height: number } | null = null;
  setFrame(frame: { readonly width: number; readonly height: number } | null): void {
    if (frame?.width === this.frame?.width && frame?.height === this.frame?.height) return;
    this.frame = frame;
    this.changed();
  }

  faces(): FaceList {
    if (!this.fresh) {
      const { program, state } = this.owner;
      const frame = this.frame ?? program.piece.frame;
      this.builder.build(program, state.values, state.view, program.guides, frame);
      this.fresh = true;
    }
    return this.builder.faces;
  }
}
