import { noticeable } from '../features/zones/edit.ts';
import { useSession, useTable } from '../session/hooks.ts';
import { type Option, Pick } from '../ui/fields.tsx';

interface Things {
  readonly other?: string | undefined;
  readonly tags?: string[] | undefined;
}

/** What a zone notices: whatever it may, what has a tag, or a certain thing. */
export function ThingPick(props: {
  label: string;
  zone: string | undefined;
  things: Things;
  /** The words for whatever it is. */
  any: string;
  /** Whether one thing alone can be meant. */
  single: boolean;
  onChange: (things: Things) => void;
}) {
  const { zone, things, onChange } = props;
  const s = useSession();
  const tags = useTable('tags');
  useTable('objects');
  const of = zone === undefined ? undefined : s.store.get('colliders', zone);
  // A blocker without tags stops, and is touched by, all that is dragged.
  const zoneTags = of?.role === 'blocker' && of.tags.length === 0 ? undefined : of?.tags;
  const offered = tags.filter((t) => zoneTags?.includes(t.id) ?? true);
  // Several tags come from a file: they are one choice of their own.
  const several = things.tags && things.tags.length > 1 ? things.tags.join() : null;
  const value = things.other ?? several ?? things.tags?.[0] ?? '';
  const name = (id: string) => s.store.get('tags', id)?.name ?? '';
  return (
    <Pick
      label={props.label}
      value={value}
      options={[
        ['', props.any],
        ...(several !== null ? [[several, things.tags?.map(name).join(' or ') ?? ''] as Option] : []),
        { group: 'What has the tag', options: offered.map((t): Option => [t.id, t.name]) },
        {
          group: 'This alone',
          options: props.single ? noticeable(s.store, zone).map((o): Option => [o.id, o.name]) : [],
        },
      ]}
      onChange={(v) => {
        if (v === several) return;
        if (s.store.has('tags', v)) onChange({ tags: [v] });
        else onChange(v === '' ? {} : { other: v });
      }}
    />
  );
}
