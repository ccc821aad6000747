/** The clip that a lane plays: the instants of its cues and ends, and what they raise. */
import { crossingPosition, fold, instantOf, meets, newPlay, skipTo } from '../anim/index.ts';
import { SAME_INSTANT } from '../base/index.ts';
import type { Clip } from '../model/index.ts';
import type { Context } from './context.ts';
import { metIn } from './met.ts';
import { BLEND, type BlendProgram, type ClipProgram, type StateProgram } from './program.ts';
import type { Cause } from './trace.ts';

export class Crossings {
  readonly #run: Context;
  readonly #play = newPlay(0, 0, 0);
  /** The play whose crossing is being served. */
  readonly #served = newPlay(0, 0, 0);

  /** What follows on the end of a direct play. */
  readonly #onEnd: (i: number, cause: Cause) => void;

  constructor(run: Context, onEnd: (i: number, cause: Cause) => void) {
    this.#run = run;
    this.#onEnd = onEnd;
  }

  /** The instant of the next cue or end in lane i's play; infinite when there is none. */
  nextCrossing(i: number): number {
    const { state, program } = this.#run;
    const { plain } = program;
    const active = state.active[i] as number;
    if (active < 0) return Number.POSITIVE_INFINITY;
    const at = (plain.firstState[i] as number) + active;
    if (plain.kind[at] === BLEND) {
      const s = this.#run.activeState(i) as StateProgram;
      return Math.min(this.#nextMet(i, s), this.#blendEnd(i, s.blend as BlendProgram));
    }
    // Rows alone are asked, for all lanes ask after each of their crossings.
    const clip = plain.clip[at] as number;
    if (clip < 0) return Number.POSITIVE_INFINITY;
    state.readPlay(i * 2, this.#play);
    const [duration, loop] = [plain.duration[clip] as number, plain.loop[clip] as Clip['loop']];
    return this.#next(i, duration, loop, plain.cueTimes[clip] as Float64Array);
  }

  /** Of the clip of a blend that is met. */
  #nextMet(i: number, s: StateProgram): number {
    const { state, program } = this.#run;
    const c = metIn(program, state, i, s);
    if (!c) return Number.POSITIVE_INFINITY;
    const play = this.#play;
    state.readPlay(i * 2, play);
    const { duration } = c.data;
    // Each clip ends for itself.
    if (play.incl && (duration === 0 || (c.clip.loop === 'once' && play.mark >= duration)))
      return Number.POSITIVE_INFINITY;
    return this.#next(i, duration, c.clip.loop, c.cueTimes);
  }

  /** Of the play that is in `#play`. */
  #next(i: number, duration: number, loop: Clip['loop'], cueTimes: Float64Array): number {
    const { state } = this.#run;
    const play = this.#play;
    // A pose is done at once, whatever its speed.
    if (duration === 0) return play.ended ? Number.POSITIVE_INFINITY : (state.entered[i] as number);
    const raw = crossingPosition(play, duration, loop, cueTimes);
    return Number.isNaN(raw) ? Number.POSITIVE_INFINITY : instantOf(play, raw);
  }

  /** The instant at which all clips of a blend have ended, if none of them loops. */
  #blendEnd(i: number, b: BlendProgram): number {
    const { state } = this.#run;
    if (!b.once || state.hasEnded(i * 2)) return Number.POSITIVE_INFINITY;
    if (b.longest === 0) return state.entered[i] as number;
    state.readPlay(i * 2, this.#play);
    const end = b.common ? 1 : b.longest;
    return this.#play.speed === 0 ? Number.POSITIVE_INFINITY : instantOf(this.#play, end);
  }

