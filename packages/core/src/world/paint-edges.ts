/** Which faces are painted before which others, and an order that keeps to it. */
import { grown } from '../base/index.ts';
import type { FaceList } from './faces.ts';

/** Edges "a is painted before b", one after another. Its own fields have names with #, which are short in what people embed. */
export class PaintEdges {
  before = new Int32Array(256);
  after = new Int32Array(256);
  count = 0;
  #next = new Int32Array(256);
  #first = new Int32Array(0);
  #waiting = new Int32Array(0);
  #ready = new Int32Array(0);

  add(a: number, b: number): void {
    if (this.count === this.before.length) {
      const length = this.count * 2;
      this.before = grown(this.before, length);
      this.after = grown(this.after, length);
      this.#next = new Int32Array(length);
    }
    this.before[this.count] = a;
    this.after[this.count++] = b;
  }

  /** Writes `faces.order` by Kahn's algorithm, the lowest face number first. False when it is stuck in a ring. */
  topological(faces: FaceList): boolean {
    const n = faces.count;
    if (this.#first.length < n) {
      this.#first = new Int32Array(2 * n);
      this.#waiting = new Int32Array(2 * n);
      this.#ready = new Int32Array((n >> 4) + 1);
    }
    const [first, waiting, next, after] = [this.#first, this.#waiting, this.#next, this.after];
    first.fill(-1, 0, n);
    waiting.fill(0, 0, n);
    for (let e = 0; e < this.count; e++) {
      const [a, b] = [this.before[e] as number, after[e] as number];
      next[e] = first[a] as number;
      first[a] = e;
      waiting[b] = (waiting[b] as number) + 1;
    }
    // What may be placed is a bit each: the lowest is found 32 at a time.
    const ready = this.#ready.fill(0);
    let word = 0;
    for (let f = 0; f < n; f++)
      if (waiting[f] === 0) ready[f >> 5] = (ready[f >> 5] as number) | (1 << (f & 31));
    let placed = 0;
    while (word < ready.length) {
      const bits = ready[word] as number;
      if (bits === 0) {
        word++;
        continue;
      }
      const f = word * 32 + 31 - Math.clz32(bits & -bits);
      ready[word] = bits & (bits - 1);
      faces.order[placed++] = f;
      waiting[f] = -1;
      for (let e = first[f] as number; e >= 0; e = next[e] as number) {
        const b = after[e] as number;
        waiting[b] = (waiting[b] as number) - 1;
        if (waiting[b] !== 0) continue;
        ready[b >> 5] = (ready[b >> 5] as number) | (1 << (b & 31));
        word = Math.min(word, b >> 5);
      }
    }
    const whole = placed === n;
    // When a ring can be split no more, the rest stays in tree order.
    for (let f = 0; placed < n; f++) if ((waiting[f] as number) > 0) faces.order[placed++] = f;
    return whole;
  }

  /** Whether a face was not placed, as it waits for one that waits. */
  waits(f: number): boolean {
    return (this.#waiting[f] as number) > 0;
  }

  /** One that waits and is painted before f, which waits, too. */
  blockerOf(f: number): number {
    for (let e = 0; e < this.count; e++)
      if (this.after[e] === f && this.waits(this.before[e] as number)) return this.before[e] as number;
    return f;
  }
}
