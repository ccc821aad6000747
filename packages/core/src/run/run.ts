/**
 * A running piece. `step` is one tick: sweep the dates since the last one, then inputs, dues and settling at now,
 * then the pose. It knows no clock: its caller asks for ticks. Reading order: step → processDate → settle →
 * choose → enterState. What belongs to one concern lies in choosing, crossings, lane-motion, actions, pointer beside this file.
 */
import { SAME_DATE, tickTime } from '../base/index.ts';
import type { SignalValue } from '../model/index.ts';
import { Actions } from './actions.ts';
import { carryState } from './carry.ts';
import { Choosing } from './choosing.ts';
import { compile, type Program, type ReactionProgram, type TransitionProgram } from './compile.ts';
import { Crossings } from './crossings.ts';
import type { Input } from './input.ts';
import { LaneMotion } from './lane-motion.ts';
import { poseValues } from './lane-values.ts';
import { onMatches } from './on-matches.ts';
import { PointerTracker } from './pointer.ts';
import { Scene } from './scene.ts';
import { copyState, type Due, type LaneState, newState, type RunState } from './state.ts';
import { type Cause, NO_CAUSE, type TraceFields, type TraceRecord } from './trace.ts';

/** Causes that follow one another at one instant, and events there. */
const MAX_DEPTH = 64;
const MAX_EVENTS = 4096;
/** Dates that a tick serves. */
const MAX_DATES = 4096;
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
}

export interface RunOptions {
  readonly seed?: number;
  readonly view?: { readonly azimuth: number; readonly elevation: number };
}

export class Run {
  program: Program;
  state: RunState;
  readonly choosing: Choosing;
  readonly crossings: Crossings;
  readonly motion: LaneMotion;
  readonly actions: Actions;
  readonly pointer: PointerTracker;
  readonly scene: Scene;
  private queue: QueuedEvent[] = [];
  /** Events served at this date, and in this tick; acts in this tick. */
  private served = 0;
  private servedInTick = 0;
  private acts = 0;
  private stormed = false;
  /** Whether this tick's record of too many dates is written. */
  private told = false;
  private records: TraceRecord[] = [];
  /** Records of this tick, for naming the ring of a storm. */
  private recent: TraceRecord[] = [];
  /** The date being served. */
  t = 0;

  constructor(program: Program, options: RunOptions = {}) {
    this.program = program;
    this.state = newState(program, options.seed ?? program.piece.seed);
    if (options.view) this.state.view = { ...options.view };
    this.choosing = new Choosing(this);
    this.crossings = new Crossings(this);
    this.motion = new LaneMotion(this);
    this.actions = new Actions(this);
    this.pointer = new PointerTracker(this);
    this.scene = new Scene(this);
  }

  /** The tick last done; −1 before the first. */
  get tick(): number {
    return this.state.tick;
  }
  get time(): number {
    return tickTime(Math.max(0, this.state.tick));
  }

  /** One tick. The first is tick 0. `inputs` are those dated to this tick, in order. */
  step(inputs: readonly Input[] = []): void {
    const s = this.state;
    s.tick++;
    this.stormed = false;
    this.told = false;
    this.servedInTick = 0;
    this.acts = 0;
    this.recent.length = 0;
    const now = tickTime(s.tick);
    if (s.tick === 0) this.start();
    else this.sweep(tickTime(s.tick - 1), now);
    this.processDate(now, inputs);
    for (let i = 0; i < s.pulseUp.length; i++) s.pulseUp[i] = 0;
    poseValues(this.program, s, now);
    this.scene.changed();
  }

  private start(): void {
    this.t = 0;
    this.queueEvent(this.raise({ kind: 'event', event: 'piece.start' }, NO_CAUSE), NO_CAUSE, -1);
    this.program.reactions.forEach((r, i) => {
      const on = r.reaction.on;
      if (on.event === 'timer') this.actions.addTimer(i, 0);
    });
    this.program.lanes.forEach((_, i) => {
      this.motion.enterInitial(i);
    });
  }

