/** A piece compiled for running, as `compile.ts` makes it: records as numbers and flat arrays; names and ids stay for the trace. */
import type { ClipData, Tracks } from '../anim/index.ts';
import type {
  Clip,
  EventName,
  Lane,
  Piece,
  PlayFrom,
  Reaction,
  SceneObject,
  Signal,
  SignalValue,
  State,
  Transition,
} from '../model/index.ts';
import type { FaceList, Geometry } from '../world/index.ts';
import type { Reads, Test } from './facts.ts';
import type { Fade } from './fade.ts';
import type { Hearing } from './hearing.ts';
import type { Listeners } from './listening.ts';
import type { Features, ProgramParts, StateParts } from './parts.ts';
import type { Spawns } from './place-program.ts';
import type { RowMaker } from './rows.ts';
import type { CompiledAction } from './run-actions.ts';

export const REST = 0;
export const HOLD = 1;
export const PLAY = 2;
/** In `PlainPlays` only: a clip with offset tracks. */
export const PLAY_OFFSET = 3;
export const BLEND = 4;

export interface ClipProgram {
  readonly clip: Clip;
  readonly data: ClipData;
  /** In order of time. */
  readonly cueTimes: Float64Array;
  /** Action list of each cue, in the clip's order. */
  readonly cueActions: readonly number[];
}

/** What blends ask of a state. */
export interface BlendState {
  readonly signals: Float64Array;
  readonly plays: Float64Array;
  readonly base: Float64Array;
  readonly parts: StateParts;
}

/** Several clips at once, by weights; `row`: the play's, of which a lane has two. */
export interface BlendProgram {
  /** Numbers of its clips. */
  readonly clips: Int32Array;
  /** The signals by which it may weigh. */
  readonly signals: readonly number[];
  /** All are gone through together: the play counts passes, one a whole. */
  readonly common: boolean;
  /** What is met of each clip; with a common phase as of one that lasts 1. */
  readonly met: readonly ClipProgram[];
  /** Whether none of them loops, and the length of the longest, seconds. */
  readonly once: boolean;
  readonly longest: number;
  /** The place among its clips of the one that counts most; of equals the last. */
  heaviest(program: Program, s: BlendState): number;
  /** How many passes a second a common phase makes. */
  passRate(program: Program, s: BlendState): number;
  /** Where a clip stands in it, seconds; NaN where it does not count. */
  placeOf(program: Program, s: BlendState, clip: number, row: number, clock: Float64Array): number;
  /** Samples it into rows of the lane's slots, as weight × value and weight. `keyed`: 1 for each slot that some clip writes. */
  sample(
    program: Program,
    s: BlendState,
    lane: LaneProgram,
    keyed: Uint8Array,
    row: number,
    clock: Float64Array,
    outV: Float64Array,
    outW: Float64Array,
  ): void;
}

/** What gives a number instead of time, or of a signal. */
export interface Driven {
  /** NaN until it gives one. */
  value(parts: StateParts): number;
}

/** What sets values above all lanes, and below what is put. */
export interface Driver {
  /** Writes all that it sets. */
  pose(s: { readonly values: Float64Array; readonly parts: StateParts; setAlone(at: number): void }): void;
  /** Whether it sets the value at `at`, to what, and by which record. */
  sets(parts: StateParts, at: number): boolean;
  value(parts: StateParts, at: number): number;
  recordOf(at: number): string;
  /** As `pose`, outside a run: what is told of without one, as it comes to rest. */
  poseAtRest(values: Float64Array, signals: readonly SignalValue[]): void;
}

export interface StateProgram {
  readonly state: State;
  readonly kind: typeof REST | typeof HOLD | typeof PLAY | typeof BLEND;
  readonly blend: BlendProgram | null;
  /** Number of the clip, −1 for what plays none alone. */
  readonly clip: number;
  /** Factor on time, and the number signal that gives it instead, −1 for none. */
  readonly speed: number;
  readonly speedSignal: number;
  readonly from: PlayFrom;
  /** What gives the place in the clip instead of time. */
  readonly driven: Driven | null;
  /** Slot of the lane that each track of the clip writes; −1 where its object is missing here. */
  readonly trackSlots: Int32Array;
  /** Index into the values of each track, likewise. */
  readonly trackValues: Int32Array;
  /** 1 for each slot of the lane that this state's clip writes. */
  readonly keyed: Uint8Array;
  readonly entryActions: number;
  readonly exitActions: number;
  /** The transitions that may lead out, in the order in which they are asked. */
  readonly routes: readonly TransitionProgram[];
}

