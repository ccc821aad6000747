/**
 * Where a playing clip stands, in closed form: raw = p0 + speed · (t − t0). `raw` is unbounded: loops go on
 * counting, `fold` brings it back into the clip. Nothing is accumulated per tick, so long plays do not drift.
 */
import type { Clip, PlayFrom } from '../model/index.ts';

export interface Playhead {
  /** Raw position at date `t0`, seconds of the clip. */
  p0: number;
  t0: number;
  speed: number;
  /** Raw position up to which cues and ends have been served; `incl`: those exactly there too. */
  mark: number;
  incl: boolean;
  /** A once-clip that has reached its end and holds it. */
  ended: boolean;
}

type Loop = Clip['loop'];

/** The raw position at date t. A once-clip stays within its length. */
export function playPosition(p: Playhead, t: number, duration: number, loop: Loop): number {
  const raw = p.speed === 0 ? p.p0 : p.p0 + p.speed * (t - p.t0);
  if (loop !== 'once' && duration > 0) return raw;
  return raw < 0 ? 0 : Math.min(raw, duration);
}

/** The place within one pass of a raw position. */
export function fold(raw: number, duration: number, loop: Loop): number {
  if (duration === 0) return 0;
  if (loop === 'once') return raw < 0 ? 0 : Math.min(raw, duration);
  if (loop === 'loop') {
    const m = raw % duration;
    return m < 0 ? m + duration : m;
  }
  const whole = 2 * duration;
  let m = raw % whole;
  if (m < 0) m += whole;
  return m <= duration ? m : whole - m;
}

/** The raw position at which a play begins. `here` is where the lane left the clip, or null. */
export function startPosition(from: PlayFrom, speed: number, duration: number, here: number | null): number {
  const start = speed < 0 ? duration : 0;
  if (from === 'start') return start;
  if (from === 'here') return here ?? start;
  if ('seconds' in from) return Math.min(from.seconds, duration);
  const along = Math.min(1, from.percent / 100) * duration;
  return speed < 0 ? duration - along : along;
}

/** Goes on with another speed from where the play stands at date t, without a jump. */
export function rebase(p: Playhead, t: number, speed: number, duration: number, loop: Loop): void {
  const raw = playPosition(p, t, duration, loop);
  const turned = speed > 0 !== p.speed > 0;
  p.p0 = raw;
  p.t0 = t;
  // Turned round at its end it runs back and will be done again; going on the same way it stays done.
  if (turned && speed !== 0 && !(raw >= duration ? speed > 0 : raw <= 0 && speed < 0)) p.ended = false;
  if (turned) {
    p.incl = p.incl && p.mark === raw;
    p.mark = raw;
  }
  p.speed = speed;
}

/**
 * The next raw position at which something is to be served: a cue of `cues` (times within the clip, any order) or
 * an end of a pass. NaN when there is none (paused, or a once-clip that has ended).
 */
export function crossingPosition(p: Playhead, duration: number, loop: Loop, cues: Float64Array): number {
  if (p.speed === 0 || p.ended) return Number.NaN;
  const forward = p.speed > 0;
  if (loop === 'once' || duration === 0) return nextInPass(p, duration, forward, cues);
  let best = nextOnGrid(p, 0, duration, forward, true);
  for (const c of cues) {
    if (loop === 'loop') best = nearer(best, nextOnGrid(p, c, duration, forward, false), forward);
    else {
      best = nearer(best, nextOnGrid(p, c, 2 * duration, forward, false), forward);
      best = nearer(best, nextOnGrid(p, 2 * duration - c, 2 * duration, forward, false), forward);
    }
  }
  return best;
}

function nearer(a: number, b: number, forward: boolean): number {
  if (Number.isNaN(a)) return b;
  if (Number.isNaN(b)) return a;
  return forward ? Math.min(a, b) : Math.max(a, b);
}

function nextInPass(p: Playhead, duration: number, forward: boolean, cues: Float64Array): number {
  let best = forward ? duration : 0;
  for (const c of cues) {
    const ahead = forward ? c > p.mark : c < p.mark;
    if (ahead || (c === p.mark && !p.incl)) best = nearer(best, c, forward);
  }
  return best;
}

/** The next of offset + k · step beyond the mark. An end of a pass at the very start of a play is no end. */
function nextOnGrid(p: Playhead, offset: number, step: number, forward: boolean, isEnd: boolean): number {
  const k = (p.mark - offset) / step;
  let n = forward ? Math.ceil(k - 1e-12) : Math.floor(k + 1e-12);
  const at = offset + n * step;
  const isHere = Math.abs(at - p.mark) <= 1e-12 * (Math.abs(p.mark) + step);
  if (isHere && (p.incl || isEnd)) n += forward ? 1 : -1;
  return offset + n * step;
}
