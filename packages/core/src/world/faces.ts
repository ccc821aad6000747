/**
 * What is on the screen, as faces: shapes in their own planes (u, v) with an affine map to the frame, so that
 * painting, hit tests and exports all work on the same numbers.
 * It is long since the list of faces is one set of arrays side by side, filled and read by these functions alone.
 */
import { determinant, grown, normalOf, oklabToRgb, shadeRgb, timesRgb } from '../base/index.ts';
import { CH_DASH, CH_FILL, CH_LOOK, CH_OPACITY, CH_SHOWN, CH_TEXT, CHANNELS } from '../model/index.ts';
import { EDGE_NONE, type FaceStyle, FLAT, type LocalFace, type ObjectGeometry, OUTER } from './drawing.ts';
import type { Geometry, MaskUse, Region } from './geometry.ts';
import { ellipseOutline, type Outline } from './outline.ts';

/** What fills a face: its colour; nothing, only its stroke; its style's gradient; a ball's colour, lit at `spot`. */
export const FILL_COLOR = 0;
export const FILL_NONE = 1;
export const FILL_GRADIENT = 2;
export const FILL_BALL = 3;
/** Not painted: it is only hit. */
export const FILL_HIT = 4;
/** Its colour runs from one end to the other: a piece of a curved wall. */
export const FILL_BENT = 5;

/** A soft shadow of a solid on the face that it stands on: see `contact.ts`. */
export interface Contact {
  /** A convex polygon in the (u, v) of the face that it falls on. */
  readonly polygon: Float64Array;
  /** 1 where the solid touches, toward 0 where it is almost 12 px above. */
  readonly strength: number;
  /** How far its soft edge reaches, px. */
  readonly spread: number;
}

const UNIT_CIRCLE = ellipseOutline(2, 2);

/**
 * Faces as parallel arrays, reused from frame to frame. `order[0…count−1]` are face numbers from the one painted
 * first to the one painted last. View space: x right, y up, z toward the viewer, px, origin at the frame's centre.
 */
export class FaceList {
  count = 0;
  order = new Int32Array(64);
  object = new Int32Array(64);
  /** Which face of its object's drawing it is; −1 for its hit shape. */
  part = new Int32Array(64);
  /** Per face: centre (3), the view-space vectors of one px along u (3) and along v (3). */
  plane = new Float64Array(64 * 9);
  rgb = new Int32Array(64);
  /** Of the face within the innermost of what is painted as one; see `whole`. */
  opacity = new Float64Array(64);
  /** The innermost object that is painted as one, with its own opacity or blend, and has the face; −1 for none. */
  whole = new Int32Array(64);
  /** By object, where it is painted as one: the next such above it, −1 for none; how opaque it is; its blend, as in `Geometry.wholes`. */
  readonly wholeAbove: number[] = [];
  readonly wholeOpacity: number[] = [];
  readonly wholeBlend: number[] = [];
  /** FLAT, OUTER or INNER. */
  side = new Uint8Array(64);
  /** EDGE_…: the line round a face of a solid. */
  edge = new Uint8Array(64);
  /** FILL_…. */
  fill = new Uint8Array(64);
  /** How much later its dashes begin than its stroke says, px. */
  dash = new Float64Array(64);
  /** How light the face of a solid is: what its colour, and the picture on it, are multiplied by. */
  shade = new Float64Array(64);
  /** Where a ball is brightest, in (u, v). */
  spot = new Float64Array(64 * 2);
  /** Of a piece of a curved wall (FILL_BENT): its colour at its left and right end. */
  ends = new Int32Array(64 * 2);
  /** The contact shadows that fall on each face; absent for none. */
  contacts: (Contact[] | undefined)[] = [];
  /** 1 for what is drawn but hit elsewhere, by its hit shape. */
  unhit = new Uint8Array(64);
  /** 1 for what is on top: painted after everything else. */
  layer = new Uint8Array(64);
  outline: Outline[] = [];
  /** The masks that the face shows through; null for none. */
  masks: (readonly MaskUse[] | null)[] = [];
  /** The faces that make up the masks: those of region r are `regionStart[r]` up to `regionStart[r + 1]`. */
  regions: FaceList | null = null;
  regionStart: number[] = [];
  style: (FaceStyle | null)[] = [];
  /** The outline in (u, v) when a face was split; null for a whole one. A convex polygon. */
  piece: (Float64Array | null)[] = [];
  /** What of a split face is painted: a little more than `piece`, behind its other part, so that no seam is seen. */
  painted: (Float64Array | null)[] = [];

