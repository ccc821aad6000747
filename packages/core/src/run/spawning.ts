/**
 * What is spawned from templates. There are places for as many as may be there at once, written out when the piece is
 * compiled; one that is spawned takes a free place, and leaves it as it was found. So nothing grows, however many come
 * and go; only their numbers count on.
 */
import { invert, MAT, seedStream, snapDate, transformPoint } from '../base/index.ts';
import { CHANNELS, fitsSignal, initialValue, type SignalValue } from '../model/index.ts';
import type { Context } from './context.ts';
import { letGo } from './moving.ts';
import type { Program } from './program.ts';
import {
  CAPTION_ROW,
  CUE_ACT_ROW,
  CUE_ROW,
  DRAG_ROW,
  FOLLOW_ROW,
  MOTOR_ROW,
  SHEET_ROW,
  SHOW_ROW,
  SPAWN_ROW,
  TWEEN_ROW,
} from './rows.ts';
import type { Scene } from './scene.ts';
import type { PlaceProgram, Span } from './spawn-program.ts';
import { boundValue, isThere, numberOf, settleBase, trueName } from './spawned.ts';
import {
  CAPTIONS,
  CLICKED,
  DUE_ACTION,
  DUE_CUE,
  DUE_CUE_ACT,
  DUE_REACTION,
  DUE_SHEET,
  DUE_SPAWN,
  DUE_TIMER,
  type Due,
  newState,
  POINTER_OVER,
  POINTER_PRESSED,
  type RunState,
  SEED,
  SHEETS,
  SHOWS,
} from './state.ts';
import { type Cause, NO_CAUSE } from './trace.ts';

/** Why one that was spawned goes. */
export type Why = 'time' | 'asked' | 'limit' | 'parent';

/** What the parts of a run do for what comes and goes. */
export interface Helpers {
  readonly scene: Scene;
  readonly pivotAt: (object: number, out: Float64Array) => void;
  readonly enterInitial: (lane: number, cause: Cause) => void;
  readonly addTimer: (reaction: number, n: number) => void;
}

export class Spawning {
  readonly #run: Context;
  readonly #help: Helpers;
  /** What is left before the record that tells that one goes: zones that it leaves, and a hand that held it. */
  leaves: (objects: Span, cause: Cause) => void = () => {};
  /** A state as it is at the start, to take rows from; made when it is first needed. */
  #fresh: { readonly of: Program; readonly state: RunState } | null = null;

  constructor(run: Context, help: Helpers) {
    this.#run = run;
    this.#help = help;
  }

  /** One of `template` is spawned in `parent` (numbers, −1 for none), at the pivot of `object` if that is one, so much beside. */
  spawn(
    template: number,
    parent: number,
    object: number,
    offset: readonly number[],
    given: readonly (readonly [signal: string, value: SignalValue])[],
    seconds: number,
    cause: Cause,
  ): void {
    const run = this.#run;
    const { program, state } = run;
    const of = program.spawns.templates[template];
    const mine = of?.places.filter((k) => program.spawns.places[k]?.parent === parent) ?? [];
    if (!of || mine.length === 0 || !run.mayAct()) return;
    const above = this.#placeOf(parent);
    if (above >= 0 && !isThere(state, above)) return;
    this.#stand(parent, object, offset);
    const there = of.places.filter((k) => isThere(state, k));
    const isOldest = (a: number, b: number) => (numberOf(state, a) < numberOf(state, b) ? a : b);
    if (there.length >= of.max) this.end(there.reduce(isOldest), 'limit', cause);
    const n = state.spawnCounts[template] as number;
    const free = mine.map((_, i) => mine[(n + i) % mine.length] as number).find((p) => !isThere(state, p));
    if (free === undefined) return;
    state.spawnCounts[template] = n + 1;
    state.spawned.set([1, n, run.t, ...at], free * SPAWN_ROW);
    this.#begin(free, given, cause);
    if (seconds > 0)
      run.addDue({
        ...{ t: snapDate(run.t + seconds), what: DUE_SPAWN, index: free, action: 0, n },
        cause: cause.rec ?? -1,
      });
  }

  #placeOf(object: number): number {
    return object < 0 ? -1 : (this.#run.program.spawns.ofObject[object] ?? -1);
  }

