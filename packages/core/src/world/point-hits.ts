/**
 * The topmost object at one point, asked again and again while things move. Each object has a ball, round the point about
 * which it turns, that holds it and all below it: an object whose ball lies beside the point is passed over with all
 * below it, and while nothing moves whose ball reaches the point, the answer stands. What `hitTop` says of all faces,
 * this says of the few that matter.
 */
import { composeLocal, MAT, multiply } from '../base/index.ts';
import { CH_OPACITY, CH_SHOWN, CHANNELS } from '../model/index.ts';
import { SAME_DEPTH } from './depth-order.ts';
import type { LocalFace, ObjectGeometry } from './drawing.ts';
import { addObject, addRegionPart, FaceList, type Near } from './faces.ts';
import type { Geometry, MaskUse, Region } from './geometry.ts';
import { faceContains } from './hit.ts';
import { depthAt } from './plane.ts';

/** What light falls on decides no hit. */
const NO_LIGHT = [0, 0, 1];
/** Balls are this much larger, for what sums of rounded numbers may lack. */
const SLACK = 1e-6;

export interface HitFrame {
  /** World → view space. */
  readonly view: Float64Array;
  /** Half the width and height of what people see, px. */
  readonly halfWidth: number;
  readonly halfHeight: number;
}

export class PointHits {
  readonly #g: Geometry;
  readonly #skip: Uint8Array;
  /** Objects below each one that move with it, and those that do not, as roots: all but what is on top in a tree. */
  readonly #children: readonly (readonly number[])[];
  readonly #roots: readonly number[];
  /** 1 where something below is part of a mask: it decides hits elsewhere, too. */
  readonly #inMask: Uint8Array;
  /** Half the width of the widest stroke of an object's drawings. */
  readonly #strokes: Float64Array;
  /** How far an object's own drawings reach from its origin. */
  readonly #own: Float64Array;
  /** The radius of its ball before and after its own scale; it never shrinks. */
  readonly #inner: Float64Array;
  readonly #radius: Float64Array;
  readonly #local: Float64Array;
  readonly #world: Float64Array;
  /** The largest scale of the object's chain. */
  readonly #gain: Float64Array;
  /** Counts changes: when an object's values, its local matrix and its matrix to view space were last made. */
  #version = 1;
  readonly #changed: Int32Array;
  readonly #localMade: Int32Array;
  readonly #worldMade: Int32Array;
  /** Where the ball was last seen: x, y, radius, px; a radius of −1 when it was not. */
  readonly #seenBall: Float64Array;

  readonly #faces = new FaceList();
  readonly #maskFaces = new FaceList();
  #values: Float64Array = new Float64Array(0);
  #frame: HitFrame | null = null;
  #frameVersion = 0;
  #x = Number.NaN;
  #y = Number.NaN;
  #answer = -1;
  #stands = false;

  readonly #near: Near = { x: 0, y: 0, reach: 0 };
  // The best so far in a search.
  #layer = -1;
  #depth = 0;
  #object = -1;

  /** `skip`: objects with a 1 there are not hit themselves. */
  constructor(g: Geometry, values: Float64Array, skip: Uint8Array) {
    this.#g = g;
    this.#skip = skip;
    const n = g.parent.length;
    const children: number[][] = Array.from({ length: n }, () => []);
    const roots: number[] = [];
    for (let i = 0; i < n; i++) {
      const p = g.parent[i] as number;
      if (p < 0 || g.overlays[i]) roots.push(i);
      else children[p]?.push(i);
    }
    this.#children = children;
    this.#roots = roots;
    this.#inMask = new Uint8Array(n);
    for (const r of g.regions)
      for (const part of r.objects) for (let o = part; o >= 0; o = g.parent[o] as number) this.#inMask[o] = 1;
    this.#own = Float64Array.from({ length: n }, (_, i) => reachOf(g, i));
    this.#strokes = Float64Array.from({ length: n }, (_, i) => widestStroke(g, i));
    this.#inner = new Float64Array(n);
    this.#radius = new Float64Array(n);
    this.#local = new Float64Array(n * MAT);
    this.#world = new Float64Array(n * MAT);
    this.#gain = new Float64Array(n);
    this.#changed = new Int32Array(n).fill(1);
    this.#localMade = new Int32Array(n);
    this.#worldMade = new Int32Array(n);
    this.#seenBall = new Float64Array(n * 3).fill(-1);
    this.#values = values;
    for (let i = n - 1; i >= 0; i--) this.#ball(i);
  }

