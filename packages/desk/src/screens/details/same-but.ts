import type { SceneObject } from '@apple-tick/core/model';

/** Whether two records differ only in the base, and there not in this part of it. */
export const sameBut =
  (part: 'pivot' | 'fill') => (a: { object: SceneObject }, b: { object: SceneObject }) => {
    const [x, y] = [
      a.object as unknown as Record<string, unknown>,
      b.object as unknown as Record<string, unknown>,
    ];
    return (
      a.object.base[part] === b.object.base[part] &&
      Object.keys({ ...x, ...y }).every((k) => k === 'base' || x[k] === y[k])
    );
  };
