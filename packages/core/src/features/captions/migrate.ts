/** Captions that stand or wait go on after an edit. */
import type { Migration } from '../../run/migration.ts';
import type { CaptionRows } from './rows.ts';

export function migrateCaptions({ old, next, before, state, objectOf }: Migration): void {
  const [from, to] = [before.parts.captions as CaptionRows, state.parts.captions as CaptionRows];
  to.said.set(from.said);
  const { list } = from;
  for (let k = 0; k < list.count; k++) {
    const row = list.data.slice(k * list.width, (k + 1) * list.width);
    const [object, text, seconds, answers] = row as unknown as [number, number, number, number];
    if (objectOf(object) < 0) continue;
    const ids = (old.parts.captions?.answers[answers] ?? []).map((a) => a.id).join();
    const words = state.texts.number(before.texts.list[text] as string);
    to.list.add([
      objectOf(object),
      words,
      seconds,
      next.parts.captions?.index.get(ids) ?? -1,
      ...row.subarray(4),
    ]);
  }
}
