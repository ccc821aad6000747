/**
 * Where a playing clip stands, in closed form: raw = p0 + speed · (t − t0). `raw` is unbounded: loops go on
 * counting, `fold` brings it back into the clip. Nothing is accumulated per tick, so long plays do not drift.
 *
 * Place and instant are one thing seen from two sides, and all that turns one into the other is here: instants less than
 * 1e-9 s apart are one instant, so places that the play passes within that time are one place. A place at the seam of two
 * passes belongs to the pass that the play goes into: 0 on the way forwards, the end on the way backwards.
 */
import { SAME_INSTANT, snapInstant } from '../base/index.ts';
import type { Clip, PlayFrom } from '../model/index.ts';

export interface Playhead {
  /** Raw position at instant `t0`, seconds of the clip. */
  p0: number;
  t0: number;
  speed: number;
  /** 1 or −1: the way the play goes; of a paused one the way it went last (forwards when it never moved). */
  direction: number;
  /** Raw position up to which cues and ends have been served; `incl`: those exactly there too. */
  mark: number;
  incl: boolean;
  /** A once-clip that has reached its end and holds it. */
  ended: boolean;
}

type Loop = Clip['loop'];

/** Speeds beyond this, which a signal can ask for, are brought back to it. */
export const MAX_SPEED = 1000;

export function newPlay(p0: number, t0: number, speed: number): Playhead {
  return { p0, t0, speed, direction: speed < 0 ? -1 : 1, mark: p0, incl: false, ended: false };
}

/** How far apart two places are at most that are passed at one instant, at raw positions of about `raw`. */
function slack(p: Playhead, raw: number, duration: number): number {
  return Math.max(SAME_INSTANT * Math.abs(p.speed), 1e-12 * (Math.abs(raw) + duration));
}

/** A play in a row of numbers: p0, t0, speed, way, mark, incl, ended. */
export const PLAY_ROW = 7;

/**
 * The raw position of the play in row `rows[at…]` at instant `now[0]`, in a clip of `lengths[c]` seconds, written to
 * `out[0]`. A once-clip stays within its length; the ends of passes are met exactly. Numbers that are passed in arrays
 * cost no memory, and this is asked for each play in each tick.
 */
function positionInto(
  rows: Float64Array,
  at: number,
  now: Float64Array,
  lengths: Float64Array,
  c: number,
  loop: Loop,
  out: Float64Array,
): void {
  const duration = lengths[c] as number;
  const p0 = rows[at] as number;
  const speed = rows[at + 2] as number;
  const raw = speed === 0 ? p0 : p0 + speed * ((now[0] as number) - (rows[at + 1] as number));
  const end = Math.round(raw / duration) * duration;
  // As `slack` has it.
  const near = Math.max(SAME_INSTANT * Math.abs(speed), 1e-12 * (Math.abs(raw) + duration));
  let place = Math.abs(raw - end) <= near ? end : raw;
  if (loop === 'once') place = place < 0 ? 0 : Math.min(place, duration);
  out[0] = duration === 0 ? 0 : place;
}

/** Replaces a raw position in `io[0]`, gone through in direction `way`, by the place within one pass. */
function foldInPlace(
  io: Float64Array,
  lengths: Float64Array,
  c: number,
  loop: Loop,
  direction: number,
): void {
  const raw = io[0] as number;
  const duration = lengths[c] as number;
  if (duration === 0) io[0] = 0;
  else if (loop === 'once') io[0] = raw < 0 ? 0 : Math.min(raw, duration);
  else {
    const end = Math.round(raw / duration);
    const atEnd = Math.abs(raw - end * duration) <= 1e-12 * (Math.abs(raw) + duration);
    if (loop === 'loop') {
      if (atEnd) io[0] = direction < 0 ? duration : 0;
      else io[0] = raw - Math.floor(raw / duration) * duration;
    } else if (atEnd) io[0] = end % 2 === 0 ? 0 : duration;
    else {
      const m = raw - Math.floor(raw / (2 * duration)) * 2 * duration;
      io[0] = m <= duration ? m : 2 * duration - m;
    }
  }
}

/** The place within the clip at which the play in row `rows[at…]` stands at instant `now[0]`, written to `out[0]`. */
export function placeInto(
  rows: Float64Array,
  at: number,
  now: Float64Array,
  lengths: Float64Array,
  c: number,
  loop: Loop,
  out: Float64Array,
): void {
  positionInto(rows, at, now, lengths, c, loop, out);
  foldInPlace(out, lengths, c, loop, (rows[at + 3] as number) < 0 ? -1 : 1);
}

