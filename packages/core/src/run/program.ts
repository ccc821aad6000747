/** A piece compiled for running, as `compile.ts` makes it: records as numbers and flat arrays; names and ids stay for the trace. */
import type { ClipData, Tracks } from '../anim/index.ts';
import type { Reads, Test } from '../logic/index.ts';
import type {
  Blocker,
  Clip,
  Collider,
  CueSheet,
  Effect,
  EventName,
  Follow,
  Lane,
  Piece,
  PlayFrom,
  Reaction,
  SceneObject,
  SheetCue,
  Signal,
  State,
  Transition,
} from '../model/index.ts';
import type { Geometry, ZoneShape } from '../world/index.ts';
import type { Act } from './acts.ts';
import type { Fade } from './fade.ts';
import type { Listeners } from './listening.ts';
import type { Spawns } from './spawn-program.ts';

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

/** Several clips at once, by weights. */
export interface BlendProgram {
  readonly clips: Int32Array;
  /** Of a range the places of its clips on it, rising; null of a stack. */
  readonly at: Float64Array | null;
  /** The number signal of a range, and the follow that gives its number instead; −1 for none. */
  readonly signal: number;
  readonly follow: number;
  /** Of a stack the amounts, and the number signals that give them instead, −1 for none. */
  readonly amounts: Float64Array;
  readonly amountSignals: Int32Array;
  /** All are gone through together: the play counts passes, one a whole. */
  readonly common: boolean;
  /** By clip, the slot of each of its tracks. */
  readonly slots: readonly Int32Array[];
  /** What is met of each clip; with a common phase as of one that lasts 1. */
  readonly met: readonly ClipProgram[];
  /** Whether none of them loops, and the length of the longest. */
  readonly once: boolean;
  readonly longest: number;
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
  /** Number of the follow that gives the place in the clip instead of time; −1 for none. */
  readonly follow: number;
  /** Slot of the lane that each track of the clip writes; −1 where its object is missing here. */
  readonly trackSlots: Int32Array;
  /** Index into the values of each track, likewise. */
  readonly trackValues: Int32Array;
  /** 1 for each slot of the lane that this state's clip writes. */
  readonly keyed: Uint8Array;
  readonly entryActions: number;
  readonly exitActions: number;
  /** The transitions that may lead out, in the order in which they are asked. */
  readonly ways: readonly TransitionProgram[];
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
  readonly when: Test;
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
export interface ActionLists {
  /** Stable names across edits: the id of a reaction or cue, or `state/entry`, `state/exit`. */
  readonly keys: readonly string[];
  /** Where the actions of each list begin; one more at the end. */
  readonly first: readonly number[];
  /** By list whether any of its actions comes later, and where what is spawned lies that acts so, −1 for the piece itself. */
  readonly delayed: readonly boolean[];
  readonly place: readonly number[];
  readonly acts: readonly Act[];
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
  /** Of a timer the first date and how long from one to the next, seconds, 0 where there is no next. */
  readonly first: number;
  readonly every: number;
  readonly jitter: number;
  readonly object: number;
  readonly when: Test;
  readonly actions: number;
  readonly jitterStream: number;
}

/** What notices things. */
export interface ColliderProgram {
  readonly collider: Exclude<Collider, Blocker>;
  /** Its number among all colliders, in document order. */
  readonly order: number;
  readonly shape: ZoneShape;
  /** Index into the values of its switch, where something writes that; −1: it is as its record says. */
  readonly switchAt: number;
  /** Its owner: the number of the object, and its place among `Meeting.nodes`. */
  readonly object: number;
  readonly owner: number;
  /** By node its rank among the things with its tags, −1 for what it does not notice. Its owner may be among them. */
  readonly rank: Int32Array;
  /** Where its pairs with those begin in the state's row of pairs, and how many there are. */
  readonly firstPair: number;
  readonly count: number;
}

/** Who may meet whom. */
export interface Meeting {
  readonly colliders: readonly ColliderProgram[];
  readonly index: ReadonlyMap<string, number>;
  readonly pairs: number;
  /** Owners, things, and all above either, in the order of the tree, by number; and of each the node above it, or −1. */
  readonly nodes: Int32Array;
  readonly above: Int32Array;
  readonly nodeOf: ReadonlyMap<number, number>;
  /** All that some zone may notice, by number. */
  readonly things: readonly number[];
  readonly lanes: readonly MeetingLane[];
}

/** A lane that writes places, turns, sizes or pivots of nodes. */
export interface MeetingLane {
  readonly lane: number;
  /** Those values. */
  readonly places: readonly number[];
  /** By state where its clip makes one of them jump: seconds in the clip, null for the turn of a loop; null: nowhere. */
  readonly jumps: readonly (readonly { readonly t: number | null; readonly at: number }[])[] | null;
  /** The signals by which the lane counts, or its blends do. */
  readonly weighedBy: readonly number[];
}

/** What follows, and what it goes after. */
export interface FollowProgram {
  readonly follow: Follow;
  /** Index into the values of the property that follows; −1 where a clip does. */
  readonly at: number;
  /** Its value is words. */
  readonly words: boolean;
  /** Lane and clip whose place follows, or lane alone whose blend does; −1 for none. */
  readonly lane: number;
  readonly clip: number;
  /** Numbers of what the source names: a signal, or objects; −1 for none, and for the pointer. */
  readonly signal: number;
  readonly a: number;
  readonly b: number;
  /** The part of the way that is made up in one tick, 0–1. */
  readonly part: number;
}

/** What can be dragged while it runs: its own `drag`, or the axes along which something follows it. */
export interface DragProgram {
  readonly object: number;
  /** Which of x, y and z it goes along. */
  readonly axes: readonly number[];
  /** Least and greatest way from its base, by axis: six numbers. */
  readonly limits: readonly number[];
  readonly moves: boolean;
  readonly back: {
    readonly seconds: number;
    readonly curve: number;
    /** Dropped into one of these zones it stays. */
    readonly unless: readonly string[];
  } | null;
}

/** An effect, and the curve by which a flash goes; −1 hold, −2 linear. */
export interface EffectProgram {
  readonly effect: Effect;
  readonly curve: number;
}

export interface SheetProgram {
  readonly sheet: CueSheet;
  /** Its cues are those from `first` up to `end` of `Program.cues`, in the order of the tree. */
  readonly first: number;
  readonly end: number;
}
export interface CueProgram {
  readonly cue: SheetCue;
  readonly sheet: number;
  /** Number of the cue that it is timed from, −1 for the sheet's start; whether from its end. */
  readonly parent: number;
  readonly after: boolean;
  /** Number of its actions among `Program.lists`, and what of each takes time. */
  readonly list: number;
  readonly acts: readonly CueAct[];
  readonly firstAct: number;
  /** Seconds that it takes, as planned. */
  readonly length: number;
}
/** What an action of a cue begins that takes time: rows of tweens, a caption, the lane of a direct play. */
export interface CueAct {
  readonly what: 'nothing' | 'tween' | 'caption' | 'play';
  readonly rows: readonly number[];
  readonly lane: number;
  readonly seconds: number;
}

/** A blocker, and the number of its owner. */
export interface BlockerProgram {
  /** Its number among all colliders, in document order. */
  readonly order: number;
  readonly blocker: Blocker;
  readonly switchAt: number;
  readonly object: number;
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
  /** What follows, in the order of the document, and what can be dragged, with its number by object. */
  readonly follows: readonly FollowProgram[];
  readonly followIndex: ReadonlyMap<string, number>;
  /** By place of the property, the last of those that set it. */
  readonly followAt: ReadonlyMap<number, number>;
  readonly drags: readonly DragProgram[];
  readonly meeting: Meeting;
  readonly effects: readonly EffectProgram[];
  readonly effectIndex: ReadonlyMap<string, number>;
  /** The answers of captions that ask, and their numbers by their ids, joined by commas. */
  readonly answers: readonly (readonly { readonly id: string; readonly text: string }[])[];
  readonly answersIndex: ReadonlyMap<string, number>;
  readonly sheets: readonly SheetProgram[];
  readonly sheetIndex: ReadonlyMap<string, number>;
  readonly cues: readonly CueProgram[];
  /** Number of the visitor's object; −1 where there is none. */
  readonly visitor: number;
  readonly blockers: readonly BlockerProgram[];
  readonly spawns: Spawns;
  readonly dragOf: ReadonlyMap<number, number>;
  /** The curves of tweens, in one pool; and the place of each by its name. */
  readonly curves: Float64Array;
  readonly curveAt: ReadonlyMap<string, number>;
  /** The values that some lane writes, each once; and the opacities among them. */
  readonly written: Int32Array;
  readonly amounts: Int32Array;
  readonly reactions: readonly ReactionProgram[];
  readonly reactionIndex: ReadonlyMap<string, number>;
  readonly reactionsOn: Listeners;
  readonly lanesOn: Listeners;
  readonly asking: Asking;
  readonly lists: ActionLists;
  readonly listIndex: ReadonlyMap<string, number>;
  /** Consumers of random streams; stream i takes four words from 4·i. */
  readonly streams: readonly string[];
  readonly streamIndex: ReadonlyMap<string, number>;
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
  /** Those that ask what a zone has noticed. */
  readonly byCollider: readonly (readonly number[])[];
  /** Those that ask for what the pointer is over or pressed on. */
  readonly pointer: readonly number[];
  /** Those that play a clip at the speed of a signal, or blend by it. */
  readonly speedOf: readonly (readonly number[])[];
}
