/** Dates within a run: seconds, with ticks of exactly 1/60 s counted as integers. */
export const TICKS_PER_SECOND = 60;
/** Dates less than this apart are one date. */
export const SAME_DATE = 1e-9;

export function tickTime(tick: number): number {
  return tick / TICKS_PER_SECOND;
}

/** A date within 1e-9 of a tick's time is the tick's time. */
export function snapDate(t: number): number {
  const near = Math.round(t * TICKS_PER_SECOND) / TICKS_PER_SECOND;
  return Math.abs(t - near) < SAME_DATE ? near : t;
}

/** The first tick whose time is not before `t`. */
export function tickAtOrAfter(t: number): number {
  return Math.max(0, Math.ceil((t - SAME_DATE) * TICKS_PER_SECOND));
}
