/**
 * What all parts of a run share: the program, the state, the instant being served, the trace, the events that wait, and how
 * much a tick may do. The parts know this; few of them know each other.
 * It is long since what parts share is a little of everything.
 */
import { SAME_INSTANT, TICKS_PER_SECOND, tickTime } from '../base/index.ts';
import type { SignalValue } from '../model/index.ts';
import type { QueuedEvent } from './events.ts';
import { findObject } from './input.ts';
import type { RunParts } from './parts.ts';
import { type PhaseLists, phaseLists } from './phases.ts';
import { firstScheduledOf, isObjectThere, isThere, placeName, trueName } from './presence.ts';
import type { LaneProgram, Program, StateProgram } from './program.ts';
import type { Schedule } from './schedule.ts';
import { NEXT_REC, NEXT_SEQ, type RunState, type Scheduled } from './state.ts';
import { type Cause, NO_CAUSE, type TraceFields, type TraceRecord } from './trace.ts';

/** Causes that follow one another at one instant, and events there. */
export const MAX_DEPTH = 64;
const MAX_EVENTS = 4096;
/** Events that a tick serves in all, so that 4,096 instants of 4,096 events cannot come. */
const MAX_TICK_EVENTS = 65536;
/** Events that wait at one instant: a list of a thousand messages, each heard by itself, must not fill the memory. */
const MAX_QUEUE = 65536;
/**
 * What a tick serves: so many steps, and so many more a lane; so many records a step; so many spawns. A step is a reaction,
 * an action, a cue, a scheduled item, a transition, an effect or caption that begins, an end, a spawn, a removal: what has no end at
 * one instant has one.
 */
const MAX_TICK_STEPS = 65536;
const STEPS_PER_LANE = 16;
const RECORDS_PER_STEP = 4;
const MAX_TICK_SPAWNS = 256;
/** Acts from which on it is counted who asks, as a part of all that a tick serves. */
const COUNTED_FROM = 0.5;

/** Who asks for steps: a lane by its number, a list of actions by −1 less its number; `NOBODY` where it is neither. */
export type Requester = number;
export const NOBODY: Requester = Number.NaN;
export const listAsks = (list: number): Requester => (list < 0 ? NOBODY : -1 - list);

/** Who is told of what changes at once, before it does: it compares when the instant is over. */
export interface DiscontinuityListener {
  /** The value at `at` is about to be changed by something other than time; lane i is about to be led elsewhere. */
  touch(at: number): void;
  touchLane(i: number): void;
  /** A signal is about to change: lanes may count, or blend, by it. */
  touchSignal(signal: number): void;
  endInstant(): void;
  /** All that is in a run is anew, after an edit. */
  all(): void;
}
const NOBODY_ASKS: DiscontinuityListener = {
  touch: () => {},
  touchLane: () => {},
  touchSignal: () => {},
  endInstant: () => {},
  all: () => {},
};

/** What features do for one another; each begins as it is without the feature that does it. */
export interface Services {
  /** How far an object was dragged from its base along an axis (0, 1, 2), px. */
  dragDistance: (object: number, axis: number) => number;
  /** Whether the press that is under way has become a drag; which object moves by it, −1 for none; along which axes, `xz`. */
  isDragging: () => boolean;
  dragged: () => number;
  draggedAlong: () => string;
  /** The zones that have an object in them, by id. */
  zonesOf: (object: number) => readonly string[];
  /** Whether anything stops what moves; and how far an object comes that would go by `way` in the world, px, written to `way`. */
  blocks: () => boolean;
  stop: (object: number, displacement: Float64Array, along: string) => void;
}

/** What is known of the kinds of scheduled items. */
export interface ScheduledTable {
  number(name: string): number;
  /** The place of what is spawned that asked for one; −1 for the piece itself. */
  placeOf(program: Program, what: number, index: number): number;
}

const NO_PHASES = phaseLists([]);
const isOfPlace = (x: unknown): x is string => typeof x === 'string' && x.includes('#');

export class Context {
  program: Program;
  state: RunState;
  schedule: Schedule;
  /** Whether records are kept for `takeTrace`. */
  tracing = true;
  /** What acts when a list of actions is to: set once, by the run that puts the parts together. */
  runActions: (list: number, cause: Cause, inState: boolean) => void = () => {};
  /** Whoever changes what is on the screen tells it first. */
  discontinuities: DiscontinuityListener = NOBODY_ASKS;
  readonly services: Services = {
    ...{ dragDistance: () => 0, isDragging: () => false, dragged: () => -1, draggedAlong: () => '' },
    ...{ zonesOf: () => [], blocks: () => false, stop: () => {} },
  };
  /** What features do, and the same by phase: set once, by the run that puts the parts together. */
  parts: RunParts = {};
  phases: PhaseLists = NO_PHASES;
  readonly #scheduled: ScheduledTable;