  private sweep(before: number, now: number): void {
    let at = before;
    this.asked.clear();
    for (let n = 0; ; n++) {
      const next = Math.max(at, this.nextDate());
      if (!(next < now - SAME_DATE)) return;
      if (n >= MAX_DATES || this.exhausted) {
        this.tooMuch();
        this.passOver(now - SAME_DATE);
        return;
      }
      if (n >= MAX_DATES / 2) this.asked.set(this.asking, (this.asked.get(this.asking) ?? 0) + 1);
      this.processDate(next, null);
      at = next;
    }
  }

  /** Who asks for the date that `nextDate` found: a lane's number, or −1 less the number of a due's reaction or list. */
  private asking = 0;
  /** How often each asked, counted once a tick has had half of its dates. */
  private readonly asked = new Map<number, number>();

  private nextDate(): number {
    let best = Number.POSITIVE_INFINITY;
    for (const d of this.state.dues) {
      if (d.t >= best) continue;
      best = d.t;
      this.asking = -1 - d.index;
    }
    for (let i = 0; i < this.program.lanes.length; i++) {
      const t = Math.min(this.crossings.nextCrossing(i), this.choosing.nextMoment(i));
      if (t >= best) continue;
      best = t;
      this.asking = i;
    }
    return best;
  }

  private get exhausted(): boolean {
    return this.acts > MAX_TICK_ACTS + ACTS_PER_LANE * this.program.lanes.length;
  }

  /** A tick was asked for more than it serves: one record, naming who asked most. */
  private tooMuch(): void {
    if (this.told) return;
    this.told = true;
    let most = this.asking;
    for (const [who, n] of this.asked) if (n > (this.asked.get(most) ?? 0)) most = who;
    const lane = this.program.lanes[most]?.lane.id;
    const due = this.state.dues.find((d) => d.index === -1 - most);
    const list = due?.what === 'action' ? this.program.lists[due.index]?.key : undefined;
    const reaction = list ?? (due && this.program.reactions[due.index]?.reaction.id);
    const who = lane !== undefined ? { lane } : reaction !== undefined ? { reaction } : {};
    this.raise({ kind: 'storm', why: 'dates', ...who }, NO_CAUSE);
  }

  /** Drops what is due up to date `t`; timers, loops and plays then stand where they would stand. */
  private passOver(t: number): void {
    const late = this.state.dues.filter((d) => d.t <= t);
    if (late.length > 0) this.state.dues = this.state.dues.filter((d) => d.t > t);
    this.t = t;
    for (const d of late) if (d.what === 'timer') this.actions.addTimer(d.index, d.n + 1);
    for (let i = 0; i < this.program.lanes.length; i++) this.crossings.passOver(i, t);
  }

  /** Serves everything at one date until it brings nothing new. `inputs` is null between ticks. */
  private processDate(t: number, inputs: readonly Input[] | null): void {
    this.t = t;
    this.served = 0;
    if (inputs) for (const input of inputs) this.pointer.input(input);
    this.actDues(t);
    if (inputs) this.pointer.notice();
    this.settle();
    for (;;) {
      for (let i = 0; i < this.program.lanes.length; i++) this.crossings.serveCrossings(i, t);
      for (const l of this.state.lanes) l.momentT = t;
      this.settle();
      const dues = this.actDues(t);
      if (dues) this.settle();
      if (!dues && !this.isPending(t)) return;
      if (this.exhausted) {
        this.tooMuch();
        this.passOver(t + SAME_DATE);
        this.t = t;
        return;
      }
    }
  }

  /** Counts an act of this tick; false when it has had all that a tick serves. */
  mayAct(): boolean {
    this.acts++;
    return !this.exhausted;
  }

  /** Whether a `go` may go: not at the end of a chain that has become too long, which is a storm. */
  mayGoOn(cause: Cause): boolean {
    if (cause.depth <= MAX_DEPTH) return this.mayAct();
    const last = this.recent.findLast((r) => r.id === cause.rec) ?? this.recent.at(-1);
    if (!this.stormed && last) this.storm(last);
    return false;
  }

