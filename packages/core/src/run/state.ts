/**
 * All that changes while a piece runs: rows of numbers in one buffer, so that a snapshot is one copy. What can be worked
 * out from it (dates, marks, who waits) is not part of it. Values of choices and texts stand in it as numbers of strings.
 */
import { EASE_ROW, PLAY_ROW, type Playhead, writeEasing } from '../anim/index.ts';
import { grown, SAME_DATE, seedStream } from '../base/index.ts';
import { type FadeEasing, fitsSignal, initialValue, type Signal, type SignalValue } from '../model/index.ts';
import type { Program } from './program.ts';
import {
  CAPTION_ROW,
  CUE_ACT_ROW,
  CUE_ROW,
  DRAG_ROW,
  FOLLOW_ROW,
  MOTOR_ROW,
  NODE_ROW,
  SHEET_ROW,
  SHOW_ROW,
  SPAWN_ROW,
  STOOD_ROW,
  TWEEN_ROW,
} from './rows.ts';
import { boundValue, settleBase } from './spawned.ts';

/** Single numbers, by their place in `one`. */
export const TICK = 0;
export const SEED = 1;
export const NEXT_REC = 2;
export const NEXT_SEQ = 3;
/** Date up to which reached moments were served, and how many times they were. */
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
export const DUES = 17;
/** Counts presses, so that a long one is told from the next. */
export const PRESSES = 18;
/** Object and date of the last click that may be the first of two. */
export const CLICKED = 19;
export const CLICKED_T = 20;
/** Which of the things that can be dragged the pointer holds, −1 for none; whether it has begun; where it was taken hold of. */
export const HELD = 21;
export const DRAGS = 22;
export const HELD_X = 23;
export const HELD_Y = 24;
/** Tick of the last `drag.move`; which is to be told as dropped, −1 for none, the record that let it go, and the tick. */
export const DRAG_TICK = 25;
export const DROPPED = 26;
export const DROPPED_REC = 27;
export const DROPPED_TICK = 28;
/** How many direct plays there are, and the number of the one begun last. */
export const DIRECTS = 29;
export const BEGUN = 30;
/** How many effects are under way, how many captions stand or wait, and how many there have been. */
export const SHOWS = 31;
export const CAPTIONS = 32;
export const CAPTIONED = 33;
/** How many cue sheets run. */
export const SHEETS = 34;
/** How many times something was tweened. */
export const TWEENED = 35;
/** Which of the visitor's keys are held, as bits; whether the pointer holds it and where it was taken hold of; its speed. */
export const WALK_KEYS = 36;
export const WALK_HELD = 37;
export const WALK_X = 38;
export const WALK_Y = 39;
export const WALKED = 40;
/** Whether there has been a pointer: what follows one is 0 until then. */
export const POINTER_KNOWN = 41;
/** How far the pointer had gone, px on the screen, when it let go of what is to be told as dropped. */
export const DROPPED_DX = 42;
export const DROPPED_DY = 43;
const ONES = 44;
/** So many askings of a direct play wait at most until it ends. */
export const MOST_ASKED = 64;

/** A due in its row: date, order of making, what, index, action, number (of a timer its firings before, of what is delayed 1 + the thing of the event), record that led to it (or −1). */
export const DUE_ROW = 7;
export const DUE_TIMER = 0;
export const DUE_REACTION = 1;
export const DUE_ACTION = 2;
/** A press that is long if it still lasts; `index` is its number. */
export const DUE_LONG = 3;

/** A caption's time is over; `index` is its number. */
export const DUE_CAPTION = 4;

/** A cue of a sheet, an action of one, a sheet's next round (`n`: the round that they belong to); a date to look at. */
export const DUE_CUE = 5;
export const DUE_CUE_ACT = 6;
export const DUE_SHEET = 7;
export const DUE_LOOK = 8;
/** What was spawned goes; `index`: its place, `n`: which it is. */
export const DUE_SPAWN = 9;

