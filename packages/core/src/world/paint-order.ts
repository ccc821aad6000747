/**
 * Painting order of faces. Two faces whose outlines overlap on the screen are compared by depth over the overlap:
 * depth is linear there, so the corners of the overlap decide exactly. A pair that passes through each other, or a
 * ring of faces each in front of the next, is split along a plane. Faces in one plane, and faces that do not
 * overlap, keep the order of the tree.
 * It is long since comparing, ordering and splitting work on the same lists.
 */

import { grown } from '../base/index.ts';
import { area, clipHalfPlane, convexOf, isBeside, type Line, lineOf, outlineOf, splitAt } from './cutting.ts';
import { allParallel, byDepth, SAME_DEPTH } from './depth-order.ts';
import { OUTER } from './drawing.ts';
import type { FaceList } from './faces.ts';
import { PaintEdges } from './paint-edges.ts';
import { depthAt } from './plane.ts';

/** Overlaps smaller than this many px² are none. */
const NO_AREA = 1e-4;
/** Splitting stops where there are so many faces more, or twice as many: they are drawn in the best order found. */
const MAX_SPLITS = 200;
/** So many rounds are made: one splits all pairs that cross, or one face of a ring, and the next compares the parts. */
const MAX_ROUNDS = 64;
/**
 * So many pairs are compared in one sorting, far more than a piece made by hand has. Thousands of things heaped on one
 * another are painted by depth as a whole instead: exact where they lie in parallel planes.
 */
const MAX_COMPARED = 400_000;
/** Faces are swept by columns so wide, px; a sort key is the column's number times `MOST_FACES`, plus the face's. */
const COLUMN = 1 / 16;
const MOST_FACES = 2 ** 20;
/** Lines are the same when their numbers differ less than this: far less than is seen. */
const SAME_LINE = 1e-6;
/** A dirty face of which no splits are kept; other dirty ones have 1. */
const MADE_WHOLE = 2;

/** A whole face that was cut, the one whose plane cut it, and where. */
interface Cut {
  face: number;
  by: number;
  readonly line: Line;
}

/** Its fields have names with #, which are short in what people embed. */
export class PaintOrder {
  /** Outlines on the screen: x, y pairs of all faces one after another; how many numbers there were when all were made. */
  #points = new Float64Array(1024);
  #pointsEnd = 0;
  #pointsWhole = 0;
  #first = new Int32Array(0);
  #corners = new Int32Array(0);
  /** Per face: least and greatest x, y, x + y and x − y. */
  #box = new Float64Array(0);
  /** The same of the list that was sorted last. */
  #firstWas = new Int32Array(0);
  #cornersWas = new Int32Array(0);
  #boxWas = new Float64Array(0);
  /** By the left edge of their boxes; and for each place of that order the next one that a dirty face is at. */
  #sorted = new Float64Array(0);
  #sortedWas = new Float64Array(0);
  #sortedCount = 0;
  #seen = new Uint8Array(0);
  #nextDirty = new Int32Array(0);
  readonly #edges = new PaintEdges();
  #clipA = new Float64Array(256);
  #clipB = new Float64Array(256);
  /** 0 for a face that is as it was in the last round, in the first one as it was in the last frame. */
  #dirty = new Uint8Array(0);
  /** Pairs found to pass through each other in this round, one after another. */
  readonly #crossing: number[] = [];
  #cuts: Cut[] = [];
  /** The whole face that a face is, or is part of. */
  #root = new Int32Array(0);

  /** The list that was sorted last, how many of its faces were whole, and their `#root`. */
  #was: FaceList | null = null;
  #wholeWas = 0;
  #rootWas = new Int32Array(0);
  /** The numbers that its faces have in this one; −1 for what has gone. */
  #now = new Int32Array(0);
  /** Each face's own number: within a frame it stays. */
  #same = new Int32Array(0);
  /** Edges that have to be found again, as pairs; and the part that was split off a face since it was compared, or −1. */
  readonly #again: number[] = [];
  #rest = new Int32Array(0);

