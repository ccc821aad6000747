/** The clip that a lane plays: the dates of its cues and ends, and what they raise. */
import { crossingPosition, type Playhead } from '../anim/index.ts';
import { SAME_DATE, snapDate } from '../base/index.ts';
import { type ClipProgram, PLAY, type StateProgram } from './compile.ts';
import type { Run } from './run.ts';
import { laneAt } from './state.ts';
import type { Cause } from './trace.ts';

export class Crossings {
  private readonly run: Run;

  constructor(run: Run) {
    this.run = run;
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
}
