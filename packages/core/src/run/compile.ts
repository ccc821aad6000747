/** A piece compiled for running: records become numbers and flat arrays; names and ids stay for the trace. */
import { type ClipData, compileClip, MIX_COLOR, mixOf } from '../anim/index.ts';
import { compileConditions, type Names, type Reads, readsOf, type Test } from '../logic/index.ts';
import {
  type Action,
  CH_OPACITY,
  CHANNELS,
  type Clip,
  type Lane,
  type Piece,
  type PlayFrom,
  type PropertyInfo,
  propertyInfo,
  type Reaction,
  type SceneObject,
  type Signal,
  type State,
  type Transition,
  treeOrder,
} from '../model/index.ts';
import { compileObjects, type Geometry } from '../world/index.ts';
import { type Act, compileAction } from './acts.ts';
import { compileFade, type Fade } from './fade.ts';
import { type Listeners, ListenerTable, subjectOf } from './listening.ts';

export const REST = 0;
export const HOLD = 1;
export const PLAY = 2;

export interface ClipProgram {
  readonly clip: Clip;
  readonly data: ClipData;
  readonly cueTimes: Float64Array;
  /** Action list of each cue, in the clip's order. */
  readonly cueActions: readonly number[];
}

export interface StateProgram {
  readonly state: State;
  readonly kind: typeof REST | typeof HOLD | typeof PLAY;
  /** Number of the clip, −1 for rest and hold. */
  readonly clip: number;
  /** Factor on time, and the number signal that gives it instead, −1 for none. */
  readonly speed: number;
  readonly speedSignal: number;
  readonly from: PlayFrom;
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
  /** The pulses that its conditions ask, as places in the lane's list of them. */
  readonly pulses: readonly number[];
  readonly fade: Fade;
}

export interface LaneProgram {
  readonly lane: Lane;
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

export interface ActionList {
  /** Stable name across edits: the id of its reaction or cue, or `state/entry`, `state/exit`. */
  readonly key: string;
  readonly acts: readonly Act[];
  /** Delay of each, seconds. */
  readonly after: readonly number[];
  /** 1 for a `go`, which in onEntry and onExit counts one deeper. */
  readonly goes: readonly boolean[];
}

export interface ReactionProgram {
  readonly reaction: Reaction;
  readonly object: number;
  readonly when: Test;
  readonly actions: number;
  readonly jitterStream: number;
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
  readonly signalIndex: ReadonlyMap<string, number>;
  readonly lanes: readonly LaneProgram[];
  readonly laneIndex: ReadonlyMap<string, number>;
  readonly plain: PlainPlays;
  /** The values that some lane writes, each once; and the opacities among them. */
  readonly written: Int32Array;
  readonly amounts: Int32Array;
  readonly reactions: readonly ReactionProgram[];
  readonly reactionIndex: ReadonlyMap<string, number>;
  readonly reactionsOn: Listeners;
  readonly lanesOn: Listeners;
  readonly asking: Asking;
  readonly lists: readonly ActionList[];
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
  /** Number of each lane's first state in the rows of states. */
  readonly firstState: Int32Array;
  /** Kind and clip of each state, and where its tracks begin in the rows of tracks; one more at the end. */
  readonly kind: Uint8Array;
  readonly clip: Int32Array;
  readonly firstTrack: Int32Array;
  /** Index into the values of each track, −1 where its object is missing. */
  readonly value: Int32Array;
  /** By clip. */
  readonly data: readonly ClipData[];
  readonly loop: readonly Clip['loop'][];
  readonly duration: Float64Array;
}

/** Whose eventless transitions must be asked again when something changes; all are numbers of lanes. */
export interface Asking {
  readonly bySignal: readonly (readonly number[])[];
  readonly byLane: readonly (readonly number[])[];
  /** Those that ask for what time alone may change. */
  readonly always: readonly number[];
  /** Those that play a clip at the speed of a signal. */
  readonly speedOf: readonly (readonly number[])[];
}

/** Objects in the order of the tree, and their numbers. */
export interface Order {
  readonly objects: readonly SceneObject[];
  readonly objectIndex: ReadonlyMap<string, number>;
}

/** Compiles a piece that `readPiece` or an editor has found sound; `order`: that of its objects, where it is known. */
export function compile(piece: Piece, order: Order | null = null): Program {
  return new Compiler(piece, order).program();
}

class Compiler implements Names {
  private readonly piece: Piece;
  private readonly objects: readonly SceneObject[];
  private readonly objectIndex: ReadonlyMap<string, number>;
  private readonly signals: readonly Signal[];
  private readonly signalIndex: ReadonlyMap<string, number>;
  private readonly clipIndex: ReadonlyMap<string, number>;
  private readonly laneIndex = new Map<string, number>();
  private readonly stateIndex: ReadonlyMap<string, number>[] = [];
  private readonly streams: string[] = [];
  private readonly streamIndex = new Map<string, number>();
  private readonly lists: ActionList[] = [];
  private readonly listIndex = new Map<string, number>();
  private readonly lanesOn = new ListenerTable();
  private slotCount = 0;
  private sourceCount = 0;
  private pulseCount = 0;

