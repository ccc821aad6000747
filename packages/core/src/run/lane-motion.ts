/** How lanes move: choosing a transition, leaving and entering states, ends and cues of the clip that plays. */
import { crossingPosition, type Playhead, rebase, startPosition } from '../anim/index.ts';
import { SAME_DATE, snapDate } from '../base/index.ts';
import { allHold, drawWeighted } from '../logic/index.ts';
import type { Condition, Crossfade, SignalValue } from '../model/index.ts';
import {
  type ClipProgram,
  HOLD,
  type LaneProgram,
  PLAY,
  REST,
  type StateProgram,
  type TransitionProgram,
} from './compile.ts';
import { fadeRuns, laneGives, placeOf } from './lane-values.ts';
import { onMatches } from './on-matches.ts';
import type { QueuedEvent, Run } from './run.ts';
import { type LaneState, laneAt } from './state.ts';
import { type Cause, NO_CAUSE } from './trace.ts';

export class LaneMotion {
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

  enterInitial(i: number, cause: Cause = NO_CAUSE): void {
    const { program, state } = this.run;
    const [lane, l] = laneAt(this.run, i);
    const initial = lane.lane.initial;
    let target = 0;
    if (typeof initial === 'string') target = lane.stateIndex.get(initial) ?? 0;
    else {
      const drawn = drawWeighted(
        initial.draw.map((d) => d.odds),
        state.random,
        lane.stream * 4,
      );
      const picked = initial.draw[Math.max(0, drawn)];
      target = lane.stateIndex.get(picked?.state ?? '') ?? 0;
    }
    const rec = this.run.raise(
      { kind: 'start', lane: lane.lane.id, state: program.lanes[i]?.states[target]?.state.id as string },
      cause,
    );
    l.active = -1;
    this.enter(i, target, { rec: rec.id, depth: cause.depth }, null);
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
    const d = c.data.duration;
    if (d === 0) return l.entered;
    const p = l.play;
    const goal = p.speed < 0 ? d - (d * nb.percent) / 100 : (d * nb.percent) / 100;
    const toGo = p.speed < 0 ? p.p0 - goal : goal - p.p0;
    if (toGo <= 1e-12) return l.entered;
    if (p.speed === 0 || (c.clip.loop === 'once' && nb.percent > 100)) return Number.POSITIVE_INFINITY;
    return snapDate(p.t0 + toGo / Math.abs(p.speed));
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

  /** Lane i takes a transition: its record, then leaving and entering. */
  take(i: number, way: TransitionProgram, cause: Cause): void {
    const [lane, l] = laneAt(this.run, i);
    const rec = this.run.raise(
      {
        kind: 'transition',
        lane: lane.lane.id,
        from: lane.states[l.active]?.state.id as string,
        to: way.transition.to,
        transition: way.transition.id,
      },
      cause,
    );
    this.consumePulses(i, way);
    this.leave(i, way.target, { rec: rec.id, depth: cause.depth }, way.transition.crossfade);
  }

  /** The action `go`: always goes. */
  go(i: number, target: number, crossfade: Crossfade | undefined, cause: Cause): void {
    const [lane, l] = laneAt(this.run, i);
    const rec = this.run.raise(
      {
        kind: 'transition',
        lane: lane.lane.id,
        from: lane.states[l.active]?.state.id as string,
        to: lane.states[target]?.state.id as string,
      },
      cause,
    );
    this.leave(i, target, { rec: rec.id, depth: cause.depth }, crossfade ?? null);
  }

  private consumePulses(i: number, way: TransitionProgram): void {
    const { program, state } = this.run;
    for (const c of way.transition.when) {
      if (!('signal' in c)) continue;
      const s = program.signalIndex.get(c.signal);
      if (s !== undefined && program.signals[s]?.type === 'pulse')
        (state.lanes[i] as LaneState).pulseUsed[s] = state.pulseSerial[s] as number;
    }
  }

  private leave(i: number, target: number, cause: Cause, crossfade: Crossfade | null): void {
    const run = this.run;
    const [lane, l] = laneAt(run, i);
    const old = lane.states[l.active];
    if (old) {
      const left = { lane: lane.lane.id, state: old.state.id };
      run.queueEvent(run.raise({ kind: 'event', event: 'state.leave', ...left }, cause), cause, -1);
      if (old.kind === PLAY) {
        const c = run.program.clips[old.clip] as ClipProgram;
        if (!l.play.ended) {
          const rec = run.raise({ kind: 'event', event: 'clip.stopped', clip: c.clip.id, ...left }, cause);
          run.queueEvent(rec, cause, -1);
        }
        l.hereClip = old.clip;
        l.here = placeOf(l.play, run.t, c);
      }
      if (old.exitActions >= 0) run.actions.actAll(old.exitActions, cause);
    }
    this.enter(i, target, cause, crossfade);
  }

  private enter(i: number, target: number, cause: Cause, crossfade: Crossfade | null): void {
    const run = this.run;
    const t = run.t;
    const [lane, l] = laneAt(run, i);
    const next = lane.states[target] as StateProgram;
    this.keepOldSide(lane, l, next, crossfade);
    if (next.kind === REST) l.hereClip = -1;
    if (next.kind === PLAY) this.beginPlay(l, next);
    l.active = target;
    l.entered = t;
    l.entry++;
    l.entryRec = cause.rec ?? -1;
    l.momentT = Number.NEGATIVE_INFINITY;
    l.turnT = Number.NEGATIVE_INFINITY;
    l.finished = false;
    const where = { lane: lane.lane.id, state: next.state.id };
    if (next.kind === PLAY) {
      const clip = (run.program.clips[next.clip] as ClipProgram).clip.id;
      run.queueEvent(run.raise({ kind: 'event', event: 'clip.start', clip, ...where }, cause), cause, -1);
    }
    run.queueEvent(run.raise({ kind: 'event', event: 'state.enter', ...where }, cause), cause, -1);
    if (next.entryActions >= 0) run.actions.actAll(next.entryActions, cause);
    if (next.state.final) {
      l.finished = true;
      const rec = run.raise({ kind: 'done', event: 'lane.done', lane: lane.lane.id }, cause);
      run.queueEvent(rec, cause, -1);
    }
  }

  /** Keeps what fades out and what a holding state gives; drops put values that the new state's clip keys. */
  private keepOldSide(
    lane: LaneProgram,
    l: LaneState,
    next: StateProgram,
    crossfade: Crossfade | null,
  ): void {
    const t = this.run.t;
    const n = lane.slots.length;
    const old = lane.states[l.active];
    const length = old ? this.fadeLengthOf(l, old, crossfade) : 0;
    const mixedV = new Float64Array(n);
    const mixedW = new Float64Array(n);
    if (old) laneGives(this.run.program, lane, l, t, mixedV, mixedW);
    if (length > 0 && old) {
      if (old.kind === PLAY && !fadeRuns(l, t)) {
        const keeps = lane.lane.unkeyed === 'keep';
        l.fadeState = l.active;
        l.fadePlay = { ...l.play };
        for (let k = 0; k < n; k++) {
          l.fromV[k] = keeps ? (l.heldV[k] as number) : 0;
          l.fromW[k] = keeps ? (l.heldW[k] as number) : 0;
        }
      } else {
        l.fadeState = -1;
        l.fromV.set(mixedV);
        l.fromW.set(mixedW);
      }
      l.fadeStart = t;
      l.fadeLength = length;
      l.fadeEasing = crossfade?.easing ?? 'linear';
      l.mustFinish = crossfade?.mustFinish ?? false;
    } else {
      l.fadeLength = 0;
      l.fadeState = -1;
      l.mustFinish = false;
    }
    l.overSet.fill(0);
    if (next.kind === PLAY) this.dropPuts(lane, l, next);
    if (next.kind === HOLD || lane.lane.unkeyed === 'keep') {
      l.heldV.set(mixedV);
      l.heldW.set(mixedW);
    }
  }

  private fadeLengthOf(l: LaneState, old: StateProgram, crossfade: Crossfade | null): number {
    if (!crossfade) return 0;
    if ('seconds' in crossfade) return crossfade.seconds;
    if (old.kind !== PLAY || l.play.speed === 0) return 0;
    const d = (this.run.program.clips[old.clip] as ClipProgram).data.duration;
    return ((d / Math.abs(l.play.speed)) * crossfade.percent) / 100;
  }

  private dropPuts(lane: LaneProgram, l: LaneState, next: StateProgram): void {
    const s = this.run.state;
    for (const slot of next.trackSlots) {
      if (slot < 0) continue;
      const first = lane.slots[slot] as number;
      const width = lane.slotMode[slot] === 3 ? 3 : 1;
      for (let k = 0; k < width; k++) {
        if (s.putSet[first + k] !== 1) continue;
        s.putSet[first + k] = 0;
        l.overSet[slot + k] = 1;
        l.overV[slot + k] = s.putV[first + k] as number;
      }
    }
  }

  private speedOf(s: StateProgram): number {
    const play = s.state.play;
    if (typeof play !== 'object') return 0;
    return typeof play.speed === 'number' ? play.speed : Number(this.signal(play.speed.signal));
  }

  private beginPlay(l: LaneState, next: StateProgram): void {
    const play = next.state.play;
    if (typeof play !== 'object') return;
    const c = this.run.program.clips[next.clip] as ClipProgram;
    const speed = this.speedOf(next);
    const here = l.hereClip === next.clip ? l.here : null;
    const p0 = startPosition(play.from, speed, c.data.duration, here);
    l.play = { p0, t0: this.run.t, speed, mark: p0, incl: false, ended: false };
  }

  private dateOf(p: Playhead, raw: number): number {
    return raw === p.p0 ? p.t0 : snapDate(p.t0 + (raw - p.p0) / p.speed);
  }

  /** The date of the next cue or end in lane i's clip; infinite when there is none. */
  nextCrossing(i: number): number {
    const [lane, l] = laneAt(this.run, i);
    const s = lane.states[l.active];
    if (s?.kind !== PLAY) return Number.POSITIVE_INFINITY;
    const c = this.run.program.clips[s.clip] as ClipProgram;
    // A pose is done at once, whatever its speed.
    if (c.data.duration === 0) return l.play.ended ? Number.POSITIVE_INFINITY : l.entered;
    const raw = crossingPosition(l.play, c.data.duration, c.clip.loop, c.cueTimes);
    return Number.isNaN(raw) ? Number.POSITIVE_INFINITY : this.dateOf(l.play, raw);
  }

  /** Serves the cues and ends of lane i that lie at date t. */
  serveCrossings(i: number, t: number): void {
    const entry = laneAt(this.run, i)[1].entry;
    while (this.nextCrossing(i) <= t + SAME_DATE && laneAt(this.run, i)[1].entry === entry)
      this.serveCrossing(i);
  }

  private serveCrossing(i: number): void {
    const run = this.run;
    const [lane, l] = laneAt(run, i);
    const s = lane.states[l.active] as StateProgram;
    const c = run.program.clips[s.clip] as ClipProgram;
    const d = c.data.duration;
    const p = l.play;
    const cause: Cause = { rec: l.entryRec < 0 ? null : l.entryRec, depth: 0 };
    const forward = p.speed >= 0;
    const raw = d === 0 ? 0 : crossingPosition(p, d, c.clip.loop, c.cueTimes);
    const starts = raw === p.mark && !p.incl;
    p.mark = raw;
    p.incl = true;
    const where = { clip: c.clip.id, lane: lane.lane.id };
    const isOnce = c.clip.loop === 'once' || d === 0;
    if (isOnce) {
      this.cuesAt(i, c, raw, forward, false, cause);
      if (l.play !== p || !(d === 0 || (forward ? raw >= d : raw <= 0))) return;
      p.ended = true;
      run.queueEvent(run.raise({ kind: 'done', event: 'clip.done', ...where }, cause), cause, -1);
      const done = run.raise(
        { kind: 'done', event: 'state.done', lane: lane.lane.id, state: s.state.id },
        cause,
      );
      run.queueEvent(done, cause, -1, l.entry);
      return;
    }
    const turns = Math.abs(raw / d - Math.round(raw / d)) < 1e-9;
    const thereAndBack = c.clip.loop === 'there-and-back';
    const back = thereAndBack && Math.floor(raw / d + (forward ? 1e-9 : -1e-9)) % 2 !== 0;
    const place = thereAndBack
      ? Math.abs(raw - 2 * d * Math.round(raw / (2 * d)))
      : raw - d * Math.floor(raw / d);
    if (!turns) {
      this.cuesAt(i, c, place, forward !== back, false, cause);
      return;
    }
    const end = thereAndBack ? (Math.round(raw / d) % 2 === 0 ? 0 : d) : forward ? d : 0;
    const start = thereAndBack ? end : forward ? 0 : d;
    if (!starts) {
      this.cuesAt(i, c, end, forward, thereAndBack, cause);
      if (l.play !== p) return;
      l.turnT = run.t;
      run.queueEvent(run.raise({ kind: 'event', event: 'clip.loop', ...where }, cause), cause, -1);
      if (thereAndBack) return;
    }
    this.cuesAt(i, c, start, thereAndBack ? start === 0 : forward, false, cause);
  }

  private cuesAt(
    i: number,
    c: ClipProgram,
    place: number,
    forwards: boolean,
    any: boolean,
    cause: Cause,
  ): void {
    const run = this.run;
    const [lane, l] = laneAt(run, i);
    const play = l.play;
    c.clip.cues.forEach((q, n) => {
      if (Math.abs(q.t - place) > 1e-9 || l.play !== play) return;
      if (!any && q.when !== 'both' && (q.when === 'forwards') !== forwards) return;
      const rec = run.raise(
        { kind: 'cue', event: 'cue', cue: q.id, clip: c.clip.id, lane: lane.lane.id },
        cause,
      );
      run.queueEvent(rec, cause, -1);
      run.actions.actAll(c.cueActions[n] as number, { rec: rec.id, depth: cause.depth });
    });
  }

  /** A number signal changed: plays whose speed it is go on from where they are. */
  speedChanged(signal: string): void {
    const { program, state, t } = this.run;
    program.lanes.forEach((lane, i) => {
      const l = state.lanes[i] as LaneState;
      for (const [index, head] of [
        [l.active, l.play],
        [fadeRuns(l, t) ? l.fadeState : -1, l.fadePlay],
      ] as const) {
        const s = lane.states[index];
        const play = s?.state.play;
        if (!s || typeof play !== 'object' || typeof play.speed === 'number' || play.speed.signal !== signal)
          continue;
        const c = program.clips[s.clip] as ClipProgram;
        rebase(head, t, this.speedOf(s), c.data.duration, c.clip.loop);
      }
    });
  }

  /** Place of the clip in lane i (seconds) and age of its state; for playheads on the screen. */
  placeIn(i: number): { state: number; age: number; place: number | null } {
    const [lane, l] = laneAt(this.run, i);
    const s = lane.states[l.active];
    const t = this.run.time;
    const place = s?.kind === PLAY ? placeOf(l.play, t, this.run.program.clips[s.clip] as ClipProgram) : null;
    return { state: l.active, age: t - l.entered, place };
  }
}
