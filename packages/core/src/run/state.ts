/** All that changes while a piece runs, as plain data: copied, it is a snapshot. */
import { newPlay, type Playhead } from '../anim/index.ts';
import { seedStream } from '../base/index.ts';
import { initialValue, type SignalValue } from '../model/index.ts';
import type { LaneProgram, Program } from './compile.ts';

export interface LaneState {
  /** Number of the active state; −1 before tick 0. */
  active: number;
  entered: number;
  /** Counts entries, so that what belongs to an earlier one is told apart. */
  entry: number;
  entryRec: number;
  /** How long the chain of causes was that led to the entry. */
  entryDepth: number;
  finished: boolean;
  play: Playhead;
  /** Where the lane last left a clip, for `from: 'here'`; clip −1 when that is forgotten. */
  hereClip: number;
  here: number;
  /** Date up to which reached moments were served for this entry. */
  momentT: number;
  /** Date of the last turn of a loop. */
  turnT: number;
  /** A crossfade runs from `fadeStart` for `fadeLength` seconds; length 0 is none. */
  fadeStart: number;
  fadeLength: number;
  /** Number of the transition's source state whose play fades out, or −1: it fades from the frozen `from…`. */
  fadeState: number;
  fadePlay: Playhead;
  fadeEasing: 'linear' | 'hold' | { bezier: [number, number, number, number] };
  mustFinish: boolean;
  /** What a holding state (or the unkeyed part of a keeping lane) gives: weight × value, and weight, per slot. */
  heldV: Float64Array;
  heldW: Float64Array;
  fromV: Float64Array;
  fromW: Float64Array;
  /** Put values that the newest state took over: they count as the old side of its crossfade. */
  overV: Float64Array;
  overSet: Uint8Array;
  /** Per source of odds the transition drawn last, −1 for none. */
  lastDrawn: Int32Array;
  /** Per signal the occurrence of a pulse that this lane has used. */
  pulseUsed: Int32Array;
}

export interface Due {
  t: number;
  seq: number;
  what: 'timer' | 'reaction' | 'action';
  /** Reaction for timers and reactions; action list and number for actions. */
  index: number;
  action: number;
  /** How many firings of the timer went before. */
  n: number;
  cause: number | null;
}

export interface RunState {
  tick: number;
  seed: number;
  nextRec: number;
  nextSeq: number;
  values: Float64Array;
  putSet: Uint8Array;
  putV: Float64Array;
  signals: SignalValue[];
  /** Record that last changed each signal, −1 for none. */
  signalRec: Int32Array;
  /** Occurrence number of each pulse, and whether it is up until this tick ends. */
  pulseSerial: Int32Array;
  pulseUp: Uint8Array;
  lanes: LaneState[];
  random: Uint32Array;
  dues: Due[];
  /** Event before which a reaction hears nothing (cooldown), and whether its `limit` is used up. */
  cooldownUntil: Float64Array;
  spent: Uint8Array;
  view: { azimuth: number; elevation: number };
  pointer: { present: boolean; x: number; y: number; down: boolean; over: number; pressed: number };
}

/** The play of a lane that plays nothing. */
function noPlay(): Playhead {
  return { ...newPlay(0, 0, 0), incl: true, ended: true };
}

export function newLaneState(lane: LaneProgram, signals: number): LaneState {
  const n = lane.slots.length;
  return {
    active: -1,
    entered: 0,
    entry: 0,
    entryRec: -1,
    entryDepth: 0,
    finished: false,
    play: noPlay(),
    hereClip: -1,
    here: 0,
    momentT: Number.NEGATIVE_INFINITY,
    turnT: Number.NEGATIVE_INFINITY,
    fadeStart: 0,
    fadeLength: 0,
    fadeState: -1,
    fadePlay: noPlay(),
    fadeEasing: 'linear',
    mustFinish: false,
    heldV: new Float64Array(n),
    heldW: new Float64Array(n),
    fromV: new Float64Array(n),
    fromW: new Float64Array(n),
    overV: new Float64Array(n),
    overSet: new Uint8Array(n),
    lastDrawn: new Int32Array(lane.sources).fill(-1),
    pulseUsed: new Int32Array(signals),
  };
}

export function newState(program: Program, seed: number): RunState {
  const signals = program.signals.length;
  const random = new Uint32Array(program.streams.length * 4);
  program.streams.forEach((consumer, i) => {
    seedStream(random, i * 4, seed, consumer);
  });
  return {
    tick: -1,
    seed,
    nextRec: 1,
    nextSeq: 1,
    values: program.base.slice(),
    putSet: new Uint8Array(program.base.length),
    putV: new Float64Array(program.base.length),
    signals: program.signals.map(initialValue),
    signalRec: new Int32Array(signals).fill(-1),
    pulseSerial: new Int32Array(signals),
    pulseUp: new Uint8Array(signals),
    lanes: program.lanes.map((l) => newLaneState(l, signals)),
    random,
    dues: [],
    cooldownUntil: new Float64Array(program.reactions.length).fill(Number.NEGATIVE_INFINITY),
    spent: new Uint8Array(program.reactions.length),
    view: { ...program.piece.view },
    pointer: { present: false, x: 0, y: 0, down: false, over: -1, pressed: -1 },
  };
}

/** A deep copy of plain data and typed arrays, bit for bit. */
export function copyState<T>(x: T): T {
  if (typeof x !== 'object' || x === null) return x;
  if (ArrayBuffer.isView(x)) return (x as unknown as { slice(): T }).slice();
  if (Array.isArray(x)) return x.map(copyState) as T;
  const out: Record<string, unknown> = {};
  for (const k of Object.keys(x)) out[k] = copyState((x as Record<string, unknown>)[k]);
  return out as T;
}

/** A lane's program and its state. */
export function laneAt(run: { program: Program; state: RunState }, i: number): [LaneProgram, LaneState] {
  return [run.program.lanes[i] as LaneProgram, run.state.lanes[i] as LaneState];
}
