/** Fields of one object taken over by another. */
import { type Base, OBJECT_KINDS, type SceneObject } from '../model/index.ts';
import { DRAWING } from './brought.ts';

/** One field of an object from another one; `drawing`: its kind with all that only that has. */
export function withField(o: SceneObject, from: SceneObject, field: string): SceneObject {
  if (field.startsWith('base.')) {
    const key = field.slice(5) as keyof Base;
    return { ...o, base: { ...o.base, [key]: from.base[key] } } as SceneObject;
  }
  if (field !== DRAWING) {
    const value = (from as unknown as Record<string, unknown>)[field];
    const { [field as 'stroke']: _, ...rest } = o;
    return (value === undefined ? rest : { ...rest, [field]: value }) as SceneObject;
  }
  return redrawn(o, from);
}

/** An object with the kind of another one, and all that only that kind has. */
function redrawn(o: SceneObject, from: SceneObject): SceneObject {
  const old = new Set(Object.keys(OBJECT_KINDS[o.kind]));
  const rest = Object.entries(o).filter(([k]) => !old.has(k));
  const own = Object.keys(OBJECT_KINDS[from.kind]).flatMap((k): [string, unknown][] => {
    const value = (from as unknown as Record<string, unknown>)[k];
    return value === undefined ? [] : [[k, value]];
  });
  return Object.fromEntries([...rest, ...own, ['kind', from.kind]]) as unknown as SceneObject;
}