  /** The instant being served, and the same with what counts as one instant with it; in rows, which cost no memory. */
  readonly clock = new Float64Array(1);
  readonly limit = new Float64Array(1);

  /** Events that wait, from `head` on. */
  readonly queue: QueuedEvent[] = [];
  head = 0;
  stormed = false;
  /** The instant of a storm of this tick: what led to it does not go on there. */
  #stormT = Number.NaN;
  /** Events served at this instant, and in this tick; steps and spawns in this tick, and the record before its first. */
  #served = 0;
  #servedInTick = 0;
  #acts = 0;
  #spawns = 0;
  #asking: Requester = NOBODY;
  #firstRec = 0;
  /** Who asked, and how often, once a good part of what a tick serves is used up. */
  readonly #asked = new Map<Requester, number>();
  /** Whether it is logged that this tick was asked for more than it serves. */
  #loggedTooMuch = false;
  /** The record with which what stood in a place went, of this tick; and the last of them. */
  readonly #goneAt = new Map<number, number>();
  #lastGone = -1;
  #records: TraceRecord[] = [];
  /** Records of this tick, for naming the ring of a storm. */
  readonly recent: TraceRecord[] = [];

  constructor(program: Program, state: RunState, schedule: Schedule, scheduled: ScheduledTable) {
    this.#scheduled = scheduled;
    this.program = program;
    this.state = state;
    this.schedule = schedule;
  }

  get t(): number {
    return this.clock[0] as number;
  }
  setInstant(t: number): void {
    this.clock[0] = t;
    this.limit[0] = t + SAME_INSTANT;
  }
  /** The instant of a tick; a whole number is passed, which costs no memory. */
  setTick(tick: number): void {
    this.clock[0] = tick / TICKS_PER_SECOND;
    this.limit[0] = (this.clock[0] as number) + SAME_INSTANT;
  }
  /** Time of the tick last done. */
  get time(): number {
    return tickTime(Math.max(0, this.state.tick));
  }

  lane(i: number): LaneProgram {
    return this.program.lanes[i] as LaneProgram;
  }
  /** The id of an object that is there; undefined for none, and for one that was spawned and is gone. */
  idOf(object: number): string | undefined {
    const { program, state } = this;
    return isObjectThere(program, state, object) ? program.objects[object]?.id : undefined;
  }
  activeState(i: number): StateProgram | undefined {
    return this.lane(i).states[this.state.active[i] as number];
  }
  signalValue(i: number): SignalValue {
    const def = this.program.signals[i];
    return def === undefined || def.type === 'pulse' ? false : this.state.signalValue(def, i);
  }