export interface Due {
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

/** The rows of a program's state, one after another: how many numbers each holds, and of which sort. */
function rowsOf(p: Program) {
  const last = p.lanes.at(-1);
  const n = {
    values: p.base.length,
    signals: p.signals.length,
    lanes: p.lanes.length,
    slots: last ? last.firstSlot + last.slots.length : 0,
    sources: last ? last.firstSource + last.states.length + 1 : 0,
    pulses: last ? last.firstPulse + last.pulses.length : 0,
    reactions: p.reactions.length,
    random: p.streams.length * 4,
    tweens: p.tweenAts.length,
    motors: p.motorAts.length,
    follows: p.follows.length,
    drags: p.drags.length,
    nodes: p.meeting.nodes.length,
    pairs: p.meeting.pairs,
    zones: p.meeting.colliders.length,
    jumpers: p.meeting.lanes.length,
    directs: p.lanes.length - p.firstDirect,
    effects: p.effects.length,
    sheets: p.sheets.length,
    cues: p.cues.length,
    cueActs: p.cues.reduce((sum, c) => sum + c.acts.length, 0),
    blockers: p.blockers.length,
    places: p.spawns.places.length,
    templates: p.spawns.templates.length,
  };
  return [
    [ONES, Float64Array],
    [n.values, Float64Array],
    [n.values, Float64Array],
    [n.values, Int32Array],
    [n.values, Int32Array],
    [n.signals, Float64Array],
    [n.signals, Float64Array],
    [n.signals, Float64Array],
    [n.signals, Uint8Array],
    [n.signals, Float64Array],
    [n.random, Uint32Array],
    [n.reactions, Float64Array],
    [n.reactions, Uint8Array],
    [n.lanes, Int32Array],
    [n.lanes, Int32Array],
    [n.lanes, Float64Array],
    [n.lanes, Float64Array],
    [n.lanes, Int32Array],
    [n.lanes, Float64Array],
    [n.lanes, Uint8Array],
    [n.lanes * 2 * PLAY_ROW, Float64Array],
    [n.lanes, Int32Array],
    [n.lanes, Float64Array],
    [n.lanes, Float64Array],
    [n.lanes, Float64Array],
    [n.lanes, Float64Array],
    [n.lanes * EASE_ROW, Float64Array],
    [n.lanes, Int32Array],
    [n.lanes, Uint8Array],
    [n.lanes, Int32Array],
    [n.slots, Float64Array],
    [n.slots, Float64Array],
    [n.slots, Float64Array],
    [n.slots, Float64Array],
    [n.slots, Float64Array],
    [n.slots, Uint8Array],
    [n.slots, Float64Array],
    [n.slots, Float64Array],
    [n.tweens * TWEEN_ROW, Float64Array],
    [n.motors * MOTOR_ROW, Float64Array],
    [n.follows * FOLLOW_ROW, Float64Array],
    [n.drags * DRAG_ROW, Float64Array],
    [n.nodes * NODE_ROW, Float64Array],
    [n.pairs, Uint8Array],
    [n.zones, Float64Array],
    [n.zones, Uint8Array],
    [n.jumpers * 2, Float64Array],
    [n.sources, Int32Array],
    [n.pulses, Int32Array],
    [n.directs, Int32Array],
    [n.directs, Float64Array],
    [n.directs, Int32Array],
    [n.directs * MOST_ASKED, Uint8Array],
    [n.effects, Float64Array],
    [n.sheets * SHEET_ROW, Float64Array],
    [n.cues * CUE_ROW, Float64Array],
    [n.cueActs * CUE_ACT_ROW, Float64Array],
    [2 * n.blockers, Int32Array],
    [2 * n.blockers, Uint8Array],
    [n.blockers === 0 ? 0 : (n.blockers + 2) * STOOD_ROW, Float64Array],
    [n.places * SPAWN_ROW, Float64Array],
    [n.templates, Float64Array],
  ] as const;
}

type Sizes = ReturnType<typeof rowsOf>;
type RowsOf<S extends readonly unknown[]> = {
  -readonly [K in keyof S]: S[K] extends readonly [unknown, { readonly prototype: infer T }] ? T : never;
};

export class RunState {
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
  /** Date until which a remembered one is. */
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
  /** Date of the last turn of a loop. */
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
  /** Rows of tweens and of motors: see `moving.ts`. */
  readonly tweens: Float64Array;
  readonly motors: Float64Array;
  /** Rows of follows and of what can be dragged: see `following.ts` and `dragging.ts`. */
  readonly follows: Float64Array;
  readonly drags: Float64Array;
  /** Rows of what may meet another, and per pair of a zone and a thing whether it is in it: see `noticing.ts`. */
  readonly nodes: Float64Array;
  readonly noticed: Uint8Array;
  /** Record of the last that a zone noticed, −1 for none. */
  readonly zoneRec: Float64Array;
  /** Whether a zone was switched on at the last noticing. */
  readonly zoneOn: Uint8Array;
  /** By lane of `meeting.lanes` the entry of its state at the end of the last tick, and the place in its clip. */
  readonly stood: Float64Array;
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
  /** How many bursts of each effect there have been. */
  readonly bursts: Float64Array;
  /** Rows of cue sheets, of their cues, and of the actions of these: see `sheets.ts`. */
  readonly sheets: Float64Array;
  readonly cues: Float64Array;
  readonly cueActs: Float64Array;
  /** Per blocker, what touches it: the number of the visitor's object, and of the dragged one, plus 1; 0 for none. */
  readonly touched: Int32Array;
  /** Likewise whether it is crushed: 1, and 2 once that is told. */
  readonly crushed: Uint8Array;
  /** Rows of blockers, and of what they push, in the last published pose: see `pushing.ts`. */
  readonly stoodAt: Float64Array;
  /** Rows of the places of what is spawned: see `spawning.ts`; and how many of each template there have been. */
  readonly spawned: Float64Array;
  readonly spawnCounts: Float64Array;
  /** What the properties are when nothing sets them: the program's own but where something may be spawned. */
  readonly base: Float64Array;

