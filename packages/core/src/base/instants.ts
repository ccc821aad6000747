/** Instants within a run: seconds, with ticks of exactly 1/60 s counted as integers. */
export const TICKS_PER_SECOND = 60;
/** Instants less than this apart are one instant. */
export const SAME_INSTANT = 1e-9;

export function tickTime(tick: number): number {
  return tick / TICKS_PER_SECOND;
}

/** An instant within 1e-9 of a tick's time is the tick's time. */
export function snapInstant(t: number): number {
  const near = Math.round(t * TICKS_PER_SECOND) / TICKS_PER_SECOND;
  return Math.abs(t - near) < SAME_INSTANT ? near : t;
}

/** The first tick whose time is not before `t`. */
export function tickAtOrAfter(t: number): number {
  return Math.max(0, Math.ceil((t - SAME_INSTANT) * TICKS_PER_SECOND));
}
