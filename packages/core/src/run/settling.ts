/** Serves the events that wait, one by one, and after each all that goes without an event, until nothing goes. */
import { SAME_INSTANT } from '../base/index.ts';
import type { On } from '../model/index.ts';
import type { ActionRunner } from './action-runner.ts';
import type { Choosing } from './choosing.ts';
import { type Context, MAX_DEPTH } from './context.ts';
import type { QueuedEvent } from './events.ts';
import type { LaneMoves } from './lane-moves.ts';
import { listenersTo } from './listening.ts';
import { isThere, numberOf, placeOf } from './presence.ts';
import type { ReactionProgram, TransitionProgram } from './program.ts';

export class Settling {
  readonly #run: Context;
  readonly #choosing: Choosing;
  readonly #laneMoves: LaneMoves;
  readonly #runner: ActionRunner;
  /** The lanes being asked, and what those would take that are ready: all are asked before any goes. */
  #asked = new Int32Array(0);
  readonly #lanes: number[] = [];
  readonly #routes: TransitionProgram[] = [];
  readonly #entries: number[] = [];

  constructor(run: Context, choosing: Choosing, laneMoves: LaneMoves, runner: ActionRunner) {
    this.#run = run;
    this.#choosing = choosing;
    this.#laneMoves = laneMoves;
    this.#runner = runner;
  }

  settle(): void {
    const run = this.#run;
    if (run.stormed) {
      run.queue.length = 0;
      return;
    }
    let depth = 0;
    do {
      const e = run.nextEvent();
      if (run.stormed) return;
      if (e) {
        depth = e.depth;
        this.#serve(e);
      }
      this.#eventless(depth);
      if (run.stormed) return;
    } while (run.head < run.queue.length);
    run.nextEvent();
  }

