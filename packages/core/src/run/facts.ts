/** What conditions ask of a run; all by number. */
import type { SignalValue } from '../model/index.ts';
import type { ProgramParts, StateParts } from './parts.ts';

export interface Facts {
  /** The value of a signal now; a pulse is true while it is up for whoever asks. */
  signal(signal: number): SignalValue;
  stateActive(lane: number, state: number): boolean;
  /** `object` −1: at whatever root. */
  clipPast(clip: number, object: number, seconds: number): boolean;
  /** Whether the pointer is over, or pressed on, an object or what lies below it; `object` −1: pressed at all. */
  over(object: number): boolean;
  pressed(object: number): boolean;
  /** What features know. */
  readonly program: { readonly parts: ProgramParts };
  readonly state: { readonly parts: StateParts };
}

export type Test = (facts: Facts) => boolean;

/** What a condition reads, for whoever must know when to ask it again, and what made it true. */
export interface Reads {
  signals: number[];
  lanes: number[];
  /** It may become true by time alone. */
  time: boolean;
  /** It asks what the pointer is over or pressed on. */
  pointer: boolean;
  /** What features tell of, by names of their own, and the number of the record that tells of it last, −1 for none. */
  topics: { readonly topic: string; readonly lastRecord: (state: Facts['state']) => number }[];
}
