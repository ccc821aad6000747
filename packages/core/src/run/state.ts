/**
 * All that changes while a piece runs: rows of numbers in one buffer, so that a snapshot is one copy. What can be worked
 * out from it (instants, marks, who waits) is not part of it. Values of choices and texts stand in it as numbers of strings.
 * It is long since every row of the state is asked for here, once.
 */
import { EASE_ROW, PLAY_ROW, type Playhead, writeEasing } from '../anim/index.ts';
import { SAME_INSTANT, seedStream } from '../base/index.ts';
import { type FadeEasing, fitsSignal, initialValue, type Signal, type SignalValue } from '../model/index.ts';
import type { StateParts } from './parts.ts';
import { boundValue, settleBase } from './presence.ts';
import type { Program } from './program.ts';
import { MOTOR_ROW, SPAWN_ROW, TWEEN_ROW } from './row-widths.ts';
import { type RowList, RowMaker } from './rows.ts';
import { Texts, textsIn } from './state-texts.ts';

/** Single numbers, by their place in `one`. */
export const TICK = 0;
export const SEED = 1;
export const NEXT_REC = 2;
export const NEXT_SEQ = 3;
/** Instant up to which reached moments were served, and how many times they were. */
export const MOMENT = 4;
export const PHASE = 5;
export const AZIMUTH = 6;
export const ELEVATION = 7;
export const FRAME_WIDTH = 8;
export const FRAME_HEIGHT = 9;
export const POINTER_X = 10;
export const POINTER_Y = 11;
export const POINTER_PRESENT = 12;
export const POINTER_DOWN = 13;
/** Numbers of the objects that the pointer is over, and pressed; −1 for none. */
export const POINTER_OVER = 14;
export const POINTER_PRESSED = 15;
/** How many values are put. */
export const PUTS = 16;
/** Counts presses, so that a long one is told from the next. */
export const PRESSES = 17;
/** Object and instant of the last click that may be the first of two. */
export const CLICKED = 18;
export const CLICKED_T = 19;
/** How many direct plays there are, and the number of the one begun last. */
export const DIRECTS = 20;
const BEGUN = 21;
/** Whether there has been a pointer: what follows one is 0 until then. */
export const POINTER_KNOWN = 22;
const ONES = 23;
/** So many askings of a direct play wait at most until it ends. */
export const MOST_ASKED = 64;

/** A scheduled item in its row: instant, order of making, what, index, action, number (of a timer its firings before, of what is delayed 1 + the thing of the event), record that led to it (or −1). */
const SCHEDULED_ROW = 7;
export interface Scheduled {
  t: number;
  seq: number;
  what: number;
  /** Reaction for timers and reactions; action list, and number in it, for actions. */
  index: number;
  action: number;
  /** How many firings of the timer went before. */
  n: number;
  cause: number;
}

export class RunState {
  /** All rows, one after another. */
  readonly buffer: ArrayBuffer;
  readonly one: Float64Array;
  /** The values of all properties, as they are on the screen. */
  readonly values: Float64Array;
  /** What is put, and for each value its place among the indexes of those that are, plus 1; 0 for none. */
  readonly putV: Float64Array;
  readonly putAt: Int32Array;
  readonly putList: Int32Array;
  readonly signals: Float64Array;
  /** Record that last changed each signal, −1 for none. */
  readonly signalRec: Float64Array;
  /** Occurrence number of each pulse, and whether it is up until this tick ends. */
  readonly pulseSerial: Float64Array;
  readonly pulseUp: Uint8Array;
  /** Instant until which a remembered one is. */
  readonly pulseUntil: Float64Array;
  readonly random: Uint32Array;
  /** Event before which a reaction hears nothing (cooldown), and whether its `limit` is used up. */
  readonly cooldownUntil: Float64Array;
  readonly spent: Uint8Array;