  constructor(piece: Piece, order: Order | null) {
    this.piece = piece;
    this.objects = order?.objects ?? treeOrder(Object.values(piece.objects));
    this.objectIndex = order?.objectIndex ?? numbered(this.objects);
    this.signals = Object.values(piece.signals);
    this.signalIndex = numbered(this.signals);
    this.clipIndex = numbered(Object.values(piece.clips));
    for (const m of Object.values(piece.machines))
      for (const lane of m.lanes) {
        this.laneIndex.set(lane.id, this.stateIndex.length);
        this.stateIndex.push(numbered(lane.states));
      }
  }

  // The numbers of what actions and conditions name.
  signal(id: string): number {
    return this.signalIndex.get(id) ?? -1;
  }
  lane(id: string): number {
    return this.laneIndex.get(id) ?? -1;
  }
  state(lane: number, id: string): number {
    return this.stateIndex[lane]?.get(id) ?? -1;
  }
  clip(id: string): number {
    return this.clipIndex.get(id) ?? -1;
  }
  object(id: string): number {
    return this.objectIndex.get(id) ?? -1;
  }

  program(): Program {
    const p = this.piece;
    const clips = Object.values(p.clips).map((c) => this.clipProgram(c));
    const { base, geometry } = compileObjects(this.objects, this.objectIndex, p.assets);
    const lanes: LaneProgram[] = [];
    for (const m of Object.values(p.machines))
      for (const lane of m.lanes) lanes.push(this.laneProgram(lane, lanes.length, m.id, m.object, clips));
    const reactions = Object.values(p.reactions).map((r) => this.reaction(r));
    const written = Int32Array.from(new Set(lanes.flatMap((l) => [...l.slots])));
    return {
      piece: p,
      objects: this.objects,
      objectIndex: this.objectIndex,
      geometry,
      guides: guidesOf(this.objects, this.objectIndex),
      base,
      clips,
      clipIndex: this.clipIndex,
      signals: this.signals,
      signalIndex: this.signalIndex,
      lanes,
      laneIndex: this.laneIndex,
      plain: plainPlays(lanes, clips),
      written,
      amounts: written.filter((at) => at % CHANNELS === CH_OPACITY),
      reactions,
      reactionIndex: new Map(reactions.map((r, i) => [r.reaction.id, i])),
      reactionsOn: reactionsByEvent(reactions),
      lanesOn: this.lanesOn.table,
      asking: askingOf(lanes, this.signals.length),
      lists: this.lists,
      listIndex: this.listIndex,
      streams: this.streams,
      streamIndex: this.streamIndex,
    };
  }

  private stream(consumer: string): number {
    let at = this.streamIndex.get(consumer);
    if (at === undefined) {
      at = this.streams.length;
      this.streamIndex.set(consumer, at);
      this.streams.push(consumer);
    }
    return at;
  }

  private list(key: string, consumer: string, actions: readonly Action[]): number {
    const stream = this.stream(consumer);
    this.listIndex.set(key, this.lists.length);
    const acts = actions.map((a) => compileAction(a, this, stream));
    const after = actions.map((a) => a.after ?? 0);
    return this.lists.push({ key, acts, after, goes: actions.map((a) => a.do === 'go') }) - 1;
  }

  private clipProgram(clip: Clip): ClipProgram {
    return {
      clip,
      data: clipData(clip),
      cueTimes: Float64Array.from(clip.cues, (q) => q.t),
      cueActions: clip.cues.map((q) => this.list(q.id, q.id, q.actions)),
    };
  }

