/** What has been raised, and waits to be served. */
import type { TraceRecord } from './trace.ts';

export interface QueuedEvent {
  readonly rec: TraceRecord;
  readonly depth: number;
  /** Number of the object it happened to, −1 for none. */
  readonly object: number;
  /** For `state.done`: the entry it belongs to. */
  readonly entry: number;
  /** Number of the object that was noticed, −1 for none. */
  readonly other: number;
}