  #grow(): void {
    const n = this.object.length * 2;
    const wider = <T extends Int32Array | Uint8Array | Float64Array>(a: T, per: number) => grown(a, n * per);
    this.order = wider(this.order, 1);
    this.object = wider(this.object, 1);
    this.part = wider(this.part, 1);
    this.plane = wider(this.plane, 9);
    this.rgb = wider(this.rgb, 1);
    this.opacity = wider(this.opacity, 1);
    this.whole = wider(this.whole, 1);
    this.side = wider(this.side, 1);
    this.edge = wider(this.edge, 1);
    this.fill = wider(this.fill, 1);
    this.shade = wider(this.shade, 1);
    this.dash = wider(this.dash, 1);
    this.spot = wider(this.spot, 2);
    this.ends = wider(this.ends, 2);
    this.layer = wider(this.layer, 1);
    this.unhit = wider(this.unhit, 1);
  }

  /** A new face; its plane and spot are still to be written. */
  add(object: number, part: number, outline: Outline, rgb: number, opacity: number): number {
    if (this.count === this.object.length) this.#grow();
    const f = this.count++;
    this.object[f] = object;
    this.part[f] = part;
    this.outline[f] = outline;
    this.rgb[f] = rgb;
    this.opacity[f] = opacity;
    this.whole[f] = -1;
    this.side[f] = FLAT;
    this.edge[f] = EDGE_NONE;
    this.fill[f] = FILL_COLOR;
    this.shade[f] = 1;
    this.dash[f] = 0;
    this.style[f] = null;
    this.piece[f] = null;
    this.painted[f] = null;
    this.masks[f] = null;
    this.layer[f] = 0;
    this.unhit[f] = 0;
    return f;
  }

  /** A copy of face f that is only a part of it; returns its number. */
  split(f: number, piece: Float64Array, painted: Float64Array): number {
    const n = this.add(
      this.object[f] as number,
      this.part[f] as number,
      this.outline[f] as Outline,
      this.rgb[f] as number,
      this.opacity[f] as number,
    );
    this.plane.copyWithin(n * 9, f * 9, f * 9 + 9);
    this.spot.copyWithin(n * 2, f * 2, f * 2 + 2);
    this.ends.copyWithin(n * 2, f * 2, f * 2 + 2);
    const shadows = this.contacts[f];
    if (shadows) this.contacts[n] = shadows;
    const { side, edge, fill, shade, dash, layer, unhit } = this;
    for (const of of [side, edge, fill, shade, dash, layer, unhit]) of[n] = of[f] as number;
    this.whole[n] = this.whole[f] as number;
    this.style[n] = this.style[f] as FaceStyle | null;
    this.masks[n] = this.masks[f] as readonly MaskUse[] | null;
    this.piece[n] = piece;
    this.painted[n] = painted;
    return n;
  }
}

/** Light on a face that is turned away from it, and what it gains when it looks straight at it. */
const AMBIENT = 0.78;
const DIRECT = 0.27;
/** By so much a face that looks at the viewer comes nearer to its own fill. */
const FACING = 0.35;
/** Faces seen more edge-on than this many px² per px² are not drawn. */
const EDGE_ON = 1e-9;

/**
 * Fills `out` with the visible faces in tree order; `out.order` is left as 0, 1, 2, ….
 * `values` are the objects' channels, `viewWorld` their matrices to view space (12 each), `light` the unit vector
 * toward the light in view space; `seen` receives each object's opacity with what lies above it, −1 for what is not
 * shown. A hidden or wholly
 * transparent object has no faces, nor has anything below it; an object with 1 in `skip` has none itself.
 */
