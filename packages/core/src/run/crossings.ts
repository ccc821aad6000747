/** The clip that a lane plays: the dates of its cues and ends, and what they raise. */
import { crossingPosition, dateOf, fold, meets, type Playhead, skipTo } from '../anim/index.ts';
import { SAME_DATE } from '../base/index.ts';
import { type ClipProgram, PLAY, type StateProgram } from './compile.ts';
import type { Run } from './run.ts';
import { laneAt } from './state.ts';
import type { Cause } from './trace.ts';

export class Crossings {
  private readonly run: Run;

  constructor(run: Run) {
    this.run = run;
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
    return Number.isNaN(raw) ? Number.POSITIVE_INFINITY : dateOf(l.play, raw);
  }

  /** Serves the cues and ends of lane i that lie at date t. */
  serveCrossings(i: number, t: number): void {
    const entry = laneAt(this.run, i)[1].entry;
    while (this.nextCrossing(i) <= t + SAME_DATE && laneAt(this.run, i)[1].entry === entry) {
      if (!this.run.mayAct()) return;
      this.serveCrossing(i);
    }
  }

  /** Passes over the cues and ends of lane i up to date t, unserved. */
  passOver(i: number, t: number): void {
    if (!(this.nextCrossing(i) <= t)) return;
    const [lane, l] = laneAt(this.run, i);
    const c = this.run.program.clips[lane.states[l.active]?.clip ?? -1];
    if (c) skipTo(l.play, t, c.data.duration, c.clip.loop);
  }

  private serveCrossing(i: number): void {
    const run = this.run;
    const [lane, l] = laneAt(run, i);
    const s = lane.states[l.active] as StateProgram;
    const c = run.program.clips[s.clip] as ClipProgram;
    const d = c.data.duration;
    const p = l.play;
    const { entry } = l;
    // What the entry at this very instant brings belongs to its chain of causes; later ones begin with the moment.
    const depth = Math.abs(run.t - l.entered) < SAME_DATE ? l.entryDepth + 1 : 0;
    const cause: Cause = { rec: l.entryRec < 0 ? null : l.entryRec, depth };
    const forward = p.way > 0;
    const raw = d === 0 ? 0 : crossingPosition(p, d, c.clip.loop, c.cueTimes);
    const starts = raw === p.mark && !p.incl;
    // A play that is turned round at the very place whose cue it has met does not meet it again.
    const met = raw === p.mark && p.incl;
    p.mark = raw;
    p.incl = true;
    const where = { clip: c.clip.id, lane: lane.lane.id };
    if (c.clip.loop === 'once' || d === 0) {
      if (!met) this.cuesAt(i, c, p, raw, forward, false, cause);
      if (l.entry !== entry || !(d === 0 || (forward ? raw >= d : raw <= 0))) return;
      // A cue at the end may have turned the play round: it has come to its end, and runs back from there.
      p.ended = d === 0 || p.way > 0 === forward;
      run.queueEvent(run.raise({ kind: 'done', event: 'clip.done', ...where }, cause), cause, -1);
      const done = run.raise(
        { kind: 'done', event: 'state.done', lane: lane.lane.id, state: s.state.id },
        cause,
      );
      run.queueEvent(done, cause, -1, l.entry);
      return;
    }
    const thereAndBack = c.clip.loop === 'there-and-back';
    const pass = Math.round(raw / d);
    const turns = Math.abs(raw - pass * d) <= 1e-12 * (Math.abs(raw) + d);
    if (!turns) {
      // On the odd passes of there-and-back the clip is gone through from its end.
      const back = thereAndBack && Math.floor(raw / d) % 2 !== 0;
      this.cuesAt(i, c, p, fold(raw, d, c.clip.loop, p.way), forward !== back, false, cause);
      return;
    }
    const end = thereAndBack ? fold(raw, d, c.clip.loop, p.way) : forward ? d : 0;
    const start = thereAndBack ? end : forward ? 0 : d;
    if (!starts) {
      this.cuesAt(i, c, p, end, forward, thereAndBack, cause);
      if (l.entry !== entry) return;
      l.turnT = run.t;
      run.queueEvent(run.raise({ kind: 'event', event: 'clip.loop', ...where }, cause), cause, -1);
      // Turned round by a cue there, it does not go into the next pass.
      if (thereAndBack || p.way > 0 !== forward) return;
    }
    this.cuesAt(i, c, p, start, thereAndBack ? start === 0 : forward, false, cause);
  }

  private cuesAt(
    i: number,
    c: ClipProgram,
    p: Playhead,
    place: number,
    forwards: boolean,
    any: boolean,
    cause: Cause,
  ): void {
    const run = this.run;
    const [lane, l] = laneAt(run, i);
    const { entry } = l;
    c.clip.cues.forEach((q, n) => {
      if (l.entry !== entry || !meets(p, q.t, place, c.data.duration, forwards)) return;
      if (!any && q.when !== 'both' && (q.when === 'forwards') !== forwards) return;
      const rec = run.raise(
        { kind: 'cue', event: 'cue', cue: q.id, clip: c.clip.id, lane: lane.lane.id },
        cause,
      );
      run.queueEvent(rec, cause, -1);
      run.actions.actAll(c.cueActions[n] as number, { rec: rec.id, depth: cause.depth });
    });
  }
}
