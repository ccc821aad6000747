/** Blockers, compiled. */
import type { Blocker, SceneObject } from '../../model/index.ts';
import type { Compiled, Compiling, CompilingPart } from '../../run/compiling.ts';

/** A blocker, and the number of its owner. */
export interface BlockerProgram {
  /** Its number among all colliders, in document order. */
  readonly order: number;
  readonly blocker: Blocker;
  /** Index into the values of its switch, where something writes that; −1: it is as its record says. */
  readonly switchAt: number;
  readonly object: number;
}
export function compileBlockers(c: Compiling): CompilingPart {
  const owned = Object.values(c.piece.colliders).flatMap((blocker, order) => {
    const object = c.objects.findIndex((o) => o.colliders?.includes(blocker.id));
    return blocker.role !== 'blocker' || object < 0 ? [] : [{ blocker, order, object }];
  });
  if (owned.length > 0) {
    // What is stopped is tracked, too.
    const isPulled = ({ drag }: SceneObject) => drag?.moves ?? false;
    const pulled = c.objects.flatMap((o, i) => (isPulled(o) ? [i] : []));
    for (const i of [...owned.map((b) => b.object), c.visitor, ...pulled])
      if (i >= 0) c.parts.tracking?.track(i);
  }
  return {
    part: ({ switchOf }: Compiled): BlockerProgram[] =>
      owned.map((b) => ({ ...b, switchAt: switchOf(b.blocker.id) })),
  };
}
