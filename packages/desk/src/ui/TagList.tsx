import { type Tag, uniqueName } from '@apple-tick/core/model';
import { X } from 'lucide-react';
import { useState } from 'react';
import { useSession, useTable } from '../session/hooks.ts';
import { type Option, Pick } from './fields.tsx';

/** Tags of the piece: each is taken off with a click, others are added from a list, or made there. */
export function TagList(props: {
  /** Ids of those that are on. */
  on: readonly string[];
  /** The name of the step in which a tag is put on, made anew if it has to be. */
  adding: string;
  /** What the list says while nothing is picked. */
  offer: string;
  onPut: (tag: string, on: boolean) => void;
}) {
  const { on, onPut } = props;
  const s = useSession();
  const tags = useTable('tags');
  const [naming, setNaming] = useState(false);
  const shared = tags.filter((t) => on.includes(t.id));
  const make = (text: string) => {
    setNaming(false);
    const name = text.trim();
    if (name === '') return;
    const old = tags.find((t) => t.name === name);
    if (old) return onPut(old.id, true);
    const tag: Tag = { id: s.newId('tags'), name: uniqueName(name, new Set(tags.map((t) => t.name))) };
    s.step(props.adding, () => {
      s.edit('Added a tag', (e) => e.add('tags', tag));
      onPut(tag.id, true);
    });
  };
  return (
    <>
      {shared.map((t) => (
        <button
          key={t.id}
          type="button"
          className="btn !py-0 !px-1.5 inline-flex items-center gap-1"
          aria-label={`Take off the tag ${t.name}`}
          onClick={() => onPut(t.id, false)}
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
            ['', props.offer],
            ...tags.filter((t) => !shared.includes(t)).map((t): Option => [t.id, t.name]),
            ['new', 'a new tag…'],
          ]}
          onChange={(v) => (v === 'new' ? setNaming(true) : v !== '' && onPut(v, true))}
        />
      )}
    </>
  );
}
