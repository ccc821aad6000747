/**
 * Objects as faces: every flat thing is one face, every box up to three. A face is a shape in its own plane (u, v)
 * with an affine map to the frame, so painting, hit tests and exports all work on the same numbers.
 */
import { oklabToRgb, shadeRgb } from '../base/index.ts';
import { CH_FILL, CH_OPACITY, CH_SHOWN, CHANNELS } from '../model/index.ts';

export const SHAPE_NONE = 0;
export const SHAPE_RECT = 1;
export const SHAPE_ELLIPSE = 2;
export const SHAPE_BOX = 3;

/** What the faces of an object are made from; one entry per object in tree order. */
export interface Geometry {
  readonly parent: Int32Array;
  readonly shape: Uint8Array;
  /** Width, height, depth per object, px. */
  readonly size: Float64Array;
  readonly radius: Float64Array;
}

/**
 * Faces as parallel arrays, reused from frame to frame. `order[0…count−1]` are face numbers from the one painted
 * first to the one painted last. View space: x right, y up, z toward the viewer, px, origin at the frame's centre.
 */
export class FaceList {
  count = 0;
  order = new Int32Array(64);
  object = new Int32Array(64);
  /** SHAPE_RECT or SHAPE_ELLIPSE. */
  shape = new Uint8Array(64);
  /** Per face: centre (3), the view-space vectors of one px along u (3) and along v (3). */
  plane = new Float64Array(64 * 9);
  /** Half width, half height, corner radius. */
  extent = new Float64Array(64 * 3);
  rgb = new Int32Array(64);
  opacity = new Float64Array(64);
  /** 1 for a face of a solid: it gets a thin line round it. */
  solid = new Uint8Array(64);
  /** The outline in (u, v) when a face was split; null for a whole one. A convex polygon. */
  piece: (Float64Array | null)[] = [];

  grow(): void {
    const n = this.object.length * 2;
    const wider = <T extends Int32Array | Uint8Array | Float64Array>(a: T, per: number): T => {
      const b = new (a.constructor as new (n: number) => T)(n * per);
      b.set(a);
      return b;
    };
    this.order = wider(this.order, 1);
    this.object = wider(this.object, 1);
    this.shape = wider(this.shape, 1);
    this.plane = wider(this.plane, 9);
    this.extent = wider(this.extent, 3);
    this.rgb = wider(this.rgb, 1);
    this.opacity = wider(this.opacity, 1);
    this.solid = wider(this.solid, 1);
  }

  /** A copy of face f with another outline; returns its number. */
  split(f: number, piece: Float64Array): number {
    if (this.count === this.object.length) this.grow();
    const n = this.count++;
    this.object[n] = this.object[f] as number;
    this.shape[n] = this.shape[f] as number;
    this.plane.copyWithin(n * 9, f * 9, f * 9 + 9);
    this.extent.copyWithin(n * 3, f * 3, f * 3 + 3);
    this.rgb[n] = this.rgb[f] as number;
    this.opacity[n] = this.opacity[f] as number;
    this.solid[n] = this.solid[f] as number;
    this.piece[n] = piece;
    return n;
  }
}

/** Light on a face that looks straight at it is 1; on one turned away, this much. */
const AMBIENT = 0.66;
/** Faces seen more edge-on than this many px² per px² are not drawn. */
const EDGE_ON = 1e-9;

/**
 * Fills `out` with the visible faces in tree order; `out.order` is left as 0, 1, 2, ….
 * `values` are the objects' channels, `viewWorld` their matrices to view space (12 each), `light` the unit vector
 * toward the light in view space. A hidden or wholly transparent object has none, nor has anything below it.
 */
export function buildFaces(
  out: FaceList,
  g: Geometry,
  values: Float64Array,
  viewWorld: Float64Array,
  light: ArrayLike<number>,
  seen: Float64Array,
): void {
  out.count = 0;
  const n = g.parent.length;
  for (let i = 0; i < n; i++) {
    const row = i * CHANNELS;
    const parent = g.parent[i] as number;
    const above = parent < 0 ? 1 : (seen[parent] as number);
    const opacity =
      (values[row + CH_SHOWN] as number) >= 0.5 ? above * (values[row + CH_OPACITY] as number) : 0;
    seen[i] = opacity;
    const shape = g.shape[i] as number;
    if (shape === SHAPE_NONE || opacity === 0) continue;
    const rgb = oklabToRgb(
      values[row + CH_FILL] as number,
      values[row + CH_FILL + 1] as number,
      values[row + CH_FILL + 2] as number,
    );
    if (shape === SHAPE_BOX) addBox(out, g, viewWorld, light, i, rgb, opacity);
    else addFlat(out, g, viewWorld, i, shape, rgb, opacity);
  }
  for (let f = 0; f < out.count; f++) out.order[f] = f;
}