  // What is worked out, and not part of the state.
  /** Poses so far, and by lane the one in which it last laid anything. */
  posed = 0;
  readonly laid: Int32Array;
  /** The rows of tweens and motors that may be under way: the first so many numbers, unless they are to be listed anew. */
  readonly tweensOn: Int32Array;
  readonly motorsOn: Int32Array;
  tweenCount = 0;
  motorCount = 0;
  moversChanged = true;

  /** What is due, as a heap by date and order of making; it grows, so it has a buffer of its own while it runs. */
  dues: Float64Array;
  /** Effects that are under way, in the order of their beginning, and captions, in that of asking: see `rows.ts`. */
  shows: Float64Array;
  captions: Float64Array;
  /** Strings that choices and texts hold, by number; those that the piece names come first. */
  readonly texts: Texts;

  constructor(program: Program, texts: Texts) {
    const sizes: Sizes = rowsOf(program);
    const bytesOf = ([length, of]: Sizes[number]) => Math.ceil((length * of.BYTES_PER_ELEMENT) / 8) * 8;
    this.buffer = new ArrayBuffer(sizes.reduce((n, row) => n + bytesOf(row), 0));
    this.texts = texts;
    let at = 0;
    const rows = sizes.map((row) => {
      const [length, of] = row;
      const made = new of(this.buffer, at, length);
      at += bytesOf(row);
      return made;
    });
    // In the order of `rowsOf`, one by one: an object that is filled in a loop is a slow one.
    [
      this.one,
      this.values,
      this.putV,
      this.putAt,
      this.putList,
      this.signals,
      this.signalRec,
      this.pulseSerial,
      this.pulseUp,
      this.pulseUntil,
      this.random,
      this.cooldownUntil,
      this.spent,
      this.active,
      this.entry,
      this.entered,
      this.entryRec,
      this.entryDepth,
      this.entryPhase,
      this.finished,
      this.plays,
      this.hereClip,
      this.here,
      this.turnT,
      this.fadeStart,
      this.fadeLength,
      this.fadeEase,
      this.fadeState,
      this.mustFinish,
      this.heavy,
      this.heldV,
      this.heldW,
      this.fromV,
      this.fromW,
      this.overV,
      this.overSet,
      this.startV,
      this.fadeStartV,
      this.tweens,
      this.motors,
      this.follows,
      this.drags,
      this.nodes,
      this.noticed,
      this.zoneRec,
      this.zoneOn,
      this.stood,
      this.lastDrawn,
      this.pulseUsed,
      this.directList,
      this.begun,
      this.asked,
      this.askings,
      this.bursts,
      this.sheets,
      this.cues,
      this.cueActs,
      this.touched,
      this.crushed,
      this.stoodAt,
      this.spawned,
      this.spawnCounts,
    ] = rows as unknown as RowsOf<Sizes>;
    this.base = program.spawns.places.length > 0 ? program.base.slice() : program.base;
    this.laid = new Int32Array(program.lanes.length);
    this.alone = new Int32Array(this.values.length);
    this.#isAlone = new Uint8Array(this.values.length);
    this.tweensOn = new Int32Array(program.tweenAts.length);
    this.motorsOn = new Int32Array(program.motorAts.length);
    this.dues = new Float64Array(8 * DUE_ROW);
    this.shows = new Float64Array(0);
    this.captions = new Float64Array(0);
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
    out.way = plays[at + 3] as number;
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
    plays[at + 3] = p.way;
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

  // Effects and captions.

  addShow(row: readonly number[]): void {
    const n = this.one[SHOWS] as number;
    if ((n + 1) * SHOW_ROW > this.shows.length) this.shows = grown(this.shows, (2 * n + 4) * SHOW_ROW);
    this.shows.set(row, n * SHOW_ROW);
    this.one[SHOWS] = n + 1;
  }
  dropShow(i: number): void {
    const n = this.one[SHOWS] as number;
    this.shows.copyWithin(i * SHOW_ROW, (i + 1) * SHOW_ROW, n * SHOW_ROW);
    this.one[SHOWS] = n - 1;
  }

  addCaption(row: readonly number[]): void {
    const n = this.one[CAPTIONS] as number;
    if ((n + 1) * CAPTION_ROW > this.captions.length)
      this.captions = grown(this.captions, (2 * n + 4) * CAPTION_ROW);
    this.captions.set(row, n * CAPTION_ROW);
    this.one[CAPTIONS] = n + 1;
  }
  dropCaption(i: number): void {
    const n = this.one[CAPTIONS] as number;
    this.captions.copyWithin(i * CAPTION_ROW, (i + 1) * CAPTION_ROW, n * CAPTION_ROW);
    this.one[CAPTIONS] = n - 1;
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

  // Dues: a heap whose least is the one of the earliest date, of those at one date the one made first.

  addDue(d: Due): void {
    const n = this.one[DUES] as number;
    if ((n + 1) * DUE_ROW > this.dues.length) this.dues = grown(this.dues, this.dues.length * 2 + DUE_ROW);
    this.one[DUES] = n + 1;
    // Those above that come later go down, and it takes the place that this leaves.
    let i = n;
    while (i > 0) {
      const above = (i - 1) >> 1;
      if (!this.#isBefore(d.t, d.seq, above)) break;
      this.#moveDue(i, above);
      i = above;
    }
    this.#writeDue(i, d);
  }

  /** Takes the next due out. */
  takeDue(): Due {
    const due = this.dueAt(0);
    const { dues } = this;
    const n = (this.one[DUES] as number) - 1;
    this.one[DUES] = n;
    const [t, seq] = [dues[n * DUE_ROW] as number, dues[n * DUE_ROW + 1] as number];
    let i = 0;
    for (;;) {
      let child = 2 * i + 1;
      if (child >= n) break;
      const next = (child + 1) * DUE_ROW;
      if (child + 1 < n && this.#isBefore(dues[next] as number, dues[next + 1] as number, child)) child++;
      if (this.#isBefore(t, seq, child)) break;
      this.#moveDue(i, child);
      i = child;
    }
    if (i !== n) this.#moveDue(i, n);
    return due;
  }

  get dueCount(): number {
    return this.one[DUES] as number;
  }

  dueAt(i: number): Due {
    const { dues } = this;
    const at = i * DUE_ROW;
    return {
      t: dues[at] as number,
      seq: dues[at + 1] as number,
      what: dues[at + 2] as number,
      index: dues[at + 3] as number,
      action: dues[at + 4] as number,
      n: dues[at + 5] as number,
      cause: dues[at + 6] as number,
    };
  }

  #writeDue(i: number, d: Due): void {
    const { dues } = this;
    const at = i * DUE_ROW;
    dues[at] = d.t;
    dues[at + 1] = d.seq;
    dues[at + 2] = d.what;
    dues[at + 3] = d.index;
    dues[at + 4] = d.action;
    dues[at + 5] = d.n;
    dues[at + 6] = d.cause;
  }

  /** Whether a due of this date and number comes before the one in row `i`. */
  #isBefore(t: number, seq: number, i: number): boolean {
    const at = i * DUE_ROW;
    const other = this.dues[at] as number;
    return t < other || (t === other && seq < (this.dues[at + 1] as number));
  }

  #moveDue(to: number, from: number): void {
    const { dues } = this;
    for (let k = 0; k < DUE_ROW; k++) dues[to * DUE_ROW + k] = dues[from * DUE_ROW + k] as number;
  }
}

/** Whether a pulse is remembered beyond date t. */
export function isKept(program: Program, s: RunState, pulse: number, t: number): boolean {
  return (program.remember[pulse] as number) > 0 && (s.pulseUntil[pulse] as number) > t + SAME_DATE;
}

/** Whether a pulse is up at date t: until its tick ends, or for as long as it is remembered. */
export function isUp(program: Program, s: RunState, pulse: number, t: number): boolean {
  if (s.pulseUp[pulse] !== 1) return false;
  return program.remember[pulse] === 0 || t <= (s.pulseUntil[pulse] as number) + SAME_DATE;
}

/** A state carried over to a program compiled after an edit. */
export interface Carried {
  readonly state: RunState;
  /** The lanes of the new program that have no state to go on from and enter their initial one. */
  readonly fresh: readonly number[];
  /** The reactions that have become timers. */
  readonly timers: readonly number[];
}

/** Strings by number, each once. */
export class Texts {
  readonly list: string[];
  readonly #numbers: Map<string, number>;

  constructor(list: readonly string[]) {
    this.list = [...list];
    this.#numbers = new Map(this.list.map((text, i) => [text, i]));
  }

  number(text: string): number {
    let n = this.#numbers.get(text);
    if (n === undefined) {
      n = this.list.push(text) - 1;
      this.#numbers.set(text, n);
    }
    return n;
  }
}

/** The strings that a piece's choices and texts may hold at its start. */
function textsIn(program: Program): string[] {
  const all = new Set<string>();
  for (const s of program.signals) {
    if (s.type === 'choice') for (const o of s.options) all.add(o);
    if (s.type === 'choice' || s.type === 'text') all.add(s.initial);
  }
  return [...all];
}

export function newState(program: Program, seed: number): RunState {
  const s = new RunState(program, new Texts(textsIn(program)));
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
  one[HELD] = -1;
  one[DROPPED] = -1;
  for (let k = 0; k < program.drags.length; k++) s.drags[k * DRAG_ROW + 6] = -1;
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
  s.zoneRec.fill(-1);
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