  private isPending(t: number): boolean {
    for (let i = 0; i < this.program.lanes.length; i++) {
      if (this.crossings.nextCrossing(i) <= t + SAME_DATE || this.choosing.nextMoment(i) <= t + SAME_DATE)
        return true;
    }
    return this.state.dues.some((d) => d.t <= t + SAME_DATE);
  }

  private actDues(t: number): boolean {
    let any = false;
    for (;;) {
      let best: Due | null = null;
      for (const d of this.state.dues)
        if (d.t <= t + SAME_DATE && (best === null || d.seq < best.seq)) best = d;
      if (!best || !this.mayAct()) return any;
      this.state.dues.splice(this.state.dues.indexOf(best), 1);
      any = true;
      this.actions.due(best);
    }
  }

  /** Writes a record of the trace at the present date. */
  raise(fields: TraceFields, cause: Cause): TraceRecord {
    const rec: TraceRecord = {
      id: this.state.nextRec++,
      tick: this.state.tick,
      t: this.t,
      ...fields,
      cause: cause.rec,
    };
    this.records.push(rec);
    this.recent.push(rec);
    return rec;
  }

  /** Queues the event of a record; `cause` is what led to it. */
  queueEvent(rec: TraceRecord, cause: Cause, object: number, entry = -1): void {
    if (this.stormed) return;
    const depth = cause.rec === null ? 0 : cause.depth + 1;
    if (depth > MAX_DEPTH || this.queue.length > MAX_QUEUE) {
      this.storm(rec);
      return;
    }
    this.queue.push({ rec, depth, object, entry });
  }