  /**
   * Sorts `faces.order`; may append split faces. What was found out about faces that are where they were when this was
   * called last is kept, if that list has been left as it was; each round compares only the pairs that something has
   * changed for.
   */
  sort(faces: FaceList): void {
    if (allParallel(faces)) {
      this.#was = null;
      return byDepth(faces, true);
    }
    const whole = faces.count;
    if (this.#was === faces) this.#was = null;
    const isOld = this.#recall(faces, this.#was);
    this.#was = faces;
    this.#wholeWas = whole;
    this.#crossing.length = 0;
    for (let round = 0; ; round++) {
      this.#outline(faces);
      if (isOld) this.#pointsWhole = this.#pointsEnd;
      if (round > 0) this.#compareParts(faces);
      else if (!this.#sweep(faces)) {
        this.#was = null;
        return byDepth(faces, false);
      }
      this.#dirty.fill(0, 0, faces.count);
      const most = whole + Math.max(MAX_SPLITS, whole);
      const maySplit = faces.count < most && round < MAX_ROUNDS;
      if (maySplit && this.#splitPairs(faces, most)) continue;
      if (this.#edges.topological(faces) || !maySplit || !this.#splitCycle(faces)) break;
    }
  }

  /**
   * Finds the faces that are as they were; takes over what they were split into, and the edges between them. Whether all
   * outlines are made anew.
   */
  #recall(faces: FaceList, was: FaceList | null): boolean {
    const whole = faces.count;
    const countWas = was?.count ?? 0;
    this.#ensure(Math.max(whole, countWas));
    [this.#root, this.#rootWas] = [this.#rootWas, this.#root];
    const [now, dirty] = [this.#now, this.#dirty];
    now.fill(-1);
    dirty.fill(MADE_WHOLE, 0, whole);
    // Both lists follow the objects and their parts.
    for (let f = 0, o = 0; was && f < whole && o < this.#wholeWas; ) {
      const later =
        (faces.object[f] as number) - (was.object[o] as number) ||
        (faces.part[f] as number) - (was.part[o] as number);
      if (later === 0 && faces.outline[f] === was.outline[o] && faces.layer[f] === was.layer[o]) {
        now[o] = f;
        dirty[f] = 0;
        for (let k = 0; k < 9; k++) if (faces.plane[f * 9 + k] !== was.plane[o * 9 + k]) dirty[f] = 1;
      }
      if (later <= 0) f++;
      if (later >= 0) o++;
    }
    // A face stays split while what cut it goes through the same line of it, as in things that move as one.
    for (const cut of this.#cuts) {
      cut.face = now[cut.face] as number;
      cut.by = now[cut.by] as number;
      const { face, by, line } = cut;
      if (face < 0 || (by >= 0 && dirty[face] === 0 && dirty[by] === 0)) continue;
      const here = by < 0 ? [] : lineOf(faces, face, by);
      if (!line.every((x, k) => Math.abs(x - (here[k] as number)) < SAME_LINE)) dirty[face] = MADE_WHOLE;
    }
    this.#cuts = this.#cuts.filter(({ face }) => face >= 0 && dirty[face] !== MADE_WHOLE);
    for (let f = 0; f < whole; f++) this.#root[f] = f;
    for (let o = 0; was && o < countWas; o++) {
      const f = now[this.#rootWas[o] as number] as number;
      if (f < 0 || dirty[f] === MADE_WHOLE) continue;
      const [piece, painted] = [was.piece[o] as Float64Array, was.painted[o] as Float64Array];
      if (o >= this.#wholeWas) now[o] = this.#splitOff(faces, f, piece, painted);
      else {
        faces.piece[f] = piece;
        faces.painted[f] = painted;
      }
    }
    // There may have been no room for all parts, and the rows are others now.
    if (this.#now !== now) this.#now.set(now);
    this.#keep(now);
    return this.#keepOutlines(faces, now, countWas);
  }

  /** Outlines of faces that are as they were stay where they are; all are made anew when most of what is kept is old. */
  #keepOutlines(faces: FaceList, now: Int32Array, countWas: number): boolean {
    [this.#first, this.#firstWas] = [this.#firstWas, this.#first];
    [this.#corners, this.#cornersWas] = [this.#cornersWas, this.#corners];
    [this.#box, this.#boxWas] = [this.#boxWas, this.#box];
    [this.#sorted, this.#sortedWas] = [this.#sortedWas, this.#sorted];
    if (this.#sortedCount > countWas) this.#sortedCount = 0;
    const [dirty, box, boxWas] = [this.#dirty, this.#box, this.#boxWas];
    const isOld = countWas === 0 || this.#pointsEnd > 4 * this.#pointsWhole;
    if (isOld) this.#pointsEnd = 0;
    for (let o = 0; o < countWas; o++) {
      const f = now[o] as number;
      if (f < 0 || dirty[f] !== 0) continue;
      if (isOld) this.#place(faces, f);
      else {
        this.#first[f] = this.#firstWas[o] as number;
        this.#corners[f] = this.#cornersWas[o] as number;
        for (let k = 0; k < 8; k++) box[f * 8 + k] = boxWas[o * 8 + k] as number;
      }
    }
    return isOld;
  }

  /** Keeps the edges between faces that are as they were; `now` gives their numbers. The others are in `#again`. */
  #keep(now: Int32Array): void {
    const { before, after, count: known } = this.#edges;
    const again = this.#again;
    this.#edges.count = 0;
    again.length = 0;
    for (let e = 0; e < known; e++) {
      const [a, b] = [now[before[e] as number] as number, now[after[e] as number] as number];
      if (a < 0 || b < 0) continue;
      if (this.#dirty[a] === 0 && this.#dirty[b] === 0) this.#edges.add(a, b);
      else again.push(a, b);
    }
  }

  /** Compares what was split with all that the whole overlapped. */
  #compareParts(faces: FaceList): void {
    this.#keep(this.#same);
    const [again, rest] = [this.#again, this.#rest];
    for (let i = 0; i < again.length; i += 2)
      for (let a = again[i] as number; a >= 0; a = rest[a] as number)
        for (let b = again[i + 1] as number; b >= 0; b = rest[b] as number)
          if (this.#mayOverlap(a, b)) this.#compare(faces, a, b);
    for (const f of again) rest[f] = -1;
  }

  /** A part of face f as a face of its own; its number. */
  #splitOff(faces: FaceList, f: number, piece: Float64Array, painted: Float64Array): number {
    const n = faces.split(f, piece, painted);
    this.#ensure(faces.count);
    this.#root[n] = this.#root[f] as number;
    this.#dirty[n] = this.#dirty[f] as number;
    return n;
  }

  /** Splits face f where the plane of g cuts it, and marks both parts. */
  #split(faces: FaceList, f: number, g: number): boolean {
    const line = lineOf(faces, f, g);
    const parts = splitAt(faces, f, line);
    if (!parts) return false;
    this.#dirty[f] = 1;
    this.#rest[f] = this.#splitOff(faces, f, ...parts);
    this.#cuts.push({ face: this.#root[f] as number, by: this.#root[g] as number, line });
    return true;
  }

  #ensure(n: number): void {
    if (this.#first.length >= n) return;
    const size = Math.max(64, n, this.#first.length * 2);
    this.#first = grown(this.#first, size);
    this.#corners = grown(this.#corners, size);
    this.#box = grown(this.#box, size * 8);
    this.#dirty = grown(this.#dirty, size);
    this.#root = grown(this.#root, size);
    this.#rootWas = grown(this.#rootWas, size);
    this.#now = grown(this.#now, size);
    this.#rest = new Int32Array(size).fill(-1);
    this.#same = this.#now.map((_, f) => f);
    this.#firstWas = grown(this.#firstWas, size);
    this.#cornersWas = grown(this.#cornersWas, size);
    this.#boxWas = grown(this.#boxWas, size * 8);
    this.#sorted = grown(this.#sorted, size);
    this.#sortedWas = grown(this.#sortedWas, size);
    this.#seen = new Uint8Array(size);
    this.#nextDirty = new Int32Array(size);
  }

  /** Outlines and boxes of the faces that are not as they were: what those had before is left behind. */
  #outline(faces: FaceList): void {
    for (let f = 0; f < faces.count; f++) if (this.#dirty[f] !== 0) this.#place(faces, f);
  }

  #place(faces: FaceList, f: number): void {
    const at = this.#pointsEnd;
    const room = convexOf(faces, f).length;
    if (at + room > this.#points.length)
      this.#points = grown(this.#points, Math.max(at + room, this.#points.length * 2));
    this.#first[f] = at;
    const n = outlineOf(faces, f, this.#points, at);
    this.#corners[f] = n;
    let x0 = Number.POSITIVE_INFINITY;
    let [y0, s0, d0, x1, y1, s1, d1] = [x0, x0, x0, -x0, -x0, -x0, -x0];
    for (let i = at; i < at + n * 2; i += 2) {
      const x = this.#points[i] as number;
      const y = this.#points[i + 1] as number;
      if (x < x0) x0 = x;
      if (x > x1) x1 = x;
      if (y < y0) y0 = y;
      if (y > y1) y1 = y;
      if (x + y < s0) s0 = x + y;
      if (x + y > s1) s1 = x + y;
      if (x - y < d0) d0 = x - y;
      if (x - y > d1) d1 = x - y;
    }
    const [box, b] = [this.#box, f * 8];
    box[b] = x0;
    box[b + 1] = x1;
    box[b + 2] = y0;
    box[b + 3] = y1;
    box[b + 4] = s0;
    box[b + 5] = s1;
    box[b + 6] = d0;
    box[b + 7] = d1;
    this.#pointsEnd = at + n * 2;
  }

  /** Sort-and-sweep over x, of pairs of which one is dirty. False when there are too many of them. */
  #sweep(faces: FaceList): boolean {
    const n = faces.count;
    const [box, dirty, sorted, next] = [this.#box, this.#dirty, this.#sorted.subarray(0, n), this.#nextDirty];
    this.#sortByLeft(sorted);
    let later = n;
    for (let i = n - 1; i >= 0; i--) {
      const key = sorted[i] as number;
      const f = key - Math.floor(key / MOST_FACES) * MOST_FACES;
      sorted[i] = f;
      next[i] = later;
      if (dirty[f] !== 0) later = i;
    }
    let compared = 0;
    for (let i = 0; i < n; i++) {
      const a = sorted[i] as number;
      const last = (box[a * 8 + 1] as number) + COLUMN;
      const all = dirty[a] !== 0;
      for (let j = all ? i + 1 : (next[i] as number); j < n; j = all ? j + 1 : (next[j] as number)) {
        const b = sorted[j] as number;
        if ((box[b * 8] as number) > last) break;
        if (!this.#mayOverlap(a, b)) continue;
        if (++compared > MAX_COMPARED) return false;
        this.#compare(faces, a, b);
      }
    }
    return true;
  }

  #key(f: number): number {
    const x0 = Math.max(-1e8, Math.min(1e8, this.#box[f * 8] as number));
    return Math.floor(x0 / COLUMN) * MOST_FACES + f;
  }

  /** Fills `sorted` with the keys of all faces, least first: from the order of the frame before, which is nearly it. */
  #sortByLeft(sorted: Float64Array): void {
    const n = sorted.length;
    const [was, now, seen] = [this.#sortedWas, this.#now, this.#seen.fill(0, 0, n)];
    let count = 0;
    for (let k = 0; k < this.#sortedCount; k++) {
      const f = now[was[k] as number] as number;
      if (f < 0) continue;
      seen[f] = 1;
      sorted[count++] = this.#key(f);
    }
    for (let f = 0; f < n; f++) if (seen[f] === 0) sorted[count++] = this.#key(f);
    let steps = 8 * n;
    for (let i = 1; i < n && steps > 0; i++) {
      const x = sorted[i] as number;
      let at = i;
      for (; at > 0 && (sorted[at - 1] as number) > x; at--, steps--) sorted[at] = sorted[at - 1] as number;
      sorted[at] = x;
    }
    // Numbers without a comparing function are sorted much faster; a face's number is what is left of its key.
    if (steps <= 0) sorted.sort();
    this.#sortedCount = n;
  }

  #mayOverlap(a: number, b: number): boolean {
    const box = this.#box;
    // By x last: who is swept together mostly overlaps along it.
    for (let k = 6; k >= 0; k -= 2) {
      if ((box[a * 8 + k + 1] as number) <= (box[b * 8 + k] as number)) return false;
      if ((box[b * 8 + k + 1] as number) <= (box[a * 8 + k] as number)) return false;
    }
    return true;
  }

  /** Which of two faces that overlap is painted first. */
  #compare(faces: FaceList, one: number, other: number): void {
    const [a, b] = [Math.min(one, other), Math.max(one, other)];
    // Faces on the outside of one solid's convex hull never hide each other, and nothing of the solid hides one.
    const own = faces.object[a] === faces.object[b] && this.#root[a] !== this.#root[b];
    const [aOut, bOut] = [own && faces.side[a] === OUTER, own && faces.side[b] === OUTER];
    if (aOut && bOut) return;
    const n = this.#overlap(a, b);
    if (n < 3) return;
    if (aOut || bOut) return aOut ? this.#edges.add(b, a) : this.#edges.add(a, b);
    // What is on top is painted last, whatever its depth.
    if (faces.layer[a] !== faces.layer[b]) {
      if ((faces.layer[a] as number) < (faces.layer[b] as number)) this.#edges.add(a, b);
      else this.#edges.add(b, a);
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
    if (least >= -SAME_DEPTH) this.#edges.add(a, b);
    // What is seen through a hole is not behind it.
    else if (isBeside(faces, a, poly, n) || isBeside(faces, b, poly, n)) return;
    else if (most <= SAME_DEPTH) this.#edges.add(b, a);
    else {
      this.#crossing.push(a, b);
      // In case it cannot be split: whichever is in front over more of the overlap.
      if (most + least >= 0) this.#edges.add(a, b);
      else this.#edges.add(b, a);
    }
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
    this.#clipA = from;
    this.#clipB = to;
    return n;
  }

  #splitPairs(faces: FaceList, most: number): boolean {
    let any = false;
    for (let i = 0; i < this.#crossing.length && faces.count < most; i += 2) {
      const [a, b] = [this.#crossing[i] as number, this.#crossing[i + 1] as number];
      // What was split already may cross no more: it is compared again first.
      if (this.#dirty[a] !== 0 || this.#dirty[b] !== 0) continue;
      if (this.#split(faces, b, a) || this.#split(faces, a, b)) any = true;
    }
    this.#crossing.length = 0;
    return any;
  }

  /** Walks backwards from a face that waits until one comes again; splits the first face of the ring that can be. */
  #splitCycle(faces: FaceList): boolean {
    let f = 0;
    while (!this.#edges.waits(f)) f++;
    const way: number[] = [];
    while (!way.includes(f)) {
      way.push(f);
      f = this.#edges.blockerOf(f);
    }
    const ring = way.slice(way.indexOf(f));
    for (const one of ring)
      for (const other of ring) if (one !== other && this.#split(faces, one, other)) return true;
    return false;
  }
}
