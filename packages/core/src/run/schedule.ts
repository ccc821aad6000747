/**
 * When something is to be done, and whom to ask: the next instant of each lane in a heap, and marks on the lanes whose
 * eventless transitions may have become ready. Worked out from the state, so not part of it; whoever changes a lane
 * touches it, whoever changes what transitions read marks those that read it.
 */
import { grown } from '../base/index.ts';

export class Schedule {
  /** The next instant of each lane, and the lanes as a heap by it, of those at one instant the first lane first. */
  readonly instants: Float64Array;
  readonly #heap: Int32Array;
  readonly #place: Int32Array;
  #size = 0;
  #touched: Int32Array = new Int32Array(16);
  #touchedCount = 0;
  readonly #isTouched: Uint8Array;
  readonly #marked: Int32Array;
  #markedCount = 0;
  readonly #isMarked: Uint8Array;
  readonly #instantOf: (lane: number) => number;

  /** `instantOf`: works out a lane's next instant; infinite when there is none. */
  constructor(lanes: number, instantOf: (lane: number) => number) {
    this.#instantOf = instantOf;
    this.instants = new Float64Array(lanes).fill(Number.POSITIVE_INFINITY);
    this.#heap = new Int32Array(lanes);
    this.#place = new Int32Array(lanes).fill(-1);
    this.#isTouched = new Uint8Array(lanes);
    this.#marked = new Int32Array(lanes);
    this.#isMarked = new Uint8Array(lanes);
    for (let i = 0; i < lanes; i++) this.touch(i);
    this.markAll();
  }

  /** The lane's next instant is to be worked out anew. */
  touch(lane: number): void {
    if (this.#isTouched[lane] === 1) return;
    this.#isTouched[lane] = 1;
    if (this.#touchedCount === this.#touched.length)
      this.#touched = grown(this.#touched, this.#touchedCount * 2);
    this.#touched[this.#touchedCount++] = lane;
  }

  /** The lane's eventless transitions are to be asked. */
  mark(lane: number): void {
    if (this.#isMarked[lane] === 1) return;
    this.#isMarked[lane] = 1;
    this.#marked[this.#markedCount++] = lane;
  }

  markThose(lanes: readonly number[] | undefined): void {
    if (lanes) for (const i of lanes) this.mark(i);
  }

  markAll(): void {
    for (let i = 0; i < this.#isMarked.length; i++) this.mark(i);
  }

  /** Empties the marks into `out`, in document order; returns how many there are. */
  takeMarks(out: Int32Array): number {
    const n = this.#markedCount;
    if (n === 0) return 0;
    this.#markedCount = 0;
    for (let k = 0; k < n; k++) {
      const lane = this.#marked[k] as number;
      this.#isMarked[lane] = 0;
      out[k] = lane;
    }
    // Those that are asked in each tick come in order, and cost no memory.
    let k = 1;
    while (k < n && (out[k] as number) > (out[k - 1] as number)) k++;
    if (k < n) out.subarray(0, n).sort();
    return n;
  }

  /** The lane whose instant is next, −1 for none. */
  get next(): number {
    if (this.#touchedCount > 0) this.#workOut();
    return this.#size === 0 ? -1 : (this.#heap[0] as number);
  }

  /** Whether some lane's next instant is not after `limit[0]`. */
  isReached(limit: Float64Array): boolean {
    const lane = this.next;
    return lane >= 0 && (this.instants[lane] as number) <= (limit[0] as number);
  }

  /** Takes the next lane out; it comes back when it is touched. */
  take(): number {
    const lane = this.next;
    this.#remove(lane);
    return lane;
  }

  #workOut(): void {
    for (let k = 0; k < this.#touchedCount; k++) {
      const lane = this.#touched[k] as number;
      this.#isTouched[lane] = 0;
      this.#remove(lane);
      const instant = this.#instantOf(lane);
      this.instants[lane] = instant;
      if (instant === Number.POSITIVE_INFINITY) continue;
      this.#put(this.#size++, lane);
      this.#up(this.#size - 1);
    }
    this.#touchedCount = 0;
  }

  #remove(lane: number): void {
    const at = this.#place[lane] as number;
    if (at < 0) return;
    this.#place[lane] = -1;
    const last = this.#heap[--this.#size] as number;
    if (last === lane) return;
    this.#put(at, last);
    this.#up(at);
    this.#down(this.#place[last] as number);
  }

  #put(at: number, lane: number): void {
    this.#heap[at] = lane;
    this.#place[lane] = at;
  }

  #before(a: number, b: number): boolean {
    const [x, y] = [this.instants[a] as number, this.instants[b] as number];
    return x < y || (x === y && a < b);
  }

  #up(from: number): void {
    let at = from;
    const lane = this.#heap[at] as number;
    while (at > 0) {
      const above = (at - 1) >> 1;
      const other = this.#heap[above] as number;
      if (!this.#before(lane, other)) break;
      this.#put(at, other);
      at = above;
    }
    this.#put(at, lane);
  }

  #down(from: number): void {
    let at = from;
    const lane = this.#heap[at] as number;
    for (;;) {
      let child = 2 * at + 1;
      if (child >= this.#size) break;
      if (
        child + 1 < this.#size &&
        this.#before(this.#heap[child + 1] as number, this.#heap[child] as number)
      )
        child++;
      const other = this.#heap[child] as number;
      if (!this.#before(other, lane)) break;
      this.#put(at, other);
      at = child;
    }
    this.#put(at, lane);
  }
}

/** Numbers taken out least first. */
export class LeastFirst {
  readonly #heap: number[] = [];

  get size(): number {
    return this.#heap.length;
  }

  add(n: number): void {
    const heap = this.#heap;
    let at = heap.length;
    while (at > 0 && n < (heap[(at - 1) >> 1] as number)) {
      heap[at] = heap[(at - 1) >> 1] as number;
      at = (at - 1) >> 1;
    }
    heap[at] = n;
  }

  take(): number {
    const heap = this.#heap;
    const least = heap[0] as number;
    const n = heap.pop() as number;
    if (heap.length === 0) return least;
    let at = 0;
    for (;;) {
      let child = 2 * at + 1;
      if (child >= heap.length) break;
      if (child + 1 < heap.length && (heap[child + 1] as number) < (heap[child] as number)) child++;
      if (n <= (heap[child] as number)) break;
      heap[at] = heap[child] as number;
      at = child;
    }
    heap[at] = n;
    return least;
  }
}
