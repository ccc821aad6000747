import { editDrawing, type KindOf, type SceneObject } from '@apple-tick/core/model';
import { useState } from 'react';
import { useSession } from '../../session/hooks.ts';
import { NumberField, Pick, Row } from '../../ui/fields.tsx';
import { useDraft } from '../../ui/use-draft.ts';
import { CutDialog } from './CutDialog.tsx';

/** What only this kind of object has: the radius of its corners, how many sides, whether it is a star. */
export function ShapeDetails(props: {
  object: SceneObject;
  /** The words that stand there now, where they are keyed; and what takes others as a key. */
  words: string | null;
  onWords: ((text: string) => void) | null;
}) {
  const { object } = props;
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
  if (object.kind === 'image') return <Picture object={object} onChange={change} />;
  if (object.kind === 'text')
    return (
      <Words object={object} words={props.words ?? object.text} onWords={props.onWords} onChange={change} />
    );
  if (object.kind === 'polygon' && object.sides !== undefined)
    return <Sides object={object} onChange={change} />;
  if (object.kind === 'mesh') {
    const asset = s.store.get('assets', object.asset);
    if (asset?.kind !== 'mesh') return null;
    return <p className="text-ink-2">{asset.triangles.length / 3} triangles, brought in</p>;
  }
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

function Words(props: {
  object: KindOf<'text'>;
  words: string;
  onWords: ((text: string) => void) | null;
  onChange: (part: object) => void;
}) {
  const { object, onChange } = props;
  const words = useDraft(props.words, props.onWords ?? ((text) => onChange({ text })));
  return (
    <>
      <textarea
        aria-label="Text"
        maxLength={5000}
        className="field w-full"
        rows={Math.min(6, Math.max(2, words.text.split('\n').length))}
        value={words.text}
        data-clean={words.clean}
        onChange={(e) => words.type(e.target.value)}
        onBlur={words.settle}
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
          unit="px"
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
      <Row title="Letters">
        <NumberField
          label="Between letters"
          axis="apart"
          unit="px"
          value={object.spacing ?? 0}
          least={-1000}
          most={1000}
          onChange={(spacing) => onChange({ spacing })}
        />
        <label className="flex items-center gap-1.5">
          <input
            type="checkbox"
            checked={object.italic ?? false}
            onChange={(e) => onChange({ italic: e.target.checked })}
          />
          slanted
        </label>
      </Row>
      <Row title="Line">
        <Pick
          label="Line at the letters"
          value={object.decoration ?? ''}
          options={[
            ['', 'none'],
            ['underline', 'under them'],
            ['line-through', 'through them'],
          ]}
          onChange={(to) => onChange({ decoration: to === '' ? undefined : to })}
        />
      </Row>
    </>
  );
}

function Picture({ object, onChange }: { object: KindOf<'image'>; onChange: (part: object) => void }) {
  const s = useSession();
  const [cutting, setCutting] = useState(false);
  const asset = s.store.get('assets', object.asset);
  if (asset?.kind !== 'image') return null;
  const cut = object.cut ?? [0, 0, asset.width, asset.height];
  const limits = [
    asset.width - 1,
    asset.height - 1,
    asset.width - (cut[0] ?? 0),
    asset.height - (cut[1] ?? 0),
  ];
  return (
    <>
      <p className="text-ink-2">
        {asset.name}: {asset.width} × {asset.height} px
      </p>
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          checked={object.pixel}
          onChange={(e) => onChange({ pixel: e.target.checked })}
        />
        pixels as squares
      </label>
      {(
        [
          ['Part from', 0, 1],
          ['Part size', 2, 3],
        ] as const
      ).map(([title, a, b]) => (
        <Row key={title} title={title}>
          {[a, b].map((k) => (
            <NumberField
              key={k}
              axis={'xywh'[k] as string}
              label={`Part ${'xywh'[k]}`}
              value={cut[k] as number}
              onChange={(n) => {
                const least = k < 2 ? 0 : 1;
                const to = Math.max(least, Math.min(limits[k] as number, n));
                const next = cut.map((v, i) => (i === k ? to : v)) as [number, number, number, number];
                next[2] = Math.min(next[2], asset.width - next[0]);
                next[3] = Math.min(next[3], asset.height - next[1]);
                onChange({ cut: next });
              }}
            />
          ))}
        </Row>
      ))}
      <button type="button" className="btn" onClick={() => setCutting(true)}>
        Cut it into parts…
      </button>
      {cutting && <CutDialog object={object.id} onClose={() => setCutting(false)} />}
    </>
  );
}
