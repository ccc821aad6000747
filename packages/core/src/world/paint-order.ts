/**
 * Painting order of faces. Two faces whose outlines overlap on the screen are compared by depth over the overlap:
 * depth is linear there, so the corners of the overlap decide exactly. A pair that passes through each other, or a
 * ring of faces each in front of the next, is split along a plane. Faces in one plane, and faces that do not
 * overlap, keep the order of the tree.
 */

import { grown } from '../base/index.ts';
import { byDepth, SAME_DEPTH } from './depth-order.ts';
import { CONVEX } from './drawing.ts';
import type { FaceList } from './faces.ts';
import type { Outline } from './outline.ts';
import { depthAt } from './plane.ts';

/** Overlaps smaller than this many px² are none. */
const NO_AREA = 1e-4;
/** How far the part of a split face that is painted first reaches under the other, px. */
const SEAM = 0.75;
/** Splitting stops here: a drawing that asks for more is drawn in the best order found. */
const MAX_SPLITS = 200;
/**
 * So many pairs are compared in one sorting, far more than a piece made by hand has. Thousands of things heaped on one
 * another are painted by depth as a whole instead: exact where they lie in parallel planes.
 */
const MAX_COMPARED = 400_000;

/** Its fields have names with #, which are short in what people embed. */
export class PaintOrder {
  /** Outlines on the screen: x, y pairs of all faces one after another. */
  #points = new Float64Array(1024);
  #first = new Int32Array(64);
  #corners = new Int32Array(64);
  #box = new Float64Array(64 * 4);
  #sorted = new Int32Array(64);
  /** Edges "a is painted before b". */
  #before = new Int32Array(256);
  #after = new Int32Array(256);
  #edges = 0;
  #nextEdge = new Int32Array(256);
  #firstEdge = new Int32Array(64);
  #waiting = new Int32Array(64);
  #heap = new Int32Array(64);
  #heapSize = 0;
  #clipA = new Float64Array(256);
  #clipB = new Float64Array(256);

  /** 1 for a face that is new since the last round, or of which a part was split off. */
  #dirty = new Uint8Array(64);

