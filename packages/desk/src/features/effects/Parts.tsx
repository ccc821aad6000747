import type { Action } from '@apple-tick/core/model';
import type { OwnParts } from '../../sentences/own.ts';
import { useSession, useTable } from '../../session/hooks.ts';
import { nameOf } from '../../session/words/words.ts';
import { type Option, Pick } from '../../ui/fields.tsx';

/** Over the whole frame, or over one thing. */
function OverParts({
  a,
  thing,
  onChange,
}: {
  a: Action & { do: 'flash' | 'shake' };
  thing: boolean;
  onChange: (a: Action) => void;
}) {
  const s = useSession();
  const objects = useTable('objects');
  const { object, ...rest } = a;
  return (
    <Pick
      label="What it goes over"
      value={object ?? ''}
      options={[
        ['', 'the whole frame'],
        ...(thing || object === 'other' ? [['other', nameOf(s.store, 'other')] as Option] : []),
        { group: 'This with all below it', options: objects.map((o): Option => [o.id, o.name]) },
      ]}
      onChange={(id) => onChange((id === '' ? rest : { ...rest, object: id }) as Action)}
    />
  );
}

/** The actions whose fields are edited here. */
export const own = {
  flash: { fields: ['object'], Parts: OverParts },
  shake: { fields: ['object'], Parts: OverParts },
} satisfies OwnParts;
