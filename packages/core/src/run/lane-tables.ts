/** What the lanes of a program come to, side by side: for posing them, and for knowing whom to ask again. */
import { joinTracks } from '../anim/index.ts';
import { type Asking, type ClipProgram, type LaneProgram, PLAY_OFFSET, type PlainPlays } from './program.ts';

export function plainPlays(lanes: readonly LaneProgram[], clips: readonly ClipProgram[]): PlainPlays {
  const states = lanes.flatMap((l) => l.states);
  const firstState = new Int32Array(lanes.length);
  const firstTrack = new Int32Array(states.length + 1);
  let at = 0;
  lanes.forEach((l, i) => {
    firstState[i] = at;
    at += l.states.length;
  });
  states.forEach((s, g) => {
    firstTrack[g + 1] = (firstTrack[g] as number) + s.trackValues.length;
  });
  const value = new Int32Array(firstTrack.at(-1) ?? 0);
  states.forEach((s, g) => {
    value.set(s.trackValues, firstTrack[g]);
  });
  return {
    lane: Uint8Array.from(lanes, (l) =>
      !l.keeps && !l.adds && l.amountSignal < 0 && l.amount === 1 ? 1 : 0,
    ),
    slots: Int32Array.from(lanes.flatMap((l) => [...l.slots])),
    firstSlot: Int32Array.from([...lanes.map((l) => l.firstSlot), slotsOf(lanes)]),
    firstState,
    kind: Uint8Array.from(states, (s) => (clips[s.clip]?.data.offsets ? PLAY_OFFSET : s.kind)),
    clip: Int32Array.from(states, (s) => s.clip),
    firstTrack,
    value,
    waits: Uint8Array.from(states, (s) => (s.routes.some((w) => w.transition.notBefore !== null) ? 1 : 0)),
    eventless: Uint8Array.from(states, (s) => (s.routes.some((w) => w.eventless) ? 1 : 0)),
    tracks: joinTracks(clips.map((c) => c.data)),
    firstOf: firstTracks(clips),
    loop: clips.map((c) => c.clip.loop),
    duration: Float64Array.from(clips, (c) => c.data.duration),
    cueTimes: clips.map((c) => c.cueTimes),
    clipIds: clips.map((c) => c.clip.id),
    laneIds: lanes.map((l) => l.lane.id),
    direct: lanes.map((l) => l.direct),
  };
}

function slotsOf(lanes: readonly LaneProgram[]): number {
  const last = lanes.at(-1);
  return last ? last.firstSlot + last.slots.length : 0;
}

function firstTracks(clips: readonly ClipProgram[]): Int32Array {
  let at = 0;
  return Int32Array.from(clips, ({ data }) => {
    const first = at;
    at += data.start.length;
    return first;
  });
}

/** Which lanes write the values that are asked for by themselves: those of offset tracks, and `more`. */
export function laneWritersOf(
  lanes: readonly LaneProgram[],
  clips: readonly ClipProgram[],
  more: readonly number[],
): ReadonlyMap<number, readonly number[]> {
  const out = new Map<number, number[]>(more.map((at) => [at, []]));
  for (const lane of lanes)
    for (const s of lane.states) {
      const data = clips[s.clip]?.data;
      if (!data?.offsets) continue;
      s.trackValues.forEach((at, k) => {
        if (at >= 0 && data.offset[k] === 1) out.set(at, []);
      });
    }
  if (out.size > 0)
    lanes.forEach((lane, i) => {
      for (const at of lane.slots) out.get(at)?.push(i);
    });
  return out;
}

export function askingOf(lanes: readonly LaneProgram[], signals: number): Asking {
  const table = (n: number) => Array.from({ length: n }, (): number[] => []);
  const bySignal = table(signals);
  const byLane = table(lanes.length);
  const speedOf = table(signals);
  const byTopic = new Map<string, number[]>();
  const always: number[] = [];
  const pointer: number[] = [];
  const add = (list: number[] | undefined, i: number) => {
    if (list && list.at(-1) !== i) list.push(i);
  };
  lanes.forEach((lane, i) => {
    for (const s of lane.states) {
      if (s.speedSignal >= 0) add(speedOf[s.speedSignal], i);
      if (s.blend) for (const signal of s.blend.signals) add(speedOf[signal], i);
      for (const { eventless, pulse, reads } of s.routes) {
        if (!eventless) continue;
        if (pulse >= 0) add(bySignal[pulse], i);
        for (const signal of reads.signals) add(bySignal[signal], i);
        for (const other of reads.lanes) add(byLane[other], i);
        for (const { topic } of reads.topics) {
          if (!byTopic.has(topic)) byTopic.set(topic, []);
          add(byTopic.get(topic), i);
        }
        if (reads.time) add(always, i);
        if (reads.pointer) add(pointer, i);
      }
    }
  });
  return { bySignal, byLane, byTopic, always, pointer, speedOf };
}
