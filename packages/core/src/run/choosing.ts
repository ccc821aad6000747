/** Which transition a lane takes, and when waiting alone could let it go. */
import { percentDate } from '../anim/index.ts';
import { SAME_DATE, snapDate } from '../base/index.ts';
import { allHold, drawWeighted } from '../logic/index.ts';
import type { Condition, SignalValue } from '../model/index.ts';
import {
  type ClipProgram,
  type LaneProgram,
  PLAY,
  type StateProgram,
  type TransitionProgram,
} from './compile.ts';
import { placeOf } from './lane-values.ts';
import { onMatches } from './on-matches.ts';
import type { QueuedEvent, Run } from './run.ts';
import { type LaneState, laneAt } from './state.ts';

export class Choosing {
  private readonly run: Run;
  /** The lane whose conditions are being asked: a pulse that it has used is down for it. */
  private asking = -1;

  constructor(run: Run) {
    this.run = run;
  }

  allHold(list: readonly Condition[], lane: number): boolean {
    this.asking = lane;
    return allHold(list, this);
  }

  // Facts, as conditions ask for them.
  signal(id: string): SignalValue {
    const { program, state } = this.run;
    const i = program.signalIndex.get(id);
    if (i === undefined) return false;
    if (program.signals[i]?.type !== 'pulse') return state.signals[i] as SignalValue;
    const used = this.asking < 0 ? -1 : (state.lanes[this.asking]?.pulseUsed[i] ?? -1);
    return state.pulseUp[i] === 1 && used !== state.pulseSerial[i];
  }

  stateActive(lane: string, state: string): boolean {
    const i = this.run.program.laneIndex.get(lane);
    if (i === undefined) return false;
    const [program, l] = laneAt(this.run, i);
    return program.states[l.active]?.state.id === state;
  }

  clipPast(clip: string, object: string | undefined, seconds: number): boolean {
    const { program, state, t } = this.run;
    return program.lanes.some((lane, i) => {
      const l = state.lanes[i] as LaneState;
      const s = lane.states[l.active];
      if (s?.kind !== PLAY) return false;
      const c = program.clips[s.clip] as ClipProgram;
      if (c.clip.id !== clip || (object !== undefined && program.objects[lane.object]?.id !== object))
        return false;
      return placeOf(l.play, t, c) >= seconds - SAME_DATE;
    });
  }

  /** The transition that lane i takes on this event (null: an eventless one), or null. */
  choose(i: number, e: QueuedEvent | null, stop: number): TransitionProgram | null {
    const [lane, l] = laneAt(this.run, i);
    const s = lane.states[l.active];
    if (!s || l.finished || s.ways.length === 0 || !this.mayLeave(l, e !== null)) return null;
    for (const way of s.ways) {
      if (!this.ready(i, lane, l, s, way, e, stop)) continue;
      if (way.transition.odds === null) return way;
      return this.draw(i, lane, l, s, way, e, stop);
    }
    return null;
  }

  private mayLeave(l: LaneState, byEvent: boolean): boolean {
    if (!l.mustFinish || l.fadeLength <= 0) return true;
    const end = l.fadeStart + l.fadeLength;
    return (byEvent ? this.run.t : l.momentT) >= end - SAME_DATE;
  }

  private ready(
    i: number,
    lane: LaneProgram,
    l: LaneState,
    s: StateProgram,
    way: TransitionProgram,
    e: QueuedEvent | null,
    stop: number,
  ): boolean {
    const t = way.transition;
    if (!t.enabled || !t.set || t.odds === 0) return false;
    if (e === null ? t.on !== null : t.on === null) return false;
    if (way.source === 0 && way.target === l.active && !t.reenter) {
      if (t.odds === null || t.on === null || !t.mayRepeat) return false;
    }
    if (e && t.on && !onMatches(t.on, e, { run: this.run, object: lane.object, reaction: -1, lane: i, stop }))
      return false;
    return this.notBeforeReached(l, s, way, e !== null) && this.allHold(t.when, i);
  }

