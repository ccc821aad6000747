/** Between seconds and px along a timeline, and what a dragged time snaps to. */
export const HEAD = 210;
const PAD = 38;
/** Px within which a dragged thing takes the place of another. */
const REACH = 6;

export interface TimeScale {
  /** Seconds at the left end, and from there to the right one. */
  readonly from: number;
  readonly span: number;
  /** Px of the rows, without their heads. */
  readonly width: number;
}

export function xOf(s: TimeScale, t: number): number {
  return PAD + ((t - s.from) / s.span) * (s.width - 2 * PAD);
}

export function timeAt(s: TimeScale, x: number): number {
  return Math.max(0, ((x - PAD) / (s.width - 2 * PAD)) * s.span + s.from);
}

/** The whole clip, with a little room after its end and its last key. */
export function wholeClip(clip: Pick<Timed, 'duration' | 'tracks'>): Pick<TimeScale, 'from' | 'span'> {
  const last = Math.max(clip.duration, ...clip.tracks.map((t) => t.keys.at(-1)?.t ?? 0));
  return { from: 0, span: Math.max(0.5, last * 1.15) };
}

/** The nearest of `targets` (seconds) in reach, else the nearest frame number's time. */
export function snapTime(s: TimeScale, x: number, targets: readonly number[], fps: number): number {
  let best = Number.POSITIVE_INFINITY;
  let to = Number.NaN;
  for (const t of targets) {
    const far = Math.abs(xOf(s, t) - x);
    if (far <= REACH && far < best) {
      best = far;
      to = t;
    }
  }
  return Number.isNaN(to) ? Math.round(timeAt(s, x) * fps) / fps : to;
}

export interface Timed {
  readonly duration: number;
  readonly tracks: readonly { readonly keys: readonly { readonly t: number }[] }[];
  readonly cues: readonly { readonly t: number }[];
}

/** Every time of a clip that something can snap to, once each, in order: ends, pips and cues. */
export function clipTimes(clip: Timed): number[] {
  const all = [0, clip.duration, ...clip.cues.map((q) => q.t), ...keyTimes(clip)];
  return [...new Set(all)].sort((a, b) => a - b);
}

/** The times of all pips, once each, in order. */
export function keyTimes(clip: Pick<Timed, 'tracks'>): number[] {
  return [...new Set(clip.tracks.flatMap((t) => t.keys.map((k) => k.t)))].sort((a, b) => a - b);
}
