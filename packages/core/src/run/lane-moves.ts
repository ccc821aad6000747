/**
 * How lanes move: leaving and entering states, and what is kept of the old side. It is long since a move is one chain of steps
 * on the same rows: cut, keep, enter, begin.
 */
import {
  fold,
  MAX_SPEED,
  MIX_COLOR,
  newPlay,
  type Playhead,
  rebase,
  standAt,
  startPosition,
} from '../anim/index.ts';
import { clamp } from '../base/index.ts';
import { drawWeighted } from '../logic/index.ts';
import type { Context } from './context.ts';
import type { Fade } from './fade.ts';
import { belowLane, fadeRuns, gainOfPlay, heldAbove, laneGives } from './layers.ts';
import { metIn } from './met.ts';
import { letGo, putNow } from './movers.ts';
import { onScreen } from './on-screen.ts';
import {
  type BlendProgram,
  type ClipProgram,
  HOLD,
  PLAY,
  REST,
  type StateProgram,
  type TransitionProgram,
} from './program.ts';
import { PHASE } from './state.ts';
import { type Cause, NO_CAUSE } from './trace.ts';

export class LaneMoves {
  readonly #run: Context;
  readonly #play = newPlay(0, 0, 0);

  constructor(run: Context) {
    this.#run = run;
  }

  enterInitial(i: number, cause: Cause = NO_CAUSE): void {
    const run = this.#run;
    const lane = run.lane(i);
    const initial = lane.lane.initial;
    let target = 0;
    if (typeof initial === 'string') target = lane.stateIndex.get(initial) ?? 0;
    else {
      const odds = initial.draw.map((d) => d.odds);
      const drawn = drawWeighted(odds, run.state.random, lane.stream * 4);
      target = lane.stateIndex.get(initial.draw[Math.max(0, drawn)]?.state ?? '') ?? 0;
    }
    const state = lane.states[target]?.state.id as string;
    const rec = run.raise({ kind: 'start', lane: lane.lane.id, state }, cause);
    run.state.active[i] = -1;
    this.#enter(i, target, { rec: rec.id, depth: cause.depth }, null);
  }

  /** Lane i takes a transition: its record, then leaving and entering. */
  take(i: number, route: TransitionProgram, cause: Cause): void {
    const run = this.#run;
    const lane = run.lane(i);
    const rec = run.raise(
      {
        kind: 'transition',
        lane: lane.lane.id,
        from: run.activeState(i)?.state.id as string,
        to: route.transition.to,
        transition: route.transition.id,
      },
      cause,
    );
    for (const k of route.pulses) {
      const serial = run.state.pulseSerial[lane.pulses[k] as number] as number;
      run.state.pulseUsed[lane.firstPulse + k] = serial;
    }
    this.#leave(i, route.target, { rec: rec.id, depth: cause.depth }, route.fade);
  }

  /** The action `go`: always goes, but for one that has no end: then it is a storm. */
  go(i: number, target: number, fade: Fade, cause: Cause): void {
    const run = this.#run;
    if (!run.mayGoOn(cause)) return;
    const lane = run.lane(i);
    const rec = run.raise(
      {
        kind: 'transition',
        lane: lane.lane.id,
        from: run.activeState(i)?.state.id as string,
        to: lane.states[target]?.state.id as string,
      },
      cause,
    );
    this.#leave(i, target, { rec: rec.id, depth: cause.depth }, fade);
  }

  /** The action `play`. Where the clip runs there already it begins anew, or is left alone, or begins again at its end. */
  play(i: number, target: number, again: 'restart' | 'ignore' | 'queue', cause: Cause): number {
    const run = this.#run;
    if (!run.mayGoOn(cause)) return 0;
    const runs = run.activeState(i)?.kind === PLAY && !run.state.hasEnded(i * 2);
    if (!runs || again === 'restart') {
      this.#playDirect(i, target, cause);
      return run.state.begun[i - run.program.firstDirect] as number;
    }
    if (again === 'queue') run.state.askDirect(i - run.program.firstDirect, target);
    run.raise({ kind: 'action', action: 'play', ...run.lane(i).direct }, cause);
    return 0;
  }

  /** The action `stop`. Of a loop the next one that was asked for begins; else none that was. */
  stop(i: number, cause: Cause): void {
    const run = this.#run;
    run.discontinuities.touchLane(i);
    const { state, program } = run;
    const k = i - program.firstDirect;
    const old = run.activeState(i);
    const loops = old?.kind === PLAY && program.plain.loop[old.clip] !== 'once';
    if (!this.#cut(i, cause)) run.raise({ kind: 'action', action: 'stop', ...run.lane(i).direct }, cause);
    const next = loops ? state.takeAsked(k) : 0;
    if (next > 0) return this.#beginDirect(i, next, cause);
    state.asked[k] = 0;
    state.active[i] = 0;
    state.entry[i] = (state.entry[i] as number) + 1;
    state.endDirect(i);
    run.schedule.touch(i);
  }

  /** A direct play has come to its end: the next one that was asked for begins there. */
  playNext(i: number, cause: Cause): void {
    const next = this.#run.state.takeAsked(i - this.#run.program.firstDirect);
    if (next > 0) this.#playDirect(i, next, cause);
  }

  #playDirect(i: number, target: number, cause: Cause): void {
    this.#run.discontinuities.touchLane(i);
    this.#cut(i, cause);
    this.#beginDirect(i, target, cause);
  }

