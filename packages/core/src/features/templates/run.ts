/**
 * What is spawned from templates. There are places for as many as may be there at once, written out when the piece is
 * compiled; one that is spawned takes a free place, and leaves it as it was found. So nothing grows, however many come
 * and go; only their numbers count on.
 */
import { invert, MAT, seedStream, snapInstant, transformPoint } from '../../base/index.ts';
import { CHANNELS, canBegin, fitsSignal, initialValue, type SignalValue, textOf } from '../../model/index.ts';
import type { Context } from '../../run/context.ts';
import { letGo } from '../../run/movers.ts';
import { allOnScreen, isWritten } from '../../run/on-screen.ts';
import type { Phases } from '../../run/phases.ts';
import type { BoundProgram, PlaceProgram, Span, SpawnedTemplate } from '../../run/place-program.ts';
import { boundValue, isThere, numberOf, settleBase, trueName } from '../../run/presence.ts';
import type { Program } from '../../run/program.ts';
import { MOTOR_ROW, SPAWN_ROW, TWEEN_ROW } from '../../run/row-widths.ts';
import type { RunBase } from '../../run/run-base.ts';
import {
  CLICKED,
  NEXT_SEQ,
  newState,
  POINTER_OVER,
  POINTER_PRESSED,
  type RunState,
  type Scheduled,
  SEED,
} from '../../run/state.ts';
import { type Cause, NO_CAUSE } from '../../run/trace.ts';

/** Why one that was spawned goes. */
type Why = 'time' | 'asked' | 'limit' | 'parent';

export class Spawner implements Phases {
  readonly #run: Context;
  readonly #base: RunBase;
  /** A state as it is at the start, to take rows from; made when it is first needed. */
  #fresh: { readonly of: Program; readonly state: RunState } | null = null;

  constructor(base: RunBase) {
    this.#run = base.context;
    this.#base = base;
  }

  /** Signals that lie in properties are set to what is written there, in each tick in which something is. */
  beforeInputs(): void {
    const { program, state, clock } = this.#run;
    for (const { at, signal } of program.spawns.parts) {
      const def = program.signals[signal];
      if (!def || !isWritten(program, state, at, clock)) continue;
      const n = allOnScreen(program, state, at, clock);
      const value = def.type === 'number' ? n : def.type === 'switch' ? n >= 0.5 : textOf(n);
      if (!Object.is(value, state.signalValue(def, signal)))
        this.#base.runner.setSignal(signal, value, NO_CAUSE);
    }
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
    const mine = this.#linksOf(program).byParent[template]?.get(parent);
    if (!of || !mine || !run.maySpawn()) return;
    const above = this.#placeOf(parent);
    if (above >= 0 && !isThere(state, above)) return;
    this.#stand(parent, object, offset);
    const oldest = this.#oldestOfFull(of);
    if (oldest >= 0) this.end(oldest, 'limit', cause);
    const n = state.spawnCounts[template] as number;
    // What is in them goes in turn, so that mostly the next one is free.
    let free = -1;
    for (let i = 0; i < mine.length && free < 0; i++) {
      const place = mine[(n + i) % mine.length] as number;
      if (!isThere(state, place)) free = place;
    }
    if (free < 0) return;
    state.spawnCounts[template] = n + 1;
    state.spawned.set([1, n, run.t, ...at, state.one[NEXT_SEQ] as number], free * SPAWN_ROW);
    this.#begin(free, given, cause);
    if (seconds > 0)
      run.addScheduled({
        ...{
          t: snapInstant(run.t + seconds),
          what: run.scheduledNumber('end of what was spawned'),
          index: free,
          action: 0,
          n,
        },
        cause: cause.rec ?? -1,
      });
  }

