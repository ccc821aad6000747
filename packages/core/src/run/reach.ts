/** How far a pointer event goes: from the innermost object up through its parents, until it is stopped. */
import type { EventName, On } from '../model/index.ts';
import type { Program } from './program.ts';

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
