/** Between seconds and px along a timeline, and what a dragged time snaps to. */
export const HEAD = 190;
const PAD = 30;
/** Px within which a dragged thing takes the place of another. */
const REACH = 6;

export interface TimeScale {
  /** Seconds across the whole width. */
  span: number;
  /** Px of the rows, without their heads. */
  width: number;
}

export function xOf(s: TimeScale, t: number): number {
  return PAD + (t / s.span) * (s.width - 2 * PAD);
}

export function timeAt(s: TimeScale, x: number): number {
  return Math.max(0, ((x - PAD) / (s.width - 2 * PAD)) * s.span);
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

/** Every time of a clip that something can snap to, once each, in order: ends, pips and cues. */
export function clipTimes(clip: {
  duration: number;
  tracks: readonly { keys: readonly { t: number }[] }[];
  cues: readonly { t: number }[];
}): number[] {
  const all = [0, clip.duration, ...clip.cues.map((q) => q.t), ...keyTimes(clip)];
  return [...new Set(all)].sort((a, b) => a - b);
}

/** The times of all pips, once each, in order. */
export function keyTimes(clip: { tracks: readonly { keys: readonly { t: number }[] }[] }): number[] {
  return [...new Set(clip.tracks.flatMap((t) => t.keys.map((k) => k.t)))].sort((a, b) => a - b);
}

/** Seconds between the ruler's marks, so that their numbers never touch. */
export function rulerStep(s: TimeScale): number {
  const least = (44 / s.width) * s.span;
  return [0.1, 0.2, 0.5, 1, 2, 5, 10, 30, 60, 300, 3600].find((x) => x >= least) ?? 3600;
}