  // By lane.
  /** Number of the active state; −1 before tick 0. */
  readonly active: Int32Array;
  /** Counts entries, so that what belongs to an earlier one is told apart. */
  readonly entry: Int32Array;
  readonly entered: Float64Array;
  readonly entryRec: Float64Array;
  /** How long the chain of causes was that led to the entry. */
  readonly entryDepth: Int32Array;
  /** Which serving of moments came before the entry: a later one has served those of this state. */
  readonly entryPhase: Float64Array;
  readonly finished: Uint8Array;
  readonly plays: Float64Array;
  /** Where the lane last left a clip, for `from: 'here'`; clip −1 when that is forgotten. */
  readonly hereClip: Int32Array;
  readonly here: Float64Array;
  /** Instant of the last turn of a loop. */
  readonly turnT: Float64Array;
  /** A crossfade runs from `fadeStart` for `fadeLength` seconds; length 0 is none. */
  readonly fadeStart: Float64Array;
  readonly fadeLength: Float64Array;
  readonly fadeEase: Float64Array;
  /** Number of the source state whose play fades out, or −1: it fades from the frozen `from…`. */
  readonly fadeState: Int32Array;
  readonly mustFinish: Uint8Array;
  /** Of a blend the place of the clip that counts most. */
  readonly heavy: Int32Array;

  // By slot: what a holding state (or the unkeyed part of a keeping lane) gives as weight × value and weight, what
  // a crossfade comes from, and the put values that the newest state took over, which count as its old side.
  readonly heldV: Float64Array;
  readonly heldW: Float64Array;
  readonly fromV: Float64Array;
  readonly fromW: Float64Array;
  readonly overV: Float64Array;
  readonly overSet: Uint8Array;
  /** What the offset tracks of the active state's clip add to, and those of the one that fades out. */
  readonly startV: Float64Array;
  readonly fadeStartV: Float64Array;
  /** Rows of tweens and of motors: see `movers.ts`. */
  readonly tweens: Float64Array;
  readonly motors: Float64Array;
  /** Per source of odds the transition drawn last, −1 for none. */
  readonly lastDrawn: Int32Array;
  /** Per pulse that a lane reads the occurrence that it has used. */
  readonly pulseUsed: Int32Array;
  /**
   * The lanes of direct plays that are there, in the order in which they began; and, by their place after `firstDirect`,
   * which beginning it was, how many askings wait, and the states that these ask for.
   */
  readonly directList: Int32Array;
  readonly begun: Float64Array;
  readonly asked: Int32Array;
  readonly askings: Uint8Array;
  /** Rows of the places of what is spawned: see `features/templates`; and how many of each template there have been. */
  readonly spawned: Float64Array;
  readonly spawnCounts: Float64Array;
  /** What the properties are when nothing sets them: the program's own but where something may be spawned. */
  readonly base: Float64Array;

  // What is worked out, and not part of the state.
  /** Poses so far, and by lane the one in which it last wrote anything. */
  posed = 0;
  readonly posedIn: Int32Array;
  /** The rows of tweens and motors that may be under way: the first so many numbers, unless they are to be listed anew. */
  readonly tweensOn: Int32Array;
  readonly motorsOn: Int32Array;
  tweenCount = 0;
  motorCount = 0;
  moversChanged = true;

  /** What is scheduled, as a heap by instant and order of making. */
  readonly scheduled: RowList;
  /** The rows of features, by their names. */
  readonly parts: StateParts;
  /** All that grows: `scheduled items`, and lists of features. */
  readonly lists: readonly RowList[];
  /** Strings that choices and texts hold, by number; those that the piece names come first. */
  readonly texts: Texts;

