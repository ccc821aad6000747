/**
 * A running piece. `step` is one tick: sweep the instants since the last one, then inputs, scheduled items and settling at now,
 * then the pose. It knows no clock: its caller asks for ticks. Reading order: step → processInstant → settling → choosing →
 * lane-moves; what the parts share is in `context.ts`, when what is to be done in `schedule.ts`. It is long since a tick is one
 * written order of steps.
 */
import { SAME_INSTANT, TICKS_PER_SECOND } from '../base/index.ts';
import { CH_SHOWN, CHANNELS, type SignalValue } from '../model/index.ts';
import { ActionRunner } from './action-runner.ts';
import { Choosing } from './choosing.ts';
import { Context, listAsks, NOBODY, type Requester } from './context.ts';
import { Crossings } from './crossings.ts';
import { Detections } from './detections.ts';
import { featuresOf } from './feature.ts';
import type { Input } from './input.ts';
import { LaneMoves } from './lane-moves.ts';
import { poseValues } from './layers.ts';
import type { RunParts } from './parts.ts';
import { Pointer } from './pointer.ts';
import { isThere, trueName } from './presence.ts';
import type { Program } from './program.ts';
import type { RunBase } from './run-base.ts';
import { Scene } from './scene.ts';
import { LeastFirst, Schedule } from './schedule.ts';
import { Settling } from './settling.ts';
import { Standing } from './standing.ts';
import {
  isKept,
  type MigratedState,
  MOMENT,
  newState,
  PHASE,
  type RunState,
  type Scheduled,
  TICK,
} from './state.ts';
import { type Cause, NO_CAUSE, type TraceRecord } from './trace.ts';

/** Instants that a tick serves. */
const MAX_INSTANTS = 4096;

export interface RunOptions {
  readonly seed?: number;
  /** Whether a trace is kept; without one a tick in which nothing happens costs no memory. */
  readonly trace?: boolean;
}

/** More than any number of beginnings. */
const LANES_LATER = 2 ** 50;
const NO_INPUTS: readonly Input[] = [];

export class Run {
  readonly #context: Context;
  readonly #choosing: Choosing;
  readonly #crossings: Crossings;
  readonly #laneMoves: LaneMoves;
  readonly #runner: ActionRunner;
  readonly #pointer: Pointer;
  readonly #detections: Detections;
  readonly #settling: Settling;
  readonly #base: RunBase;
  readonly scene: Scene;
  /** Something is under way that must not be entered again from within. */
  #locked = false;