  /** The place of the oldest of a template, when there are as many as may be; else −1. */
  #oldestOfFull(of: SpawnedTemplate): number {
    const { state } = this.#run;
    let [there, oldest] = [0, -1];
    for (let i = 0; i < of.places.length; i++) {
      const k = of.places[i] as number;
      if (!isThere(state, k)) continue;
      there++;
      if (oldest < 0 || numberOf(state, k) < numberOf(state, oldest)) oldest = k;
    }
    return there >= of.max ? oldest : -1;
  }

  /** What lies in the places of a program, found once. */
  #linksOf(program: Program): Links {
    if (this.#links?.of !== program) this.#links = { of: program, ...linksOf(program) };
    return this.#links;
  }
  #links: (Links & { readonly of: Program }) | null = null;

  #placeOf(object: number): number {
    return object < 0 ? -1 : (this.#run.program.spawns.ofObject[object] ?? -1);
  }

  /** Writes to `at` where, in the space of the parent, the pivot of `object` is, and so much more. */
  #stand(parent: number, object: number, offset: readonly number[]): void {
    at.fill(0);
    if (object >= 0) {
      this.#base.standing.pivotAt(object, at);
      if (parent >= 0 && invert(inverse, 0, this.#base.scene.matrix(parent), 0))
        transformPoint(at, 0, inverse, 0, at[0] as number, at[1] as number, at[2] as number);
    }
    for (let r = 0; r < 3; r++) at[r] = (at[r] as number) + (offset[r] ?? 0);
  }

  #begin(k: number, given: readonly (readonly [string, SignalValue])[], cause: Cause): void {
    const run = this.#run;
    const { program, state } = run;
    const place = program.spawns.places[k] as PlaceProgram;
    settleBase(program, state, k);
    this.#setBack(place, k);
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
      const isOwn = def && value !== undefined && def.type !== 'pulse' && canBegin(def, value);
      if (isOwn) state.writeSignal(i, value);
    }
    const rec = run.raise(
      { kind: 'spawn', event: 'spawn.start', template: this.#template(place), object: place.id },
      cause,
    );
    run.queueEvent(rec, cause, place.root);
    for (const x of run.phases.start) x.start(place);
    for (let i = place.lanes.from; i < place.lanes.to; i++)
      this.#base.lanes.enterInitial(i, { rec: rec.id, depth: cause.depth + 1 });
    this.#changed();
  }

  #template(place: PlaceProgram): string {
    return this.#run.program.spawns.templates[place.template]?.id as string;
  }
  #changed(): void {
    this.#base.scene.changed();
  }

  /** Removes what an object belongs to, if that was spawned. */
  remove(object: number, cause: Cause): void {
    const k = this.#placeOf(object);
    if (k >= 0 && isThere(this.#run.state, k)) this.end(k, 'asked', cause);
  }

  item({ index, n, cause }: Scheduled): void {
    const { state } = this.#run;
    if (!isThere(state, index) || numberOf(state, index) !== n) return;
    this.end(index, 'time', cause < 0 ? NO_CAUSE : { rec: cause, depth: 0 });
  }

  end(k: number, why: Why, cause: Cause): void {
    const run = this.#run;
    const { program, state } = run;
    const place = program.spawns.places[k] as PlaceProgram;
    run.mayGoAhead();
    // What was spawned into it goes with it, first.
    for (const j of this.#linksOf(program).places[k]?.inner ?? [])
      if (isThere(state, j)) this.end(j, 'parent', cause);
    for (const x of run.phases.leave) x.leave(place.objects, cause);
    this.#base.detections.tell(cause);
    for (const x of run.phases.left) x.left(place.objects, cause);
    const rec = run.raise(
      { kind: 'spawn', event: 'spawn.end', template: this.#template(place), object: place.id, why },
      cause,
    );
    run.queueEvent(rec, cause);
    run.forgetPlace(k, rec.id);
    state.spawned[k * SPAWN_ROW] = 0;
    settleBase(program, state, k);
    this.#setBack(place, k);
    this.#changed();
    run.dropAllStale();
  }

  /** All that lies in a place is as it was before anything was there. */
  #setBack(place: PlaceProgram, k: number): void {
    const run = this.#run;
    const { program, state } = run;
    if (this.#fresh?.of !== program)
      this.#fresh = { of: program, state: newState(program, state.one[SEED] as number) };
    const fresh = this.#fresh.state;
    const { objects, lanes, slots, sources, pulses, signals, reactions } = place;
    const isInside = (object: number) => object >= objects.from && object < objects.to;
    const first = objects.from * CHANNELS;
    for (let at = first; at < objects.to * CHANNELS; at++) {
      if (state.isPut(at)) letGo(program, state, at);
      if (state.values[at] === state.base[at]) continue;
      state.values[at] = state.base[at] as number;
      state.setAlone(at);
    }
    const links = this.#linksOf(program).places[k] as PlaceLinks;
    for (const i of links.tweens) state.tweens.fill(0, i * TWEEN_ROW, (i + 1) * TWEEN_ROW);
    for (const i of links.motors) state.motors.fill(0, i * MOTOR_ROW, (i + 1) * MOTOR_ROW);
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
    this.#setBound(links);
    copy(fresh.cooldownUntil, state.cooldownUntil, reactions, 1);
    copy(fresh.spent, state.spent, reactions, 1);
    for (const one of [POINTER_OVER, POINTER_PRESSED, CLICKED])
      if (isInside(state.one[one] as number)) state.one[one] = -1;
    for (const x of run.phases.setBack) x.setBack(place, k);
    for (let i = lanes.from; i < lanes.to; i++) {
      // What was chosen for it is chosen no more.
      state.entry[i] = (state.entry[i] as number) + 1;
      run.schedule.touch(i);
    }
    for (const i of place.directs) run.schedule.touch(i);
    for (let i = lanes.from; i < lanes.to; i++) run.schedule.mark(i);
    // The pointer is over it no more; who asks for its zones, and for what they notice, is asked as they are left.
    run.schedule.markThose(program.asking.pointer);
  }

  /** Signals that others give have the values of these. */
  #setBound({ bound }: PlaceLinks): void {
    const { program, state } = this.#run;
    for (const { outer, by } of bound) {
      const value = boundValue(by, this.#run.signalValue(outer));
      const def = program.signals[by.inner];
      if (def && fitsSignal(def, value)) state.writeSignal(by.inner, value);
    }
  }
}

/** What of a program lies in a place, besides what lies side by side there. */
interface PlaceLinks {
  /** The places that lie in it. */
  readonly inner: number[];
  readonly tweens: number[];
  readonly motors: number[];
  readonly bound: { readonly outer: number; readonly by: BoundProgram }[];
}
interface Links {
  readonly places: readonly PlaceLinks[];
  /** By template, then by parent, its places. */
  readonly byParent: readonly ReadonlyMap<number, readonly number[]>[];
}

function linksOf(program: Program): Links {
  const { spawns } = program;
  const places = spawns.places.map((): PlaceLinks => ({ inner: [], tweens: [], motors: [], bound: [] }));
  const at = (object: number) => places[spawns.ofObject[object] ?? -1];
  // Each object is of the innermost place in which it lies, and so of those that this lies in.
  const visit = (object: number, add: (x: PlaceLinks) => void) => {
    for (let o = object; o >= 0; ) {
      const k = spawns.ofObject[o] ?? -1;
      if (k < 0) return;
      add(places[k] as PlaceLinks);
      o = program.geometry.parent[spawns.places[k]?.root ?? -1] ?? -1;
    }
  };
  for (const [i, v] of program.tweenAts.entries()) visit(Math.floor(v / CHANNELS), (x) => x.tweens.push(i));
  for (const [i, v] of program.motorAts.entries()) visit(Math.floor(v / CHANNELS), (x) => x.motors.push(i));
  for (const [k, p] of spawns.places.entries()) at(p.parent)?.inner.push(k);
  spawns.bound.forEach((list, outer) => {
    for (const by of list)
      spawns.places.forEach(({ signals }, k) => {
        if (by.inner >= signals.from && by.inner < signals.to) places[k]?.bound.push({ outer, by });
      });
  });
  const byParent = spawns.templates.map(({ places: all }) => {
    const out = new Map<number, number[]>();
    for (const k of all) {
      const parent = spawns.places[k]?.parent ?? -1;
      const list = out.get(parent);
      if (list) list.push(k);
      else out.set(parent, [k]);
    }
    return out;
  });
  return { places, byParent };
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
