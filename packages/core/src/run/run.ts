/**
 * A running piece. `step` is one tick: sweep the dates since the last one, then inputs, dues and settling at now,
 * then the pose. It knows no clock: its caller asks for ticks. Reading order: step → processDate → settling → choosing →
 * motion; what the parts share is in context, when what is to be done in agenda.
 */
import { SAME_DATE, TICKS_PER_SECOND } from '../base/index.ts';
import { CH_SHOWN, CHANNELS, type SignalValue } from '../model/index.ts';
import { Acting } from './acting.ts';
import { Agenda, LeastFirst } from './agenda.ts';
import { Choosing } from './choosing.ts';
import { Context, listAsks, NOBODY, type Requester } from './context.ts';
import { Crossings } from './crossings.ts';
import { featuresOf } from './feature.ts';
import type { Input } from './input.ts';
import { poseValues } from './layers.ts';
import { Motion } from './motion.ts';
import { Notices } from './notices.ts';
import type { RunParts } from './parts.ts';
import { Pointer } from './pointer.ts';
import type { Program } from './program.ts';
import type { RunBase } from './run-base.ts';
import { Scene } from './scene.ts';
import { Settling } from './settling.ts';
import { isThere, trueName } from './spawned.ts';
import { Standing } from './standing.ts';
import { type Carried, type Due, isKept, MOMENT, newState, PHASE, type RunState, TICK } from './state.ts';
import { type Cause, NO_CAUSE, type TraceRecord } from './trace.ts';