  /** `make`: makes the rows, or only counts their bytes. */
  constructor(program: Program, texts: Texts, make: RowMaker) {
    const last = program.lanes.at(-1);
    const slots = last ? last.firstSlot + last.slots.length : 0;
    const values = program.base.length;
    const signals = program.signals.length;
    const reactions = program.reactions.length;
    const lanes = program.lanes.length;
    const directs = lanes - program.firstDirect;
    this.buffer = make.buffer;
    this.texts = texts;
    this.one = make.floats(ONES);
    this.values = make.floats(values);
    this.putV = make.floats(values);
    this.putAt = make.ints(values);
    this.putList = make.ints(values);
    this.signals = make.floats(signals);
    this.signalRec = make.floats(signals);
    this.pulseSerial = make.floats(signals);
    this.pulseUp = make.bytes(signals);
    this.pulseUntil = make.floats(signals);
    this.random = make.words(program.streams.length * 4);
    this.cooldownUntil = make.floats(reactions);
    this.spent = make.bytes(reactions);
    this.active = make.ints(lanes);
    this.entry = make.ints(lanes);
    this.entered = make.floats(lanes);
    this.entryRec = make.floats(lanes);
    this.entryDepth = make.ints(lanes);
    this.entryPhase = make.floats(lanes);
    this.finished = make.bytes(lanes);
    this.plays = make.floats(lanes * 2 * PLAY_ROW);
    this.hereClip = make.ints(lanes);
    this.here = make.floats(lanes);
    this.turnT = make.floats(lanes);
    this.fadeStart = make.floats(lanes);
    this.fadeLength = make.floats(lanes);
    this.fadeEase = make.floats(lanes * EASE_ROW);
    this.fadeState = make.ints(lanes);
    this.mustFinish = make.bytes(lanes);
    this.heavy = make.ints(lanes);
    this.heldV = make.floats(slots);
    this.heldW = make.floats(slots);
    this.fromV = make.floats(slots);
    this.fromW = make.floats(slots);
    this.overV = make.floats(slots);
    this.overSet = make.bytes(slots);
    this.startV = make.floats(slots);
    this.fadeStartV = make.floats(slots);
    this.tweens = make.floats(program.tweenAts.length * TWEEN_ROW);
    this.motors = make.floats(program.motorAts.length * MOTOR_ROW);
    this.lastDrawn = make.ints(last ? last.firstSource + last.states.length + 1 : 0);
    this.pulseUsed = make.ints(last ? last.firstPulse + last.pulses.length : 0);
    this.directList = make.ints(directs);
    this.begun = make.floats(directs);
    this.asked = make.ints(directs);
    this.askings = make.bytes(directs * MOST_ASKED);
    this.spawned = make.floats(program.spawns.places.length * SPAWN_ROW);
    this.spawnCounts = make.floats(program.spawns.templates.length);
    this.scheduled = make.list(SCHEDULED_ROW);
    this.parts = program.rowsOf(make);
    this.lists = make.lists;
    this.base = program.spawns.places.length > 0 ? program.base.slice() : program.base;
    this.posedIn = new Int32Array(lanes);
    this.alone = new Int32Array(values);
    this.#isAlone = new Uint8Array(values);
    this.tweensOn = new Int32Array(program.tweenAts.length);
    this.motorsOn = new Int32Array(program.motorAts.length);
  }

  get tick(): number {
    return this.one[TICK] as number;
  }
  get over(): number {
    return this.one[POINTER_OVER] as number;
  }
  get pointerDown(): boolean {
    return this.one[POINTER_DOWN] === 1;
  }

  // Plays. Row `lane` × 2 is the lane's own, the next the one that fades out.

  readPlay(row: number, out: Playhead): void {
    const { plays } = this;
    const at = row * PLAY_ROW;
    out.p0 = plays[at] as number;
    out.t0 = plays[at + 1] as number;
    out.speed = plays[at + 2] as number;
    out.direction = plays[at + 3] as number;
    out.mark = plays[at + 4] as number;
    out.incl = plays[at + 5] === 1;
    out.ended = plays[at + 6] === 1;
  }

  writePlay(row: number, p: Playhead): void {
    const { plays } = this;
    const at = row * PLAY_ROW;
    plays[at] = p.p0;
    plays[at + 1] = p.t0;
    plays[at + 2] = p.speed;
    plays[at + 3] = p.direction;
    plays[at + 4] = p.mark;
    plays[at + 5] = p.incl ? 1 : 0;
    plays[at + 6] = p.ended ? 1 : 0;
  }

  copyPlay(to: number, from: number): void {
    this.plays.copyWithin(to * PLAY_ROW, from * PLAY_ROW, (from + 1) * PLAY_ROW);
  }

  hasEnded(row: number): boolean {
    return this.plays[row * PLAY_ROW + 6] === 1;
  }

  writeEase(lane: number, easing: FadeEasing): void {
    writeEasing(this.fadeEase, lane * EASE_ROW, easing);
  }

  // Puts.

  isPut(at: number): boolean {
    return this.putAt[at] !== 0;
  }

  setPut(at: number, value: number): void {
    this.putV[at] = value;
    if (this.putAt[at] !== 0) return;
    const n = this.one[PUTS] as number;
    this.putList[n] = at;
    this.putAt[at] = n + 1;
    this.one[PUTS] = n + 1;
    this.putsChanged++;
  }
  /** Counts values that were put, or were put no longer: while it stands, the same ones are put. Not part of the state. */
  putsChanged = 0;

  /** Values that are no longer put: the next pose gives them back to what lies below. */
  readonly loose: number[] = [];

