import type { SceneObject } from '@apple-tick/core/model';
import { useSession } from '../../session/hooks.ts';
import { chosenWords } from '../../session/things/arrange.ts';
import { Row } from '../../ui/fields.tsx';
import { TagList } from '../../ui/TagList.tsx';

/** The tags that all of the objects have. */
export function Tags({ objects }: { objects: readonly SceneObject[] }) {
  const s = useSession();
  const words = chosenWords(
    s,
    objects.map((o) => o.id),
  );
  const put = (id: string, on: boolean) =>
    s.edit(on ? `Tagged ${words}` : `Took a tag off ${words}`, (e) => {
      for (const o of objects)
        e.update('objects', o.id, (x) => ({
          ...x,
          tags: on ? [...new Set([...x.tags, id])] : x.tags.filter((t) => t !== id),
        }));
    });
  const shared = objects[0]?.tags.filter((t) => objects.every((o) => o.tags.includes(t))) ?? [];
  return (
    <Row title="Tags">
      <span className="flex flex-wrap gap-1 flex-1 items-center">
        <TagList on={shared} adding={`Tagged ${words}`} offer="add…" onPut={put} />
      </span>
    </Row>
  );
}
