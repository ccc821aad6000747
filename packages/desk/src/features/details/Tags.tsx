import { type SceneObject, uniqueName } from '@apple-tick/core/model';
import { X } from 'lucide-react';
import { useState } from 'react';
import { chosenWords } from '../../session/arrange.ts';
import { useSession, useTable } from '../../session/hooks.ts';
import { type Option, Pick, Row } from '../../ui/fields.tsx';

/** The tags that all of the objects have: taken off with a click, added from the list of the piece's tags. */
export function Tags({ objects }: { objects: readonly SceneObject[] }) {
  const s = useSession();
  const tags = useTable('tags');
  const [naming, setNaming] = useState(false);
  const shared = tags.filter((t) => objects.every((o) => o.tags.includes(t.id)));
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
  const make = (text: string) => {
    setNaming(false);
    const name = text.trim();
    if (name === '') return;
    const old = tags.find((t) => t.name === name);
    if (old) return put(old.id, true);
    const id = s.newId('tags');
    s.step(`Tagged ${words}`, () => {
      s.edit('Added a tag', (e) =>
        e.add('tags', { id, name: uniqueName(name, new Set(tags.map((t) => t.name))) }),
      );
      put(id, true);
    });
  };
  return (
    <Row title="Tags">
      <span className="flex flex-wrap gap-1 flex-1 items-center">
        {shared.map((t) => (
          <button
            key={t.id}
            type="button"
            className="btn inline-flex items-center gap-1"
            aria-label={`Take off the tag ${t.name}`}
            onClick={() => put(t.id, false)}
          >
            {t.name} <X size={11} aria-hidden="true" />
          </button>
        ))}
        {naming ? (
          <input
            aria-label="Name of the new tag"
            className="field w-24"
            // biome-ignore lint/a11y/noAutofocus: it was asked for by the choice before it
            autoFocus
            onBlur={(e) => make(e.target.value)}
            onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
          />
        ) : (
          <Pick
            label="Add a tag"
            value=""
            options={[
              ['', 'add…'],
              ...tags.filter((t) => !shared.includes(t)).map((t): Option => [t.id, t.name]),
              ['new', 'a new tag…'],
            ]}
            onChange={(v) => (v === 'new' ? setNaming(true) : v !== '' && put(v, true))}
          />
        )}
      </span>
    </Row>
  );
}
