/**
 * A running piece. `step` is one tick: sweep the dates since the last one, then inputs, dues and settling at now,
 * then the pose. It knows no clock: its caller asks for ticks. Reading order: step → processDate → settling → choosing →
 * motion; what the parts share is in context, when what is to be done in agenda.
 */
import { SAME_DATE, TICKS_PER_SECOND } from '../base/index.ts';
import { CH_SHOWN, CHANNELS, type SignalValue } from '../model/index.ts';
import { Acting } from './acting.ts';
import { Agenda, LeastFirst } from './agenda.ts';
import { Blocking } from './blocking.ts';
import { Choosing } from './choosing.ts';
import { Context } from './context.ts';
import { Crossings } from './crossings.ts';
import { Dragging } from './dragging.ts';
import { Following } from './following.ts';
import type { Input } from './input.ts';
import { poseValues } from './layers.ts';
import { Motion } from './motion.ts';
import { Notices } from './notices.ts';
import { Noticing } from './noticing.ts';
import { Pointer } from './pointer.ts';
import type { Program } from './program.ts';
import { Pushing } from './pushing.ts';
import { SHEET_ROW } from './rows.ts';
import { Scene } from './scene.ts';
import { Settling } from './settling.ts';
import { isThere, trueName } from './spawned.ts';
import {
  type Carried,
  DUE_TIMER,
  type Due,
  isKept,
  MOMENT,
  newState,
  PHASE,
  type RunState,
  SHOWS,
  TICK,
} from './state.ts';
import { Touching } from './touching.ts';
import { type Cause, NO_CAUSE, type TraceRecord } from './trace.ts';
import { Walking } from './walking.ts';

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
  readonly #dragging: Dragging;
  readonly #pushing: Pushing;
  readonly #walking: Walking;
  readonly #following: Following;
  readonly #settling: Settling;
  readonly scene: Scene;
  /** Something is under way that must not be entered again from within. */
  #locked = false;

  constructor(program: Program, options: RunOptions = {}) {
    const dateOf = (i: number) => Math.min(this.#crossings.nextCrossing(i), this.#choosing.nextMoment(i));
    const state = newState(program, options.seed ?? program.piece.seed);
    this.#context = new Context(program, state, new Agenda(program.lanes.length, dateOf));
    this.#context.tracing = options.trace ?? true;
    this.#dateOf = dateOf;
    this.#choosing = new Choosing(this.#context);
    this.#motion = new Motion(this.#context);
    this.#crossings = new Crossings(this.#context, (i, cause) => this.#motion.playNext(i, cause));
    this.scene = new Scene(this.#context);
    this.#acting = new Acting(this.#context, this.#motion, this.scene);
    this.#context.actAll = (list, cause, inState) => this.#acting.actAll(list, cause, inState);
    this.#settling = new Settling(this.#context, this.#choosing, this.#motion, this.#acting);
    const blocking = new Blocking(this.#context);
    this.#dragging = new Dragging(this.#context, this.scene, blocking);
    this.#following = new Following(this.#context, this.scene, this.#crossings, (i) =>
      this.#motion.reweigh(i),
    );
    this.#pushing = new Pushing(this.#context, this.scene, blocking);
    this.#walking = new Walking(this.#context, this.scene, blocking);
    const notices = new Notices(this.#context);
    const noticing = new Noticing(this.#context, notices);
    const touching = new Touching(this.#context, blocking, notices);
    this.#acting.spawning.leaves = (objects, cause) => {
      noticing.leave(objects);
      touching.leave(objects);
      notices.tell(cause);
      this.#dragging.leave(objects, cause);
    };
    this.#pointer = new Pointer(
      this.#context,
      this.#acting,
      this.scene,
      this.#dragging,
      this.#walking,
      noticing,
      touching,
      notices,
    );
  }
  readonly #dateOf: (lane: number) => number;

  get program(): Program {
    return this.#context.program;
  }
  get state(): RunState {
    return this.#context.state;
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
    this.#walking.beginTick();
    context.jumps.beginTick();
    if (tick === 0) this.#start();
    else this.#sweep(tick);
    context.setTick(tick);
    this.#processDate(this.#inputs);
    this.#following.advance();
    // Cues that a followed clip has passed.
    if (context.queue.length > 0) this.#processDate(null);
    const up = state.pulseUp;
    for (let i = 0; i < up.length; i++) {
      if (up[i] === 0 || isKept(program, state, i, context.t)) continue;
      up[i] = 0;
      context.agenda.markThose(program.asking.bySignal[i]);
    }
    poseValues(program, state, context.clock);
    this.scene.posed();
    if ((state.one[SHOWS] as number) > 0) this.#acting.showing.endTick();
    context.jumps.endTick();
    this.#pushing.move();
    this.#walking.move();
    this.#dragging.move();
    this.#pushing.endTick();
    // What follows a drag does so with the number of this tick, which is there only now.
    if (this.#following.advanceDrags()) {
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
    program.reactions.forEach((r, i) => {
      if (r.reaction.on.event === 'timer' && this.#isThere(program.spawns.ofReaction[i]))
        this.#acting.addTimer(i, 0);
    });
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
      this.#acting.spawning.dropStale();
      let next = state.dueCount === 0 ? Number.POSITIVE_INFINITY : (state.dues[0] as number);
      let due = true;
      if (lane >= 0 && (context.agenda.dates[lane] as number) < next) {
        next = context.agenda.dates[lane] as number;
        due = false;
      }
      if (!(next < (end[0] as number))) return;
      if (n >= MAX_DATES || context.exhausted) {
        context.tooMuch(
          n >= MAX_DATES ? 'dates' : 'acts',
          due ? this.#acting.requesterOf(state.dueAt(0)) : lane,
        );
        this.#passOver(end[0] as number);
        return;
      }
      if (n >= MAX_DATES / 2) context.countRequester(due ? this.#acting.requesterOf(state.dueAt(0)) : lane);
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
    while (state.dueCount > 0 && (state.dues[0] as number) <= t) late.push(state.takeDue());
    late.sort((a, b) => a.seq - b.seq);
    const limit = new Float64Array([t]);
    context.setDate(t);
    for (const d of late)
      if (d.what === DUE_TIMER && !this.#acting.spawning.isStale(d)) this.#acting.addTimer(d.index, d.n + 1);
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
    if (inputs && this.program.spawns.parts.length > 0) this.#acting.setParts();
    if (inputs) for (let k = 0; k < inputs.length; k++) this.#pointer.input(inputs[k] as Input);
    this.#actDues();
    if (inputs) this.#pointer.notice();
    this.#settling.settle();
    for (;;) {
      this.#serveLanes();
      this.#settling.settle();
      const dues = this.#actDues();
      if (dues) this.#settling.settle();
      const ended = this.#acting.sheets.serve();
      if (ended) this.#settling.settle();
      const limit = context.limit;
      if (!dues && !ended && !context.agenda.isDue(limit) && !this.#hasDue(limit)) return;
      if (context.exhausted) {
        context.tooMuch(
          'acts',
          context.agenda.isDue(limit) || state.dueCount === 0
            ? context.agenda.next
            : this.#acting.requesterOf(state.dueAt(0)),
        );
        const t = context.t;
        this.#passOver(t + SAME_DATE);
        context.setDate(t);
        return;
      }
    }
  }

  #hasDue(limit: Float64Array): boolean {
    const { state } = this;
    this.#acting.spawning.dropStale();
    return state.dueCount > 0 && (state.dues[0] as number) <= (limit[0] as number);
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
      if (this.#acting.spawning.isStale(due)) continue;
      if (!context.mayAct(this.#acting.requesterOf(due))) {
        for (const d of now.slice(n)) state.addDue(d);
        return n > 0;
      }
      this.#acting.due(due);
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

  /** The objects that a zone has noticed, by id, in the order of the tree. */
  noticed(zone: string): string[] {
    const { program, state } = this;
    const collider = program.meeting.colliders[program.meeting.index.get(zone) ?? -1];
    if (!collider) return [];
    return program.meeting.things.flatMap((object) => {
      const rank = collider.rank[program.meeting.nodeOf.get(object) as number] as number;
      const id = program.objects[object]?.id as string;
      return rank >= 0 && state.noticed[collider.firstPair + rank] === 1 ? [id] : [];
    });
  }

  /** Seconds since a cue sheet began, by its id; undefined while it does not run. */
  sheetTime(sheet: string): number | undefined {
    const row = (this.program.sheetIndex.get(sheet) ?? -1) * SHEET_ROW;
    const { sheets } = this.state;
    return row < 0 || sheets[row] !== 1 ? undefined : this.time - (sheets[row + 4] as number);
  }

  /** The value of a signal by its id; false for what is none, and for a pulse. */
  signalValue(id: string): SignalValue {
    return this.#context.signalValue(this.program.signalIndex.get(id) ?? -1);
  }

  /** Goes on, from the next tick on, with what an edit has made of the program and the state: see `editRun`. */
  goOn(program: Program, { state, fresh, timers }: Carried): void {
    this.#alone(() => {
      const context = this.#context;
      context.setDate(this.time);
      // What the last tick ran into is over: what the edit enters is served in the next one.
      context.beginTick();
      context.program = program;
      context.state = state;
      context.agenda = new Agenda(program.lanes.length, this.#dateOf);
      const cause: Cause = { rec: context.raise({ kind: 'edit' }, NO_CAUSE).id, depth: 0 };
      const { ofReaction, ofLane } = program.spawns;
      if (state.tick >= 0)
        for (const i of timers) if (this.#isThere(ofReaction[i])) this.#acting.addTimerLate(i);
      if (state.tick >= 0)
        for (const i of fresh) if (this.#isThere(ofLane[i])) this.#motion.enterInitial(i, cause);
      poseValues(program, state, context.clock);
      context.jumps.all();
      this.scene.changed();
    });
  }
}