  private storm(last: TraceRecord): void {
    this.stormed = true;
    this.queue = [];
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

  private settle(): void {
    if (this.stormed) {
      this.queue = [];
      return;
    }
    let head = 0;
    let depth = 0;
    do {
      const e = this.queue[head];
      if (e) {
        head++;
        if (++this.served > MAX_EVENTS || ++this.servedInTick > MAX_TICK_EVENTS) {
          this.storm(e.rec);
          return;
        }
        depth = e.depth;
        this.serve(e);
      }
      this.eventless(depth);
      if (this.stormed) return;
    } while (head < this.queue.length);
    this.queue = [];
  }

  private serve(e: QueuedEvent): void {
    if (e.rec.event === 'pulse')
      this.state.pulseUp[this.program.signalIndex.get(e.rec.signal as string) as number] = 1;
    const stop = this.serveReactions(e);
    this.chooseAll(e, stop);
    for (let i = 0; i < this.chosen.length; i++) {
      const way = this.chosenStill(i);
      if (way) this.motion.take(i, way, { rec: e.rec.id, depth: e.depth });
    }
  }

  /** What each lane would take, asked of all before any goes; reused, since this happens several times a tick. */
  private readonly chosen: (TransitionProgram | null)[] = [];
  private readonly chosenAt: number[] = [];

  private chooseAll(e: QueuedEvent | null, stop: number): boolean {
    const n = this.program.lanes.length;
    this.chosen.length = n;
    this.chosenAt.length = n;
    let any = false;
    for (let i = 0; i < n; i++) {
      const way = this.choosing.choose(i, e, stop);
      this.chosen[i] = way;
      this.chosenAt[i] = (this.state.lanes[i] as LaneState).entry;
      if (way) any = true;
    }
    return any;
  }

  /** The choice of lane i, unless a `go` has moved it since. */
  private chosenStill(i: number): TransitionProgram | null {
    const way = this.chosen[i] ?? null;
    return way && (this.state.lanes[i] as LaneState).entry === this.chosenAt[i] ? way : null;
  }

  /** Asks all guards, then acts. Returns the object above which the event does not go, or −1. */
  private serveReactions(e: QueuedEvent): number {
    const list = this.program.reactionsOn.get(e.rec.event as never);
    if (!list) return -1;
    const passing: number[] = [];
    let stop = -1;
    for (const { index, level } of this.byLevel(list, e)) {
      if (stop >= 0 && level !== stop) break;
      if (!this.passes(index, e)) continue;
      passing.push(index);
      const r = (this.program.reactions[index] as ReactionProgram).reaction;
      if (r.stop && level >= 0) stop = level;
    }
    for (const i of passing) this.actions.react(i, { rec: e.rec.id, depth: e.depth });
    return stop;
  }

  /** For pointer events innermost object first, then its parents; else document order. */
  private byLevel(list: readonly number[], e: QueuedEvent): { index: number; level: number }[] {
    if (e.object < 0 || !e.rec.event?.startsWith('pointer.'))
      return list.map((index) => ({ index, level: -1 }));
    const out: { index: number; level: number }[] = [];
    const only = e.rec.event === 'pointer.enter' || e.rec.event === 'pointer.leave';
    for (let o = e.object; o >= 0; o = only ? -1 : (this.program.geometry.parent[o] as number)) {
      for (const index of list) {
        const r = this.program.reactions[index] as ReactionProgram;
        const on = r.reaction.on.object;
        const object = on === undefined ? r.object : (this.program.objectIndex.get(on) ?? -1);
        if (object === o) out.push({ index, level: o });
      }
    }
    return out;
  }

  private passes(index: number, e: QueuedEvent): boolean {
    const { reaction, object } = this.program.reactions[index] as ReactionProgram;
    const ctx = { run: this, object, reaction: index, lane: -1, stop: -1 };
    const s = this.state;
    if (
      typeof reaction.limit === 'object' &&
      s.spent[index] === 1 &&
      onMatches(reaction.limit.onceUntil, e, ctx)
    ) {
      s.spent[index] = 0;
      return false;
    }
    if (s.spent[index] === 1 || !onMatches(reaction.on, e, ctx)) return false;
    if (this.t <= (s.cooldownUntil[index] as number) + SAME_DATE && reaction.cooldown > 0) return false;
    return this.choosing.allHold(reaction.when, -1);
  }

  private eventless(start: number): void {
    for (let depth = start + 1; this.chooseAll(null, -1); depth++) {
      for (let i = 0; i < this.chosen.length; i++) {
        const way = this.chosenStill(i);
        if (!way) continue;
        const rec = this.choosing.eventlessCause(i, way);
        if (depth > MAX_DEPTH) {
          this.storm(this.recent.find((r) => r.id === rec) ?? (this.recent.at(-1) as TraceRecord));
          return;
        }
        this.motion.take(i, way, { rec, depth });
      }
      if (this.stormed) return;
    }
  }

  /** The records since the last call. */
  takeTrace(): TraceRecord[] {
    const out = this.records;
    this.records = [];
    return out;
  }

  signalValue(id: string): SignalValue {
    const i = this.program.signalIndex.get(id);
    return i === undefined ? false : (this.state.signals[i] as SignalValue);
  }

  save(): RunState {
    return copyState(this.state);
  }

  /** Goes on from a snapshot of a run of the same program. */
  static load(program: Program, snapshot: RunState): Run {
    const run = new Run(program);
    run.state = copyState(snapshot);
    return run;
  }

  /** An edit while running: compiled anew, state carried over by id. Takes effect from the next tick on. */
  edit(piece: Parameters<typeof compile>[0]): void {
    const program = compile(piece, this.program);
    this.t = this.time;
    // What the last tick ran into is over: what the edit enters is served in the next one.
    this.stormed = false;
    this.acts = 0;
    const gone = carryState(this.program, this.state, program);
    this.program = program;
    this.state = gone.state;
    const rec = this.raise({ kind: 'edit' }, NO_CAUSE);
    if (this.state.tick >= 0) for (const i of gone.timers) this.actions.addTimerLate(i);
    for (const lane of gone.fresh)
      if (this.state.tick >= 0) this.motion.enterInitial(lane, { rec: rec.id, depth: 0 });
    poseValues(program, this.state, this.t);
    this.scene.changed();
  }
}