  constructor(program: Program, options: RunOptions = {}) {
    const instantOf = (i: number) => Math.min(this.#crossings.nextCrossing(i), this.#choosing.nextMoment(i));
    const state = newState(program, options.seed ?? program.piece.seed);
    const features = featuresOf(program);
    this.#context = new Context(program, state, new Schedule(program.lanes.length, instantOf), {
      number: (name) => features.scheduledNumbers.get(name) as number,
      placeOf: (of, what, index) => features.scheduledKind(what)?.place?.(of, index) ?? -1,
    });
    this.#context.tracing = options.trace ?? true;
    this.#instantOf = instantOf;
    this.#choosing = new Choosing(this.#context);
    this.#laneMoves = new LaneMoves(this.#context);
    this.#crossings = new Crossings(this.#context, (i, cause) => this.#laneMoves.playNext(i, cause));
    this.scene = new Scene(this.#context);
    this.#runner = new ActionRunner(this.#context, this.#laneMoves);
    this.#context.runActions = (list, cause, inState) => this.#runner.runActions(list, cause, inState);
    this.#settling = new Settling(this.#context, this.#choosing, this.#laneMoves, this.#runner);
    this.#pointer = new Pointer(this.#context, this.#runner, this.scene);
    this.#detections = new Detections(this.#context);
    this.#base = {
      ...{ context: this.#context, scene: this.scene, standing: new Standing(this.#context, this.scene) },
      ...{ runner: this.#runner, pointer: this.#pointer, detections: this.#detections },
      lanes: {
        enterInitial: (lane, cause) => this.#laneMoves.enterInitial(lane, cause),
        reweigh: (lane) => this.#laneMoves.reweigh(lane),
        passed: (lane, from, to) => this.#crossings.passed(lane, from, to),
      },
    };
    const { parts, phases } = features.run(this.#base);
    this.#context.parts = parts;
    this.#context.phases = phases;
  }
  readonly #instantOf: (lane: number) => number;

  get program(): Program {
    return this.#context.program;
  }
  get state(): RunState {
    return this.#context.state;
  }
  /** What features do. */
  get parts(): RunParts {
    return this.#context.parts;
  }
  /** The tick last done; −1 before the first. */
  get tick(): number {
    return this.state.tick;
  }
  get time(): number {
    return this.#context.time;
  }

  /** Does `work`, which nothing that it calls may begin again. */
  #alone(work: () => void): void {
    if (this.#locked) throw new Error('in the middle of a tick');
    this.#locked = true;
    try {
      work();
    } finally {
      this.#locked = false;
    }
  }

  /** One tick. The first is tick 0. `inputs` are those dated to this tick, in order. */
  step(inputs: readonly Input[] = NO_INPUTS): void {
    this.#inputs = inputs;
    try {
      this.#alone(this.#doTick);
    } finally {
      this.#inputs = NO_INPUTS;
    }
  }
  #inputs: readonly Input[] = NO_INPUTS;

  readonly #doTick = (): void => {
    const { program, state } = this;
    const context = this.#context;
    // A whole number is passed on without cost, one out of a row of numbers is not.
    const tick = ((state.one[TICK] as number) | 0) + 1;
    state.one[TICK] = tick;
    context.beginTick();
    const { phases } = context;
    for (const x of phases.beginTick) x.beginTick();
    if (tick === 0) this.#start();
    else this.#sweep(tick);
    context.setTick(tick);
    this.#processInstant(this.#inputs);
    for (const x of phases.advance) x.advance();
    // Cues that a driven clip has passed.
    if (context.queue.length > 0) this.#processInstant(null);
    const up = state.pulseUp;
    for (let i = 0; i < up.length; i++) {
      if (up[i] === 0 || isKept(program, state, i, context.t)) continue;
      up[i] = 0;
      context.schedule.markThose(program.asking.bySignal[i]);
    }
    poseValues(program, state, context.clock);
    this.scene.posed();
    for (const x of phases.posed) x.posed();
    for (const x of phases.move) x.move();
    for (const x of phases.settle) x.settle();
    // What follows a drag does so with the number of this tick, which is there only now.
    let again = false;
    for (const x of phases.follow) if (x.follow()) again = true;
    if (again) {
      if (context.queue.length > 0) this.#processInstant(null);
      poseValues(program, state, context.clock);
      this.scene.posed();
    }
    this.scene.changed();
  };

  #start(): void {
    const { program } = this;
    const context = this.#context;
    context.setInstant(0);
    context.queueEvent(context.raise({ kind: 'event', event: 'piece.start' }, NO_CAUSE), NO_CAUSE);
    for (const x of context.phases.start) x.start(null);
    for (let i = 0; i < program.firstDirect; i++)
      if (this.#isThere(program.spawns.ofLane[i])) this.#laneMoves.enterInitial(i);
  }

  /** Whether what lies in a place (none: −1, or undefined) is there: of what may be spawned, what has been. */
  #isThere(place = -1): boolean {
    return place < 0 || isThere(this.state, place);
  }

  /** The instants between the tick before and this one, in order. */
  #sweep(tick: number): void {
    const { state } = this;
    const context = this.#context;
    const end = this.#end;
    end[0] = tick / TICKS_PER_SECOND - SAME_INSTANT;
    let at = (tick - 1) / TICKS_PER_SECOND;
    for (let n = 0; ; n++) {
      const lane = context.schedule.next;
      this.#context.dropStale();
      let next = state.scheduledCount === 0 ? Number.POSITIVE_INFINITY : (state.scheduled.data[0] as number);
      let item = true;
      if (lane >= 0 && (context.schedule.instants[lane] as number) < next) {
        next = context.schedule.instants[lane] as number;
        item = false;
      }
      if (!(next < (end[0] as number))) return;
      if (n >= MAX_INSTANTS || context.exhausted) {
        context.tooMuch(
          n >= MAX_INSTANTS ? 'dates' : 'acts',
          item ? this.#requesterOf(state.scheduledAt(0)) : lane,
        );
        this.#passOver(end[0] as number);
        return;
      }
      if (n >= MAX_INSTANTS / 2)
        context.countRequester(item ? this.#requesterOf(state.scheduledAt(0)) : lane);
      if (next > at) at = next;
      context.setInstant(at);
      this.#processInstant(null);
    }
  }
  readonly #end = new Float64Array(1);