  private laneProgram(
    lane: Lane,
    number: number,
    machine: string,
    objectId: string,
    clips: readonly ClipProgram[],
  ): LaneProgram {
    const object = this.object(objectId);
    const stateIndex = this.stateIndex[number] as ReadonlyMap<string, number>;
    const pulses: number[] = [];
    const ways = lane.transitions.map((t, i) => this.transition(t, i, stateIndex, pulses));
    for (const { on } of lane.transitions)
      if (on) this.lanesOn.add(on.event, subjectOf(on, { object: objectId, lane: lane.id }), number);
    const slots = new SlotTable();
    const clipOf = (s: State) => (typeof s.play === 'object' ? this.clip(s.play.clip) : -1);
    // All states are bound first: only then it is known how many slots the lane has.
    const bound = lane.states.map((s) => {
      const clip = clips[clipOf(s)];
      return clip ? this.bind(clip.clip, object, slots) : new Int32Array(0);
    });
    const states = lane.states.map((state, i): StateProgram => {
      const clip = clipOf(state);
      const trackSlots = bound[i] as Int32Array;
      const play = typeof state.play === 'object' ? state.play : null;
      return {
        state,
        kind: state.play === 'hold' ? HOLD : clip < 0 ? REST : PLAY,
        clip,
        speed: typeof play?.speed === 'number' ? play.speed : 1,
        speedSignal: typeof play?.speed === 'object' ? this.signal(play.speed.signal) : -1,
        from: play?.from ?? 'start',
        trackSlots,
        trackValues: trackSlots.map((slot) => slots.values[slot] ?? -1),
        keyed: keyedSlots(trackSlots, slots),
        entryActions: state.onEntry?.length ? this.list(`${state.id}/entry`, state.id, state.onEntry) : -1,
        exitActions: state.onExit?.length ? this.list(`${state.id}/exit`, state.id, state.onExit) : -1,
        ways: [...ways.filter((w) => w.source === i + 1), ...ways.filter((w) => w.source === 0)],
      };
    });
    const [firstSlot, firstSource, firstPulse] = [this.slotCount, this.sourceCount, this.pulseCount];
    this.slotCount += slots.values.length;
    this.sourceCount += states.length + 1;
    this.pulseCount += pulses.length;
    return {
      lane,
      machine,
      object,
      states,
      stateIndex,
      slots: Int32Array.from(slots.values),
      slotMode: Uint8Array.from(slots.modes),
      keeps: lane.unkeyed === 'keep',
      adds: lane.blend === 'add',
      amount: typeof lane.amount === 'number' ? lane.amount : 1,
      amountSignal: typeof lane.amount === 'number' ? -1 : this.signal(lane.amount.signal),
      stream: this.stream(lane.id),
      pulses: Int32Array.from(pulses),
      firstSlot,
      firstSource,
      firstPulse,
    };
  }

  /** `pulses`: the lane's list, to which those that this one reads are added. */
  private transition(
    transition: Transition,
    number: number,
    stateIndex: ReadonlyMap<string, number>,
    pulses: number[],
  ): TransitionProgram {
    const { when, on, from, to } = transition;
    const own = when
      .map((c) => ('signal' in c ? this.signal(c.signal) : -1))
      .filter((i) => this.signals[i]?.type === 'pulse');
    for (const p of own) if (!pulses.includes(p)) pulses.push(p);
    return {
      transition,
      number,
      target: stateIndex.get(to) ?? 0,
      source: from === '*' ? 0 : 1 + (stateIndex.get(from) ?? 0),
      onKey: on === null ? '' : JSON.stringify(Object.entries(on).sort()),
      when: compileConditions(when, this),
      reads: readsOf(when, this),
      pulses: own.map((p) => pulses.indexOf(p)),
      fade: compileFade(transition.crossfade),
    };
  }

  /** Which slot each track of a clip writes when it is played at `root`. */
  private bind(clip: Clip, root: number, slots: SlotTable): Int32Array {
    const elsewhere = this.objects[root]?.id !== clip.root;
    return Int32Array.from(clip.tracks, (track) => {
      const object = elsewhere ? this.byPath(clip.root, track.object, root) : this.object(track.object);
      return object < 0 ? -1 : slots.slot(object, propertyInfo(track.property) as PropertyInfo);
    });
  }

  /** The object below `root` with the same path of names as `object` has below `from`; −1 when there is none. */
  private byPath(from: string, object: string, root: number): number {
    const names: string[] = [];
    let o = this.piece.objects[object];
    while (o && o.id !== from) {
      names.unshift(o.name);
      o = o.parent === null ? undefined : this.piece.objects[o.parent];
    }
    if (!o) return -1;
    let at = root;
    for (const name of names) {
      at = this.childNamed(this.objects[at]?.id ?? '', name);
      if (at < 0) return -1;
    }
    return at;
  }

