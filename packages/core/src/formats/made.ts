/** Objects that an import has made, looked at once more before they are let into a piece. */
import type { Result } from '../base/index.ts';
import { toZod } from '../check/index.ts';
import { type SceneObject, sceneObjectSchema } from '../model/index.ts';

/**
 * The objects with all their fields, as a piece that is read has them; or what is wrong with one of them that no piece may
 * hold (a number out of all bounds, far too many points). Files may say anything, and what came in must go out again.
 */
export function sound(objects: readonly SceneObject[]): Result<SceneObject[]> {
  const whole: SceneObject[] = [];
  // Children come after their parents, whose places come from theirs: the last is the one to name.
  for (const o of objects.toReversed()) {
    const read = toZod(sceneObjectSchema).safeParse(o);
    if (read.success) {
      whole.push(read.data);
      continue;
    }
    const issue = read.error.issues[0];
    const what = issue ? `its ${issue.path.join('.')} ${issue.message}` : 'it is not sound';
    const message = `The file cannot be brought in: of "${o.name.slice(0, 60)}" ${what}.`;
    return { ok: false, problems: [{ code: 'made', path: '', message }] };
  }
  return { ok: true, value: whole.reverse() };
}
