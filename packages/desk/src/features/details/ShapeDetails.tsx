import { editDrawing, type KindOf, type SceneObject } from '@apple-tick/core/model';
import { useSession } from '../../session/hooks.ts';
import { NumberField, Row } from '../../ui/fields.tsx';

/** What only this kind of object has: the radius of its corners, how many sides, whether it is a star. */
export function ShapeDetails({ object }: { object: SceneObject }) {
  const s = useSession();
  const change = (part: object) =>
    s.edit(`Changed ${object.name}`, (e) =>
      e.update('objects', object.id, (o) => editDrawing(o, (d) => ({ ...d, ...part }) as SceneObject)),
    );
  if (object.kind === 'rect')
    return (
      <Row title="Corners">
        <NumberField
          label="Radius of the corners"
          axis="r"
          value={object.radius}
          onChange={(n) => change({ radius: Math.max(0, n) })}
        />
      </Row>
    );
  if (object.kind === 'polygon' && object.sides !== undefined)
    return <Sides object={object} onChange={change} />;
  if (object.kind === 'path' || object.kind === 'prism')
    return (
      <p className="text-ink-2">
        {object.subpaths.reduce((n, p) => n + p.nodes.length, 0)} points
        {object.subpaths.length > 1 ? ` in ${object.subpaths.length} outlines` : ''}
      </p>
    );
  return null;
}

function Sides({ object, onChange }: { object: KindOf<'polygon'>; onChange: (part: object) => void }) {
  const s = useSession();
  const star = object.star !== undefined;
  return (
    <>
      <Row title={star ? 'Tips' : 'Sides'}>
        <NumberField
          label="Sides"
          value={object.sides ?? 3}
          onChange={(n) => onChange({ sides: Math.max(3, Math.min(200, Math.round(n))) })}
        />
        {star && (
          <NumberField
            label="Inner corners"
            axis="inner"
            step={0.05}
            value={object.star ?? 1}
            onChange={(n) => onChange({ star: Math.max(0.02, Math.min(1, n)) })}
          />
        )}
      </Row>
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          checked={star}
          onChange={(e) => {
            if (e.target.checked) onChange({ star: 0.5 });
            else
              s.edit(`Changed ${object.name}`, (ed) =>
                ed.update('objects', object.id, (o) =>
                  editDrawing(o, (d) => {
                    const { star: _, ...plain } = d as KindOf<'polygon'>;
                    return plain;
                  }),
                ),
              );
          }}
        />
        a star
      </label>
    </>
  );
}
