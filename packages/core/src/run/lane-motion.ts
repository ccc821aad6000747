/** How lanes move: leaving and entering states, and what is kept of the old side. */
import { fold, MAX_SPEED, newPlay, rebase, standAt, startPosition } from '../anim/index.ts';
import { clamp } from '../base/index.ts';
import { drawWeighted } from '../logic/index.ts';
import type { Crossfade } from '../model/index.ts';
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
import type { Run } from './run.ts';
import { type LaneState, laneAt } from './state.ts';
import { type Cause, NO_CAUSE } from './trace.ts';

export class LaneMotion {
  private readonly run: Run;

  constructor(run: Run) {
    this.run = run;
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

  /** The action `go`: always goes, but for one that has no end: then it is a storm. */
  go(i: number, target: number, crossfade: Crossfade | undefined, cause: Cause): void {
    if (!this.run.mayGoOn(cause)) return;
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
        const { duration } = c.data;
        const raw = standAt(l.play, run.t, duration, c.clip.loop, c.cueTimes);
        l.here = fold(raw, duration, c.clip.loop, l.play.way);
      }
      if (old.exitActions >= 0) {
        const { entry } = l;
        run.actions.actAll(old.exitActions, cause, true);
        // A `go` among them has led elsewhere, which is where this lane is now.
        if (l.entry !== entry) return;
      }
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
    l.entryDepth = cause.depth;
    l.momentT = Number.NEGATIVE_INFINITY;
    l.turnT = Number.NEGATIVE_INFINITY;
    l.finished = false;
    const where = { lane: lane.lane.id, state: next.state.id };
    if (next.kind === PLAY) {
      const clip = (run.program.clips[next.clip] as ClipProgram).clip.id;
      run.queueEvent(run.raise({ kind: 'event', event: 'clip.start', clip, ...where }, cause), cause, -1);
    }
    run.queueEvent(run.raise({ kind: 'event', event: 'state.enter', ...where }, cause), cause, -1);
    const { entry } = l;
    if (next.entryActions >= 0) run.actions.actAll(next.entryActions, cause, true);
    if (next.state.final && l.entry === entry) {
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
      if (next.kind !== HOLD && old.kind === PLAY && !fadeRuns(l, t)) {
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
    const speed =
      typeof play.speed === 'number' ? play.speed : Number(this.run.choosing.signal(play.speed.signal));
    return clamp(speed, -MAX_SPEED, MAX_SPEED);
  }

  private beginPlay(l: LaneState, next: StateProgram): void {
    const play = next.state.play;
    if (typeof play !== 'object') return;
    const c = this.run.program.clips[next.clip] as ClipProgram;
    const speed = this.speedOf(next);
    const here = l.hereClip === next.clip ? l.here : null;
    l.play = newPlay(startPosition(play.from, speed, c.data.duration, here), this.run.t, speed);
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
        rebase(head, t, this.speedOf(s), c.data.duration, c.clip.loop, c.cueTimes);
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
