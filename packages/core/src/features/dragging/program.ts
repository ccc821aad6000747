/** What can be dragged, compiled. */
import { type Follow, type PropertyInfo, propertyInfo, type SceneObject } from '../../model/index.ts';
import type { Compiling, CompilingPart } from '../../run/compiling.ts';
import type { Names } from '../../run/names.ts';

/** What can be dragged while it runs: its own `drag`, or the axes along which something follows it. */
export interface DragProgram {
  readonly object: number;
  /** Which of x, y and z it goes along. */
  readonly axes: readonly number[];
  /** Least and greatest way from its base, by axis: six numbers. */
  readonly limits: readonly number[];
  readonly moves: boolean;
  readonly back: {
    readonly seconds: number;
    readonly curve: number;
    /** Dropped into one of these zones it stays. */
    readonly unless: readonly string[];
  } | null;
}
export interface DraggingProgram {
  readonly drags: readonly DragProgram[];
  /** Their numbers by object. */
  readonly ofObject: ReadonlyMap<number, number>;
}
const AXES = { x: 0, y: 1, z: 2 } as const;

export function compileDragging(c: Compiling): CompilingPart {
  const follows = Object.values(c.piece.follows);
  const drags = compileDrags(c.objects, follows, c);
  return {
    mayBeOther: (o) =>
      Boolean(o.drag) || follows.some(({ source }) => 'drag' in source && source.drag === o.id),
    part: (): DraggingProgram => ({ drags, ofObject: new Map(drags.map((d, k) => [d.object, k])) }),
  };
}

/** What can be dragged: what says so, and what something follows the dragging of. */
function compileDrags(
  objects: readonly SceneObject[],
  follows: readonly Follow[],
  names: Names,
): DragProgram[] {
  const out: DragProgram[] = [];
  const followed = new Map<string, Set<number>>();
  for (const { source } of follows) {
    if (!('drag' in source)) continue;
    const axes = followed.get(source.drag) ?? new Set<number>();
    followed.set(source.drag, axes.add(AXES[source.axis]));
  }
  objects.forEach((o, object) => {
    const { drag } = o;
    const along = followed.size > 0 ? followed.get(o.id) : undefined;
    if (!drag && !along) return;
    const axes: number[] = drag ? [...drag.along].map((c) => AXES[c as 'x' | 'y' | 'z']) : [...(along ?? [])];
    const { limits } = drag ?? {};
    if (drag?.back && drag.moves)
      for (const axis of axes) names.tweens(object, propertyInfo(`position.${'xyz'[axis]}`) as PropertyInfo);
    out.push({
      object,
      axes: axes.sort(),
      limits: (['x', 'y', 'z'] as const).flatMap((axis) => {
        const [low, high] = limits?.[axis] ?? [Number.NEGATIVE_INFINITY, Number.POSITIVE_INFINITY];
        return [Math.min(low, high), Math.max(low, high)];
      }),
      moves: drag?.moves ?? false,
      back: drag?.back
        ? { seconds: drag.back.seconds, curve: names.curve(drag.back.easing), unless: drag.back.unless ?? [] }
        : null,
    });
  });
  return out;
}