export interface TransitionProgram {
  readonly transition: Transition;
  /** Its number within the lane. */
  readonly number: number;
  readonly target: number;
  /** 0 for from anywhere, else 1 + the state's number: odds are drawn among one source's transitions. */
  readonly source: number;
  /** Equal for transitions that listen to the same thing. */
  readonly onKey: string;
  /** Whether all its conditions hold, and each. */
  readonly when: Test;
  readonly tests: readonly Test[];
  readonly reads: Reads;
  /** Whether it goes without an event: it waits for none, or for a remembered pulse. */
  readonly eventless: boolean;
  /** Number of the remembered pulse that it waits for; −1 for none. */
  readonly pulse: number;
  /** The pulses that its conditions ask, and that one, as places in the lane's list of them. */
  readonly pulses: readonly number[];
  readonly fade: Fade;
}

export interface LaneProgram {
  readonly lane: Lane;
  /** Of a lane that an action plays a clip in, on an object, by itself: both by id. Its first state is that it does not. */
  readonly direct: { readonly clip: string; readonly object: string } | null;
  readonly machine: string;
  /** Number of the machine's object. */
  readonly object: number;
  readonly states: readonly StateProgram[];
  readonly stateIndex: ReadonlyMap<string, number>;
  /** Index into the values of each slot; a colour takes three in a row. */
  readonly slots: Int32Array;
  /** Way of mixing of each slot (MIX_… of anim). */
  readonly slotMode: Uint8Array;
  /** Whether a state that plays keeps what it does not key; whether the lane adds. */
  readonly keeps: boolean;
  readonly adds: boolean;
  /** The amount with which it counts, 0–1, and the number signal that gives it instead, −1 for none. */
  readonly amount: number;
  readonly amountSignal: number;
  readonly stream: number;
  /** Numbers of the pulses that its conditions ask. */
  readonly pulses: Int32Array;
  /** Where its slots, its sources of odds and its pulses begin in the state's rows of all lanes. */
  readonly firstSlot: number;
  readonly firstSource: number;
  readonly firstPulse: number;
}

/** All lists of actions, side by side: of a thousand reactions each firing then costs no more. */
interface ActionLists {
  /** Stable names across edits: the id of a reaction or cue, or `state/entry`, `state/exit`. */
  readonly keys: readonly string[];
  /** Where the actions of each list begin; one more at the end. */
  readonly first: readonly number[];
  /** By list whether any of its actions comes later, and where what is spawned lies that acts so, −1 for the piece itself. */
  readonly delayed: readonly boolean[];
  readonly place: readonly number[];
  readonly compiled: readonly CompiledAction[];
  /** By action its delay, seconds, and whether it is a `go`, which in onEntry and onExit counts one deeper. */
  readonly after: readonly number[];
  readonly goes: readonly boolean[];
}

export interface ReactionProgram {
  readonly reaction: Reaction;
  // What each firing asks of the record, beside what it asks of the program: a thousand of them then cost no more each.
  readonly id: string;
  readonly of: string;
  readonly event: EventName;
  readonly cooldown: number;
  readonly after: number;
  readonly limited: boolean;
  readonly object: number;
  readonly when: Test;
  readonly actions: number;
}

/** What is painted besides faces that lie in parallel planes, which depth alone puts in order. */
export interface Depth {
  /** Finds the soft shadows of solids; `up`: the view's upward direction, `seen`: scratch of one number an object. */
  contacts(
    faces: FaceList,
    geometry: Geometry,
    values: Float64Array,
    viewWorld: Float64Array,
    up: Float64Array,
    seen: Float64Array,
  ): void;
  /** What puts faces in painting order, and keeps what it found out from one time to the next. */
  newOrder(): { sort(faces: FaceList): void };
}

