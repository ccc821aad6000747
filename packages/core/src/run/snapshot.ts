/** Any tick of a run, to be gone on from: its state as one row of bytes. */
import type { Run } from './run.ts';
import { DUE_ROW } from './state.ts';

export interface Snapshot {
  /** The rows of the state, and after them what is due. */
  readonly bytes: ArrayBuffer;
  /** The strings that choices and texts may hold, by number. */
  readonly texts: readonly string[];
}

export function saveRun(run: Run): Snapshot {
  const { buffer, dues, dueCount, texts } = run.state;
  const due = new Uint8Array(dues.buffer, 0, dueCount * DUE_ROW * 8);
  const bytes = new Uint8Array(buffer.byteLength + due.length);
  bytes.set(new Uint8Array(buffer));
  bytes.set(due, buffer.byteLength);
  return { bytes: bytes.buffer, texts: [...texts.list] };
}

/** Lets a new run go on from a snapshot of one of the same program; returns it. */
export function loadRun<R extends Run>(run: R, { bytes, texts }: Snapshot): R {
  const { state } = run;
  const room = state.buffer.byteLength;
  new Uint8Array(state.buffer).set(new Uint8Array(bytes, 0, room));
  state.dues = new Float64Array(bytes.slice(room));
  for (const text of texts) state.texts.number(text);
  return run;
}