  /** What lane i plays directly is over; whether it was under way, which is logged. */
  #cut(i: number, cause: Cause): boolean {
    const run = this.#run;
    const { state, program, t } = run;
    const old = run.activeState(i);
    state.hereClip[i] = -1;
    if (old?.kind !== PLAY) return false;
    const c = program.clips[old.clip] as ClipProgram;
    const play = this.#play;
    state.readPlay(i * 2, play);
    const runs = !play.ended;
    if (runs) {
      const { duration } = c.data;
      state.hereClip[i] = old.clip;
      state.here[i] = fold(
        standAt(play, t, duration, c.clip.loop, c.cueTimes),
        duration,
        c.clip.loop,
        play.direction,
      );
      const stopped = { kind: 'event', event: 'clip.stopped', ...run.lane(i).direct } as const;
      run.queueEvent(run.raise(stopped, cause), cause);
    }
    this.#keepGained(i, old);
    return runs;
  }

  #beginDirect(i: number, target: number, cause: Cause): void {
    const run = this.#run;
    const { state } = run;
    const lane = run.lane(i);
    const next = lane.states[target] as StateProgram;
    const starts = this.#standing(i, next);
    this.#dropPuts(i, next);
    this.#beginPlay(i, next, starts);
    state.active[i] = target;
    state.entered[i] = run.t;
    state.entry[i] = (state.entry[i] as number) + 1;
    state.beginDirect(i, i - run.program.firstDirect);
    run.schedule.touch(i);
    const rec = run.raise({ kind: 'event', event: 'clip.start', ...lane.direct }, cause);
    state.entryRec[i] = rec.id;
    state.entryDepth[i] = cause.depth;
    run.queueEvent(rec, cause);
  }

  #leave(i: number, target: number, cause: Cause, fade: Fade): void {
    const run = this.#run;
    const { state } = run;
    run.discontinuities.touchLane(i);
    const old = run.activeState(i);
    if (old) {
      const left = { lane: run.lane(i).lane.id, state: old.state.id };
      run.queueEvent(run.raise({ kind: 'event', event: 'state.leave', ...left }, cause), cause);
      if (old.kind === PLAY) {
        const c = run.program.clips[old.clip] as ClipProgram;
        const play = this.#play;
        state.readPlay(i * 2, play);
        if (!play.ended) {
          const stopped = { kind: 'event', event: 'clip.stopped', clip: c.clip.id, ...left } as const;
          run.queueEvent(run.raise(stopped, cause), cause);
        }
        state.hereClip[i] = old.clip;
        const { duration } = c.data;
        const raw = standAt(play, run.t, duration, c.clip.loop, c.cueTimes);
        state.here[i] = fold(raw, duration, c.clip.loop, play.direction);
        this.#keepGained(i, old);
      }
      if (old.blend) {
        if (!state.hasEnded(i * 2)) {
          const clip = (metIn(run.program, state, i, old) as ClipProgram).clip.id;
          run.queueEvent(run.raise({ kind: 'event', event: 'clip.stopped', clip, ...left }, cause), cause);
        }
        state.hereClip[i] = -1;
      }
      if (old.exitActions >= 0) {
        const entry = state.entry[i];
        run.runActions(old.exitActions, cause, true);
        // A `go` among them has led elsewhere, which is where this lane is now.
        if (state.entry[i] !== entry) return;
      }
    }
    this.#enter(i, target, cause, fade);
  }

  #enter(i: number, target: number, cause: Cause, fade: Fade | null): void {
    const run = this.#run;
    const { state } = run;
    const lane = run.lane(i);
    const next = lane.states[target] as StateProgram;
    const starts = this.#standing(i, next);
    this.#keepOldSide(i, next, fade);
    if (next.kind === REST) state.hereClip[i] = -1;
    if (next.kind === PLAY) this.#beginPlay(i, next, starts);
    if (next.blend) this.#beginBlend(i, next.blend);
    state.active[i] = target;
    state.entered[i] = run.t;
    state.entry[i] = (state.entry[i] as number) + 1;
    state.entryRec[i] = cause.rec ?? -1;
    state.entryDepth[i] = cause.depth;
    state.entryPhase[i] = state.one[PHASE] as number;
    state.turnT[i] = Number.NEGATIVE_INFINITY;
    state.finished[i] = 0;
    run.schedule.touch(i);
    run.schedule.mark(i);
    run.schedule.markThose(run.program.asking.byLane[i]);
    const where = { lane: lane.lane.id, state: next.state.id };
    const met = metIn(run.program, state, i, next);
    if (met) {
      const clip = met.clip.id;
      run.queueEvent(run.raise({ kind: 'event', event: 'clip.start', clip, ...where }, cause), cause);
    }
    run.queueEvent(run.raise({ kind: 'event', event: 'state.enter', ...where }, cause), cause);
    const entry = state.entry[i];
    if (next.entryActions >= 0) run.runActions(next.entryActions, cause, true);
    if (next.state.final && state.entry[i] === entry) {
      state.finished[i] = 1;
      run.schedule.touch(i);
      run.queueEvent(run.raise({ kind: 'done', event: 'lane.done', lane: lane.lane.id }, cause), cause);
    }
  }

  /** Keeps what the lane gave until now, for its crossfade, and for a state that holds it. */
  #keepOldSide(i: number, next: StateProgram, fade: Fade | null): void {
    const run = this.#run;
    const { program, state: s, clock } = run;
    const lane = run.lane(i);
    const n = lane.slots.length;
    const first = lane.firstSlot;
    const old = run.activeState(i);
    const length = old && fade ? this.#fadeLengthOf(i, old, fade) : 0;
    const mixedV = new Float64Array(n);
    const mixedW = new Float64Array(n);
    if (old) laneGives(program, s, i, clock, mixedV, mixedW);
    if (length > 0 && old && fade) {
      if (next.kind !== HOLD && (old.kind === PLAY || old.blend) && !fadeRuns(s, i, clock)) {
        s.fadeState[i] = s.active[i] as number;
        s.copyPlay(i * 2 + 1, i * 2);
        s.fadeStartV.set(s.startV.subarray(first, first + n), first);
        for (let k = first; k < first + n; k++) {
          s.fromV[k] = lane.keeps ? (s.heldV[k] as number) : 0;
          s.fromW[k] = lane.keeps ? (s.heldW[k] as number) : 0;
        }
      } else {
        s.fadeState[i] = -1;
        s.fromV.set(mixedV, first);
        s.fromW.set(mixedW, first);
      }
      s.fadeStart[i] = run.t;
      s.fadeLength[i] = length;
      s.writeEase(i, fade.easing);
      s.mustFinish[i] = fade.mustFinish ? 1 : 0;
    } else {
      s.fadeLength[i] = 0;
      s.fadeState[i] = -1;
      s.mustFinish[i] = 0;
    }
    s.overSet.fill(0, first, first + n);
    if (next.kind === PLAY || next.blend) this.#dropPuts(i, next);
    if (next.kind === HOLD || lane.keeps) {
      s.heldV.set(mixedV, first);
      s.heldW.set(mixedW, first);
    }
  }

  #fadeLengthOf(i: number, old: StateProgram, fade: Fade): number {
    if (!Number.isNaN(fade.seconds)) return fade.seconds;
    const play = this.#play;
    this.#run.state.readPlay(i * 2, play);
    const met = metIn(this.#run.program, this.#run.state, i, old);
    if (!met || play.speed === 0) return 0;
    const d = met.data.duration;
    return ((d / Math.abs(play.speed)) * fade.percent) / 100;
  }

  #dropPuts(i: number, next: StateProgram): void {
    const { program, state: s, clock } = this.#run;
    const lane = this.#run.lane(i);
    for (const slot of next.trackSlots) {
      if (slot < 0) continue;
      const value = lane.slots[slot] as number;
      const width = lane.slotMode[slot] === MIX_COLOR ? 3 : 1;
      for (let k = 0; k < width; k++) {
        if (!s.isPut(value + k)) continue;
        s.overSet[lane.firstSlot + slot + k] = 1;
        s.overV[lane.firstSlot + slot + k] = putNow(program, s, value + k, clock);
        letGo(program, s, value + k);
      }
    }
  }

  #speedOf(s: StateProgram): number {
    const speed = s.speedSignal < 0 ? s.speed : Number(this.#run.signalValue(s.speedSignal));
    return clamp(speed, -MAX_SPEED, MAX_SPEED);
  }

  #beginPlay(i: number, next: StateProgram, starts: readonly number[]): void {
    const { state, program, t, clock } = this.#run;
    const c = program.clips[next.clip] as ClipProgram;
    const speed = this.#speedOf(next);
    const here = state.hereClip[i] === next.clip ? (state.here[i] as number) : null;
    state.writePlay(i * 2, newPlay(startPosition(next.from, speed, c.data.duration, here), t, speed));
    const first = this.#run.lane(i).firstSlot;
    let n = 0;
    for (const k of offsetTracks(next, c))
      state.startV[first + (next.trackSlots[k] as number)] =
        (starts[n++] as number) - gainOfPlay(program, state, i * 2, next.clip, k, clock);
  }

  /** What the offset tracks of the state that lane i enters will add to: what is shown, an adding lane's own part of it. */
  #standing(i: number, next: StateProgram): number[] {
    const { state, program, clock } = this.#run;
    const c = program.clips[next.clip];
    if (!c) return [];
    return offsetTracks(next, c).map((k) => {
      const at = next.trackValues[k] as number;
      const shown = onScreen(program, state, at, clock);
      if (!this.#run.lane(i).adds) return shown;
      return (state.base[at] as number) + shown - belowLane(program, state, at, i, clock);
    });
  }

  /** What the offset tracks of lane i's clip have gained stays, when it is left, unless something else holds it. */
  #keepGained(i: number, old: StateProgram): void {
    const { state, program, clock } = this.#run;
    for (const k of offsetTracks(old, program.clips[old.clip] as ClipProgram)) {
      const at = old.trackValues[k] as number;
      if (!state.isPut(at) && !heldAbove(program, state, at, i, clock))
        state.setPut(at, onScreen(program, state, at, clock));
    }
  }

  #beginBlend(i: number, b: BlendProgram): void {
    const { state, program, t } = this.#run;
    state.heavy[i] = b.heaviest(program, state);
    const speed = b.common ? Math.min(b.passRate(program, state), MAX_SPEED) : 1;
    state.writePlay(i * 2, newPlay(0, t, speed));
  }

  /** What lane i blends by has changed: a common phase goes on at another rate, and another clip may count most. */
  reweigh(i: number): void {
    const { program, state, clock, schedule } = this.#run;
    const b = this.#run.activeState(i)?.blend;
    if (b) {
      const met = b.met[state.heavy[i] as number] as ClipProgram;
      const play = this.#play;
      state.readPlay(i * 2, play);
      this.#rerate(play, b, met);
      const now = b.heaviest(program, state);
      if (now !== state.heavy[i]) {
        // What this one would have met before is over.
        state.heavy[i] = now;
        const { clip, data, cueTimes } = b.met[now] as ClipProgram;
        play.mark = standAt(play, this.#run.t, data.duration, clip.loop, cueTimes);
        play.incl = true;
      }
      state.writePlay(i * 2, play);
      schedule.touch(i);
      schedule.mark(i);
    }
    const fading = fadeRuns(state, i, clock)
      ? this.#run.lane(i).states[state.fadeState[i] as number]?.blend
      : null;
    if (!fading) return;
    state.readPlay(i * 2 + 1, this.#play);
    this.#rerate(this.#play, fading, fading.met[0] as ClipProgram);
    state.writePlay(i * 2 + 1, this.#play);
  }

  #rerate(play: Playhead, b: BlendProgram, { clip, data, cueTimes }: ClipProgram): void {
    if (!b.common) return;
    const rate = Math.min(b.passRate(this.#run.program, this.#run.state), MAX_SPEED);
    rebase(play, this.#run.t, rate, data.duration, clip.loop, cueTimes);
  }

  /** A number signal changed: plays whose speed it is go on from where they are. */
  speedChanged(signal: number): void {
    const { program, state, clock, schedule } = this.#run;
    for (const i of program.asking.speedOf[signal] ?? []) {
      this.reweigh(i);
      this.#rebasePlay(i * 2, this.#run.activeState(i), signal);
      const fading = fadeRuns(state, i, clock) ? (state.fadeState[i] as number) : -1;
      this.#rebasePlay(i * 2 + 1, this.#run.lane(i).states[fading], signal);
      schedule.touch(i);
      // A moment told in per cent may have come nearer, or been passed.
      schedule.mark(i);
    }
  }

  #rebasePlay(row: number, s: StateProgram | undefined, signal: number): void {
    if (s?.kind !== PLAY || s.speedSignal !== signal) return;
    const { program, state, t } = this.#run;
    const c = program.clips[s.clip] as ClipProgram;
    state.readPlay(row, this.#play);
    rebase(this.#play, t, this.#speedOf(s), c.data.duration, c.clip.loop, c.cueTimes);
    state.writePlay(row, this.#play);
  }
}

const NO_TRACKS: readonly number[] = [];

/** The numbers of the offset tracks of a state's clip whose objects are there. */
function offsetTracks(s: StateProgram, c: ClipProgram): readonly number[] {
  if (!c.data.offsets) return NO_TRACKS;
  const out: number[] = [];
  s.trackValues.forEach((at, k) => {
    if (at >= 0 && c.data.offset[k] === 1) out.push(k);
  });
  return out;
}
