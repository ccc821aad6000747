/**
 * What all parts of a run share: the program, the state, the date being served, the trace, the events that wait, and how
 * much a tick may do. The parts know this; few of them know each other.
 */
import { SAME_DATE, TICKS_PER_SECOND, tickTime } from '../base/index.ts';
import type { SignalValue } from '../model/index.ts';
import type { Agenda } from './agenda.ts';
import { Jumps } from './jumps.ts';
import type { LaneProgram, Program, StateProgram } from './program.ts';
import { isObjectThere, trueName } from './spawned.ts';
import { type Due, NEXT_REC, NEXT_SEQ, type RunState } from './state.ts';
import type { Cause, TraceFields, TraceRecord } from './trace.ts';

/** Causes that follow one another at one instant, and events there. */
export const MAX_DEPTH = 64;
const MAX_EVENTS = 4096;
/** Events that a tick serves in all, so that 4,096 dates of 4,096 events cannot come. */
const MAX_TICK_EVENTS = 65536;
/** Events that wait at one date: a list of a thousand messages, each heard by itself, must not fill the memory. */
const MAX_QUEUE = 65536;
/** Dues, cues and `go`s that a tick serves besides, and so many more a lane: what has no end at one instant has one. */
const MAX_TICK_ACTS = 65536;
const ACTS_PER_LANE = 16;

/** A raised event waiting to be served. */
export interface QueuedEvent {
  readonly rec: TraceRecord;
  readonly depth: number;
  /** Number of the object it happened to, −1 for none. */
  readonly object: number;
  /** For `state.done`: the entry it belongs to. */
  readonly entry: number;
  /** Number of the object that was noticed, −1 for none. */
  readonly other: number;
}

const isId = (x: unknown): x is string => typeof x === 'string' && x.includes('#');

export class Context {
  program: Program;
  state: RunState;
  agenda: Agenda;
  /** Whether records are kept for `takeTrace`. */
  tracing = true;
  /** What acts when a list of actions is to: set once, by the run that puts the parts together. */
  actAll: (list: number, cause: Cause, inState: boolean) => void = () => {};
  /** Whoever changes what is on the screen tells it first. */
  readonly jumps: Jumps = new Jumps(this);

  /** The date being served, and the same with what counts as one date with it; in rows, which cost no memory. */
  readonly clock = new Float64Array(1);
  readonly limit = new Float64Array(1);

  /** Events that wait, from `head` on. */
  readonly queue: QueuedEvent[] = [];
  head = 0;
  stormed = false;
  /** Events served at this date, and in this tick; acts in this tick. */
  #served = 0;
  #servedInTick = 0;
  #acts = 0;
  #records: TraceRecord[] = [];
  /** Records of this tick, for naming the ring of a storm. */
  readonly recent: TraceRecord[] = [];

  constructor(program: Program, state: RunState, agenda: Agenda) {
    this.program = program;
    this.state = state;
    this.agenda = agenda;
  }

  get t(): number {
    return this.clock[0] as number;
  }
  setDate(t: number): void {
    this.clock[0] = t;
    this.limit[0] = t + SAME_DATE;
  }
  /** The date of a tick; a whole number is passed, which costs no memory. */
  setTick(tick: number): void {
    this.clock[0] = tick / TICKS_PER_SECOND;
    this.limit[0] = (this.clock[0] as number) + SAME_DATE;
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
    this.#servedInTick = 0;
    this.#acts = 0;
    this.recent.length = 0;
  }
  beginDate(): void {
    this.#served = 0;
  }

  get exhausted(): boolean {
    return this.#acts > MAX_TICK_ACTS + ACTS_PER_LANE * this.program.lanes.length;
  }

  /** Counts an act of this tick; false when it has had all that a tick serves. */
  mayAct(): boolean {
    this.#acts++;
    return !this.exhausted;
  }

  /** Whether a `go` may go: not at the end of a chain that has become too long, which is a storm. */
  mayGoOn(cause: Cause): boolean {
    if (cause.depth <= MAX_DEPTH) return this.mayAct();
    if (!this.stormed) this.stormAt(cause.rec);
    return false;
  }

  /** Writes a record of the trace at the present date. */
  raise(fields: TraceFields, cause: Cause): TraceRecord {
    const { one } = this.state;
    const id = one[NEXT_REC] as number;
    one[NEXT_REC] = id + 1;
    const rec: TraceRecord = { id, tick: this.state.tick, t: this.t, ...fields, cause: cause.rec };
    const { places, parts } = this.program.spawns;
    if (this.tracing) this.#records.push(places.length > 0 || parts.length > 0 ? this.#named(rec) : rec);
    this.recent.push(rec);
    return rec;
  }

  /** A record as people read it: what was spawned has the number of the one that is there, and a part the name of what it is. */
  #named(rec: TraceRecord): TraceRecord {
    const { program, state } = this;
    const out: Record<string, unknown> = {};
    for (const [k, x] of Object.entries(rec)) out[k] = isId(x) ? trueName(program, state, x) : x;
    const part = rec.kind === 'action' && program.spawns.parts.find((p) => p.part.id === rec.object)?.part;
    if (part) {
      out['object'] = trueName(program, state, part.object);
      out['property'] = part.id.slice(part.object.length + 1);
    }
    return out as unknown as TraceRecord;
  }

  /** What is to happen at a date; of two at one date the one laid first. */
  addDue({ t, what, index, action, n, cause }: Omit<Due, 'seq'>): void {
    const { one } = this.state;
    const seq = one[NEXT_SEQ] as number;
    one[NEXT_SEQ] = seq + 1;
    this.state.addDue({ t, seq, what, index, action, n, cause });
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

  /** Events that still wait about what is gone (`id`, its objects) are heard as such, not by what comes in its place. */
  forgetNames(id: string, objects: { readonly from: number; readonly to: number }, above: number): void {
    const unnamed = (x: unknown) =>
      typeof x === 'string' && (x === id || x.startsWith(`${id}/`)) ? `gone ${x}` : x;
    for (let k = this.head; k < this.queue.length; k++) {
      const e = this.queue[k] as QueuedEvent;
      const rec = Object.fromEntries(Object.entries(e.rec).map(([name, x]) => [name, unnamed(x)]));
      const isInside = e.object >= objects.from && e.object < objects.to;
      this.queue[k] = { ...e, rec: rec as unknown as TraceRecord, object: isInside ? above : e.object };
    }
  }

  /** The next event that waits; null when none does, or one too many was served. */
  nextEvent(): QueuedEvent | null {
    if (this.head >= this.queue.length) {
      if (this.head > 0) this.queue.length = 0;
      this.head = 0;
      return null;
    }
    const e = this.queue[this.head] as QueuedEvent;
    this.head++;
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

  #storm(last: TraceRecord): void {
    this.stormed = true;
    this.queue.length = 0;
    this.head = 0;
    // What was not asked any more is asked in the next tick.
    this.agenda.markAll();
    const byId = new Map(this.recent.map((r) => [r.id, r]));
    const ring: string[] = [];
    for (let r: TraceRecord | undefined = last; r; r = r.cause === null ? undefined : byId.get(r.cause)) {
      const id = r.transition ?? r.reaction;
      if (id === undefined || (r.kind !== 'transition' && r.kind !== 'reaction')) continue;
      if (ring.includes(id)) break;
      ring.unshift(id);
    }
    this.raise({ kind: 'storm', ring }, { rec: last.id, depth: 0 });
  }

  /** The records since the last call. */
  takeTrace(): TraceRecord[] {
    const out = this.#records;
    this.#records = [];
    return out;
  }
}
