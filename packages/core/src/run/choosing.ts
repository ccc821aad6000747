/** Which transition a lane takes, and when waiting alone could let it go. */
import { newPlay, percentInstant } from '../anim/index.ts';
import { SAME_INSTANT, snapInstant } from '../base/index.ts';
import { drawWeighted } from '../logic/index.ts';
import type { Context } from './context.ts';
import type { QueuedEvent } from './events.ts';
import type { Test } from './facts.ts';
import { metIn } from './met.ts';
import { placeOf } from './presence.ts';
import type { StateProgram, TransitionProgram } from './program.ts';
import { RunFacts } from './run-facts.ts';
import { MOMENT, PHASE } from './state.ts';

export class Choosing {
  readonly #run: Context;
  readonly #facts: RunFacts;
  readonly #play = newPlay(0, 0, 0);

  constructor(run: Context) {
    this.#run = run;
    this.#facts = new RunFacts(run);
  }

  /** Whether what lane `lane` asks for holds; −1 for a reaction. */
  holds(test: Test, lane: number): boolean {
    this.#facts.asking = lane;
    return test(this.#facts);
  }

  /** The transition that lane i takes on this event (null: an eventless one), or null. */
  choose(i: number, e: QueuedEvent | null, stop: number): TransitionProgram | null {
    if (e === null && this.#run.program.plain.eventless[this.#rowOf(i)] !== 1) return null;
    const s = this.#run.activeState(i);
    if (!s || s.routes.length === 0 || this.#run.state.finished[i] === 1 || !this.#mayLeave(i, e !== null))
      return null;
    for (const route of s.routes) {
      if (!this.#ready(i, s, route, e, stop)) continue;
      if (route.transition.odds === null) return route;
      return this.#draw(i, s, route, e, stop);
    }
    return null;
  }

  /** The row of lane i's active state in the tables of states; the row of another, or none, while it has none. */
  #rowOf(i: number): number {
    return (this.#run.program.plain.firstState[i] as number) + (this.#run.state.active[i] as number);
  }

  /** Instant up to which the moments of lane i's present entry were served; −∞ when none were since it. */
  #servedUpTo(i: number): number {
    const { one, entryPhase } = this.#run.state;
    return (one[PHASE] as number) > (entryPhase[i] as number)
      ? (one[MOMENT] as number)
      : Number.NEGATIVE_INFINITY;
  }

  #mayLeave(i: number, byEvent: boolean): boolean {
    const s = this.#run.state;
    if (s.mustFinish[i] === 0 || (s.fadeLength[i] as number) <= 0) return true;
    const end = (s.fadeStart[i] as number) + (s.fadeLength[i] as number);
    return (byEvent ? this.#run.t : this.#servedUpTo(i)) >= end - SAME_INSTANT;
  }

  #ready(i: number, s: StateProgram, route: TransitionProgram, e: QueuedEvent | null, stop: number): boolean {
    const t = route.transition;
    if (!t.enabled || !t.set || t.odds === 0) return false;
    if ((e === null) !== route.eventless) return false;
    this.#facts.asking = i;
    if (route.pulse >= 0 && !this.#facts.signal(route.pulse)) return false;
    if (route.source === 0 && route.target === this.#run.state.active[i] && !t.reenter) {
      if (t.odds === null || t.on === null || !t.mayRepeat) return false;
    }
    if (e && !this.#means(i, route, e, stop)) return false;
    return this.#notBeforeReached(i, s, route, e !== null) && this.holds(route.when, i);
  }

  /** Whether lane i's transition listens to this event. */
  #means(i: number, route: TransitionProgram, e: QueuedEvent, stop: number): boolean {
    const { on } = route.transition;
    const { program, state } = this.#run;
    if (on === null || on.event !== e.rec.event) return false;
    const { lane, object } = this.#run.lane(i);
    const listener = this.#listener;
    listener.object = object;
    listener.lane = lane.id;
    listener.entry = state.entry[i];
    listener.place = placeOf(program, 'Lane', i);
    listener.stop = stop;
    return program.hearing.get(on.event)?.means(program, on, e, listener) === true;
  }
  /** Used again from event to event. */
  readonly #listener = {
    ...{ object: -1, lane: '', stop: -1 },
    entry: undefined as number | undefined,
    place: undefined as string | undefined,
  };

  #draw(
    i: number,
    s: StateProgram,
    first: TransitionProgram,
    e: QueuedEvent | null,
    stop: number,
  ): TransitionProgram {
    const { state } = this.#run;
    const lane = this.#run.lane(i);
    let ready = s.routes.filter(
      (w) =>
        w.source === first.source &&
        w.onKey === first.onKey &&
        w.transition.odds !== null &&
        this.#ready(i, s, w, e, stop),
    );
    const at = lane.firstSource + first.source;
    const others = ready.filter((w) => w.transition.mayRepeat || w.number !== state.lastDrawn[at]);
    if (others.length > 0) ready = others;
    const drawn = drawWeighted(
      ready.map((w) => w.transition.odds as number),
      state.random,
      lane.stream * 4,
    );
    const route = ready[Math.max(0, drawn)] as TransitionProgram;
    state.lastDrawn[at] = route.number;
    return route;
  }

  /** An event finds a moment reached at once; an eventless transition only after the ends and cues of that instant. */
  #notBeforeReached(i: number, s: StateProgram, route: TransitionProgram, byEvent: boolean): boolean {
    const nb = route.transition.notBefore;
    if (nb === null) return true;
    const { state, t, program } = this.#run;
    if (nb === 'loopEnd') {
      const c = metIn(program, state, i, s);
      if (!c) return true;
      if (c.clip.loop === 'once' || c.data.duration === 0) return state.hasEnded(i * 2);
      return (
        Math.abs((state.turnT[i] as number) - t) < SAME_INSTANT &&
        (byEvent || this.#servedUpTo(i) >= t - SAME_INSTANT)
      );
    }
    return this.#momentInstant(i, s, route) <= (byEvent ? t : this.#servedUpTo(i)) + SAME_INSTANT;
  }

  /** The instant at which a `notBefore` of seconds or per cent is reached; infinite when it never is. */
  #momentInstant(i: number, s: StateProgram, route: TransitionProgram): number {
    const nb = route.transition.notBefore;
    if (nb === null || nb === 'loopEnd') return Number.NEGATIVE_INFINITY;
    const entered = this.#run.state.entered[i] as number;
    if ('seconds' in nb) return snapInstant(entered + nb.seconds);
    const c = metIn(this.#run.program, this.#run.state, i, s);
    if (!c) return entered;
    if (c.data.duration === 0) return entered;
    this.#run.state.readPlay(i * 2, this.#play);
    return Math.max(entered, percentInstant(this.#play, nb.percent, c.data.duration, c.clip.loop));
  }

  /** The next moment at which waiting alone could let lane i go; infinite when there is none. */
  nextMoment(i: number): number {
    const { state, program } = this.#run;
    let best = Number.POSITIVE_INFINITY;
    if (program.plain.waits[this.#rowOf(i)] !== 1 && state.mustFinish[i] === 0) return best;
    const s = this.#run.activeState(i);
    if (!s || state.finished[i] === 1) return best;
    const served = this.#servedUpTo(i) + SAME_INSTANT;
    for (const route of s.routes) {
      if (route.transition.notBefore === null) continue;
      const t = this.#momentInstant(i, s, route);
      if (t > served && t < best) best = t;
    }
    if (state.mustFinish[i] === 1 && (state.fadeLength[i] as number) > 0) {
      const t = snapInstant((state.fadeStart[i] as number) + (state.fadeLength[i] as number));
      if (t > served && t < best) best = t;
    }
    return best;
  }

  /** The record that made the last missing part of an eventless transition true. */
  eventlessCause(i: number, route: TransitionProgram): number | null {
    const { state } = this.#run;
    let rec = state.entryRec[i] as number;
    if (route.pulse >= 0) rec = Math.max(rec, state.signalRec[route.pulse] as number);
    for (const signal of route.reads.signals) rec = Math.max(rec, state.signalRec[signal] as number);
    for (const { lastRecord } of route.reads.topics) rec = Math.max(rec, lastRecord(state));
    for (const lane of route.reads.lanes) rec = Math.max(rec, state.entryRec[lane] as number);
    return rec < 0 ? null : rec;
  }
}
