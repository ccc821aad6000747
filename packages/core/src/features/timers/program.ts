/** Timers, compiled: rows by the number of the reaction that has one. */
import type { Compiling, CompilingPart } from '../../run/compiling.ts';

export interface TimersProgram {
  /** 1 for a reaction that has a timer. */
  readonly is: Uint8Array;
  /** Seconds to the first firing, and from one to the next, 0 where there is no next; give or take so many. */
  readonly first: Float64Array;
  readonly every: Float64Array;
  readonly jitter: Float64Array;
  /** The random stream of its jitter; −1 for none. */
  readonly stream: Int32Array;
}
export function compileTimers(c: Compiling): CompilingPart {
  const all = Object.values(c.piece.reactions);
  const program: TimersProgram = {
    is: Uint8Array.from(all, (r) => (r.on.event === 'timer' ? 1 : 0)),
    first: Float64Array.from(all, (r) => r.on.after ?? r.on.every ?? 0),
    every: Float64Array.from(all, (r) => r.on.every ?? 0),
    jitter: Float64Array.from(all, (r) => r.on.jitter ?? 0),
    stream: Int32Array.from(all, (r) => (r.on.jitter ? c.stream(`${r.id}/jitter`) : -1)),
  };
  return { part: () => program };
}
