import { editDrawing, type KindOf, type SceneObject } from '@apple-tick/core/model';
import { useEffect, useState } from 'react';
import { useSession } from '../../session/hooks.ts';
import { NumberField, Pick, Row } from '../../ui/fields.tsx';

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
  if (object.kind === 'text') return <Words object={object} onChange={change} />;
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

function Words({ object, onChange }: { object: KindOf<'text'>; onChange: (part: object) => void }) {
  const [text, setText] = useState(object.text);
  useEffect(() => setText(object.text), [object.text]);
  return (
    <>
      <textarea
        aria-label="Text"
        className="field w-full"
        rows={Math.min(6, Math.max(2, text.split('\n').length))}
        value={text}
        data-clean={text === object.text}
        onChange={(e) => setText(e.target.value)}
        onBlur={() => text !== object.text && onChange({ text })}
      />
      <Row title="Font">
        <Pick
          label="Font"
          value={object.font}
          options={[
            ['serif', 'Fraunces'],
            ['sans', 'Public Sans'],
            ['mono', 'Plex Mono'],
          ]}
          onChange={(font) => onChange({ font })}
        />
        <NumberField
          label="Font size"
          axis="px"
          value={object.size}
          onChange={(n) => onChange({ size: Math.max(1, Math.min(2000, n)) })}
        />
      </Row>
      <Row title="Weight">
        <NumberField
          label="Weight"
          step={100}
          value={object.weight}
          onChange={(n) => onChange({ weight: Math.max(100, Math.min(900, n)) })}
        />
        <Pick
          label="Alignment"
          value={object.align}
          options={[
            ['left', 'left'],
            ['center', 'centred'],
            ['right', 'right'],
          ]}
          onChange={(align) => onChange({ align })}
        />
      </Row>
    </>
  );
}