  /** The angle, or the size in which the piece is seen, is another. */
  look(frame: HitFrame): void {
    this.#frame = frame;
    this.#frameVersion = ++this.#version;
    this.#seenBall.fill(-1);
    this.#stands = false;
  }

  /** Objects have moved or changed: `moved[0…count−1]` are the indexes of the values that are not what they were. */
  change(values: Float64Array, moved: Int32Array, count: number): void {
    this.#values = values;
    if (count === 0) return;
    this.#version++;
    for (let k = 0; k < count; k++) {
      const at = moved[k] as number;
      const i = Math.floor(at / CHANNELS);
      const channel = at - i * CHANNELS;
      if (channel < CH_OPACITY) this.#changed[i] = this.#version;
      // Round the point about which it turns, a thing that only turns keeps its ball.
      if (channel >= 3 && channel < 6) continue;
      if (channel < 3) this.#widen(i);
      else if (channel < CH_OPACITY) {
        this.#ball(i);
        this.#widen(i);
      }
    }
    for (let k = 0; k < count && this.#stands; k++)
      if (this.#matters(Math.floor((moved[k] as number) / CHANNELS))) this.#stands = false;
  }

  /** The topmost object at the view-space point, as its number, or −1. */
  hit(x: number, y: number): number {
    if (this.#stands && x === this.#x && y === this.#y) return this.#answer;
    this.#x = x;
    this.#y = y;
    this.#near.x = x;
    this.#near.y = y;
    this.#layer = -1;
    this.#object = -1;
    for (const i of this.#roots) this.#visit(i, this.#shownAbove(i));
    this.#answer = this.#object;
    this.#stands = true;
    return this.#answer;
  }

  /** Whether what object i does may change the answer: its ball reaches the point, or did, or it is part of a mask. */
  #matters(i: number): boolean {
    if (this.#inMask[i] === 1) return true;
    const s = i * 3;
    const before = this.#seenBall[s + 2] as number;
    if (before < 0 || this.#inBall(s)) {
      this.#see(i);
      return true;
    }
    this.#see(i);
    return this.#inBall(s);
  }

  #inBall(s: number): boolean {
    const dx = this.#x - (this.#seenBall[s] as number);
    const dy = this.#y - (this.#seenBall[s + 1] as number);
    const r = this.#seenBall[s + 2] as number;
    return dx * dx + dy * dy <= r * r;
  }

  /** Works out where object i's ball is on the screen. */
  #see(i: number): void {
    const values = this.#values;
    const seenBall = this.#seenBall;
    const v = i * CHANNELS;
    const s = i * 3;
    const x = (values[v] as number) + (values[v + 9] as number);
    const y = (values[v + 1] as number) + (values[v + 10] as number);
    const z = (values[v + 2] as number) + (values[v + 11] as number);
    const fixed = this.#g.overlays[i];
    const r = (this.#radius[i] as number) * (1 + SLACK) + SLACK;
    if (fixed && this.#frame) {
      seenBall[s] = x + fixed.ax * this.#frame.halfWidth + fixed.x;
      seenBall[s + 1] = y + fixed.ay * this.#frame.halfHeight + fixed.y;
      seenBall[s + 2] = r;
      return;
    }
    const p = this.#g.parent[i] as number;
    if (p >= 0) this.#bringUp(p);
    const m = p < 0 ? (this.#frame?.view as Float64Array) : this.#world;
    const o = p < 0 ? 0 : p * MAT;
    seenBall[s] =
      (m[o] as number) * x + (m[o + 3] as number) * y + (m[o + 6] as number) * z + (m[o + 9] as number);
    seenBall[s + 1] =
      (m[o + 1] as number) * x + (m[o + 4] as number) * y + (m[o + 7] as number) * z + (m[o + 10] as number);
    seenBall[s + 2] = r * (p < 0 ? 1 : (this.#gain[p] as number));
  }

  /** Brings the matrix of object i to view space up to date, with those above it; returns the newest change in its chain. */
  #bringUp(i: number): number {
    const p = this.#g.overlays[i] ? -1 : (this.#g.parent[i] as number);
    const above = p < 0 ? this.#frameVersion : this.#bringUp(p);
    const own = this.#changed[i] as number;
    const newest = Math.max(own, above);
    if ((this.#worldMade[i] as number) < newest) {
      this.#makeWorld(i, p);
      this.#worldMade[i] = newest;
    }
    return newest;
  }

  #makeWorld(i: number, p: number): void {
    const values = this.#values;
    const local = this.#local;
    const world = this.#world;
    const frame = this.#frame;
    const at = i * MAT;
    const v = i * CHANNELS;
    if ((this.#localMade[i] as number) < (this.#changed[i] as number)) {
      composeLocal(local, at, values, v);
      this.#localMade[i] = this.#changed[i] as number;
    }
    this.#gain[i] = scaleOf(values, v) * (p < 0 ? 1 : (this.#gain[p] as number));
    const fixed = this.#g.overlays[i];
    if (fixed && frame) {
      for (let k = 0; k < MAT; k++) world[at + k] = local[at + k] as number;
      world[at + 9] = (world[at + 9] as number) + fixed.ax * frame.halfWidth + fixed.x;
      world[at + 10] = (world[at + 10] as number) + fixed.ay * frame.halfHeight + fixed.y;
    } else if (p < 0) multiply(world, at, frame?.view as Float64Array, 0, local, at);
    else multiply(world, at, world, p * MAT, local, at);
  }

  /** The radius of object i's ball, from its own drawings and the balls of those below it. */
  #ball(i: number): void {
    const values = this.#values;
    const v = i * CHANNELS;
    const px = values[v + 9] as number;
    const py = values[v + 10] as number;
    const pz = values[v + 11] as number;
    let r = (this.#own[i] as number) + Math.sqrt(px * px + py * py + pz * pz);
    for (const c of this.#children[i] as readonly number[]) {
      const reach = this.#reachIn(c, px, py, pz);
      if (reach > r) r = reach;
    }
    this.#inner[i] = r;
    this.#radius[i] = r * scaleOf(values, v);
  }

  /** How far object c reaches from a point of its parent's space. */
  #reachIn(c: number, px: number, py: number, pz: number): number {
    const values = this.#values;
    const w = c * CHANNELS;
    const dx = (values[w] as number) + (values[w + 9] as number) - px;
    const dy = (values[w + 1] as number) + (values[w + 10] as number) - py;
    const dz = (values[w + 2] as number) + (values[w + 11] as number) - pz;
    return Math.sqrt(dx * dx + dy * dy + dz * dz) + (this.#radius[c] as number);
  }

  /** Widens the balls above object c so that they hold it where it is now. */
  #widen(c: number): void {
    const values = this.#values;
    for (let o = c; !this.#g.overlays[o]; ) {
      const p = this.#g.parent[o] as number;
      if (p < 0) return;
      const v = p * CHANNELS;
      const reach = this.#reachIn(
        o,
        values[v + 9] as number,
        values[v + 10] as number,
        values[v + 11] as number,
      );
      if (reach <= (this.#inner[p] as number)) return;
      this.#inner[p] = reach;
      this.#radius[p] = reach * scaleOf(values, v);
      o = p;
    }
  }

  /** The opacity of what lies above object i, −1 when that is hidden. */
  #shownAbove(i: number): number {
    let opacity = 1;
    for (let o = this.#g.parent[i] as number; o >= 0; o = this.#g.parent[o] as number) {
      if ((this.#values[o * CHANNELS + CH_SHOWN] as number) < 0.5) return -1;
      opacity *= this.#values[o * CHANNELS + CH_OPACITY] as number;
    }
    return opacity;
  }

  #visit(i: number, above: number): void {
    const values = this.#values;
    const v = i * CHANNELS;
    if (above < 0 || (values[v + CH_SHOWN] as number) < 0.5) return;
    this.#see(i);
    if (!this.#inBall(i * 3)) return;
    const opacity = above * (values[v + CH_OPACITY] as number);
    this.#bringUp(i);
    if (this.#skip[i] === 0 && (this.#own[i] as number) >= 0) this.#tryObject(i, opacity);
    for (const c of this.#children[i] as readonly number[]) this.#visit(c, opacity);
  }

  #tryObject(i: number, opacity: number): void {
    const faces = this.#faces;
    const g = this.#g;
    const x = this.#x;
    const y = this.#y;
    faces.count = 0;
    this.#near.reach = this.#strokes[i] as number;
    addObject(faces, g, this.#values, this.#world, NO_LIGHT, i, opacity, this.#near);
    for (let f = 0; f < faces.count; f++) {
      const masks = faces.masks[f] as readonly MaskUse[] | null;
      faces.masks[f] = null;
      if (faces.unhit[f] !== 0 || !faceContains(faces, f, x, y)) continue;
      const layer = faces.layer[f] as number;
      const depth = depthAt(faces, f, x, y);
      if (
        !this.#covers(layer, depth, i) ||
        !(masks?.every((m) => this.#inRegion(m.region) === m.inside) ?? true)
      )
        continue;
      this.#layer = layer;
      this.#depth = depth;
      this.#object = i;
    }
  }

  /** Whether this is seen before the best so far: what is on top, what is nearer, what comes later in the tree. */
  #covers(layer: number, depth: number, object: number): boolean {
    if (layer !== this.#layer) return layer > this.#layer;
    const nearer = depth - this.#depth;
    return Math.abs(nearer) <= SAME_DEPTH ? object > this.#object : nearer > 0;
  }

  #inRegion(region: number): boolean {
    const maskFaces = this.#maskFaces;
    const g = this.#g;
    const r = g.regions[region] as Region;
    for (const part of r.objects) {
      this.#bringUp(part);
      // As `faceContains` has it, a mask's faces have no stroke.
      this.#near.reach = 0;
      maskFaces.count = 0;
      addRegionPart(maskFaces, g, this.#values, this.#world, NO_LIGHT, r, part, this.#near);
      for (let f = 0; f < maskFaces.count; f++) if (faceContains(maskFaces, f, this.#x, this.#y)) return true;
    }
    return false;
  }
}

function scaleOf(values: Float64Array, v: number): number {
  const x = Math.abs(values[v + 6] as number);
  const y = Math.abs(values[v + 7] as number);
  const z = Math.abs(values[v + 8] as number);
  const most = Math.max(x, y);
  return Math.max(most, z);
}

/** Farther than any piece. */
const ANY_REACH = 1e6;

/** How far the drawings of object i, whatever its look, reach from its origin, px. */
function reachOf(g: Geometry, i: number): number {
  // Other words may be as wide as they like.
  if (g.texts[i]) return ANY_REACH;
  let most = drawingReach(g.objects[i] as ObjectGeometry);
  for (const look of g.looks[i]?.values() ?? []) most = Math.max(most, drawingReach(look));
  return most;
}

function drawingReach(d: ObjectGeometry): number {
  let most = d.ball ? Math.max(...d.ball) : 0;
  if (d.hit) most = Math.max(most, faceReach(d.hit, 0));
  for (const face of d.faces) most = Math.max(most, faceReach(face, (d.style?.stroke?.width ?? 0) / 2));
  return most;
}

function faceReach(face: LocalFace, stroke: number): number {
  const [u0, v0, u1, v1] = face.outline.bounds;
  let most = 0;
  for (const u of [u0, u1])
    for (const v of [v0, v1]) {
      const at = (k: 0 | 1 | 2) => face.origin[k] + face.u[k] * u + face.v[k] * v;
      most = Math.max(most, at(0) ** 2 + at(1) ** 2 + at(2) ** 2);
    }
  return Math.sqrt(most) + stroke;
}

function widestStroke(g: Geometry, i: number): number {
  const width = (d: ObjectGeometry) => (d.style?.stroke?.width ?? 0) / 2;
  let most = width(g.objects[i] as ObjectGeometry);
  for (const look of g.looks[i]?.values() ?? []) most = Math.max(most, width(look));
  return most;
}
