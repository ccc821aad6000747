/** What actions do to a run: all by number. Implemented in `action-runner.ts`, so that what asks for an action need not know how. */
import type { ValueSource } from '../logic/index.ts';
import type { PropertyInfo, SignalValue } from '../model/index.ts';
import type { Fade } from './fade.ts';
import type { RunParts } from './parts.ts';
import type { Cause } from './trace.ts';

/** An action, compiled. What it returns tells what it began, of what lasts, from others. */
export type CompiledAction = (actions: RunActions, cause: Cause) => unknown;

export interface RunActions extends ValueSource {
  /** What features do. */
  readonly parts: RunParts;
  setSignal(signal: number, value: SignalValue, cause: Cause): void;
  pulse(signal: number, cause: Cause): void;
  /** `tags`: only what has one of them hears it. */
  send(message: string, cause: Cause, tags?: readonly string[]): void;
  put(object: number, property: PropertyInfo, value: SignalValue, cause: Cause): void;
  release(object: number, property: PropertyInfo, cause: Cause): void;
  /**
   * Plays a clip by itself, in this lane of its own, as this state of it says; `again`: what happens where it runs. Which
   * beginning of a direct play it is; 0 when none begins.
   */
  play(lane: number, state: number, again: 'restart' | 'ignore' | 'queue', cause: Cause): number;
  stop(lane: number, cause: Cause): void;
  go(lane: number, state: number, fade: Fade, cause: Cause): void;
}
