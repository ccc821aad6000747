/** How far a pointer event goes: from the innermost object up through its parents, until it is stopped. */
import type { EventName, On } from '../model/index.ts';
import type { Program } from './program.ts';
import { POINTER_PRESSED, type RunState } from './state.ts';

/** Whether a pointer event that happened to `object` reaches what `on` means, `own` when that names no object. */
export function pointerMatches(
  program: Program,
  on: On,
  own: number,
  event: EventName | undefined,
  object: number,
  stop: number,
): boolean {
  if (event !== on.event) return false;
  const wanted = on.object === undefined ? own : (program.objectIndex.get(on.object) ?? -1);
  if (wanted < 0) return false;
  // Enter and leave are raised once for each object; the others bubble up from the innermost.
  if (goesNoFurther(event)) return wanted === object;
  for (let o = object; o >= 0; o = program.geometry.parent[o] as number) {
    if (o === wanted) return true;
    if (o === stop) return false;
  }
  return false;
}

export function goesNoFurther(event: EventName | undefined): boolean {
  return event === 'pointer.enter' || event === 'pointer.leave';
}

/** Whether `inner` is `object` or lies below it. */
export function isWithin(program: Program, inner: number, object: number): boolean {
  const { parent } = program.geometry;
  for (let o = inner; o >= 0; o = parent[o] as number) if (o === object) return true;
  return false;
}

/** Whether the pointer is down, or pressed on something by name. */
export function isPressed(state: RunState): boolean {
  return state.pointerDown || (state.one[POINTER_PRESSED] as number) >= 0;
}
