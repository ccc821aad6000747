/** State of a run carried over to a program compiled after an edit: everything is found again by its id. */
import { MAX_SPEED, newPlay } from '../anim/index.ts';
import { clamp, tickTime } from '../base/index.ts';
import { CHANNELS, fitsSignal } from '../model/index.ts';
import type { LaneProgram, Program } from './compile.ts';
import { copyState, type LaneState, newLaneState, newState, type RunState } from './state.ts';

/**
 * `fresh` are the lanes of the new program that have no state to go on from and enter their initial one, `timers` the
 * reactions that have become timers.
 */
export function carryState(
  old: Program,
  s: RunState,
  next: Program,
): { state: RunState; fresh: number[]; timers: number[] } {
  const state = newState(next, s.seed);
  state.tick = s.tick;
  state.nextRec = s.nextRec;
  state.nextSeq = s.nextSeq;
  state.view = { ...s.view };
  next.streams.forEach((consumer, i) => {
    const j = old.streams.indexOf(consumer);
    if (j >= 0) state.random.set(s.random.subarray(j * 4, j * 4 + 4), i * 4);
  });
  const objectFrom = next.objects.map((o) => old.objectIndex.get(o.id) ?? -1);
  objectFrom.forEach((from, to) => {
    if (from < 0) return;
    state.putSet.set(s.putSet.subarray(from * CHANNELS, (from + 1) * CHANNELS), to * CHANNELS);
    state.putV.set(s.putV.subarray(from * CHANNELS, (from + 1) * CHANNELS), to * CHANNELS);
  });
  const objectTo = (i: number) => (i < 0 ? -1 : (next.objectIndex.get(old.objects[i]?.id ?? '') ?? -1));
  state.pointer = { ...s.pointer, over: objectTo(s.pointer.over), pressed: objectTo(s.pointer.pressed) };
  const signalFrom = next.signals.map((def) => {
    const i = old.signalIndex.get(def.id) ?? -1;
    return i >= 0 && old.signals[i]?.type === def.type ? i : -1;
  });
  next.signals.forEach((def, i) => {
    const from = signalFrom[i] as number;
    if (from < 0) return;
    const value = s.signals[from];
    if (fitsSignal(def, value)) state.signals[i] = value;
    state.signalRec[i] = s.signalRec[from] as number;
    state.pulseSerial[i] = s.pulseSerial[from] as number;
  });
  const timers: number[] = [];
  next.reactions.forEach((r, i) => {
    const from = old.reactions.findIndex((x) => x.reaction.id === r.reaction.id);
    if (r.reaction.on.event === 'timer' && old.reactions[from]?.reaction.on.event !== 'timer') timers.push(i);
    if (from < 0) return;
    state.cooldownUntil[i] = s.cooldownUntil[from] as number;
    state.spent[i] = s.spent[from] as number;
  });
  carryDues(old, s, next, state);
  const fresh: number[] = [];
  next.lanes.forEach((lane, i) => {
    const from = old.laneIndex.get(lane.lane.id);
    const before = from === undefined ? undefined : s.lanes[from];
    const active = before && old.lanes[from as number]?.states[before.active];
    const target = active ? lane.stateIndex.get(active.state.id) : undefined;
    if (!before || target === undefined) fresh.push(i);
    else
      state.lanes[i] = carryLane(
        old,
        old.lanes[from as number] as LaneProgram,
        before,
        next,
        lane,
        target,
        tickTime(s.tick),
        (id) => Number(state.signals[next.signalIndex.get(id) ?? -1] ?? 1),
      );
    const l = state.lanes[i] as LaneState;
    signalFrom.forEach((j, k) => {
      if (before && j >= 0) l.pulseUsed[k] = before.pulseUsed[j] as number;
    });
  });
  return { state, fresh, timers };
}

function carryDues(old: Program, s: RunState, next: Program, state: RunState): void {
  for (const d of s.dues) {
    const index =
      d.what === 'action'
        ? (next.listIndex.get(old.lists[d.index]?.key ?? '') ?? -1)
        : next.reactions.findIndex((r) => r.reaction.id === old.reactions[d.index]?.reaction.id);
    if (index < 0) continue;
    if (d.what === 'action' && !next.lists[index]?.actions[d.action]) continue;
    if (d.what === 'timer' && next.reactions[index]?.reaction.on.event !== 'timer') continue;
    state.dues.push({ ...d, index });
  }
}

function carryLane(
  old: Program,
  from: LaneProgram,
  l: LaneState,
  next: Program,
  to: LaneProgram,
  target: number,
  now: number,
  numberOf: (signal: string) => number,
): LaneState {
  const out = copyState(l);
  const blank = newLaneState(to, next.signals.length);
  out.active = target;
  out.lastDrawn = blank.lastDrawn;
  out.pulseUsed = blank.pulseUsed;
  // Slots are found again by object and channel.
  const slotFrom = Array.from(to.slots, (value) => {
    const object = next.objects[Math.floor(value / CHANNELS)]?.id ?? '';
    const i = old.objectIndex.get(object);
    return i === undefined ? -1 : from.slots.indexOf(i * CHANNELS + (value % CHANNELS));
  });
  for (const key of ['heldV', 'heldW', 'fromV', 'fromW', 'overV', 'overSet'] as const) {
    out[key] = blank[key] as never;
    slotFrom.forEach((j, i) => {
      if (j >= 0) out[key][i] = l[key][j] as number;
    });
  }
  const clipOf = (p: Program, lane: LaneProgram, state: number) =>
    p.clips[lane.states[state]?.clip ?? -1]?.clip;
  const oldClip = clipOf(old, from, l.active);
  const newClip = clipOf(next, to, target);
  const sameClip = oldClip?.id === newClip?.id;
  if (newClip && (!sameClip || speedText(from, l.active) !== speedText(to, target))) {
    // Another clip or speed for the state that is active: it begins anew.
    const play = to.states[target]?.state.play;
    const asked = typeof play === 'object' ? play.speed : 1;
    const speed = clamp(typeof asked === 'number' ? asked : numberOf(asked.signal), -MAX_SPEED, MAX_SPEED);
    const p0 = speed < 0 ? newClip.duration : 0;
    out.play = newPlay(p0, now, speed);
  } else if (newClip && newClip.loop === 'once' && out.play.p0 > newClip.duration)
    out.play.p0 = newClip.duration;
  if (newClip && newClip.loop !== oldClip?.loop) out.play.ended = false;
  const hereClip = old.clips[l.hereClip]?.clip.id;
  out.hereClip = hereClip === undefined ? -1 : (next.clipIndex.get(hereClip) ?? -1);
  const fading = from.states[l.fadeState]?.state.id;
  out.fadeState = fading === undefined ? -1 : (to.stateIndex.get(fading) ?? -1);
  if (out.fadeState >= 0 && clipOf(old, from, l.fadeState)?.id !== clipOf(next, to, out.fadeState)?.id) {
    out.fadeState = -1;
    out.fadeLength = 0;
  }
  return out;
}

function speedText(lane: LaneProgram, state: number): string {
  const play = lane.states[state]?.state.play;
  return typeof play === 'object' ? JSON.stringify(play.speed) : '';
}
