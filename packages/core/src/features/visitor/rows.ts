/** What a state has of the visitor: one row. */
import type { Program } from '../../run/program.ts';
import type { RowMaker } from '../../run/rows.ts';

/** Which of the keys are held, as bits; whether the pointer holds it, and where it was taken hold of; its speed, px a second. */
export const KEYS = 0;
export const HELD = 1;
export const HELD_X = 2;
export const HELD_Y = 3;
export const SPEED = 4;

export type VisitorRow = Float64Array;
export const visitorRow = (_: Program, make: RowMaker): VisitorRow => make.floats(5);