export function buildFaces(
  out: FaceList,
  g: Geometry,
  values: Float64Array,
  viewWorld: Float64Array,
  light: ArrayLike<number>,
  seen: Float64Array,
  skip: Uint8Array | null = null,
): void {
  out.count = 0;
  out.contacts.length = 0;
  const n = g.parent.length;
  if (wholes.length < n) wholes = new Int32Array(n);
  for (let i = 0; i < n; i++) {
    const row = i * CHANNELS;
    const parent = g.parent[i] as number;
    const above = parent < 0 ? 1 : (seen[parent] as number);
    const shown = above >= 0 && (values[row + CH_SHOWN] as number) >= 0.5;
    const own = values[row + CH_OPACITY] as number;
    const opacity = shown ? above * own : -1;
    seen[i] = opacity;
    if (opacity < 0) continue;
    let whole = parent < 0 ? -1 : (wholes[parent] as number);
    const kind = g.wholes[i] as number;
    if (kind > 1 || (kind === 1 && own > 0 && own < 1)) {
      out.wholeAbove[i] = whole;
      out.wholeOpacity[i] = opacity / Math.max(1e-9, whole < 0 ? 1 : (seen[whole] as number));
      out.wholeBlend[i] = kind;
      whole = i;
    }
    wholes[i] = whole;
    if (skip?.[i] === 1) continue;
    const first = out.count;
    addObject(
      out,
      g,
      values,
      viewWorld,
      light,
      i,
      whole < 0 || opacity === 0 ? opacity : opacity / (seen[whole] as number),
    );
    for (let f = first; f < out.count; f++) out.whole[f] = whole;
  }
  buildRegions(out, g, values, viewWorld, light);
  for (let f = 0; f < out.count; f++) out.order[f] = f;
}

/** The innermost object painted as one that each object is, or is in; of the list that is being made. */
let wholes = new Int32Array(64);

/** Adds the faces of one shown object that are seen, and its hit shape; of a wholly transparent one only that. */
export function addObject(
  out: FaceList,
  g: Geometry,
  values: Float64Array,
  viewWorld: Float64Array,
  light: ArrayLike<number>,
  i: number,
  opacity: number,
  near: Near | null = null,
): void {
  const row = i * CHANNELS;
  const object = drawingOf(g, values, i);
  if (object.hit) {
    const f = addFace(out, viewWorld, i, -1, object.hit, 0, 1, light, near);
    if (f >= 0) {
      out.fill[f] = FILL_HIT;
      out.masks[f] = g.masks[i] ?? null;
      out.layer[f] = g.onTop[i] as number;
    }
  }
  if (opacity === 0 || (object.faces.length === 0 && !object.ball)) return;
  const L = values[row + CH_FILL] as number;
  const a = values[row + CH_FILL + 1] as number;
  const b = values[row + CH_FILL + 2] as number;
  // A written colour stands over a gradient or the look's own, and fills what has no fill.
  const plain = g.plain[i * 3] === L && g.plain[i * 3 + 1] === a && g.plain[i * 3 + 2] === b;
  const rgb = plain ? object.rgb : oklabToRgb(L, a, b);
  const written = g.stops?.get(i);
  const style = written && object.style ? written.style(object.style, values) : object.style;
  const fill =
    !plain || !style ? FILL_COLOR : !style.filled ? FILL_NONE : style.gradient ? FILL_GRADIENT : FILL_COLOR;
  if (fill === FILL_NONE && style?.stroke == null && !object.pictured) return;
  const first = out.count;
  if (object.ball) addBall(out, viewWorld, i, object.ball, rgb, opacity, light);
  else
    for (let k = 0; k < object.faces.length; k++) {
      const face = object.faces[k] as LocalFace;
      const own = face.tint === undefined ? rgb : timesRgb(rgb, face.tint);
      const f = addFace(out, viewWorld, i, k, face, own, opacity, light, near);
      if (f < 0) continue;
      out.fill[f] = fill;
      out.style[f] = face.style ?? style;
      if (face.bend && fill === FILL_COLOR) {
        const mirror = determinant(viewWorld, i * 12) < 0 ? -1 : 1;
        out.fill[f] = FILL_BENT;
        out.ends[f * 2] = shadeRgb(rgb, lit(from, mirror, light, -face.bend[0]));
        out.ends[f * 2 + 1] = shadeRgb(rgb, lit(from, mirror, light, face.bend[1]));
      }
    }
  for (let f = first; f < out.count; f++) {
    out.masks[f] = g.masks[i] ?? null;
    out.layer[f] = g.onTop[i] as number;
    out.unhit[f] = object.hit ? 1 : 0;
    out.dash[f] = (values[row + CH_DASH] as number) - (g.dashes[i] as number);
  }
}