  #serve(e: QueuedEvent): void {
    const run = this.#run;
    if (e.rec.event === 'pulse') {
      const signal = run.program.signalIndex.get(e.rec.signal as string);
      // It may be gone with what was spawned.
      if (signal !== undefined) {
        run.state.pulseUp[signal] = 1;
        run.state.pulseUntil[signal] = run.t + (run.program.remember[signal] as number);
        run.schedule.markThose(run.program.asking.bySignal[signal]);
      }
    }
    const stop = this.#serveReactions(e);
    for (const x of run.phases.hear) x.hear(e);
    this.#forget();
    for (const i of this.#lanesOn(e, stop)) this.#ask(i, e, stop);
    for (let k = 0; k < this.#lanes.length; k++) if (this.#mayStill(k)) this.#take(k, e.rec.id, e.depth);
  }

  #eventless(start: number): void {
    const run = this.#run;
    const { schedule } = run;
    for (let depth = start + 1; ; depth++) {
      const { always } = run.program.asking;
      for (let k = 0; k < always.length; k++) schedule.mark(always[k] as number);
      if (this.#asked.length < run.program.lanes.length)
        this.#asked = new Int32Array(run.program.lanes.length);
      const n = schedule.takeMarks(this.#asked);
      if (n === 0) return;
      this.#forget();
      for (let k = 0; k < n; k++) this.#ask(this.#asked[k] as number, null, -1);
      if (this.#lanes.length === 0) return;
      for (let k = 0; k < this.#lanes.length; k++) {
        if (!this.#mayStill(k)) continue;
        const [i, route] = [this.#lanes[k] as number, this.#routes[k] as TransitionProgram];
        const rec = this.#choosing.eventlessCause(i, route);
        if (depth > MAX_DEPTH) {
          run.stormAt(rec);
          return;
        }
        this.#take(k, rec, depth);
      }
      if (run.stormed || run.exhausted) return;
    }
  }

  /** The kth that was chosen goes. */
  #take(k: number, rec: number | null, depth: number): void {
    const lane = this.#lanes[k] as number;
    if (this.#run.mayGoAhead(lane))
      this.#laneMoves.take(lane, this.#routes[k] as TransitionProgram, { rec, depth });
  }

  #forget(): void {
    if (this.#lanes.length === 0) return;
    this.#lanes.length = 0;
    this.#routes.length = 0;
    this.#entries.length = 0;
  }

  #ask(i: number, e: QueuedEvent | null, stop: number): void {
    const route = this.#choosing.choose(i, e, stop);
    if (!route) return;
    this.#lanes.push(i);
    this.#routes.push(route);
    this.#entries.push(this.#run.state.entry[i] as number);
  }

  /** Whether the kth choice stands: no `go` has moved its lane since. */
  #mayStill(k: number): boolean {
    return this.#run.state.entry[this.#lanes[k] as number] === this.#entries[k];
  }

  /** The lanes that may listen to this event, in document order. */
  #lanesOn(e: QueuedEvent, stop: number): readonly number[] {
    const { program } = this.#run;
    const { event } = e.rec;
    const hearing = event && program.hearing.get(event);
    if (!hearing) return [];
    if (!hearing.atPoint) return listenersTo(program.lanesOn, hearing, e.rec);
    const byObject = program.lanesOn.get(event);
    if (!byObject) return [];
    const out = new Set<number>();
    for (let o = e.object; o >= 0; o = program.geometry.parent[o] as number) {
      for (const i of byObject.get(program.objects[o]?.id ?? '') ?? []) out.add(i);
      if (o === stop || hearing.atPoint === 'there') break;
    }
    for (const zone of e.rec.colliders ?? []) for (const i of byObject.get(zone) ?? []) out.add(i);
    return [...out].sort((a, b) => a - b);
  }

  /** Asks all guards, then acts. Returns the object above which the event does not go, or −1. */
  #serveReactions(e: QueuedEvent): number {
    const passing: number[] = [];
    const { program } = this.#run;
    let stop = -1;
    const { event } = e.rec;
    const hearing = event && program.hearing.get(event);
    if (!hearing) return stop;
    if (hearing.atPoint) {
      const byObject = program.reactionsOn.get(event);
      // Innermost object first, then its parents.
      for (let o = byObject ? e.object : -1; o >= 0 && stop < 0; o = program.geometry.parent[o] as number) {
        for (const i of byObject?.get(program.objects[o]?.id ?? '') ?? []) {
          if (!this.#passes(i, e)) continue;
          passing.push(i);
          if ((program.reactions[i] as ReactionProgram).reaction.stop) stop = o;
        }
        if (hearing.atPoint === 'there') break;
      }
      // What is dropped is heard by the zones that it is dropped into, too.
      for (const zone of e.rec.colliders ?? [])
        for (const i of byObject?.get(zone) ?? []) if (this.#passes(i, e)) passing.push(i);
    } else
      for (const i of listenersTo(program.reactionsOn, hearing, e.rec))
        if (this.#passes(i, e)) passing.push(i);
    if (passing.length === 0) return stop;
    const who = passing.map((i) => this.#whose(i));
    // One before it may have removed what it is of, and another may stand there now.
    for (let k = 0; k < passing.length; k++) {
      const i = passing[k] as number;
      if (this.#whose(i) === who[k]) this.#runner.react(i, { rec: e.rec.id, depth: e.depth, other: e.other });
    }
    return stop;
  }

  /** The number of the spawned thing that a reaction is of, −2 when it is gone; −1 for the piece itself. */
  #whose(reaction: number): number {
    const { state, program } = this.#run;
    const place = program.spawns.ofReaction[reaction] ?? -1;
    if (place < 0) return -1;
    return isThere(state, place) ? numberOf(state, place) : -2;
  }

  #passes(i: number, e: QueuedEvent): boolean {
    const { state, program, t } = this.#run;
    const { reaction, cooldown, when } = program.reactions[i] as ReactionProgram;
    const place = program.spawns.ofReaction[i] ?? -1;
    if (place >= 0 && !isThere(state, place)) return false;
    if (state.spent[i] === 1) {
      const { limit } = reaction;
      if (typeof limit === 'object' && this.#means(i, limit.onceUntil, e)) state.spent[i] = 0;
      return false;
    }
    if (!this.#means(i, reaction.on, e)) return false;
    if (cooldown > 0 && t <= (state.cooldownUntil[i] as number) + SAME_INSTANT) return false;
    return this.#choosing.holds(when, -1);
  }

  #means(i: number, on: On, e: QueuedEvent): boolean {
    if (on.event !== e.rec.event) return false;
    const { program } = this.#run;
    const { id, object } = program.reactions[i] as ReactionProgram;
    const listener = this.#listener;
    listener.object = object;
    listener.reaction = id;
    listener.place = placeOf(program, 'Reaction', i);
    return program.hearing.get(on.event)?.means(program, on, e, listener) === true;
  }
  /** Used again from event to event. */
  readonly #listener = { object: -1, reaction: '', stop: -1, place: undefined as string | undefined };
}
