/** What follows and what can be dragged, compiled. */
import { exp, TICKS_PER_SECOND } from '../base/index.ts';
import type { Names } from '../logic/index.ts';
import {
  CHANNELS,
  canOffset,
  type Follow,
  type PropertyInfo,
  propertyInfo,
  type SceneObject,
} from '../model/index.ts';
import { AXES } from './dragging.ts';
import type { DragProgram, FollowProgram } from './program.ts';

/** What follows, by the numbers of what it names. */
export function compileFollow(f: Follow, names: Names): FollowProgram {
  const { target, source } = f;
  const object = 'object' in target ? names.object(target.object) : -1;
  const info = 'object' in target ? propertyInfo(target.property) : undefined;
  const isFit = object >= 0 && info !== undefined && (canOffset(info) || info.kind === 'text');
  const end = (x: string | undefined) =>
    x === undefined ? -1 : x === 'visitor' ? names.visitor : names.object(x);
  const [a, b] =
    'distance' in source
      ? source.distance
      : 'drag' in source
        ? [source.drag]
        : 'pointer' in source
          ? [source.object]
          : [];
  return {
    follow: f,
    at: isFit ? object * CHANNELS + info.channel : -1,
    words: info?.kind === 'text',
    lane: 'lane' in target ? names.lane(target.lane) : -1,
    clip: 'clip' in target ? names.clip(target.clip) : -1,
    signal: 'signal' in source ? names.signal(source.signal) : -1,
    a: end(a),
    b: end(b),
    part: f.smooth > 0 ? 1 - exp(-1 / (TICKS_PER_SECOND * f.smooth)) : 1,
  };
}

/** What can be dragged: what says so, and what something follows the dragging of. */
export function compileDrags(
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