  beginTick(): void {
    this.stormed = false;
    this.#stormT = Number.NaN;
    this.#servedInTick = 0;
    this.#acts = 0;
    this.#spawns = 0;
    this.#firstRec = this.state.one[NEXT_REC] as number;
    this.#loggedTooMuch = false;
    if (this.#asked.size > 0) this.#asked.clear();
    if (this.#goneAt.size > 0) this.#goneAt.clear();
    this.#lastGone = -1;
    this.recent.length = 0;
  }
  beginInstant(): void {
    this.#served = 0;
  }

  /** Acts that a tick serves. */
  get #most(): number {
    return MAX_TICK_STEPS + STEPS_PER_LANE * this.program.lanes.length;
  }
  get exhausted(): boolean {
    const records = (this.state.one[NEXT_REC] as number) - this.#firstRec;
    return this.#acts > this.#most || records > RECORDS_PER_STEP * this.#most;
  }

  /** Counts a step of this tick; false, and logged once, when it has had all that a tick serves. */
  mayGoAhead(who: Requester = NOBODY): boolean {
    this.#acts++;
    if (!Number.isNaN(who)) this.#asking = who;
    if (this.#acts > COUNTED_FROM * this.#most) this.countRequester(this.#asking);
    if (!this.exhausted) return true;
    this.tooMuch('acts', this.#asking);
    return false;
  }

  /** Counts a spawn by who has asked last; false, and logged once, when this tick has had all that it serves. */
  maySpawn(): boolean {
    if (!this.mayGoAhead()) return false;
    if (++this.#spawns <= MAX_TICK_SPAWNS) return true;
    this.tooMuch('spawns', this.#asking);
    return false;
  }

  /** Somebody has asked for something in a tick that has been asked for much. */
  countRequester(who: Requester): void {
    this.#asked.set(who, (this.#asked.get(who) ?? 0) + 1);
  }

  /** The tick is asked for more than it serves: one record, naming who asked most, and what set each other off. */
  tooMuch(why: 'dates' | 'acts' | 'spawns', asking: Requester): void {
    if (this.#loggedTooMuch) return;
    this.#loggedTooMuch = true;
    // What is not asked any more is asked in the next tick.
    if (why === 'acts') this.schedule.markAll();
    let most = asking;
    for (const [who, n] of this.#asked)
      if (!Number.isNaN(who) && (Number.isNaN(most) || n > (this.#asked.get(most) ?? 0))) most = who;
    const ring = why === 'dates' ? [] : this.#ringFrom(this.recent.at(-1));
    this.raise({ kind: 'storm', why, ...this.#named(most), ...(ring.length > 0 ? { ring } : {}) }, NO_CAUSE);
  }

  /** What a record says of who asks: a lane, or what has the actions. */
  #named(who: Requester): TraceFields | object {
    const lane = this.program.lanes[who];
    if (lane) return lane.direct ?? { lane: lane.lane.id };
    const key = this.program.lists.keys[-1 - who];
    if (key === undefined) return {};
    if (this.program.reactionIndex.has(key)) return { reaction: key };
    const [id = '', when] = [key.replace(/\/(entry|exit)$/, ''), /\/(entry|exit)$/.exec(key)];
    return when ? { state: id } : { cue: id };
  }

  /** Whether a `go` may go: not at the end of a chain that has become too long, which is a storm, nor on from there. */
  mayGoOn(cause: Cause, who: Requester = NOBODY): boolean {
    if (cause.depth > MAX_DEPTH) {
      if (!this.stormed) this.stormAt(cause.rec);
      return false;
    }
    if (cause.depth > 0 && this.#stormT === this.t) return false;
    return this.mayGoAhead(who);
  }

  /** Writes a record of the trace at the present instant. */
  raise(fields: TraceFields, cause: Cause): TraceRecord {
    const { one } = this.state;
    const id = one[NEXT_REC] as number;
    one[NEXT_REC] = id + 1;
    const rec: TraceRecord = { id, tick: this.state.tick, t: this.t, ...fields, cause: cause.rec };
    const { places, parts } = this.program.spawns;
    if (this.tracing) this.#records.push(places.length > 0 || parts.length > 0 ? this.#asRead(rec) : rec);
    this.recent.push(rec);
    return rec;
  }

  /** A record as people read it: what was spawned has the number of the one that is there, and a part the name of what it is. */
  #asRead(rec: TraceRecord): TraceRecord {
    const { program, state } = this;
    const out: Record<string, unknown> = {};
    for (const [k, x] of Object.entries(rec)) out[k] = isOfPlace(x) ? trueName(program, state, x) : x;
    const part = rec.kind === 'action' && program.spawns.parts.find((p) => p.part.id === rec.object)?.part;
    if (part) {
      out['object'] = trueName(program, state, part.object);
      out['property'] = part.id.slice(part.object.length + 1);
    }
    return out as unknown as TraceRecord;
  }

  /** The record of an input, which has no cause. */
  recordInput(fields: Omit<TraceFields, 'kind'>): Cause {
    return { rec: this.raise({ kind: 'input', ...fields }, NO_CAUSE).id, depth: 0 };
  }

  /**
   * An object by its id or name, of what was spawned by that of the one that is there: its id, and its number, −1 for none,
   * whose id is the text itself.
   */
  find(text: string): [id: string, object: number] {
    const { program, state } = this;
    const id = findObject(program.piece, placeName(program, state, text))?.id ?? text;
    return [id, program.objectIndex.get(id) ?? -1];
  }

  /** The number of a kind of scheduled item, by its name. */
  scheduledNumber(name: string): number {
    return this.#scheduled.number(name);
  }

  /** Whether what is scheduled was asked for by what has gone since. */
  isStale({ what, index, seq }: Pick<Scheduled, 'what' | 'index' | 'seq'>): boolean {
    const { program, state } = this;
    if (program.spawns.places.length === 0) return false;
    const place = this.#scheduled.placeOf(program, what, index);
    return place >= 0 && (!isThere(state, place) || seq < firstScheduledOf(state, place));
  }

  /** Drops what is scheduled next while it was asked for by what has gone. */
  dropStale(): void {
    const { program, state } = this;
    if (program.spawns.places.length === 0) return;
    while (state.scheduledCount > 0 && this.isStale(state.scheduledAt(0))) state.takeScheduled();
  }

  /**
   * What was asked for by what has gone is dropped when its turn comes; where much of such waits, all of it at once, so that
   * what waits does not grow with all that ever came.
   */
  dropAllStale(): void {
    const { state } = this;
    if (state.scheduledCount <= 64 || state.scheduledCount <= 2 * this.#kept) return;
    const left: Scheduled[] = [];
    for (let i = 0; i < state.scheduledCount; i++) {
      const d = state.scheduledAt(i);
      if (!this.isStale(d)) left.push(d);
    }
    while (state.scheduledCount > 0) state.takeScheduled();
    for (const d of left) state.addScheduled(d);
    this.#kept = left.length;
  }
  /** How many scheduled items were left when they were last gone through. */
  #kept = 0;

  /** What is to happen at an instant; of two at one instant the one scheduled first. */
  addScheduled({ t, what, index, action, n, cause }: Omit<Scheduled, 'seq'>): void {
    const { one } = this.state;
    const seq = one[NEXT_SEQ] as number;
    one[NEXT_SEQ] = seq + 1;
    this.state.addScheduled({ t, seq, what, index, action, n, cause });
  }

  /** Queues the event of a record; `cause` is what led to it. */
  queueEvent(rec: TraceRecord, cause: Cause, object = -1, entry = -1, other = -1): void {
    if (this.stormed) return;
    const depth = cause.rec === null ? 0 : cause.depth + 1;
    if (depth > MAX_DEPTH || this.queue.length - this.head > MAX_QUEUE) {
      this.#storm(rec);
      return;
    }
    this.queue.push({ rec, depth, object, entry, other });
  }

  /** What stood in a place has gone with record `rec`: events that still wait about it are heard as such, not by what comes there. */
  forgetPlace(place: number, rec: number): void {
    this.#goneAt.set(place, rec);
    this.#lastGone = rec;
  }

  /** An event without the names of what has gone since it was raised. */
  #unnamed(e: QueuedEvent): QueuedEvent {
    const { program } = this;
    const { index, ofObject, places } = program.spawns;
    const isGone = (place: number | undefined) =>
      place !== undefined && place >= 0 && (this.#goneAt.get(place) ?? -1) >= e.rec.id;
    const unnamed = (x: unknown) => {
      if (!isOfPlace(x)) return x;
      const cut = x.indexOf('/');
      return isGone(index.get(cut < 0 ? x : x.slice(0, cut))) ? `gone ${x}` : x;
    };
    const rec = Object.fromEntries(Object.entries(e.rec).map(([name, x]) => [name, unnamed(x)]));
    let { object } = e;
    // What was logged of it goes on to what it lay in, which may be gone, too.
    for (let k = ofObject[object] ?? -1; object >= 0 && isGone(k); k = ofObject[object] ?? -1)
      object = program.geometry.parent[places[k]?.root ?? -1] ?? -1;
    return { ...e, rec: rec as unknown as TraceRecord, object };
  }

  /** The next event that waits; null when none does, or one too many was served. */
  nextEvent(): QueuedEvent | null {
    if (this.head >= this.queue.length) {
      if (this.head > 0) this.queue.length = 0;
      this.head = 0;
      return null;
    }
    const queued = this.queue[this.head] as QueuedEvent;
    const e = queued.rec.id <= this.#lastGone ? this.#unnamed(queued) : queued;
    this.head++;
    if (this.exhausted) {
      this.tooMuch('acts', NOBODY);
      this.#stop();
      return null;
    }
    if (++this.#served > MAX_EVENTS || ++this.#servedInTick > MAX_TICK_EVENTS) {
      this.#storm(e.rec);
      return null;
    }
    return e;
  }

  /** A chain of causes that has become too long, at this record, or at the newest when it is of an earlier tick. */
  stormAt(id: number | null): void {
    const last = this.recent.findLast((r) => r.id === id) ?? this.recent.at(-1);
    if (last) this.#storm(last);
  }

  /** Nothing settles any more until the next tick. */
  #stop(): void {
    this.stormed = true;
    this.queue.length = 0;
    this.head = 0;
    // What was not asked any more is asked in the next tick.
    this.schedule.markAll();
  }

  #storm(last: TraceRecord): void {
    this.#stop();
    this.#stormT = this.t;
    this.raise({ kind: 'storm', ring: this.#ringFrom(last) }, { rec: last.id, depth: 0 });
  }

  /** The transitions and reactions that led to a record of this tick, back to where one comes again. */
  #ringFrom(last: TraceRecord | undefined): string[] {
    const byId = new Map(this.recent.map((r) => [r.id, r]));
    const ring: string[] = [];
    for (let r = last; r; r = r.cause === null ? undefined : byId.get(r.cause)) {
      const id = r.transition ?? r.reaction;
      if (id === undefined || (r.kind !== 'transition' && r.kind !== 'reaction')) continue;
      if (ring.includes(id)) break;
      ring.unshift(id);
    }
    return ring;
  }

  /** The records since the last call. */
  takeTrace(): TraceRecord[] {
    const out = this.#records;
    this.#records = [];
    return out;
  }
}