  /** Drops what is scheduled up to instant `t`; timers, loops and plays then stand where they would stand. */
  #passOver(t: number): void {
    const { state } = this;
    const context = this.#context;
    const late: Scheduled[] = [];
    while (state.scheduledCount > 0 && (state.scheduled.data[0] as number) <= t)
      late.push(state.takeScheduled());
    late.sort((a, b) => a.seq - b.seq);
    const limit = new Float64Array([t]);
    context.setInstant(t);
    const features = featuresOf(this.program);
    for (const d of late) if (!context.isStale(d)) features.scheduledKind(d.what)?.passOver?.(d, this.#base);
    const lanes: number[] = [];
    while (context.schedule.isReached(limit)) lanes.push(context.schedule.take());
    for (const i of lanes) {
      this.#crossings.passOver(i, t);
      context.schedule.touch(i);
    }
  }

  /** Serves everything at the present instant until it brings nothing new. `inputs` is null between ticks. */
  #processInstant(inputs: readonly Input[] | null): void {
    this.#serveInstant(inputs);
    this.#context.discontinuities.endInstant();
  }

  #serveInstant(inputs: readonly Input[] | null): void {
    const { state } = this;
    const context = this.#context;
    context.beginInstant();
    const { phases } = context;
    if (inputs) {
      for (const x of phases.beforeInputs) x.beforeInputs();
      for (let k = 0; k < inputs.length; k++) this.#input(inputs[k] as Input);
    }
    this.#runAllScheduled();
    if (inputs) this.#detect();
    this.#settling.settle();
    for (;;) {
      this.#serveLanes();
      this.#settling.settle();
      const scheduled = this.#runAllScheduled();
      if (scheduled) this.#settling.settle();
      let ended = false;
      for (const x of phases.serve) if (x.serve()) ended = true;
      if (ended) this.#settling.settle();
      const limit = context.limit;
      if (!scheduled && !ended && !context.schedule.isReached(limit) && !this.#hasReached(limit)) return;
      if (context.exhausted) {
        context.tooMuch(
          'acts',
          context.schedule.isReached(limit) || state.scheduledCount === 0
            ? context.schedule.next
            : this.#requesterOf(state.scheduledAt(0)),
        );
        const t = context.t;
        this.#passOver(t + SAME_INSTANT);
        context.setInstant(t);
        return;
      }
    }
  }

  #input(input: Input): void {
    for (const [field, runAction] of featuresOf(this.program).inputs)
      if (field in input) {
        runAction(input as never, this.#base);
        return;
      }
  }

  /** Things may have moved: under a pointer that stands still, into zones and out of them. */
  #detect(): void {
    const { phases } = this.#context;
    this.#pointer.detect();
    for (const x of phases.detect) x.detect();
    this.#detections.tell(NO_CAUSE);
    for (const x of phases.detected) x.detected();
  }

  /** Who has asked for what is scheduled. */
  #requesterOf({ what, index }: Scheduled): Requester {
    const list = featuresOf(this.program).scheduledKind(what)?.list?.(this.program, index);
    return list === undefined ? NOBODY : listAsks(list);
  }

  #runScheduled(d: Scheduled): void {
    const cause: Cause = { rec: d.cause < 0 ? null : d.cause, depth: 0, other: -1 };
    featuresOf(this.program).scheduledKind(d.what)?.run(d, cause, this.#base);
  }

  #hasReached(limit: Float64Array): boolean {
    const { state } = this;
    this.#context.dropStale();
    return state.scheduledCount > 0 && (state.scheduled.data[0] as number) <= (limit[0] as number);
  }

  readonly #ready = new LeastFirst();
  readonly #reached: number[] = [];

  /** Whose turn comes first at one instant: direct plays in the order of their beginning, then lanes in document order. */
  #turnOf(lane: number): number {
    const { firstDirect } = this.program;
    return lane < firstDirect ? LANES_LATER + lane : (this.state.begun[lane - firstDirect] as number);
  }
  #inTurn(turn: number): number {
    if (turn >= LANES_LATER) return turn - LANES_LATER;
    const k = this.state.begun.indexOf(turn);
    return k < 0 ? -1 : this.program.firstDirect + k;
  }

  /** The cues and ends of all lanes at the present instant, in turn, then the moments that are reached. */
  #serveLanes(): void {
    const context = this.#context;
    const ready = this.#ready;
    const reached = this.#reached;
    const { schedule, limit } = context;
    const { one } = context.state;
    if (schedule.isReached(limit)) {
      while (schedule.isReached(limit)) ready.add(this.#turnOf(schedule.take()));
      while (ready.size > 0) {
        const turn = ready.take();
        const i = this.#inTurn(turn);
        // Begun anew meanwhile, it has another turn.
        if (i < 0) continue;
        this.#crossings.serve(i);
        reached.push(i);
        // What it does may bring others here; those before it have had their turn.
        while (schedule.isReached(limit)) {
          const other = schedule.take();
          if (this.#turnOf(other) > turn) ready.add(this.#turnOf(other));
          else reached.push(other);
        }
      }
    }
    one[MOMENT] = context.t;
    one[PHASE] = (one[PHASE] as number) + 1;
    for (let k = 0; k < reached.length; k++) {
      schedule.touch(reached[k] as number);
      schedule.mark(reached[k] as number);
    }
    reached.length = 0;
  }

  /** Runs what is scheduled for the present instant, in the order of making. */
  #runAllScheduled(): boolean {
    const { state } = this;
    const context = this.#context;
    if (!this.#hasReached(context.limit)) return false;
    const now: Scheduled[] = [];
    for (let n = 0; ; n++) {
      // What is made meanwhile was made last, so what is known already stays in its order.
      const more: Scheduled[] = [];
      while (this.#hasReached(context.limit)) more.push(state.takeScheduled());
      now.push(...more.sort((a, b) => a.seq - b.seq));
      const item = now[n];
      if (!item) return n > 0;
      // What one before it has removed does nothing more.
      if (context.isStale(item)) continue;
      if (!context.mayGoAhead(this.#requesterOf(item))) {
        for (const d of now.slice(n)) state.addScheduled(d);
        return n > 0;
      }
      this.#runScheduled(item);
    }
  }

  /** The records since the last call. */
  takeTrace(): TraceRecord[] {
    return this.#context.takeTrace();
  }

  /** The id by which inputs name an object, of what was spawned `TEMPLATE#n/id`; null for what is not there, or not shown. */
  nameOfSeen(object: number): string | null {
    const { program, state } = this;
    const id = this.#context.idOf(object);
    if (id === undefined) return null;
    for (let i = object; i >= 0; i = program.geometry.parent[i] as number)
      if ((state.values[i * CHANNELS + CH_SHOWN] as number) < 0.5) return null;
    return trueName(program, state, id);
  }

  /** The value of a signal by its id; false for what is none, and for a pulse. */
  signalValue(id: string): SignalValue {
    return this.#context.signalValue(this.program.signalIndex.get(id) ?? -1);
  }

  /** Goes on, from the next tick on, with what an edit has made of the program and the state: see `editRun`. */
  goOn(program: Program, { state, fresh }: MigratedState): void {
    this.#alone(() => {
      const old = this.program;
      const context = this.#context;
      context.setInstant(this.time);
      // What the last tick ran into is over: what the edit enters is served in the next one.
      context.beginTick();
      context.program = program;
      context.state = state;
      context.schedule = new Schedule(program.lanes.length, this.#instantOf);
      const cause: Cause = { rec: context.raise({ kind: 'edit' }, NO_CAUSE).id, depth: 0 };
      if (state.tick >= 0) {
        for (const x of context.phases.edited) x.edited(old);
        for (const i of fresh)
          if (this.#isThere(program.spawns.ofLane[i])) this.#laneMoves.enterInitial(i, cause);
      }
      poseValues(program, state, context.clock);
      context.discontinuities.all();
      this.scene.changed();
    });
  }
}
