/** A piece compiled for running: records become numbers and flat arrays; names and ids stay for the trace. */
import { type ClipData, compileClip, MIX_COLOR, mixOf } from '../anim/index.ts';
import {
  type Action,
  CHANNELS,
  type Clip,
  type EventName,
  type Lane,
  type Piece,
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
  /** Slot of the lane that each track of the clip writes; −1 where its object is missing here. */
  readonly trackSlots: Int32Array;
  /** 1 for each slot of the lane that this state's clip writes. */
  readonly keyed: Uint8Array;
  readonly entryActions: number;
  readonly exitActions: number;
  /** The transitions that may lead out, in the order in which they are asked. */
  readonly ways: readonly TransitionProgram[];
}

export interface TransitionProgram {
  readonly transition: Transition;
  readonly target: number;
  /** 0 for from anywhere, else 1 + the state's number: odds are drawn among one source's transitions. */
  readonly source: number;
  /** Equal for transitions that listen to the same thing. */
  readonly onKey: string;
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
  readonly stream: number;
  /** Sources of odds: states + 1. */
  readonly sources: number;
}

export interface ActionList {
  /** Stable name across edits: the id of its reaction or cue, or `state/entry`, `state/exit`. */
  readonly key: string;
  readonly actions: readonly Action[];
  /** Random stream for `pick`. */
  readonly stream: number;
  readonly object: number;
}

export interface ReactionProgram {
  readonly reaction: Reaction;
  readonly object: number;
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
  readonly reactions: readonly ReactionProgram[];
  /** Reactions that listen to an event (or are re-armed by it), in document order. */
  readonly reactionsOn: ReadonlyMap<EventName, readonly number[]>;
  readonly lists: readonly ActionList[];
  readonly listIndex: ReadonlyMap<string, number>;
  /** Consumers of random streams; stream i takes four words from 4·i. */
  readonly streams: readonly string[];
}

/**
 * Compiles a piece that `readPiece` or an editor has found sound. `like` is a program of an earlier state of it: while
 * no object is made, deleted or moved in the tree, its order and numbers serve again.
 */
export function compile(piece: Piece, like?: Program): Program {
  return new Compiler(piece, like).program();
}

/** The objects in the order that they have in `like`, or null when the tree is another. */
function sameOrder(objects: Piece['objects'], like: Program): SceneObject[] | null {
  const list: SceneObject[] = [];
  for (const before of like.objects) {
    const o = objects[before.id];
    if (!o || o.parent !== before.parent || o.order !== before.order) return null;
    list.push(o);
  }
  return Object.keys(objects).length === list.length ? list : null;
}

class Compiler {
  private readonly piece: Piece;
  private readonly objects: readonly SceneObject[];
  private readonly objectIndex: ReadonlyMap<string, number>;
  private readonly streams: string[] = [];
  private readonly streamIndex = new Map<string, number>();
  private readonly lists: ActionList[] = [];
  private readonly listIndex = new Map<string, number>();

  constructor(piece: Piece, like: Program | undefined) {
    this.piece = piece;
    const again = like ? sameOrder(piece.objects, like) : null;
    this.objects = again ?? treeOrder(Object.values(piece.objects));
    this.objectIndex = again && like ? like.objectIndex : new Map(this.objects.map((o, i) => [o.id, i]));
  }

