/** What is followed, and how: a sentence whose words are picked from lists. */
import type { Follow } from '@apple-tick/core/model';
import { useHead, useIdleTable, useSession, useTable } from '../../session/hooks.ts';
import { NumberField, type Option, Pick, SecondsField } from '../../ui/fields.tsx';
import { kindOf, type Source, type SourceKind, sourceOf, withSource } from './edit.ts';

const KINDS: readonly Option[] = [
  ['pointer', 'the pointer'],
  ['drag', 'the dragging of'],
  ['distance', 'the distance'],
  ['signal', 'the signal'],
];
const AXES: readonly Option[] = [
  ['x', 'along x'],
  ['y', 'along y'],
  ['z', 'along z'],
];

/** Kinds of sources; `more`: what else there is to go by, first in the list. */
export function SourceKindPick(props: {
  value: string;
  more?: readonly Option[] | undefined;
  onKind: (kind: string) => void;
}) {
  return (
    <Pick
      label="What it follows"
      value={props.value}
      options={[...(props.more ?? []), ...KINDS]}
      onChange={props.onKind}
    />
  );
}

/** The words of a source, its ranges and how softly it is followed. `owner` is what new sources are about. */
export function FollowParts(props: {
  follow: Follow;
  owner: string;
  onChange: (f: Follow) => void;
  /** What else there is to go by, and who hears when that is picked. */
  more?: readonly Option[];
  onMore?: (picked: string) => void;
}) {
  const { follow: f, owner, onChange } = props;
  const s = useSession();
  const { from, to } = f;
  const unit = 'lane' in f.target ? 's' : '';
  return (
    <>
      <SourceKindPick
        value={kindOf(f.source)}
        more={props.more}
        onKind={(kind) => {
          if (props.more?.some(([v]) => v === kind)) props.onMore?.(kind);
          else
            s.step('Changed what is followed', () =>
              onChange(withSource(s.store, f, sourceOf(s, kind as SourceKind, owner))),
            );
        }}
      />
      <SourcePart source={f.source} onChange={(source) => onChange(withSource(s.store, f, source))} />
      {from && to && (
        <>
          <Ends label="From" words="from" value={from} onChange={(v) => onChange({ ...f, from: v })} />
          <Ends label="To" words="gives" value={to} unit={unit} onChange={(v) => onChange({ ...f, to: v })} />
        </>
      )}
      <span className="flex items-center gap-1">
        softly over
        <span className="flex">
          <SecondsField
            label="Seconds of smoothing"
            unit="s"
            least={0}
            step={0.05}
            value={f.smooth}
            onChange={(smooth) => onChange({ ...f, smooth })}
          />
        </span>
      </span>
      {from && to && (
        <label className="flex items-center gap-1.5">
          <input
            type="checkbox"
            checked={f.clamp}
            onChange={(e) => onChange({ ...f, clamp: e.target.checked })}
          />
          stays between
        </label>
      )}
    </>
  );
}

/** The two ends of a range. */
function Ends(props: {
  label: string;
  words: string;
  value: readonly [number, number];
  unit?: string;
  onChange: (v: [number, number]) => void;
}) {
  const { label, words, value, unit, onChange } = props;
  const field = (k: 0 | 1) => (
    <span className="flex">
      <NumberField
        label={`${label} ${k === 0 ? 'first' : 'last'}`}
        {...(unit ? { unit } : {})}
        step={unit === 's' ? 0.1 : 1}
        value={value[k]}
        onChange={(n) => onChange(k === 0 ? [n, value[1]] : [value[0], n])}
      />
    </span>
  );
  return (
    <span className="flex items-center gap-1">
      {words} {field(0)} to {field(1)}
    </span>
  );
}

function SourcePart({ source, onChange }: { source: Source; onChange: (s: Source) => void }) {
  const objects = useIdleTable('objects').map((o): Option => [o.id, o.name]);
  const { visitor } = useHead();
  const signals = useTable('signals').filter((x) => x.type !== 'pulse');
  if ('signal' in source)
    return (
      <Pick
        label="Signal"
        value={source.signal}
        options={signals.map((x): Option => [x.id, x.name])}
        onChange={(signal) => onChange({ signal })}
      />
    );
  if ('pointer' in source)
    return (
      <>
        <Pick
          label="Which way"
          value={source.pointer}
          options={[
            ['x', 'across'],
            ['y', 'up and down'],
          ]}
          onChange={(x) => onChange({ ...source, pointer: x as 'x' })}
        />
        <Pick
          label="Seen from"
          value={source.object ?? ''}
          options={[['', 'in the frame'], { group: 'Seen from', options: objects }]}
          onChange={(id) => onChange({ pointer: source.pointer, ...(id === '' ? {} : { object: id }) })}
        />
      </>
    );
  if ('drag' in source)
    return (
      <>
        <Pick
          label="What is dragged"
          value={source.drag}
          options={objects}
          onChange={(drag) => onChange({ ...source, drag })}
        />
        <Pick
          label="Axis"
          value={source.axis}
          options={AXES}
          onChange={(axis) => onChange({ ...source, axis: axis as 'x' })}
        />
      </>
    );
  const end = (k: 0 | 1) => (
    <Pick
      label={k === 0 ? 'From' : 'To'}
      value={source.distance[k]}
      options={[
        ['pointer', 'the pointer'],
        ...(visitor || source.distance.includes('visitor') ? [['visitor', 'the visitor'] as Option] : []),
        ...objects,
      ]}
      onChange={(id) => onChange({ distance: k === 0 ? [id, source.distance[1]] : [source.distance[0], id] })}
    />
  );
  return (
    <>
      from {end(0)} to {end(1)}
    </>
  );
}
