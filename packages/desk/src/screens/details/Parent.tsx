import { type SceneObject, subtreeOf } from '@apple-tick/core/model';
import { useIdleTable, useSession } from '../../session/hooks.ts';
import { moveInTree } from '../../session/things/arrange.ts';
import { type Option, Pick, Row } from '../../ui/fields.tsx';

const MIXED = '(mixed)';

/** What the objects move with. Another parent leaves them where they are on the screen. */
export function Parent({ objects }: { objects: readonly SceneObject[] }) {
  const s = useSession();
  const all = useIdleTable('objects');
  const below = new Set(objects.flatMap((o) => [...subtreeOf(s.store, o.id)]));
  const parents = new Set(objects.map((o) => o.parent));
  const mixed = parents.size > 1;
  const [now = null] = parents;
  return (
    <Row title="Parent">
      <Pick
        label="Parent"
        value={mixed ? MIXED : (now ?? '')}
        options={[
          ...(mixed ? [[MIXED, 'several'] as Option] : []),
          ['', 'nothing'],
          ...all.filter((o) => !below.has(o.id)).map((o): Option => [o.id, o.name]),
        ]}
        onChange={(v) =>
          v !== MIXED &&
          moveInTree(
            s,
            objects.map((o) => o.id),
            v === '' ? null : v,
            null,
          )
        }
      />
    </Row>
  );
}