  program(): Program {
    const p = this.piece;
    const clips = Object.values(p.clips).map((c) => this.clip(c));
    const clipIndex = new Map(clips.map((c, i) => [c.clip.id, i]));
    const signals = Object.values(p.signals);
    const { base, geometry } = compileObjects(this.objects, this.objectIndex, p.assets);
    const lanes: LaneProgram[] = [];
    for (const m of Object.values(p.machines)) {
      const object = this.objectIndex.get(m.object) ?? -1;
      for (const lane of m.lanes) lanes.push(this.lane(lane, m.id, object, clips, clipIndex));
    }
    const reactions = Object.values(p.reactions).map((r) => this.reaction(r));
    return {
      piece: p,
      objects: this.objects,
      objectIndex: this.objectIndex,
      geometry,
      guides: guidesOf(this.objects, this.objectIndex),
      base,
      clips,
      clipIndex,
      signals,
      signalIndex: new Map(signals.map((s, i) => [s.id, i])),
      lanes,
      laneIndex: new Map(lanes.map((l, i) => [l.lane.id, i])),
      reactions,
      reactionsOn: reactionsByEvent(reactions),
      lists: this.lists,
      listIndex: this.listIndex,
      streams: this.streams,
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

  private list(key: string, consumer: string, actions: readonly Action[], object: number): number {
    this.listIndex.set(key, this.lists.length);
    return this.lists.push({ key, actions, stream: this.stream(consumer), object }) - 1;
  }

  private clip(clip: Clip): ClipProgram {
    const root = this.objectIndex.get(clip.root) ?? -1;
    return {
      clip,
      data: clipData(clip),
      cueTimes: Float64Array.from(clip.cues, (q) => q.t),
      cueActions: clip.cues.map((q) => this.list(q.id, q.id, q.actions, root)),
    };
  }

  private lane(
    lane: Lane,
    machine: string,
    object: number,
    clips: readonly ClipProgram[],
    clipIndex: ReadonlyMap<string, number>,
  ): LaneProgram {
    const slots = new SlotTable();
    const stateIndex = new Map(lane.states.map((s, i) => [s.id, i]));
    const ways = transitionPrograms(lane, stateIndex);
    const clipOf = (s: State) => (typeof s.play === 'object' ? (clipIndex.get(s.play.clip) ?? -1) : -1);
    // All states are bound first: only then it is known how many slots the lane has.
    const bound = lane.states.map((s) => {
      const clip = clips[clipOf(s)];
      return clip ? this.bind(clip.clip, object, slots) : new Int32Array(0);
    });
    const states = lane.states.map((state, i): StateProgram => {
      const clip = clipOf(state);
      const trackSlots = bound[i] as Int32Array;
      return {
        state,
        kind: state.play === 'hold' ? HOLD : clip < 0 ? REST : PLAY,
        clip,
        trackSlots,
        keyed: keyedSlots(trackSlots, slots),
        entryActions: state.onEntry?.length
          ? this.list(`${state.id}/entry`, state.id, state.onEntry, object)
          : -1,
        exitActions: state.onExit?.length
          ? this.list(`${state.id}/exit`, state.id, state.onExit, object)
          : -1,
        ways: [...ways.filter((w) => w.source === i + 1), ...ways.filter((w) => w.source === 0)],
      };
    });
    return {
      lane,
      machine,
      object,
      states,
      stateIndex,
      slots: Int32Array.from(slots.values),
      slotMode: Uint8Array.from(slots.modes),
      stream: this.stream(lane.id),
      sources: lane.states.length + 1,
    };
  }

  /** Which slot each track of a clip writes when it is played at `root`. */
  private bind(clip: Clip, root: number, slots: SlotTable): Int32Array {
    const elsewhere = this.objects[root]?.id !== clip.root;
    return Int32Array.from(clip.tracks, (track) => {
      const object = elsewhere
        ? this.byPath(clip.root, track.object, root)
        : this.objectIndex.get(track.object);
      if (object === undefined || object < 0) return -1;
      return slots.slot(object, propertyInfo(track.property) as PropertyInfo);
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
      const parent = this.objects[at]?.id;
      at = this.objects.findIndex((x) => x.parent === parent && x.name === name);
      if (at < 0) return -1;
    }
    return at;
  }

  private reaction(r: Reaction): ReactionProgram {
    const object = this.objectIndex.get(r.object) ?? -1;
    return {
      reaction: r,
      object,
      actions: this.list(r.id, r.id, r.actions, object),
      jitterStream: r.on.jitter ? this.stream(`${r.id}/jitter`) : -1,
    };
  }
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

function transitionPrograms(lane: Lane, stateIndex: ReadonlyMap<string, number>): TransitionProgram[] {
  return lane.transitions.map((transition) => ({
    transition,
    target: stateIndex.get(transition.to) ?? 0,
    source: transition.from === '*' ? 0 : 1 + (stateIndex.get(transition.from) ?? 0),
    onKey: transition.on === null ? '' : JSON.stringify(Object.entries(transition.on).sort()),
  }));
}

function reactionsByEvent(reactions: readonly ReactionProgram[]): Map<EventName, number[]> {
  const map = new Map<EventName, number[]>();
  const add = (event: EventName, i: number) => {
    const list = map.get(event) ?? [];
    map.set(event, list);
    if (list.at(-1) !== i) list.push(i);
  };
  reactions.forEach((r, i) => {
    add(r.reaction.on.event, i);
    if (typeof r.reaction.limit === 'object') add(r.reaction.limit.onceUntil.event, i);
  });
  return map;
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