export interface Program {
  readonly piece: Piece;
  readonly objects: readonly SceneObject[];
  readonly objectIndex: ReadonlyMap<string, number>;
  readonly geometry: Geometry;
  /** 1 for guides and what lies below them. */
  readonly guides: Uint8Array;
  readonly base: Float64Array;
  readonly clips: readonly ClipProgram[];
  readonly clipIndex: ReadonlyMap<string, number>;
  readonly signals: readonly Signal[];
  /** Seconds for which a pulse is remembered, 0 for none. */
  readonly remember: Float64Array;
  readonly signalIndex: ReadonlyMap<string, number>;
  readonly lanes: readonly LaneProgram[];
  readonly laneIndex: ReadonlyMap<string, number>;
  /** Where the lanes of direct plays begin, after all those of machines, below which they lie. */
  readonly firstDirect: number;
  readonly plain: PlainPlays;
  /** The values that are words, and the slots of lanes that write such. */
  readonly words: readonly number[];
  readonly wordSlots: readonly number[];
  /** For each value that is asked for by itself (offset tracks, tweens, motors), the lanes that write it, in order. */
  readonly laneWriters: ReadonlyMap<number, readonly number[]>;
  /** The values that some action tweens, with their ways of mixing, and the row of each in the state; likewise motors. */
  readonly tweenAts: readonly number[];
  readonly tweenModes: readonly number[];
  readonly tweenRows: ReadonlyMap<number, number>;
  readonly motorAts: readonly number[];
  readonly motorRows: ReadonlyMap<number, number>;
  readonly driver: Driver | null;
  readonly depth: Depth | null;
  /** Number of the visitor's object; −1 where there is none. */
  readonly visitor: number;
  readonly spawns: Spawns;
  /** The curves of tweens, in one pool; and the place of each by its name. */
  readonly curves: Float64Array;
  readonly curveAt: ReadonlyMap<string, number>;
  /** The values that some lane writes, each once; and the opacities among them. */
  readonly written: Int32Array;
  readonly amounts: Int32Array;
  readonly reactions: readonly ReactionProgram[];
  readonly reactionIndex: ReadonlyMap<string, number>;
  /** How events are heard, by their names. */
  readonly hearing: ReadonlyMap<string, Hearing>;
  readonly reactionsOn: Listeners;
  readonly lanesOn: Listeners;
  readonly asking: Asking;
  readonly lists: ActionLists;
  readonly listIndex: ReadonlyMap<string, number>;
  /** Consumers of random streams; stream i takes four words from 4·i. */
  readonly streams: readonly string[];
  readonly streamIndex: ReadonlyMap<string, number>;
  /** The features that it was compiled with, what they have of it, and their rows in a state of it. */
  readonly features: Features;
  readonly parts: ProgramParts;
  readonly rowsOf: (make: RowMaker) => StateParts;
}

/**
 * What posing a lane needs when it does no more than play one clip with all its weight, or rest: in rows side by side,
 * since thousands of lanes are posed in each tick, and following records to records would cost more than the sampling.
 */
export interface PlainPlays {
  /** 1 for a lane that replaces with all its weight and keeps nothing. */
  readonly lane: Uint8Array;
  /** The slots of all lanes, and by lane where its own begin; one more at the end. */
  readonly slots: Int32Array;
  readonly firstSlot: Int32Array;
  /** Number of each lane's first state in the rows of states. */
  readonly firstState: Int32Array;
  /** Kind and clip of each state, and where its tracks begin in the rows of tracks; one more at the end. */
  readonly kind: Uint8Array;
  readonly clip: Int32Array;
  readonly firstTrack: Int32Array;
  /** Index into the values of each track, −1 where its object is missing. */
  readonly value: Int32Array;
  /** By state: 1 where waiting alone may let a lane go, and where it may go without an event. */
  readonly waits: Uint8Array;
  readonly eventless: Uint8Array;
  /** The tracks of all clips, and by clip the number of its first one. */
  readonly tracks: Tracks;
  readonly firstOf: Int32Array;
  /** By clip. */
  readonly loop: readonly Clip['loop'][];
  readonly duration: Float64Array;
  readonly cueTimes: readonly Float64Array[];
  readonly clipIds: readonly string[];
  /** By lane: its id, and of a direct play what it is. */
  readonly laneIds: readonly string[];
  readonly direct: readonly LaneProgram['direct'][];
}

/** Whose eventless transitions must be asked again when something changes; all are numbers of lanes. */
export interface Asking {
  readonly bySignal: readonly (readonly number[])[];
  readonly byLane: readonly (readonly number[])[];
  /** Those that ask for what time alone may change. */
  readonly always: readonly number[];
  /** Those that ask what features tell of, by its name. */
  readonly byTopic: ReadonlyMap<string, readonly number[]>;
  /** Those that ask for what the pointer is over or pressed on. */
  readonly pointer: readonly number[];
  /** Those that play a clip at the speed of a signal, or blend by it. */
  readonly speedOf: readonly (readonly number[])[];
}
