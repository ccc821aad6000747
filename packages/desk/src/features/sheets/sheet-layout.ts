/** Where the rows of a sheet stand, px. */
import type { Hook } from './edit.ts';

export const PAD = 24;
export const ROW = 44;
export const RULER = 26;
/** Px above the first cue. */
export const TOP = 6;

export interface Lifted {
  readonly id: string;
  /** What it would hang on if it were let go. */
  readonly hook: Hook | null;
}

/** Of what has no end that is known, its start. */
export const finite = (n: number) => (Number.isFinite(n) ? n : 0);