function addFlat(
  out: FaceList,
  g: Geometry,
  m: Float64Array,
  i: number,
  shape: number,
  rgb: number,
  opacity: number,
): void {
  const o = i * 12;
  const nz = (m[o] as number) * (m[o + 4] as number) - (m[o + 1] as number) * (m[o + 3] as number);
  if (Math.abs(nz) < EDGE_ON) return;
  const f = next(out, i, shape, rgb, opacity, 0);
  for (let k = 0; k < 3; k++) {
    out.plane[f * 9 + k] = m[o + 9 + k] as number;
    out.plane[f * 9 + 3 + k] = m[o + k] as number;
    out.plane[f * 9 + 6 + k] = m[o + 3 + k] as number;
  }
  setExtent(out, f, (g.size[i * 3] as number) / 2, (g.size[i * 3 + 1] as number) / 2, g.radius[i] as number);
}

function addBox(
  out: FaceList,
  g: Geometry,
  m: Float64Array,
  light: ArrayLike<number>,
  i: number,
  rgb: number,
  opacity: number,
): void {
  const o = i * 12;
  for (let axis = 0; axis < 3; axis++) {
    // The face's plane is spanned by the other two axes, in an order that keeps u × v along the axis.
    const u = o + ((axis + 1) % 3) * 3;
    const v = o + ((axis + 2) % 3) * 3;
    const nx = (m[u + 1] as number) * (m[v + 2] as number) - (m[u + 2] as number) * (m[v + 1] as number);
    const ny = (m[u + 2] as number) * (m[v] as number) - (m[u] as number) * (m[v + 2] as number);
    const nz = (m[u] as number) * (m[v + 1] as number) - (m[u + 1] as number) * (m[v] as number);
    if (Math.abs(nz) < EDGE_ON) continue;
    const along = o + axis * 3;
    const det = nx * (m[along] as number) + ny * (m[along + 1] as number) + nz * (m[along + 2] as number);
    // Outward normals are ±n, mirrored when the object is; the one that looks at the viewer is drawn.
    const mirrored = det < 0 ? -1 : 1;
    const side = nz * mirrored > 0 ? 1 : -1;
    const len = Math.sqrt(nx * nx + ny * ny + nz * nz) * side * mirrored;
    const lit = (nx * (light[0] as number) + ny * (light[1] as number) + nz * (light[2] as number)) / len;
    const f = next(
      out,
      i,
      SHAPE_RECT,
      shadeRgb(rgb, AMBIENT + (1.04 - AMBIENT) * Math.max(0, lit)),
      opacity,
      1,
    );
    const half = ((g.size[i * 3 + axis] as number) / 2) * side;
    for (let k = 0; k < 3; k++) {
      out.plane[f * 9 + k] = (m[o + 9 + k] as number) + (m[along + k] as number) * half;
      out.plane[f * 9 + 3 + k] = m[u + k] as number;
      out.plane[f * 9 + 6 + k] = m[v + k] as number;
    }
    const su = (g.size[i * 3 + ((axis + 1) % 3)] as number) / 2;
    setExtent(out, f, su, (g.size[i * 3 + ((axis + 2) % 3)] as number) / 2, 0);
  }
}

function next(out: FaceList, i: number, shape: number, rgb: number, opacity: number, solid: number): number {
  if (out.count === out.object.length) out.grow();
  const f = out.count++;
  out.object[f] = i;
  out.shape[f] = shape;
  out.rgb[f] = rgb;
  out.opacity[f] = opacity;
  out.solid[f] = solid;
  out.piece[f] = null;
  return f;
}

function setExtent(out: FaceList, f: number, hw: number, hh: number, radius: number): void {
  out.extent[f * 3] = hw;
  out.extent[f * 3 + 1] = hh;
  out.extent[f * 3 + 2] = Math.min(radius, hw, hh);
}
