/**
 * How a state is laid out: every row is asked for once, by its name and type, of a `RowMaker`. All rows lie in one buffer,
 * so that a snapshot is a copy of that; lists, which grow, have buffers of their own and say how long they are in it.
 */
import { grown } from '../base/index.ts';

/**
 * Makes rows one after another in a buffer, each at a multiple of 8 bytes and full of `value`; without a buffer it only
 * counts the bytes.
 */
export class RowMaker {
  /** The buffer; empty where it only counts. */
  readonly buffer: ArrayBuffer;
  readonly #counts: boolean;
  /** Bytes so far. */
  size = 0;
  readonly lists: RowList[] = [];

  constructor(buffer: ArrayBuffer | null) {
    this.#counts = buffer === null;
    this.buffer = buffer ?? new ArrayBuffer(0);
  }

  floats(length: number, value = 0): Float64Array {
    return this.#make(Float64Array, length).fill(value);
  }
  ints(length: number, value = 0): Int32Array {
    return this.#make(Int32Array, length).fill(value);
  }
  words(length: number, value = 0): Uint32Array {
    return this.#make(Uint32Array, length).fill(value);
  }
  bytes(length: number, value = 0): Uint8Array {
    return this.#make(Uint8Array, length).fill(value);
  }
  /** A list of rows of `width` numbers each. */
  list(width: number): RowList {
    const made = new RowList(width, this.ints(1));
    this.lists.push(made);
    return made;
  }

  #make<T>(
    of: { new (buffer: ArrayBuffer, at: number, length: number): T; new (length: number): T } & {
      readonly BYTES_PER_ELEMENT: number;
    },
    length: number,
  ): T {
    const at = this.size;
    this.size += Math.ceil((length * of.BYTES_PER_ELEMENT) / 8) * 8;
    return this.#counts ? new of(0) : new of(this.buffer, at, length);
  }
}

/** Rows of numbers that come and go. */
export class RowList {
  readonly width: number;
  /** The rows one after another; what lies beyond `count` of them means nothing. */
  data = new Float64Array(0);
  readonly #count: Int32Array;

  /** `count`: a row of one number in the state's buffer. */
  constructor(width: number, count: Int32Array) {
    this.width = width;
    this.#count = count;
  }

  get count(): number {
    return this.#count[0] as number;
  }
  /** Number k of row i. */
  at(i: number, k: number): number {
    return this.data[i * this.width + k] as number;
  }

  /** Adds a row at the end; returns its number. */
  add(row: ArrayLike<number>): number {
    const n = this.grow();
    this.data.set(row, n * this.width);
    return n;
  }
  /** Makes room for another row at the end, which the caller fills; returns its number. */
  grow(): number {
    const n = this.count;
    if ((n + 1) * this.width > this.data.length) this.data = grown(this.data, (2 * n + 4) * this.width);
    this.#count[0] = n + 1;
    return n;
  }
  /** Takes row i out; those after it move up. */
  drop(i: number): void {
    const { width } = this;
    const n = this.count;
    this.data.copyWithin(i * width, (i + 1) * width, n * width);
    this.#count[0] = n - 1;
  }
  /** Forgets the last row. */
  shorten(): void {
    this.#count[0] = this.count - 1;
  }
  /** Takes over the first `count` rows of `bytes`, which begin at `at` there; returns where they end. */
  load(bytes: ArrayBuffer, at: number): number {
    const end = at + this.count * this.width * 8;
    this.data = new Float64Array(bytes.slice(at, end));
    return end;
  }
}