/** How many whole passes of a loop lie before the place at which the play stands: written to `out[0]`; else 0. */
export function passesInto(
  rows: Float64Array,
  at: number,
  now: Float64Array,
  lengths: Float64Array,
  c: number,
  loop: Loop,
  out: Float64Array,
): void {
  const duration = lengths[c] as number;
  if (loop !== 'loop' || duration === 0) {
    out[0] = 0;
    return;
  }
  positionInto(rows, at, now, lengths, c, loop, out);
  const raw = out[0] as number;
  foldInPlace(out, lengths, c, loop, (rows[at + 3] as number) < 0 ? -1 : 1);
  out[0] = Math.round((raw - (out[0] as number)) / duration);
}

const row = new Float64Array(PLAY_ROW);
const instant = new Float64Array(1);
const length = new Float64Array(1);
const result = new Float64Array(1);

/** The raw position at instant t. A once-clip stays within its length; the ends of passes are met exactly. */
export function playPosition(p: Playhead, t: number, duration: number, loop: Loop): number {
  row[0] = p.p0;
  row[1] = p.t0;
  row[2] = p.speed;
  instant[0] = t;
  length[0] = duration;
  positionInto(row, 0, instant, length, 0, loop, result);
  return result[0] as number;
}

/** The place within one pass of a raw position that is gone through in direction `way`. */
export function fold(raw: number, duration: number, loop: Loop, direction: number): number {
  result[0] = raw;
  length[0] = duration;
  foldInPlace(result, length, 0, loop, direction < 0 ? -1 : 1);
  return result[0] as number;
}

/**
 * The raw position at instant t, exactly that of the cue or end that has just been served or is scheduled for this instant: what goes
 * on from here must not meet by rounding what was met, nor pass over what was not.
 */
export function standAt(p: Playhead, t: number, duration: number, loop: Loop, cues: Float64Array): number {
  const raw = playPosition(p, t, duration, loop);
  const near = slack(p, raw, duration);
  if (Math.abs(p.mark - raw) <= near) return p.mark;
  const next = crossingPosition(p, duration, loop, cues);
  return Math.abs(next - raw) <= near ? next : raw;
}

/** The instant at which the play is at a raw position that lies ahead of it. */
export function instantOf(p: Playhead, raw: number): number {
  return raw === p.p0 ? p.t0 : snapInstant(p.t0 + (raw - p.p0) / p.speed);
}

/**
 * The instant at which `percent` of the clip have been gone through along the direction of play, from where the play was
 * last begun or changed its speed; −∞ when they lie behind it then, ∞ when they are never reached.
 */
