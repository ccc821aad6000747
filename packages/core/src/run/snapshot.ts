/** Any tick of a run, to be gone on from: its state as one row of bytes. */
import { textNumber, textOf } from '../model/index.ts';
import type { Run } from './run.ts';
import { DUE_ROW } from './state.ts';

export interface Snapshot {
  /** The rows of the state, and after them what is due. */
  readonly bytes: ArrayBuffer;
  /** The strings that choices and texts may hold, by number. */
  readonly texts: readonly string[];
  /** The words that stand in the values, which are numbers there. */
  readonly words: readonly string[];
}

export function saveRun(run: Run): Snapshot {
  const { buffer, dues, dueCount, texts } = run.state;
  const due = new Uint8Array(dues.buffer, 0, dueCount * DUE_ROW * 8);
  const bytes = new Uint8Array(buffer.byteLength + due.length);
  bytes.set(new Uint8Array(buffer));
  bytes.set(due, buffer.byteLength);
  return { bytes: bytes.buffer, texts: [...texts.list], words: wordsIn(run) };
}

/** All words that some value of the state stands for. */
function wordsIn({ state, program }: Run): string[] {
  const out = new Set<string>();
  const add = (n: number | undefined) => n !== undefined && n > 0 && out.add(textOf(n));
  for (const at of program.words) {
    add(state.values[at]);
    add(state.putV[at]);
  }
  for (const slot of program.wordSlots)
    for (const row of [state.heldV, state.fromV, state.overV]) add(row[slot]);
  return [...out];
}

/** Lets a new run go on from a snapshot of one of the same program; returns it. */
export function loadRun<R extends Run>(run: R, { bytes, texts, words }: Snapshot): R {
  const { state } = run;
  const room = state.buffer.byteLength;
  new Uint8Array(state.buffer).set(new Uint8Array(bytes, 0, room));
  state.dues = new Float64Array(bytes.slice(room));
  for (const text of texts) state.texts.number(text);
  for (const text of words) textNumber(text);
  return run;
}
