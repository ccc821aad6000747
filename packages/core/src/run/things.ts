/** What actions are about, compiled. */
import type { PropertyInfo } from '../model/index.ts';
import type { Names } from './names.ts';
import type { CompiledAction } from './run-actions.ts';
import type { Cause } from './trace.ts';

/** The number of what is acted on, −1 for nothing: it may be the thing of the event. */
export type The = (cause: Cause) => number;

/** Nothing is acted on. */
export const nobody: The = () => -1;

export function thing(names: Names, id: string): The {
  if (id === 'other') return (cause) => cause.other ?? -1;
  const object = names.object(id);
  return () => object;
}

/** All that it may be. */
export function possible(names: Names, id: string): readonly number[] {
  if (id === 'other') return names.others;
  const object = names.object(id);
  return object < 0 ? [] : [object];
}

/** What is about a property of an object; nothing where there is no such property. */
export function about(
  names: Names,
  of: { readonly object: string; readonly property: string },
  runAction: (the: The, property: PropertyInfo) => CompiledAction,
): CompiledAction {
  const property = names.property(of.property);
  return property ? runAction(thing(names, of.object), property) : () => {};
}
