/** A piece in a run, tick by tick, with all that happened: what several tests of runs share. */
import { expect } from 'vitest';
import { checkIntegrity } from '../src/check/index.ts';
import type { Piece } from '../src/model/index.ts';
import { compile, type InputKind, Run, type TraceRecord } from '../src/runtime/index.ts';

export class Case {
  run: Run;
  readonly records: TraceRecord[] = [];
  /** What happened in the last tick. */
  last: TraceRecord[] = [];

  /** The piece must be sound. Tick 0 is done. */
  constructor(piece: Piece) {
    expect(checkIntegrity(piece)).toEqual([]);
    this.run = new Run(compile(piece));
    this.step();
  }

  /** One tick. */
  step(...inputs: InputKind[]): this {
    this.run.step(inputs.map((i) => ({ ...i, at: 0 })));
    this.last = this.run.takeTrace();
    this.records.push(...this.last);
    return this;
  }
  /** A tick with these keyboard keys going down. */
  key(...keys: string[]): this {
    return this.step(...keys.map((key) => ({ key, down: true })));
  }
  /** Ticks until this one is done. */
  to(tick: number): this {
    while (this.run.tick < tick) this.step();
    return this;
  }
  ticks(n: number): this {
    return this.to(this.run.tick + n);
  }
}