  private draw(
    i: number,
    lane: LaneProgram,
    l: LaneState,
    s: StateProgram,
    first: TransitionProgram,
    e: QueuedEvent | null,
    stop: number,
  ): TransitionProgram {
    let ready = s.ways.filter(
      (w) =>
        w.source === first.source &&
        w.onKey === first.onKey &&
        w.transition.odds !== null &&
        this.ready(i, lane, l, s, w, e, stop),
    );
    const number = (w: TransitionProgram) => lane.lane.transitions.indexOf(w.transition);
    const others = ready.filter((w) => w.transition.mayRepeat || number(w) !== l.lastDrawn[first.source]);
    if (others.length > 0) ready = others;
    const at = drawWeighted(
      ready.map((w) => w.transition.odds as number),
      this.run.state.random,
      lane.stream * 4,
    );
    const way = ready[Math.max(0, at)] as TransitionProgram;
    l.lastDrawn[first.source] = number(way);
    return way;
  }

  /** An event finds a moment reached at once; an eventless transition only after the ends and cues of that date. */
  private notBeforeReached(l: LaneState, s: StateProgram, way: TransitionProgram, byEvent: boolean): boolean {
    const nb = way.transition.notBefore;
    if (nb === null) return true;
    const asked = byEvent ? this.run.t : l.momentT;
    if (nb === 'loopEnd') {
      if (s.kind !== PLAY) return true;
      const c = this.run.program.clips[s.clip] as ClipProgram;
      if (c.clip.loop === 'once' || c.data.duration === 0) return l.play.ended;
      return Math.abs(l.turnT - this.run.t) < SAME_DATE && (byEvent || l.momentT >= this.run.t - SAME_DATE);
    }
    return this.momentDate(l, s, way) <= asked + SAME_DATE;
  }

  /** The date at which a `notBefore` of seconds or per cent is reached; infinite when it never is. */
  private momentDate(l: LaneState, s: StateProgram, way: TransitionProgram): number {
    const nb = way.transition.notBefore;
    if (nb === null || nb === 'loopEnd') return Number.NEGATIVE_INFINITY;
    if ('seconds' in nb) return snapDate(l.entered + nb.seconds);
    if (s.kind !== PLAY) return l.entered;
    const c = this.run.program.clips[s.clip] as ClipProgram;
    if (c.data.duration === 0) return l.entered;
    return Math.max(l.entered, percentDate(l.play, nb.percent, c.data.duration, c.clip.loop));
  }

  /** The next moment at which waiting alone could let lane i go. */
  nextMoment(i: number): number {
    const [lane, l] = laneAt(this.run, i);
    const s = lane.states[l.active];
    let best = Number.POSITIVE_INFINITY;
    if (!s || l.finished) return best;
    const consider = (t: number) => {
      if (t > l.momentT + SAME_DATE && t < best) best = t;
    };
    for (const way of s.ways) if (way.transition.notBefore !== null) consider(this.momentDate(l, s, way));
    if (l.mustFinish && l.fadeLength > 0) consider(snapDate(l.fadeStart + l.fadeLength));
    return best;
  }

  /** The record that made the last missing part of an eventless transition true. */
  eventlessCause(i: number, way: TransitionProgram): number | null {
    const { program, state } = this.run;
    const [, l] = laneAt(this.run, i);
    let rec = l.entryRec;
    const ofSignal = (id: string) => {
      const at = program.signalIndex.get(id);
      if (at !== undefined) rec = Math.max(rec, state.signalRec[at] as number);
    };
    for (const c of way.transition.when) {
      if ('signal' in c) {
        ofSignal(c.signal);
        for (const v of Object.values(c)) if (typeof v === 'object') ofSignal(v.signal);
      } else if (c.fact === 'state') {
        const other = program.laneIndex.get(c.lane);
        if (other !== undefined) rec = Math.max(rec, (state.lanes[other] as LaneState).entryRec);
      }
    }
    return rec < 0 ? null : rec;
  }
}