export function percentInstant(p: Playhead, percent: number, duration: number, loop: Loop): number {
  const along = (duration * percent) / 100;
  const toGo = p.direction < 0 ? p.p0 - (duration - along) : along - p.p0;
  if (toGo <= 1e-12) return Number.NEGATIVE_INFINITY;
  if (p.speed === 0 || (loop === 'once' && percent > 100)) return Number.POSITIVE_INFINITY;
  return snapInstant(p.t0 + toGo / Math.abs(p.speed));
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

/** Goes on with another speed from where the play stands at instant t, without a jump. */
export function rebase(
  p: Playhead,
  t: number,
  speed: number,
  duration: number,
  loop: Loop,
  cues: Float64Array,
): void {
  const raw = standAt(p, t, duration, loop, cues);
  const direction = speed === 0 ? p.direction : Math.sign(speed);
  if (direction !== p.direction) {
    // What was served here stays served; all else lies ahead again.
    p.incl = p.incl && p.mark === raw;
    p.mark = raw;
    // Turned round at its end it runs back and will be done again; a pose is done once.
    if (duration > 0 && !(direction > 0 ? raw >= duration : raw <= 0)) p.ended = false;
  }
  p.p0 = raw;
  p.t0 = t;
  p.speed = speed;
  p.direction = direction;
}

/** Passes over all that lies up to date t, unserved: the play stands where it would stand then. */
export function skipTo(p: Playhead, t: number, duration: number, loop: Loop): void {
  if (p.speed === 0 && duration > 0) return;
  p.mark = playPosition(p, t, duration, loop);
  p.incl = true;
  if (duration === 0 || (loop === 'once' && p.mark === (p.direction > 0 ? duration : 0))) p.ended = true;
}

/**
 * The next raw position at which something is to be served: a cue of `cues` (times within the clip, any order) or
 * an end of a pass. NaN when there is none (paused, or a once-clip that has ended).
 */
export function crossingPosition(p: Playhead, duration: number, loop: Loop, cues: Float64Array): number {
  if (p.speed === 0 || p.ended) return Number.NaN;
  const forward = p.direction > 0;
  if (loop === 'once' || duration === 0) return nextInPass(p, duration, forward, cues);
  let best = nextEnd(p, duration, forward);
  if (loop === 'loop' && cues.length > FEW) return nextOfMany(p, duration, forward, cues, best);
  for (const c of cues) {
    if (loop === 'loop') best = nearer(best, nextOnGrid(p, c, duration, duration, forward), forward);
    else {
      best = nearer(best, nextOnGrid(p, c, 2 * duration, duration, forward), forward);
      best = nearer(best, nextOnGrid(p, 2 * duration - c, 2 * duration, duration, forward), forward);
    }
  }
  return best;
}

/** Whether a cue at place `c` is met together with one at `place`: they are passed at one instant, c not before it. */
export function meets(p: Playhead, c: number, place: number, duration: number, forwards: boolean): boolean {
  const ahead = forwards ? c - place : place - c;
  const tiny = 1e-12 * (Math.abs(p.mark) + duration);
  return ahead >= -tiny && ahead <= slack(p, p.mark, duration);
}

/** So many cues of a loop are all asked; of more, only those near. */
const FEW = 12;

/**
 * The same of a loop with many cues, in the order of time: only those can be next that lie round the place within the pass,
 * the nearest beyond on either side, and the first and the last, which come after a turn.
 */
function nextOfMany(
  p: Playhead,
  duration: number,
  forward: boolean,
  cues: Float64Array,
  end: number,
): number {
  let best = end;
  const near = 2 * slack(p, p.mark, duration);
  const place = p.mark - Math.floor(p.mark / duration) * duration;
  const ask = (k: number) => {
    const c = cues[k];
    if (c !== undefined) best = nearer(best, nextOnGrid(p, c, duration, duration, forward), forward);
  };
  // At a turn what lies at the other end of the clip is as near.
  for (const round of [-duration, 0, duration]) {
    const from = firstFrom(cues, place + round - near);
    ask(from - 1);
    let k = from;
    for (; k < cues.length && (cues[k] as number) <= place + round + near; k++) ask(k);
    ask(k);
  }
  ask(0);
  ask(cues.length - 1);
  return best;
}

/** The number of the first cue at or after a time. */
function firstFrom(cues: Float64Array, t: number): number {
  let [low, high] = [0, cues.length];
  while (low < high) {
    const mid = (low + high) >> 1;
    if ((cues[mid] as number) < t) low = mid + 1;
    else high = mid;
  }
  return low;
}

function nearer(a: number, b: number, forward: boolean): number {
  return forward ? Math.min(a, b) : Math.max(a, b);
}

function nextInPass(p: Playhead, duration: number, forward: boolean, cues: Float64Array): number {
  const near = slack(p, p.mark, duration);
  let best = forward ? duration : 0;
  for (const c of cues) {
    const ahead = forward ? c - p.mark : p.mark - c;
    if (p.incl ? ahead > near : ahead >= -near) best = nearer(best, c, forward);
  }
  return best;
}

/** The next end of a pass beyond the mark; one at the very start of a play is no end. */
function nextEnd(p: Playhead, duration: number, forward: boolean): number {
  const k = p.mark / duration;
  const near = Math.round(k);
  const isHere = Math.abs(p.mark - near * duration) <= 1e-12 * (Math.abs(p.mark) + duration);
  const n = isHere ? near + (forward ? 1 : -1) : forward ? Math.ceil(k) : Math.floor(k);
  return n * duration;
}

/** The next of offset + k · step beyond the mark, or at it when what lies there is not served yet. */
function nextOnGrid(p: Playhead, offset: number, step: number, duration: number, forward: boolean): number {
  const k = (p.mark - offset) / step;
  const near = Math.round(k);
  const isHere = Math.abs(p.mark - offset - near * step) <= slack(p, p.mark, duration);
  if (!isHere) return offset + (forward ? Math.ceil(k) : Math.floor(k)) * step;
  return offset + (p.incl ? near + (forward ? 1 : -1) : near) * step;
}
