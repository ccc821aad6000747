/** Objects that an import has made, looked at once more before they are let into a piece. */
import { toZod } from '../check/index.ts';
import { type SceneObject, sceneObjectSchema } from '../model/index.ts';

/**
 * What is wrong with one of them that no piece may hold (a number out of all bounds, far too many points), in a
 * sentence; null when all are sound. Files may say anything, and what came in must go out again.
 */
export function unsound(objects: readonly SceneObject[]): string | null {
  // Children come after their parents, whose places come from theirs: the last is the one to name.
  for (const o of objects.toReversed()) {
    const read = toZod(sceneObjectSchema).safeParse(o);
    if (read.success) continue;
    const issue = read.error.issues[0];
    const what = issue ? `its ${issue.path.join('.')} ${issue.message}` : 'it is not sound';
    return `The file cannot be brought in: of "${o.name.slice(0, 60)}" ${what}.`;
  }
  return null;
}
