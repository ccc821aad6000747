/** What is above and below: whether objects lie in others, are shown, are pressed. */
import { CH_SHOWN, CHANNELS } from '../model/index.ts';
import type { Program } from './program.ts';
import { POINTER_PRESSED, type RunState } from './state.ts';

/** Whether `inner` is `object` or lies below it. */
export function isWithin(program: Program, inner: number, object: number): boolean {
  const { parent } = program.geometry;
  for (let o = inner; o >= 0; o = parent[o] as number) if (o === object) return true;
  return false;
}

/** Whether an object and all above it are shown, in the newest pose. */
export function isShownNow({ geometry }: Program, { values }: RunState, object: number): boolean {
  for (let o = object; o >= 0; o = geometry.parent[o] as number)
    if ((values[o * CHANNELS + CH_SHOWN] as number) < 0.5) return false;
  return true;
}

/** Whether the pointer is down, or pressed on something by name. */
export function isPressed(state: RunState): boolean {
  return state.pointerDown || (state.one[POINTER_PRESSED] as number) >= 0;
}