  /** Sorts `faces.order`; may append split faces. Each round compares only the pairs that the last one changed. */
  sort(faces: FaceList): void {
    const whole = faces.count;
    this.#edges = 0;
    this.#pointsEnd = 0;
    this.#crossA.length = 0;
    this.#crossB.length = 0;
    this.#ensure(whole);
    this.#dirty.fill(1, 0, whole);
    this.#compared = 0;
    for (let round = 0; ; round++) {
      this.#outline(faces);
      if (!this.#findEdges(faces)) return byDepth(faces);
      this.#dirty.fill(0, 0, faces.count);
      const most = whole + MAX_SPLITS;
      const maySplit = faces.count < most && round < 12;
      if (this.#crossA.length > 0 && maySplit && this.#splitPairs(faces, most)) continue;
      const stuck = this.#topological(faces);
      if (stuck < 0) return;
      if (maySplit && this.#splitCycle(faces)) continue;
      this.#forceRest(faces);
      return;
    }
  }

  /** Splits face f where the plane of g cuts it, and marks both parts. */
  #split(faces: FaceList, f: number, g: number): boolean {
    if (!splitByPlane(faces, f, g)) return false;
    this.#ensure(faces.count);
    this.#dirty[f] = 1;
    this.#dirty[faces.count - 1] = 1;
    return true;
  }

  #ensure(n: number): void {
    if (this.#first.length >= n) return;
    const size = Math.max(n, this.#first.length * 2);
    this.#first = grown(this.#first, size);
    this.#corners = grown(this.#corners, size);
    this.#box = grown(this.#box, size * 4);
    this.#dirty = grown(this.#dirty, size);
    this.#sorted = new Int32Array(size);
    this.#firstEdge = new Int32Array(size);
    this.#waiting = new Int32Array(size);
    this.#heap = new Int32Array(size);
  }
  #pointsEnd = 0;

  /** Outlines and boxes of the faces that are new or changed; those of a changed one before are left behind. */
  #outline(faces: FaceList): void {
    let at = this.#pointsEnd;
    for (let f = 0; f < faces.count; f++) {
      if (this.#dirty[f] === 0) continue;
      const room = convexOf(faces, f).length;
      if (at + room > this.#points.length) {
        this.#points = grown(this.#points, Math.max(at + room, this.#points.length * 2));
      }
      this.#first[f] = at;
      const n = outlineOf(faces, f, this.#points, at);
      this.#corners[f] = n;
      let x0 = Number.POSITIVE_INFINITY;
      let y0 = x0;
      let x1 = -x0;
      let y1 = -x0;
      for (let i = 0; i < n; i++) {
        const x = this.#points[at + i * 2] as number;
        const y = this.#points[at + i * 2 + 1] as number;
        if (x < x0) x0 = x;
        if (x > x1) x1 = x;
        if (y < y0) y0 = y;
        if (y > y1) y1 = y;
      }
      const b = f * 4;
      this.#box[b] = x0;
      this.#box[b + 1] = y0;
      this.#box[b + 2] = x1;
      this.#box[b + 3] = y1;
      at += n * 2;
    }
    this.#pointsEnd = at;
  }

  readonly #crossA: number[] = [];
  readonly #crossB: number[] = [];

  /**
   * Sort-and-sweep over x, then the exact comparison; what is known of pairs that have not changed is kept. False when
   * there are too many pairs.
   */
  #findEdges(faces: FaceList): boolean {
    const n = faces.count;
    this.#forgetChanged(n);
    const sorted = this.#sorted.subarray(0, n);
    for (let i = 0; i < n; i++) sorted[i] = i;
    const box = this.#box;
    sorted.sort((a, b) => (box[a * 4] as number) - (box[b * 4] as number) || a - b);
    for (let i = 0; i < n; i++) {
      const a = sorted[i] as number;
      for (let j = i + 1; j < n; j++) {
        const b = sorted[j] as number;
        if ((box[b * 4] as number) >= (box[a * 4 + 2] as number)) break;
        if (
          (box[b * 4 + 1] as number) >= (box[a * 4 + 3] as number) ||
          (box[a * 4 + 1] as number) >= (box[b * 4 + 3] as number)
        )
          continue;
        if (this.#dirty[a] === 0 && this.#dirty[b] === 0) continue;
        if (++this.#compared > MAX_COMPARED) return false;
        this.#compare(faces, Math.min(a, b), Math.max(a, b));
      }
    }
    return true;
  }
  #compared = 0;

  /** Keeps the edges and the crossing pairs whose faces are as they were. */
  #forgetChanged(n: number): void {
    const dirty = this.#dirty;
    const known = this.#edges;
    this.#edges = 0;
    this.#firstEdge.fill(-1, 0, n);
    this.#waiting.fill(0, 0, n);
    for (let e = 0; e < known; e++) {
      const [a, b] = [this.#before[e] as number, this.#after[e] as number];
      if (dirty[a] === 0 && dirty[b] === 0) this.#edge(a, b);
    }
    let kept = 0;
    for (let i = 0; i < this.#crossA.length; i++) {
      const [a, b] = [this.#crossA[i] as number, this.#crossB[i] as number];
      if (dirty[a] !== 0 || dirty[b] !== 0) continue;
      this.#crossA[kept] = a;
      this.#crossB[kept++] = b;
    }
    this.#crossA.length = kept;
    this.#crossB.length = kept;
  }

  #compare(faces: FaceList, a: number, b: number): void {
    // Two faces of one convex solid never hide each other.
    if (faces.side[a] === CONVEX && faces.object[a] === faces.object[b] && faces.piece[a] === null) return;
    const n = this.#overlap(a, b);
    if (n < 3) return;
    // What is on top is painted last, whatever its depth.
    if (faces.layer[a] !== faces.layer[b]) {
      if ((faces.layer[a] as number) < (faces.layer[b] as number)) this.#edge(a, b);
      else this.#edge(b, a);
      return;
    }
    const poly = this.#clipA;
    let least = Number.POSITIVE_INFINITY;
    let most = Number.NEGATIVE_INFINITY;
    for (let i = 0; i < n; i++) {
      const x = poly[i * 2] as number;
      const y = poly[i * 2 + 1] as number;
      const d = depthAt(faces, b, x, y) - depthAt(faces, a, x, y);
      if (d < least) least = d;
      if (d > most) most = d;
    }
    if (most <= SAME_DEPTH && least >= -SAME_DEPTH) this.#edge(a, b);
    else if (least >= -SAME_DEPTH) this.#edge(a, b);
    else if (most <= SAME_DEPTH) this.#edge(b, a);
    else {
      this.#crossA.push(a);
      this.#crossB.push(b);
      // In case it cannot be split: whichever is in front over more of the overlap.
      if (most + least >= 0) this.#edge(a, b);
      else this.#edge(b, a);
    }
  }

  #edge(a: number, b: number): void {
    if (this.#edges === this.#before.length) {
      const length = this.#edges * 2;
      this.#before = grown(this.#before, length);
      this.#after = grown(this.#after, length);
      this.#nextEdge = grown(this.#nextEdge, length);
    }
    const e = this.#edges++;
    this.#before[e] = a;
    this.#after[e] = b;
    this.#nextEdge[e] = this.#firstEdge[a] as number;
    this.#firstEdge[a] = e;
    this.#waiting[b] = (this.#waiting[b] as number) + 1;
  }

  /** Clips outline a by outline b (Sutherland–Hodgman); corners of the overlap in `clipA`. 0 when there is none. */
  #overlap(a: number, b: number): number {
    let n = this.#corners[a] as number;
    // Each side that clips adds a corner at most.
    const room = 2 * (n + (this.#corners[b] as number));
    if (room > this.#clipA.length) {
      this.#clipA = new Float64Array(2 * room);
      this.#clipB = new Float64Array(2 * room);
    }
    let from = this.#clipA;
    let to = this.#clipB;
    const a0 = this.#first[a] as number;
    for (let i = 0; i < n * 2; i++) from[i] = this.#points[a0 + i] as number;
    const b0 = this.#first[b] as number;
    const m = this.#corners[b] as number;
    for (let i = 0; i < m; i++) {
      const x0 = this.#points[b0 + i * 2] as number;
      const y0 = this.#points[b0 + i * 2 + 1] as number;
      const j = i + 1 < m ? i + 1 : 0;
      const nx = (this.#points[b0 + j * 2 + 1] as number) - y0;
      const ny = x0 - (this.#points[b0 + j * 2] as number);
      // Most sides cut nothing off: that is found out without writing anything.
      let k = 0;
      while (k < n && ((from[k * 2] as number) - x0) * nx + ((from[k * 2 + 1] as number) - y0) * ny <= 0) k++;
      if (k === n) continue;
      n = clipHalfPlane(from, n, to, nx, ny, x0, y0);
      if (n < 3) return 0;
      const swap = from;
      from = to;
      to = swap;
    }
    if (Math.abs(area(from, n)) < NO_AREA) return 0;
    if (from !== this.#clipA) this.#clipA.set(from.subarray(0, n * 2));
    return n;
  }

  /** Kahn's algorithm, the lowest face number first. Returns how many are placed when stuck in a ring, else −1. */
  #topological(faces: FaceList): number {
    const n = faces.count;
    this.#heapSize = 0;
    for (let f = 0; f < n; f++) if (this.#waiting[f] === 0) this.#heapPush(f);
    let placed = 0;
    while (this.#heapSize > 0) {
      const f = this.#heapPop();
      faces.order[placed++] = f;
      this.#waiting[f] = -1;
      for (let e = this.#firstEdge[f] as number; e >= 0; e = this.#nextEdge[e] as number) {
        const b = this.#after[e] as number;
        this.#waiting[b] = (this.#waiting[b] as number) - 1;
        if (this.#waiting[b] === 0) this.#heapPush(b);
      }
    }
    this.#placed = placed;
    return placed === n ? -1 : placed;
  }
  #placed = 0;

  /** When a ring can be split no more: the rest in tree order. */
  #forceRest(faces: FaceList): void {
    let at = this.#placed;
    for (let f = 0; f < faces.count; f++) if ((this.#waiting[f] as number) > 0) faces.order[at++] = f;
  }

  #splitPairs(faces: FaceList, most: number): boolean {
    let any = false;
    for (let i = 0; i < this.#crossA.length && faces.count < most; i++) {
      const a = this.#crossA[i] as number;
      const b = this.#crossB[i] as number;
      // What was split already may cross no more: it is compared again first.
      if (this.#dirty[a] !== 0 || this.#dirty[b] !== 0) continue;
      if (this.#split(faces, b, a) || this.#split(faces, a, b)) any = true;
    }
    return any;
  }

  /** Walks backwards from a face that waits until one comes again; splits the first face of the ring that can be. */
  #splitCycle(faces: FaceList): boolean {
    let f = 0;
    while ((this.#waiting[f] as number) <= 0) f++;
    const way: number[] = [];
    while (!way.includes(f)) {
      way.push(f);
      f = this.#blockerOf(f);
    }
    const ring = way.slice(way.indexOf(f));
    for (const one of ring)
      for (const other of ring) if (one !== other && this.#split(faces, one, other)) return true;
    return false;
  }

  #blockerOf(f: number): number {
    for (let e = 0; e < this.#edges; e++)
      if (this.#after[e] === f && (this.#waiting[this.#before[e] as number] as number) > 0)
        return this.#before[e] as number;
    return f;
  }

  #heapPush(f: number): void {
    let i = this.#heapSize++;
    while (i > 0) {
      const up = (i - 1) >> 1;
      if ((this.#heap[up] as number) <= f) break;
      this.#heap[i] = this.#heap[up] as number;
      i = up;
    }
    this.#heap[i] = f;
  }

  #heapPop(): number {
    const top = this.#heap[0] as number;
    const last = this.#heap[--this.#heapSize] as number;
    let i = 0;
    for (;;) {
      let kid = 2 * i + 1;
      if (kid >= this.#heapSize) break;
      if (kid + 1 < this.#heapSize && (this.#heap[kid + 1] as number) < (this.#heap[kid] as number)) kid++;
      if ((this.#heap[kid] as number) >= last) break;
      this.#heap[i] = this.#heap[kid] as number;
      i = kid;
    }
    this.#heap[i] = last;
    return top;
  }
}

/** Writes the face's convex outline on the screen, turning one way so that clipping keeps its inside; its corners. */
function outlineOf(faces: FaceList, f: number, out: Float64Array, at: number): number {
  const p = faces.plane;
  const o = f * 9;
  const poly = convexOf(faces, f);
  const n = poly.length / 2;
  const nz = (p[o + 3] as number) * (p[o + 7] as number) - (p[o + 4] as number) * (p[o + 6] as number);
  for (let i = 0; i < n; i++) {
    const k = nz > 0 ? i : n - 1 - i;
    const u = poly[k * 2] as number;
    const v = poly[k * 2 + 1] as number;
    out[at + i * 2] = (p[o] as number) + (p[o + 3] as number) * u + (p[o + 6] as number) * v;
    out[at + i * 2 + 1] = (p[o + 1] as number) + (p[o + 4] as number) * u + (p[o + 7] as number) * v;
  }
  return n;
}

/** The convex polygon that a face is compared by: what is left of it when it was split, else its hull. */
function convexOf(faces: FaceList, f: number): Float64Array {
  return faces.piece[f] ?? (faces.outline[f] as Outline).hull;
}

/** Keeps the part of a convex polygon where (x − x0)·nx + (y − y0)·ny ≤ 0; returns its number of corners. */
function clipHalfPlane(
  from: Float64Array,
  n: number,
  to: Float64Array,
  nx: number,
  ny: number,
  x0: number,
  y0: number,
): number {
  let out = 0;
  for (let i = 0; i < n; i++) {
    const ax = from[i * 2] as number;
    const ay = from[i * 2 + 1] as number;
    const j = (i + 1) % n;
    const bx = from[j * 2] as number;
    const by = from[j * 2 + 1] as number;
    const da = (ax - x0) * nx + (ay - y0) * ny;
    const db = (bx - x0) * nx + (by - y0) * ny;
    if (da <= 0) {
      to[out * 2] = ax;
      to[out * 2 + 1] = ay;
      out++;
    }
    if ((da < 0 && db > 0) || (da > 0 && db < 0)) {
      const t = da / (da - db);
      to[out * 2] = ax + (bx - ax) * t;
      to[out * 2 + 1] = ay + (by - ay) * t;
      out++;
    }
  }
  return out;
}

function area(poly: Float64Array, n: number): number {
  let sum = 0;
  for (let i = 0; i < n; i++) {
    const j = (i + 1) % n;
    sum +=
      (poly[i * 2] as number) * (poly[j * 2 + 1] as number) -
      (poly[j * 2] as number) * (poly[i * 2 + 1] as number);
  }
  return sum / 2;
}

/** Splits face f where the plane of face g cuts it. False when g's plane leaves it on one side. */
function splitByPlane(faces: FaceList, f: number, g: number): boolean {
  const p = faces.plane;
  const o = g * 9;
  const n = [0, 0, 0];
  for (let k = 0; k < 3; k++) {
    const a = (k + 1) % 3;
    const b = (k + 2) % 3;
    n[k] =
      (p[o + 3 + a] as number) * (p[o + 6 + b] as number) -
      (p[o + 3 + b] as number) * (p[o + 6 + a] as number);
  }
  const len = Math.sqrt((n[0] as number) ** 2 + (n[1] as number) ** 2 + (n[2] as number) ** 2);
  let c = 0;
  let cu = 0;
  let cv = 0;
  for (let k = 0; k < 3; k++) {
    const nk = (n[k] as number) / len;
    c += nk * ((p[f * 9 + k] as number) - (p[o + k] as number));
    cu += nk * (p[f * 9 + 3 + k] as number);
    cv += nk * (p[f * 9 + 6 + k] as number);
  }
  const outline = convexOf(faces, f);
  const corners = outline.length / 2;
  let min = 0;
  let max = 0;
  for (let i = 0; i < corners; i++) {
    const d = c + cu * (outline[i * 2] as number) + cv * (outline[i * 2 + 1] as number);
    min = Math.min(min, d);
    max = Math.max(max, d);
  }
  if (min > -1e-5 || max < 1e-5) return false;
  const q = cu * cu + cv * cv;
  /** What of a polygon lies behind the cutting line moved forward by `by` px (side 1), or in front of it (−1). */
  const part = (of: Float64Array, side: 1 | -1, by: number) => {
    // A point of the line: the foot of the perpendicular from (0, 0).
    const k = (by * Math.sqrt(q) - c) / q;
    const room = new Float64Array(of.length + 4);
    const n = clipHalfPlane(of, of.length / 2, room, side * cu, side * cv, k * cu, k * cv);
    return room.slice(0, n * 2);
  };
  const painted = faces.painted[f] ?? outline;
  const front = part(outline, -1, 0);
  const inFront = part(painted, -1, 0);
  faces.piece[f] = part(outline, 1, 0);
  faces.painted[f] = part(painted, 1, SEAM);
  faces.split(f, front, inFront);
  return true;
}