  /** Serves the cues and ends of lane i that lie at the present instant. */
  serve(i: number): void {
    const { state, limit } = this.#run;
    const entry = state.entry[i];
    while (this.nextCrossing(i) <= (limit[0] as number) && state.entry[i] === entry) {
      if (!this.#run.mayGoAhead(i)) return;
      this.#serveCrossing(i);
    }
  }

  /** Passes over the cues and ends of lane i up to date t, unserved. */
  passOver(i: number, t: number): void {
    if (!(this.nextCrossing(i) <= t)) return;
    const c = metIn(this.#run.program, this.#run.state, i, this.#run.activeState(i));
    if (!c) return;
    this.#run.state.readPlay(i * 2, this.#play);
    skipTo(this.#play, t, c.data.duration, c.clip.loop);
    this.#run.state.writePlay(i * 2, this.#play);
  }

  #serveCrossing(i: number): void {
    const run = this.#run;
    const { state } = run;
    const { plain } = run.program;
    const at = (plain.firstState[i] as number) + (state.active[i] as number);
    const blended = plain.kind[at] === BLEND ? (run.activeState(i) as StateProgram) : null;
    // Of a thousand loops that end, none follows its records from one to the next.
    const clip = plain.clip[at] as number;
    const isMet = blended && (metIn(run.program, state, i, blended) as ClipProgram);
    const loop = isMet ? isMet.clip.loop : (plain.loop[clip] as Clip['loop']);
    const cueTimes = isMet ? isMet.cueTimes : (plain.cueTimes[clip] as Float64Array);
    // With a common phase the clips of a blend are met as of one that lasts 1.
    const d = isMet ? isMet.data.duration : (plain.duration[clip] as number);
    const c = isMet ?? (cueTimes.length > 0 ? (run.program.clips[clip] as ClipProgram) : null);
    const row = i * 2;
    const p = this.#served;
    state.readPlay(row, p);
    const entry = state.entry[i] as number;
    const entryRec = state.entryRec[i] as number;
    // What the entry at this very instant brings belongs to its chain of causes; later ones begin with the moment.
    const atEntry = Math.abs(run.t - (state.entered[i] as number)) < SAME_INSTANT;
    const depth = atEntry ? (state.entryDepth[i] as number) + 1 : 0;
    const cause: Cause = { rec: entryRec < 0 ? null : entryRec, depth };
    if (blended && this.#blendEnd(i, blended.blend as BlendProgram) < this.#nextMet(i, blended)) {
      p.ended = true;
      state.writePlay(row, p);
      this.#stateDone(i, cause);
      return;
    }
    const forward = p.direction > 0;
    const raw = d === 0 ? 0 : crossingPosition(p, d, loop, cueTimes);
    const starts = raw === p.mark && !p.incl;
    // A play that is turned round at the very place whose cue it has met does not meet it again.
    const met = raw === p.mark && p.incl;
    p.mark = raw;
    p.incl = true;
    state.writePlay(row, p);
    const { direct, clipIds, laneIds } = plain;
    const where = direct[i] ?? {
      clip: isMet ? isMet.clip.id : (clipIds[clip] as string),
      lane: laneIds[i] as string,
    };
    if (loop === 'once' || d === 0) {
      if (!met) this.#cuesAt(i, c, raw, forward, false, cause);
      if (state.entry[i] !== entry || !(d === 0 || (forward ? raw >= d : raw <= 0))) return;
      // A cue at the end may have turned the play round: it has come to its end, and runs back from there.
      state.readPlay(row, p);
      p.ended = !blended && (d === 0 || p.direction > 0 === forward);
      state.writePlay(row, p);
      const clipDone = run.raise({ kind: 'done', event: 'clip.done', ...where }, cause);
      run.queueEvent(clipDone, cause);
      if (direct[i]) return this.#onEnd(i, { rec: clipDone.id, depth });
      if (!blended) this.#stateDone(i, cause);
      return;
    }
    const thereAndBack = loop === 'there-and-back';
    const pass = Math.round(raw / d);
    const turns = Math.abs(raw - pass * d) <= 1e-12 * (Math.abs(raw) + d);
    if (!turns) {
      // On the odd passes of there-and-back the clip is gone through from its end.
      const back = thereAndBack && Math.floor(raw / d) % 2 !== 0;
      this.#cuesAt(i, c, fold(raw, d, loop, p.direction), forward !== back, false, cause);
      return;
    }
    const end = thereAndBack ? fold(raw, d, loop, p.direction) : forward ? d : 0;
    const start = thereAndBack ? end : forward ? 0 : d;
    if (!starts) {
      this.#cuesAt(i, c, end, forward, thereAndBack, cause);
      if (state.entry[i] !== entry) return;
      state.turnT[i] = run.t;
      run.queueEvent(run.raise({ kind: 'event', event: 'clip.loop', ...where }, cause), cause);
      // Turned round by a cue there, it does not go into the next pass.
      state.readPlay(row, p);
      if (thereAndBack || p.direction > 0 !== forward) return;
    }
    this.#cuesAt(i, c, start, thereAndBack ? start === 0 : forward, false, cause);
  }

  #stateDone(i: number, cause: Cause): void {
    const run = this.#run;
    const where = { lane: run.lane(i).lane.id, state: (run.activeState(i) as StateProgram).state.id };
    const done = run.raise({ kind: 'done', event: 'state.done', ...where }, cause);
    run.queueEvent(done, cause, -1, run.state.entry[i]);
  }

  /** A clip whose place follows has gone from one place to another: the cues between, `to` included. */
  passed(i: number, from: number, to: number): void {
    const run = this.#run;
    const s = run.activeState(i) as StateProgram;
    const c = run.program.clips[s.clip] as ClipProgram;
    const entry = run.state.entry[i];
    const rec = run.state.entryRec[i] as number;
    const cause: Cause = { rec: rec < 0 ? null : rec, depth: 0 };
    const forwards = to > from;
    const between = c.clip.cues
      .map((q, n) => ({ q, n }))
      .filter(({ q }) => (forwards ? q.t > from && q.t <= to : q.t < from && q.t >= to))
      .sort((x, y) => (forwards ? x.q.t - y.q.t : y.q.t - x.q.t) || x.n - y.n);
    for (const { q, n } of between)
      if (run.state.entry[i] === entry && (q.when === 'both' || (q.when === 'forwards') === forwards))
        this.#cue(i, c, n, cause);
  }

  #cue(i: number, c: ClipProgram, n: number, cause: Cause): void {
    const run = this.#run;
    if (!run.mayGoAhead(i)) return;
    const lane = run.lane(i);
    const cue = c.clip.cues[n]?.id as string;
    const where = lane.direct ?? { clip: c.clip.id, lane: lane.lane.id };
    const rec = run.raise({ kind: 'cue', event: 'cue', cue, ...where }, cause);
    run.queueEvent(rec, cause);
    run.runActions(c.cueActions[n] as number, { rec: rec.id, depth: cause.depth }, false);
  }

  #cuesAt(
    i: number,
    c: ClipProgram | null,
    place: number,
    forwards: boolean,
    any: boolean,
    cause: Cause,
  ): void {
    const run = this.#run;
    const { state } = run;
    if (!c || c.cueTimes.length === 0) return;
    const entry = state.entry[i];
    const p = newPlay(0, 0, 0);
    state.readPlay(i * 2, p);
    // Far more than a cue at the place can be away from it, at the greatest speed: of a thousand cues few are asked.
    const far = 1e-5 + 1e-9 * (Math.abs(p.mark) + c.data.duration);
    c.clip.cues.forEach((q, n) => {
      if (Math.abs(q.t - place) > far || state.entry[i] !== entry) return;
      state.readPlay(i * 2, p);
      if (!meets(p, q.t, place, c.data.duration, forwards)) return;
      if (!any && q.when !== 'both' && (q.when === 'forwards') !== forwards) return;
      this.#cue(i, c, n, cause);
    });
  }
}
