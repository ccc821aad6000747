/** How far a pointer event goes: from the innermost object up through its parents, until it is stopped. */
import { CH_SHOWN, CHANNELS, type EventName, type On } from '../model/index.ts';
import { isNoticed, isPointed } from './listening.ts';
import type { Program } from './program.ts';
import { POINTER_PRESSED, type RunState } from './state.ts';
import type { TraceRecord } from './trace.ts';

/** Whether a pointer event that happened to `object` reaches what `on` means, `own` when that names no object. */
export function pointerMatches(
  program: Program,
  on: On,
  own: number,
  { event, colliders }: TraceRecord,
  object: number,
  stop: number,
): boolean {
  if (event !== on.event) return false;
  // Dropped into a zone, whatever it is unless it is named.
  if (on.collider !== undefined)
    return (
      colliders?.includes(on.collider) === true &&
      (on.object === undefined || isWithin(program, object, program.objectIndex.get(on.object) ?? -1))
    );
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

/** As `pointerMatches` for who has no object of their own: without a name it is whatever; null for another event. */
export function isPointedAt(program: Program, on: On, rec: TraceRecord, object: number): boolean | null {
  if (!isPointed(on.event)) return null;
  return on.object === undefined && on.collider === undefined
    ? rec.event === on.event
    : pointerMatches(program, on, -1, rec, object, -1);
}

/** As `noticedMatches`, likewise. */
export function isNoticedOf(program: Program, on: On, rec: TraceRecord, other: number): boolean | null {
  if (!isNoticed(on.event)) return null;
  const own = program.objectIndex.get(rec.object ?? '') ?? -1;
  return noticedMatches(program, on, own, rec, other);
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

/** Whether what a zone has noticed is what `on` means: of this zone, else of any of its object, `own` without one. */
export function noticedMatches(
  program: Program,
  on: On,
  own: number,
  { event, collider, object }: TraceRecord,
  other: number,
): boolean {
  if (event !== on.event) return false;
  const thing = program.objects[other];
  if (on.other !== undefined && thing?.id !== on.other) return false;
  if (on.tags && !on.tags.some((t) => thing?.tags.includes(t))) return false;
  if (on.collider !== undefined) return on.collider === collider;
  return object === (on.object ?? program.objects[own]?.id);
}

/** Whether an object hears an event: a message with tags only where it, or one above it, has one of them. */
export function hearsTags(program: Program, { tags }: TraceRecord, object: number): boolean {
  if (!tags) return true;
  for (let o = object; o >= 0; o = program.geometry.parent[o] as number)
    if (program.objects[o]?.tags.some((t) => tags.includes(t))) return true;
  return false;
}
