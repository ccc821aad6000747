/** What actions can do to a run; all by number. Implemented in `acting.ts`, so that what asks for a deed need not know how. */
import type { ValueSource } from '../logic/index.ts';
import type { PropertyInfo, SignalValue } from '../model/index.ts';
import type { Fade } from './fade.ts';
import type { Cause } from './trace.ts';

/** Where a tween takes a property. */
export interface Goal {
  readonly property: PropertyInfo;
  readonly mode: 'to' | 'by' | 'toBase';
  readonly value: () => SignalValue;
}
export interface TweenHow {
  readonly seconds: number;
  /** Place of its curve in the program; −1 hold, −2 linear. */
  readonly curve: number;
  /** `by` counts from what is on the screen, whatever it is on the way to. */
  readonly fromNow: boolean;
}

export interface CaptionHow {
  /** −1: until it is answered, or another takes its place. */
  readonly seconds: number;
  /** Number of its answers in the program; −1 for none. */
  readonly answers: number;
  readonly again: 'restart' | 'ignore' | 'queue';
}

export interface Deeds extends ValueSource {
  setSignal(signal: number, value: SignalValue, cause: Cause): void;
  pulse(signal: number, cause: Cause): void;
  /** `tags`: only what has one of them hears it. */
  send(message: string, cause: Cause, tags?: readonly string[]): void;
  put(object: number, property: PropertyInfo, value: SignalValue, cause: Cause): void;
  release(object: number, property: PropertyInfo, cause: Cause): void;
  /** Which tweening of all it is; 0 for none. */
  tween(object: number, goals: readonly Goal[], how: TweenHow, cause: Cause): number;
  motor(
    object: number,
    property: PropertyInfo,
    motor: { readonly rate: number; readonly acceleration: number; readonly limit: number },
    cause: Cause,
  ): void;
  stopMotor(object: number, property: PropertyInfo, goes: boolean, cause: Cause): void;
  /** Turns about an axis (0, 1, 2) until it points at the pivot of another. */
  face(object: number, toward: number, axis: number, how: TweenHow, cause: Cause): number;
  /** `object`: number of what it is heard from, −1 for nothing. */
  sound(sound: string, volume: number, object: number, cause: Cause): void;
  stopSound(sound: string, cause: Cause): void;
  /** `object` −1: over the whole frame. */
  effect(effect: number, object: number, cause: Cause): void;
  /** Which of all captions it is; 0 for none. */
  caption(object: number, words: SignalValue, how: CaptionHow, cause: Cause): number;
  /** Numbers of a template, of the parent and of an object, −1 for none; `seconds` 0: for as long as nothing removes it. */
  spawn(
    template: number,
    parent: number,
    object: number,
    offset: readonly number[],
    given: readonly (readonly [signal: string, value: SignalValue])[],
    seconds: number,
    cause: Cause,
  ): void;
  remove(object: number, cause: Cause): void;
  sheet(sheet: number, cause: Cause): void;
  stopSheet(sheet: number, cause: Cause): void;
  /**
   * Plays a clip by itself, in this lane of its own, as this state of it says; `again`: what happens where it runs. Which
   * beginning of a direct play it is; 0 when none begins.
   */
  play(lane: number, state: number, again: 'restart' | 'ignore' | 'queue', cause: Cause): number;
  stop(lane: number, cause: Cause): void;
  go(lane: number, state: number, fade: Fade, cause: Cause): void;
}