  /** Writes to `at` where, in the space of the parent, the pivot of `object` is, and so much more. */
  #stand(parent: number, object: number, offset: readonly number[]): void {
    at.fill(0);
    if (object >= 0) {
      this.#help.pivotAt(object, at);
      if (parent >= 0 && invert(inverse, 0, this.#help.scene.matrix(parent), 0))
        transformPoint(at, 0, inverse, 0, at[0] as number, at[1] as number, at[2] as number);
    }
    for (let r = 0; r < 3; r++) at[r] = (at[r] as number) + (offset[r] ?? 0);
  }

  #begin(k: number, given: readonly (readonly [string, SignalValue])[], cause: Cause): void {
    const run = this.#run;
    const { program, state } = run;
    const place = program.spawns.places[k] as PlaceProgram;
    settleBase(program, state, k);
    this.#setBack(place);
    const name = trueName(program, state, place.id);
    for (const s of place.streams)
      seedStream(
        state.random,
        s * 4,
        state.one[SEED] as number,
        (program.streams[s] as string).replace(place.id, name),
      );
    for (let i = place.signals.from; i < place.signals.to; i++) {
      const def = program.signals[i];
      const value = given.find(([id]) => def?.id === `${place.id}/${id}`)?.[1];
      const isOwn = def && value !== undefined && def.type !== 'pulse' && fitsSignal(def, value);
      if (isOwn) state.writeSignal(i, value);
    }
    const rec = run.raise(
      { kind: 'spawn', event: 'spawn.start', template: this.#template(place), object: place.id },
      cause,
    );
    run.queueEvent(rec, cause, place.root);
    for (let r = place.reactions.from; r < place.reactions.to; r++)
      if (program.reactions[r]?.reaction.on.event === 'timer') this.#help.addTimer(r, 0);
    for (let i = place.lanes.from; i < place.lanes.to; i++)
      this.#help.enterInitial(i, { rec: rec.id, depth: cause.depth + 1 });
    this.#changed();
  }

  #template(place: PlaceProgram): string {
    return this.#run.program.spawns.templates[place.template]?.id as string;
  }
  #changed(): void {
    this.#help.scene.changed();
  }

  /** Removes what an object belongs to, if that was spawned. */
  remove(object: number, cause: Cause): void {
    const k = this.#placeOf(object);
    if (k >= 0 && isThere(this.#run.state, k)) this.end(k, 'asked', cause);
  }

  due({ index, n, cause }: Due): void {
    const { state } = this.#run;
    if (!isThere(state, index) || numberOf(state, index) !== n) return;
    this.end(index, 'time', cause < 0 ? NO_CAUSE : { rec: cause, depth: 0 });
  }

  end(k: number, why: Why, cause: Cause): void {
    const run = this.#run;
    const { program, state } = run;
    const place = program.spawns.places[k] as PlaceProgram;
    // What was spawned into it goes with it, first.
    program.spawns.places.forEach((other, j) => {
      const inside = other.parent >= place.objects.from && other.parent < place.objects.to;
      if (inside && isThere(state, j)) this.end(j, 'parent', cause);
    });
    this.leaves(place.objects, cause);
    const rec = run.raise(
      { kind: 'spawn', event: 'spawn.end', template: this.#template(place), object: place.id, why },
      cause,
    );
    run.queueEvent(rec, cause);
    run.forgetNames(place.id, place.objects, program.geometry.parent[place.root] as number);
    state.spawned[k * SPAWN_ROW] = 0;
    settleBase(program, state, k);
    this.#setBack(place);
    this.#changed();
  }

  /** All that lies in a place is as it was before anything was there. */
  #setBack(place: PlaceProgram): void {
    const run = this.#run;
    const { program, state } = run;
    if (this.#fresh?.of !== program)
      this.#fresh = { of: program, state: newState(program, state.one[SEED] as number) };
    const fresh = this.#fresh.state;
    const { objects, lanes, slots, sources, pulses, signals, reactions, follows, sheets, cues, cueActs } =
      place;
    const isInside = (object: number) => object >= objects.from && object < objects.to;
    const first = objects.from * CHANNELS;
    for (let at = first; at < objects.to * CHANNELS; at++) {
      if (state.isPut(at)) letGo(program, state, at);
      if (state.values[at] === state.base[at]) continue;
      state.values[at] = state.base[at] as number;
      state.setAlone(at);
    }
    rowsOf(program.tweenAts, isInside, TWEEN_ROW, state.tweens);
    rowsOf(program.motorAts, isInside, MOTOR_ROW, state.motors);
    program.drags.forEach((d, i) => {
      if (isInside(d.object)) copy(fresh.drags, state.drags, { from: i, to: i + 1 }, DRAG_ROW);
    });
    for (const i of place.directs) {
      state.endDirect(i);
      state.active[i] = 0;
      state.asked[i - program.firstDirect] = 0;
    }
    for (const row of LANES) copy(fresh[row], state[row], lanes, 1);
    copy(fresh.plays, state.plays, lanes, fresh.plays.length / Math.max(1, program.lanes.length));
    copy(fresh.fadeEase, state.fadeEase, lanes, fresh.fadeEase.length / Math.max(1, program.lanes.length));
    for (const row of SLOTS) copy(fresh[row], state[row], slots, 1);
    copy(fresh.lastDrawn, state.lastDrawn, sources, 1);
    copy(fresh.pulseUsed, state.pulseUsed, pulses, 1);
    for (const row of SIGNALS) copy(fresh[row], state[row], signals, 1);
    for (let i = signals.from; i < signals.to; i++) {
      const def = program.signals[i];
      // Words have other numbers in another state.
      if (def) state.writeSignal(i, initialValue(def));
    }
    this.#setBound(signals);
    copy(fresh.cooldownUntil, state.cooldownUntil, reactions, 1);
    copy(fresh.spent, state.spent, reactions, 1);
    copy(fresh.follows, state.follows, follows, FOLLOW_ROW);
    for (let i = sheets.from; i < sheets.to; i++)
      if (state.sheets[i * SHEET_ROW] === 1) state.one[SHEETS] = (state.one[SHEETS] as number) - 1;
    copy(fresh.sheets, state.sheets, sheets, SHEET_ROW);
    copy(fresh.cues, state.cues, cues, CUE_ROW);
    copy(fresh.cueActs, state.cueActs, cueActs, CUE_ACT_ROW);
    this.#dropDues(place);
    for (let k = (state.one[SHOWS] as number) - 1; k >= 0; k--) {
      const show = program.effects[state.shows[k * SHOW_ROW] as number]?.effect;
      // A burst is in the world, and stays there.
      if (show?.kind !== 'burst' && isInside(state.shows[k * SHOW_ROW + 1] as number)) state.dropShow(k);
    }
    for (let k = (state.one[CAPTIONS] as number) - 1; k >= 0; k--)
      if (isInside(state.captions[k * CAPTION_ROW] as number)) state.dropCaption(k);
    for (const one of [POINTER_OVER, POINTER_PRESSED, CLICKED])
      if (isInside(state.one[one] as number)) state.one[one] = -1;
    run.jumps.places(objects);
    for (let i = lanes.from; i < lanes.to; i++) {
      // What was chosen for it is chosen no more.
      state.entry[i] = (state.entry[i] as number) + 1;
      run.agenda.touch(i);
    }
    for (const i of place.directs) run.agenda.touch(i);
    run.agenda.markAll();
  }

  /** Signals that others give have the values of these. */
  #setBound({ from, to }: Span): void {
    const { program, state } = this.#run;
    program.spawns.bound.forEach((list, outer) => {
      for (const b of list)
        if (b.inner >= from && b.inner < to) {
          const value = boundValue(b, this.#run.signalValue(outer));
          const def = program.signals[b.inner];
          if (def && fitsSignal(def, value)) state.writeSignal(b.inner, value);
        }
    });
  }

  #dropDues(place: PlaceProgram): void {
    const { program, state } = this.#run;
    const left: Due[] = [];
    let any = false;
    for (let i = 0; i < state.dueCount; i++) {
      const d = state.dueAt(i);
      if (isOfPlace(d, place, program)) any = true;
      else left.push(d);
    }
    if (!any) return;
    while (state.dueCount > 0) state.takeDue();
    for (const d of left) state.addDue(d);
  }
}

const at = new Float64Array(3);
const inverse = new Float64Array(MAT);

const LANES = [
  ...(['active', 'finished', 'hereClip', 'here', 'turnT', 'fadeStart', 'fadeLength', 'fadeState'] as const),
  ...(['entryRec', 'mustFinish', 'heavy'] as const),
] as const;
const SLOTS = ['heldV', 'heldW', 'fromV', 'fromW', 'overV', 'overSet', 'startV', 'fadeStartV'] as const;
const SIGNALS = ['signalRec', 'pulseSerial', 'pulseUp', 'pulseUntil'] as const;

type Row = {
  set(from: ArrayLike<number>, at: number): void;
  subarray(a: number, b: number): ArrayLike<number>;
};

function copy(from: Row, to: Row, { from: a, to: b }: Span, width: number): void {
  if (b > a) to.set(from.subarray(a * width, b * width), a * width);
}

/** Whether what is due belongs to a place. */
function isOfPlace({ what, index }: Due, place: PlaceProgram, program: Program): boolean {
  const within = (x: Span) => index >= x.from && index < x.to;
  switch (what) {
    case DUE_TIMER:
    case DUE_REACTION:
      return within(place.reactions);
    case DUE_ACTION:
      return place.lists.has(index);
    case DUE_CUE:
    case DUE_CUE_ACT:
      return within(place.cues);
    case DUE_SHEET:
      return within(place.sheets);
    case DUE_SPAWN:
      return program.spawns.places[index] === place;
    default:
      return false;
  }
}

function rowsOf(
  ats: readonly number[],
  isInside: (object: number) => boolean,
  width: number,
  rows: Float64Array,
): void {
  ats.forEach((at, k) => {
    if (isInside(Math.floor(at / CHANNELS))) rows.fill(0, k * width, (k + 1) * width);
  });
}
