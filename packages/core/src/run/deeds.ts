/** What actions can do to a run; all by number. Implemented in `acting.ts`, so that what asks for a deed need not know how. */
import type { ValueSource } from '../logic/index.ts';
import type { PropertyInfo, SignalValue } from '../model/index.ts';
import type { Fade } from './fade.ts';
import type { Cause } from './trace.ts';

export interface Deeds extends ValueSource {
  setSignal(signal: number, value: SignalValue, cause: Cause): void;
  pulse(signal: number, cause: Cause): void;
  send(message: string, cause: Cause): void;
  put(object: number, property: PropertyInfo, value: SignalValue, cause: Cause): void;
  release(object: number, property: PropertyInfo, cause: Cause): void;
  sound(sound: string, cause: Cause): void;
  go(lane: number, state: number, fade: Fade, cause: Cause): void;
}
