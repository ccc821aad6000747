/** What is on the screen at the present tick: matrices and sorted faces, worked out when somebody asks. */
import { MAT, multiply } from '../base/index.ts';
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

  /** `skip` leaves out the objects with a 1 there: by default the guides, which are seen only while making. */
  build(
    program: Program,
    values: Float64Array,
    angle: Angle,
    skip: Uint8Array | null = program.guides,
  ): FaceList {
    const n = program.objects.length;
    if (this.seen.length !== n) {
      this.world = new Float64Array(n * MAT);
      this.viewWorld = new Float64Array(n * MAT);
      this.seen = new Float64Array(n);
    }
    viewMatrix(angle, this.view);
    worldMatrices(this.world, program.geometry.parent, values);
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

  faces(): FaceList {
    if (!this.fresh) {
      this.builder.build(this.owner.program, this.owner.state.values, this.owner.state.view);
      this.fresh = true;
    }
    return this.builder.faces;
  }
}
