/** Any tick of a run, to be gone on from: its state as one row of bytes. */
import { textNumber, textOf } from '../model/index.ts';
import { settleBase } from './presence.ts';
import type { Run } from './run.ts';

export interface Snapshot {
  /** The rows of the state, and after them its lists that grow. */
  readonly bytes: ArrayBuffer;
  /** The strings that choices and texts may hold, by number. */
  readonly texts: readonly string[];
  /** The words that stand in the values, which are numbers there. */
  readonly words: readonly string[];
}

export function saveRun(run: Run): Snapshot {
  const { buffer, texts } = run.state;
  const lists = run.state.lists.map((l) => new Uint8Array(l.data.buffer, 0, l.count * l.width * 8));
  const bytes = new Uint8Array(lists.reduce((n, l) => n + l.length, buffer.byteLength));
  bytes.set(new Uint8Array(buffer));
  let at = buffer.byteLength;
  for (const list of lists) {
    bytes.set(list, at);
    at += list.length;
  }
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
  let at = state.buffer.byteLength;
  new Uint8Array(state.buffer).set(new Uint8Array(bytes, 0, at));
  for (const list of state.lists) at = list.load(bytes, at);
  for (let k = 0; k < run.program.spawns.places.length; k++) settleBase(run.program, state, k);
  for (const text of texts) state.texts.number(text);
  for (const text of words) textNumber(text);
  // Whoever remembers where something was put asks again.
  state.putsChanged++;
  state.posedIn.fill(state.posed);
  state.moversChanged = true;
  return run;
}