/** Dates that a tick serves. */
const MAX_DATES = 4096;

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
  readonly #motion: Motion;
  readonly #acting: Acting;
  readonly #pointer: Pointer;
  readonly #notices: Notices;
  readonly #settling: Settling;
  readonly #base: RunBase;
  readonly scene: Scene;
  /** Something is under way that must not be entered again from within. */
  #locked = false;

  constructor(program: Program, options: RunOptions = {}) {
    const dateOf = (i: number) => Math.min(this.#crossings.nextCrossing(i), this.#choosing.nextMoment(i));
    const state = newState(program, options.seed ?? program.piece.seed);
    const features = featuresOf(program);
    this.#context = new Context(program, state, new Agenda(program.lanes.length, dateOf), {
      number: (name) => features.dueNumbers.get(name) as number,
      placeOf: (of, what, index) => features.dueKind(what)?.place?.(of, index) ?? -1,
    });
    this.#context.tracing = options.trace ?? true;
    this.#dateOf = dateOf;
    this.#choosing = new Choosing(this.#context);
    this.#motion = new Motion(this.#context);
    this.#crossings = new Crossings(this.#context, (i, cause) => this.#motion.playNext(i, cause));
    this.scene = new Scene(this.#context);
    this.#acting = new Acting(this.#context, this.#motion);
    this.#context.actAll = (list, cause, inState) => this.#acting.actAll(list, cause, inState);
    this.#settling = new Settling(this.#context, this.#choosing, this.#motion, this.#acting);
    this.#pointer = new Pointer(this.#context, this.#acting, this.scene);
    this.#notices = new Notices(this.#context);
    this.#base = {
      ...{ context: this.#context, scene: this.scene, standing: new Standing(this.#context, this.scene) },
      ...{ acting: this.#acting, pointer: this.#pointer, notices: this.#notices },
      lanes: {
        enterInitial: (lane, cause) => this.#motion.enterInitial(lane, cause),
        reweigh: (lane) => this.#motion.reweigh(lane),
        passed: (lane, from, to) => this.#crossings.passed(lane, from, to),
      },
    };
    const { parts, phases } = features.run(this.#base);
    this.#context.parts = parts;
    this.#context.phases = phases;
  }
  readonly #dateOf: (lane: number) => number;

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
    this.#processDate(this.#inputs);
    for (const x of phases.advance) x.advance();
    // Cues that a driven clip has passed.
    if (context.queue.length > 0) this.#processDate(null);
    const up = state.pulseUp;
    for (let i = 0; i < up.length; i++) {
      if (up[i] === 0 || isKept(program, state, i, context.t)) continue;
      up[i] = 0;
      context.agenda.markThose(program.asking.bySignal[i]);
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
      if (context.queue.length > 0) this.#processDate(null);
      poseValues(program, state, context.clock);
      this.scene.posed();
    }
    this.scene.changed();
  };

  #start(): void {
    const { program } = this;
    const context = this.#context;
    context.setDate(0);
    context.queueEvent(context.raise({ kind: 'event', event: 'piece.start' }, NO_CAUSE), NO_CAUSE);
    for (const x of context.phases.start) x.start(null);
    for (let i = 0; i < program.firstDirect; i++)
      if (this.#isThere(program.spawns.ofLane[i])) this.#motion.enterInitial(i);
  }

  /** Whether what lies in a place (none: −1, or undefined) is there: of what may be spawned, what has been. */
  #isThere(place = -1): boolean {
    return place < 0 || isThere(this.state, place);
  }

  /** The dates between the tick before and this one, in order. */
  #sweep(tick: number): void {
    const { state } = this;
    const context = this.#context;
    const end = this.#end;
    end[0] = tick / TICKS_PER_SECOND - SAME_DATE;
    let at = (tick - 1) / TICKS_PER_SECOND;
    for (let n = 0; ; n++) {
      const lane = context.agenda.next;
      this.#context.dropStale();
      let next = state.dueCount === 0 ? Number.POSITIVE_INFINITY : (state.dues.data[0] as number);
      let due = true;
      if (lane >= 0 && (context.agenda.dates[lane] as number) < next) {
        next = context.agenda.dates[lane] as number;
        due = false;
      }
      if (!(next < (end[0] as number))) return;
      if (n >= MAX_DATES || context.exhausted) {
        context.tooMuch(n >= MAX_DATES ? 'dates' : 'acts', due ? this.#requesterOf(state.dueAt(0)) : lane);
        this.#passOver(end[0] as number);
        return;
      }
      if (n >= MAX_DATES / 2) context.countRequester(due ? this.#requesterOf(state.dueAt(0)) : lane);
      if (next > at) at = next;
      context.setDate(at);
      this.#processDate(null);
    }
  }
  readonly #end = new Float64Array(1);

  /** Drops what is due up to date `t`; timers, loops and plays then stand where they would stand. */
  #passOver(t: number): void {
    const { state } = this;
    const context = this.#context;
    const late: Due[] = [];
    while (state.dueCount > 0 && (state.dues.data[0] as number) <= t) late.push(state.takeDue());
    late.sort((a, b) => a.seq - b.seq);
    const limit = new Float64Array([t]);
    context.setDate(t);
    const features = featuresOf(this.program);
    for (const d of late) if (!context.isStale(d)) features.dueKind(d.what)?.passOver?.(d, this.#base);
    const lanes: number[] = [];
    while (context.agenda.isDue(limit)) lanes.push(context.agenda.take());
    for (const i of lanes) {
      this.#crossings.passOver(i, t);
      context.agenda.touch(i);
    }
  }

  /** Serves everything at the present date until it brings nothing new. `inputs` is null between ticks. */
  #processDate(inputs: readonly Input[] | null): void {
    this.#serveDate(inputs);
    this.#context.jumps.endDate();
  }

  #serveDate(inputs: readonly Input[] | null): void {
    const { state } = this;
    const context = this.#context;
    context.beginDate();
    const { phases } = context;
    if (inputs) {
      for (const x of phases.beforeInputs) x.beforeInputs();
      for (let k = 0; k < inputs.length; k++) this.#input(inputs[k] as Input);
    }
    this.#actDues();
    if (inputs) this.#notice();
    this.#settling.settle();
    for (;;) {
      this.#serveLanes();
      this.#settling.settle();
      const dues = this.#actDues();
      if (dues) this.#settling.settle();
      let ended = false;
      for (const x of phases.serve) if (x.serve()) ended = true;
      if (ended) this.#settling.settle();
      const limit = context.limit;
      if (!dues && !ended && !context.agenda.isDue(limit) && !this.#hasDue(limit)) return;
      if (context.exhausted) {
        context.tooMuch(
          'acts',
          context.agenda.isDue(limit) || state.dueCount === 0
            ? context.agenda.next
            : this.#requesterOf(state.dueAt(0)),
        );
        const t = context.t;
        this.#passOver(t + SAME_DATE);
        context.setDate(t);
        return;
      }
    }
  }

  #input(input: Input): void {
    for (const [field, act] of featuresOf(this.program).inputs)
      if (field in input) {
        act(input as never, this.#base);
        return;
      }
  }

  /** Things may have moved: under a pointer that stands still, into zones and out of them. */
  #notice(): void {
    const { phases } = this.#context;
    this.#pointer.notice();
    for (const x of phases.notice) x.notice();
    this.#notices.tell(NO_CAUSE);
    for (const x of phases.noticed) x.noticed();
  }

  /** Who has asked for what is due. */
  #requesterOf({ what, index }: Due): Requester {
    const list = featuresOf(this.program).dueKind(what)?.list?.(this.program, index);
    return list === undefined ? NOBODY : listAsks(list);
  }

  #actDue(d: Due): void {
    const cause: Cause = { rec: d.cause < 0 ? null : d.cause, depth: 0, other: -1 };
    featuresOf(this.program).dueKind(d.what)?.act(d, cause, this.#base);
  }

  #hasDue(limit: Float64Array): boolean {
    const { state } = this;
    this.#context.dropStale();
    return state.dueCount > 0 && (state.dues.data[0] as number) <= (limit[0] as number);
  }

  readonly #ready = new LeastFirst();
  readonly #reached: number[] = [];

  /** Whose turn comes first at one date: direct plays in the order of their beginning, then lanes in document order. */
  #turnOf(lane: number): number {
    const { firstDirect } = this.program;
    return lane < firstDirect ? LANES_LATER + lane : (this.state.begun[lane - firstDirect] as number);
  }
  #inTurn(turn: number): number {
    if (turn >= LANES_LATER) return turn - LANES_LATER;
    const k = this.state.begun.indexOf(turn);
    return k < 0 ? -1 : this.program.firstDirect + k;
  }

  /** The cues and ends of all lanes at the present date, in turn, then the moments that are reached. */
  #serveLanes(): void {
    const context = this.#context;
    const ready = this.#ready;
    const reached = this.#reached;
    const { agenda, limit } = context;
    const { one } = context.state;
    if (agenda.isDue(limit)) {
      while (agenda.isDue(limit)) ready.add(this.#turnOf(agenda.take()));
      while (ready.size > 0) {
        const turn = ready.take();
        const i = this.#inTurn(turn);
        // Begun anew meanwhile, it has another turn.
        if (i < 0) continue;
        this.#crossings.serve(i);
        reached.push(i);
        // What it does may bring others here; those before it have had their turn.
        while (agenda.isDue(limit)) {
          const other = agenda.take();
          if (this.#turnOf(other) > turn) ready.add(this.#turnOf(other));
          else reached.push(other);
        }
      }
    }
    one[MOMENT] = context.t;
    one[PHASE] = (one[PHASE] as number) + 1;
    for (let k = 0; k < reached.length; k++) {
      agenda.touch(reached[k] as number);
      agenda.mark(reached[k] as number);
    }
    reached.length = 0;
  }

  /** Acts what is due at the present date, in the order of making. */
  #actDues(): boolean {
    const { state } = this;
    const context = this.#context;
    if (!this.#hasDue(context.limit)) return false;
    const now: Due[] = [];
    for (let n = 0; ; n++) {
      // What is made meanwhile was made last, so what is known already stays in its order.
      const more: Due[] = [];
      while (this.#hasDue(context.limit)) more.push(state.takeDue());
      now.push(...more.sort((a, b) => a.seq - b.seq));
      const due = now[n];
      if (!due) return n > 0;
      // What one before it has removed does nothing more.
      if (context.isStale(due)) continue;
      if (!context.mayAct(this.#requesterOf(due))) {
        for (const d of now.slice(n)) state.addDue(d);
        return n > 0;
      }
      this.#actDue(due);
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
  goOn(program: Program, { state, fresh }: Carried): void {
    this.#alone(() => {
      const old = this.program;
      const context = this.#context;
      context.setDate(this.time);
      // What the last tick ran into is over: what the edit enters is served in the next one.
      context.beginTick();
      context.program = program;
      context.state = state;
      context.agenda = new Agenda(program.lanes.length, this.#dateOf);
      const cause: Cause = { rec: context.raise({ kind: 'edit' }, NO_CAUSE).id, depth: 0 };
      if (state.tick >= 0) {
        for (const x of context.phases.edited) x.edited(old);
        for (const i of fresh)
          if (this.#isThere(program.spawns.ofLane[i])) this.#motion.enterInitial(i, cause);
      }
      poseValues(program, state, context.clock);
      context.jumps.all();
      this.scene.changed();
    });
  }
}