/** What an object is drawn as now, with the look that it has. */
export function drawingOf(g: Geometry, values: Float64Array, i: number): ObjectGeometry {
  const texts = g.texts[i];
  if (texts && values[i * CHANNELS + CH_TEXT] !== texts.own)
    return texts.drawing(values[i * CHANNELS + CH_LOOK] as number, values[i * CHANNELS + CH_TEXT] as number);
  const looks = g.looks[i];
  const own = g.objects[i] as ObjectGeometry;
  return looks ? (looks.get(values[i * CHANNELS + CH_LOOK] as number) ?? own) : own;
}

/** The outlines of the masks. A mask works whether or not it is shown, and however transparent. */
function buildRegions(
  out: FaceList,
  g: Geometry,
  values: Float64Array,
  viewWorld: Float64Array,
  light: ArrayLike<number>,
): void {
  if (g.regions.length === 0) return;
  out.regions ??= new FaceList();
  const { regions } = out;
  regions.count = 0;
  out.regionStart.length = 0;
  for (const region of g.regions) {
    out.regionStart.push(regions.count);
    for (const i of region.objects) addRegionPart(regions, g, values, viewWorld, light, region, i);
  }
  out.regionStart.push(regions.count);
}

/** Adds what one of a mask's objects covers, whether or not it is shown. */
export function addRegionPart(
  out: FaceList,
  g: Geometry,
  values: Float64Array,
  viewWorld: Float64Array,
  light: ArrayLike<number>,
  region: Region,
  i: number,
  near: Near | null = null,
): void {
  const drawing = drawingOf(g, values, i);
  const opaque = region.shapes.get(drawing);
  if (opaque) for (const face of opaque) addFace(out, viewWorld, i, 0, face, 0, 1, light, near);
  else if (drawing.ball) addBall(out, viewWorld, i, drawing.ball, 0, 1, light);
  else for (const face of drawing.faces) addFace(out, viewWorld, i, 0, face, 0, 1, light, near);
}

/** A view-space point: faces whose bounds, and `reach` px round them, do not hold it are left out. */
export interface Near {
  x: number;
  y: number;
  reach: number;
}

const from = new Float64Array(9);

function addFace(
  out: FaceList,
  m: Float64Array,
  i: number,
  part: number,
  face: LocalFace,
  rgb: number,
  opacity: number,
  light: ArrayLike<number>,
  near: Near | null,
): number {
  const o = i * 12;
  for (let k = 0; k < 3; k++) {
    const [mx, my, mz] = [m[o + k] as number, m[o + 3 + k] as number, m[o + 6 + k] as number];
    from[k] = mx * face.origin[0] + my * face.origin[1] + mz * face.origin[2] + (m[o + 9 + k] as number);
    from[3 + k] = mx * face.u[0] + my * face.u[1] + mz * face.u[2];
    from[6 + k] = mx * face.v[0] + my * face.v[1] + mz * face.v[2];
  }
  const nz = (from[3] as number) * (from[7] as number) - (from[4] as number) * (from[6] as number);
  if (Math.abs(nz) < EDGE_ON || (near && liesBeside(near, face, nz))) return -1;
  let shade = 1;
  if (face.side !== FLAT) {
    // u × v points outward, unless the object is mirrored; what looks away from the viewer is not drawn.
    const mirror = determinant(m, o) < 0 ? -1 : 1;
    if (nz * mirror < 0) return -1;
    shade = lit(from, mirror, light, 0);
  }
  const f = out.add(i, part, face.outline, face.side === FLAT ? rgb : shadeRgb(rgb, shade), opacity);
  out.plane.set(from, f * 9);
  out.side[f] = face.side;
  out.edge[f] = face.edge;
  out.shade[f] = shade;
  return f;
}

