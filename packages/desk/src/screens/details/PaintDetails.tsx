import { BLENDS, type Blend, boundsOf, editDrawing, isSolid, type SceneObject } from '@apple-tick/core/model';
import { useSession } from '../../session/hooks.ts';
import { Pick, Row } from '../../ui/fields.tsx';
import { FILL_KINDS, FillFields } from './FillFields.tsx';
import { StrokeFields } from './StrokeDetails.tsx';
import { useStops } from './stops.ts';

/** Fill and stroke. `onFill` sets the colour as a property, which may be keyed; all else changes the base. */
export function PaintDetails({ object, onFill }: { object: SceneObject; onFill: (color: string) => void }) {
  const s = useSession();
  const stops = useStops(object, 'fill');
  const [a, b] = boundsOf(object);
  return (
    <>
      <FillFields
        label="Fill"
        step={`Coloured ${object.name}`}
        fill={object.base.fill}
        kinds={isSolid(object) ? [] : FILL_KINDS.map(([k]) => k)}
        box={[a[0], a[1], b[0], b[1]]}
        stops={stops}
        onColor={onFill}
        onFill={(to) =>
          s.edit(`Filled ${object.name}`, (e) =>
            e.update('objects', object.id, (o) =>
              editDrawing(o, (d) => ({ ...d, base: { ...d.base, fill: to } })),
            ),
          )
        }
      />
      {!isSolid(object) && <StrokeFields object={object} />}
    </>
  );
}

const BLEND_NAMES = [['', 'as it is'], ...BLENDS.map((b) => [b, b.replace('-', ' ')] as const)] as const;

/** How an object, with what lies below it, is mixed with what it is painted on. */
export function BlendField({ object }: { object: SceneObject }) {
  const s = useSession();
  return (
    <Row title="Blend">
      <Pick
        label="Blend"
        value={object.blend ?? ''}
        options={BLEND_NAMES}
        onChange={(to) =>
          s.edit(`Blended ${object.name}`, (e) =>
            e.update('objects', object.id, (o) => {
              const { blend: _, ...plain } = o;
              return (to === '' ? plain : { ...plain, blend: to as Blend }) as SceneObject;
            }),
          )
        }
      />
    </Row>
  );
}