  /**
   * The values that something else than a lane has written since `forgetAlone`, each once: whoever writes one says so. Not
   * part of the state.
   */
  readonly alone: Int32Array;
  aloneCount = 0;
  readonly #isAlone: Uint8Array;
  setAlone(at: number): void {
    if (this.#isAlone[at] === 1) return;
    this.#isAlone[at] = 1;
    this.alone[this.aloneCount++] = at;
  }
  forgetAlone(): void {
    for (let k = 0; k < this.aloneCount; k++) this.#isAlone[this.alone[k] as number] = 0;
    this.aloneCount = 0;
  }

  clearPut(at: number): void {
    const place = (this.putAt[at] as number) - 1;
    if (place < 0) return;
    this.loose.push(at);
    const last = (this.one[PUTS] as number) - 1;
    const moved = this.putList[last] as number;
    this.putList[place] = moved;
    this.putAt[moved] = place + 1;
    this.putAt[at] = 0;
    this.one[PUTS] = last;
    this.putsChanged++;
  }

  // Direct plays. `k`: the place of the lane after `firstDirect`.

  /** The play in lane `lane` begins: it goes on top of the others. */
  beginDirect(lane: number, k: number): void {
    this.endDirect(lane);
    this.directList[this.one[DIRECTS] as number] = lane;
    this.one[DIRECTS] = (this.one[DIRECTS] as number) + 1;
    this.one[BEGUN] = (this.one[BEGUN] as number) + 1;
    this.begun[k] = this.one[BEGUN] as number;
  }

  endDirect(lane: number): void {
    const n = this.one[DIRECTS] as number;
    const at = this.directList.subarray(0, n).indexOf(lane);
    if (at < 0) return;
    this.directList.copyWithin(at, at + 1, n);
    this.one[DIRECTS] = n - 1;
  }

  /** Another asking waits; too many are not kept. */
  askDirect(k: number, state: number): void {
    const n = this.asked[k] as number;
    if (n >= MOST_ASKED) return;
    this.askings[k * MOST_ASKED + n] = state;
    this.asked[k] = n + 1;
  }

  /** The state that the next asking is for; 0 when none waits. */
  takeAsked(k: number): number {
    const n = this.asked[k] as number;
    if (n === 0) return 0;
    const first = k * MOST_ASKED;
    const state = this.askings[first] as number;
    this.askings.copyWithin(first, first + 1, first + n);
    this.asked[k] = n - 1;
    return state;
  }

  // Signals.

  signalValue(def: Signal, i: number): SignalValue {
    const n = this.signals[i] as number;
    if (def.type === 'number') return n;
    return def.type === 'switch' || def.type === 'pulse' ? n === 1 : (this.texts.list[n] as string);
  }

  writeSignal(i: number, value: SignalValue): void {
    this.signals[i] = typeof value === 'string' ? this.texts.number(value) : Number(value);
  }

  // Dues: a heap whose least is the one of the earliest instant, of those at one instant the one made first.

  addScheduled(d: Scheduled): void {
    const n = this.scheduled.grow();
    // Those above that come later go down, and it takes the place that this leaves.
    let i = n;
    while (i > 0) {
      const above = (i - 1) >> 1;
      if (!this.#isBefore(d.t, d.seq, above)) break;
      this.#moveScheduled(i, above);
      i = above;
    }
    this.#writeScheduled(i, d);
  }

  /** Takes the next scheduled item out. */
  takeScheduled(): Scheduled {
    const item = this.scheduledAt(0);
    this.scheduled.shorten();
    const { data: scheduled, count: n } = this.scheduled;
    const [t, seq] = [scheduled[n * SCHEDULED_ROW] as number, scheduled[n * SCHEDULED_ROW + 1] as number];
    let i = 0;
    for (;;) {
      let child = 2 * i + 1;
      if (child >= n) break;
      const next = (child + 1) * SCHEDULED_ROW;
      if (child + 1 < n && this.#isBefore(scheduled[next] as number, scheduled[next + 1] as number, child))
        child++;
      if (this.#isBefore(t, seq, child)) break;
      this.#moveScheduled(i, child);
      i = child;
    }
    if (i !== n) this.#moveScheduled(i, n);
    return item;
  }

  get scheduledCount(): number {
    return this.scheduled.count;
  }

  scheduledAt(i: number): Scheduled {
    const scheduled = this.scheduled.data;
    const at = i * SCHEDULED_ROW;
    return {
      t: scheduled[at] as number,
      seq: scheduled[at + 1] as number,
      what: scheduled[at + 2] as number,
      index: scheduled[at + 3] as number,
      action: scheduled[at + 4] as number,
      n: scheduled[at + 5] as number,
      cause: scheduled[at + 6] as number,
    };
  }

  #writeScheduled(i: number, d: Scheduled): void {
    const scheduled = this.scheduled.data;
    const at = i * SCHEDULED_ROW;
    scheduled[at] = d.t;
    scheduled[at + 1] = d.seq;
    scheduled[at + 2] = d.what;
    scheduled[at + 3] = d.index;
    scheduled[at + 4] = d.action;
    scheduled[at + 5] = d.n;
    scheduled[at + 6] = d.cause;
  }

  /** Whether a scheduled item of this instant and number comes before the one in row `i`. */
  #isBefore(t: number, seq: number, i: number): boolean {
    const at = i * SCHEDULED_ROW;
    const scheduled = this.scheduled.data;
    const other = scheduled[at] as number;
    return t < other || (t === other && seq < (scheduled[at + 1] as number));
  }

  #moveScheduled(to: number, from: number): void {
    const scheduled = this.scheduled.data;
    for (let k = 0; k < SCHEDULED_ROW; k++)
      scheduled[to * SCHEDULED_ROW + k] = scheduled[from * SCHEDULED_ROW + k] as number;
  }
}

/** Whether a pulse is remembered beyond instant t. */
export function isKept(program: Program, s: RunState, pulse: number, t: number): boolean {
  return (program.remember[pulse] as number) > 0 && (s.pulseUntil[pulse] as number) > t + SAME_INSTANT;
}

/** Whether a pulse is up at instant t: until its tick ends, or for as long as it is remembered. */
export function isUp(program: Program, s: RunState, pulse: number, t: number): boolean {
  if (s.pulseUp[pulse] !== 1) return false;
  return program.remember[pulse] === 0 || t <= (s.pulseUntil[pulse] as number) + SAME_INSTANT;
}

/** A state carried over to a program compiled after an edit. */
export interface MigratedState {
  readonly state: RunState;
  /** The lanes of the new program that have no state to go on from and enter their initial one. */
  readonly fresh: readonly number[];
}

export function newState(program: Program, seed: number): RunState {
  const texts = new Texts(textsIn(program));
  const counted = new RowMaker(null);
  new RunState(program, texts, counted);
  const buffer = new ArrayBuffer(counted.size);
  const s = new RunState(program, texts, new RowMaker(buffer));
  const { one } = s;
  one[TICK] = -1;
  one[SEED] = seed;
  one[NEXT_REC] = 1;
  one[NEXT_SEQ] = 1;
  one[MOMENT] = Number.NEGATIVE_INFINITY;
  one[AZIMUTH] = program.piece.view.azimuth;
  one[ELEVATION] = program.piece.view.elevation;
  one[FRAME_WIDTH] = program.piece.frame.width;
  one[FRAME_HEIGHT] = program.piece.frame.height;
  one[POINTER_OVER] = -1;
  one[POINTER_PRESSED] = -1;
  one[CLICKED] = -1;
  program.spawns.places.forEach((_, k) => {
    settleBase(program, s, k);
  });
  s.values.set(s.base);
  program.signals.forEach((def, i) => {
    s.writeSignal(i, initialValue(def));
  });
  program.spawns.bound.forEach((list, outer) => {
    const def = program.signals[outer] as Signal;
    for (const b of list) {
      const inner = program.signals[b.inner] as Signal;
      const value = boundValue(b, s.signalValue(def, outer));
      if (fitsSignal(inner, value)) s.writeSignal(b.inner, value);
    }
  });
  s.signalRec.fill(-1);
  program.streams.forEach((consumer, i) => {
    seedStream(s.random, i * 4, seed, consumer);
  });
  s.cooldownUntil.fill(Number.NEGATIVE_INFINITY);
  s.active.fill(-1);
  s.active.fill(0, program.firstDirect);
  s.entryRec.fill(-1);
  s.hereClip.fill(-1);
  s.turnT.fill(Number.NEGATIVE_INFINITY);
  s.fadeState.fill(-1);
  s.lastDrawn.fill(-1);
  return s;
}