/** Whether the point lies outside the bounds of the face whose plane is in `from`; `det` is its turn on the screen. */
function liesBeside(near: Near, face: LocalFace, det: number): boolean {
  const [u0, v0, u1, v1] = face.outline.bounds;
  const dx = near.x - (from[0] as number);
  const dy = near.y - (from[1] as number);
  const u = (dx * (from[7] as number) - dy * (from[6] as number)) / det;
  const v = ((from[3] as number) * dy - (from[4] as number) * dx) / det;
  const r = near.reach;
  return u < u0 - r || u > u1 + r || v < v0 - r || v > v1 + r;
}

/** The light on a face, or where its wall has turned about v by an angle whose sine is `turn`. */
function lit(p: Float64Array, mirror: number, light: ArrayLike<number>, turn: number): number {
  normalOf(p, 0, normal);
  let [along, length] = [0, 0];
  for (let k = 0; k < 3; k++) length += (p[3 + k] as number) * (p[3 + k] as number);
  length = Math.sqrt(length) || 1;
  const c = Math.sqrt(1 - turn * turn);
  let toward = 0;
  for (let k = 0; k < 3; k++) {
    const n = (normal[k] as number) * mirror * c + ((p[3 + k] as number) / length) * turn;
    along += n * (light[k] as number);
    if (k === 2) toward = Math.max(0, n);
  }
  // Half of what is turned away is lit by what is round it.
  const level = AMBIENT + DIRECT * (0.5 + 0.5 * along);
  return level + (1 - level) * FACING * toward;
}

const normal = new Float64Array(3);

/**
 * A ball is seen as an ellipse, whatever its turn: with P the upper two rows of (matrix · half sizes), the outline is
 * the unit circle under the lower triangular L with L·Lᵀ = P·Pᵀ (Cholesky). It stands in the plane through its centre.
 */
function addBall(
  out: FaceList,
  m: Float64Array,
  i: number,
  half: readonly [number, number, number],
  rgb: number,
  opacity: number,
  light: ArrayLike<number>,
): void {
  const o = i * 12;
  let [xx, xy, yy] = [0, 0, 0];
  for (let k = 0; k < 3; k++) {
    const x = (m[o + k * 3] as number) * (half[k] as number);
    const y = (m[o + k * 3 + 1] as number) * (half[k] as number);
    xx += x * x;
    xy += x * y;
    yy += y * y;
  }
  const l11 = Math.sqrt(xx);
  if (l11 < 1e-6) return;
  const l21 = xy / l11;
  const l22 = Math.sqrt(Math.max(0, yy - l21 * l21));
  if (l22 < 1e-6) return;
  const f = out.add(i, 0, UNIT_CIRCLE, rgb, opacity);
  const centre = m.subarray(o + 9, o + 12);
  out.plane.set([...centre, l11, l21, 0, 0, l22, 0], f * 9);
  out.side[f] = OUTER;
  out.fill[f] = FILL_BALL;
  // The point whose normal looks at the light: s = (matrix · half)ᵀ · light, made a unit vector.
  let [sx, sy, len] = [0, 0, 0];
  for (let k = 0; k < 3; k++) {
    const c = o + k * 3;
    const h = half[k] as number;
    const s =
      ((m[c] as number) * (light[0] as number) +
        (m[c + 1] as number) * (light[1] as number) +
        (m[c + 2] as number) * (light[2] as number)) *
      h;
    sx += (m[c] as number) * h * s;
    sy += (m[c + 1] as number) * h * s;
    len += s * s;
  }
  const r = Math.sqrt(len) || 1;
  out.spot[f * 2] = sx / r / l11;
  out.spot[f * 2 + 1] = (sy / r - l21 * (out.spot[f * 2] as number)) / l22;
}