  /** Numbers of objects by parent and name, made when a clip is first played elsewhere. */
  private children: Map<string, number> | null = null;
  private childNamed(parent: string, name: string): number {
    this.children ??= new Map(
      this.objects.map((o, i): [string, number] => [`${o.parent}/${o.name}`, i]).reverse(),
    );
    return this.children.get(`${parent}/${name}`) ?? -1;
  }

  private reaction(r: Reaction): ReactionProgram {
    return {
      reaction: r,
      object: this.object(r.object),
      when: compileConditions(r.when, this),
      actions: this.list(r.id, r.id, r.actions),
      jitterStream: r.on.jitter ? this.stream(`${r.id}/jitter`) : -1,
    };
  }
}

function numbered(records: readonly { readonly id: string }[]): Map<string, number> {
  return new Map(records.map((r, i) => [r.id, i]));
}

function reactionsByEvent(reactions: readonly ReactionProgram[]): Listeners {
  const table = new ListenerTable();
  reactions.forEach(({ reaction: r }, i) => {
    const own = { object: r.object, reaction: r.id };
    table.add(r.on.event, subjectOf(r.on, own), i);
    if (typeof r.limit === 'object') table.add(r.limit.onceUntil.event, subjectOf(r.limit.onceUntil, own), i);
  });
  return table.table;
}

function plainPlays(lanes: readonly LaneProgram[], clips: readonly ClipProgram[]): PlainPlays {
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
    firstState,
    kind: Uint8Array.from(states, (s) => s.kind),
    clip: Int32Array.from(states, (s) => s.clip),
    firstTrack,
    value,
    data: clips.map((c) => c.data),
    loop: clips.map((c) => c.clip.loop),
    duration: Float64Array.from(clips, (c) => c.data.duration),
  };
}

function askingOf(lanes: readonly LaneProgram[], signals: number): Asking {
  const table = (n: number) => Array.from({ length: n }, (): number[] => []);
  const bySignal = table(signals);
  const byLane = table(lanes.length);
  const speedOf = table(signals);
  const always: number[] = [];
  const add = (list: number[] | undefined, i: number) => {
    if (list && list.at(-1) !== i) list.push(i);
  };
  lanes.forEach((lane, i) => {
    for (const s of lane.states) {
      if (s.speedSignal >= 0) add(speedOf[s.speedSignal], i);
      for (const { transition, reads } of s.ways) {
        if (transition.on !== null) continue;
        for (const signal of reads.signals) add(bySignal[signal], i);
        for (const other of reads.lanes) add(byLane[other], i);
        if (reads.time) add(always, i);
      }
    }
  });
  return { bySignal, byLane, always, speedOf };
}

class SlotTable {
  readonly values: number[] = [];
  readonly modes: number[] = [];
  private readonly known = new Map<number, number>();

  slot(object: number, info: PropertyInfo): number {
    const value = object * CHANNELS + info.channel;
    let at = this.known.get(value);
    if (at === undefined) {
      at = this.values.length;
      this.known.set(value, at);
      for (let i = 0; i < info.width; i++) {
        this.values.push(value + i);
        this.modes.push(mixOf(info));
      }
    }
    return at;
  }
}

/** 1 for each slot that a state's tracks write; a colour's track writes three. */
function keyedSlots(trackSlots: Int32Array, slots: SlotTable): Uint8Array {
  const out = new Uint8Array(slots.values.length);
  for (const slot of trackSlots)
    if (slot >= 0) out.fill(1, slot, slot + (slots.modes[slot] === MIX_COLOR ? 3 : 1));
  return out;
}

const compiledClips = new WeakMap<Clip, ClipData>();

/** Records are never changed in place, so an edit elsewhere leaves a clip's data as it is. */
function clipData(clip: Clip): ClipData {
  let data = compiledClips.get(clip);
  if (!data) {
    data = compileClip(clip);
    compiledClips.set(clip, data);
  }
  return data;
}

function guidesOf(objects: readonly SceneObject[], index: ReadonlyMap<string, number>): Uint8Array {
  const out = new Uint8Array(objects.length);
  objects.forEach((o, i) => {
    const above = o.parent === null ? 0 : out[index.get(o.parent) ?? -1];
    out[i] = o.guide || above ? 1 : 0;
  });
  return out;
}
