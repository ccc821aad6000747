import type { Clip, Lane, Machine } from '@apple-tick/core/model';
import { X } from 'lucide-react';
import { useSession, useTable } from '../../session/hooks.ts';
import { openClip } from '../../session/motion/clips.ts';
import { NumberField, type Option, Pick, Row } from '../../ui/fields.tsx';
import { type Blend, signalRange } from './edit.ts';

/** What a state blends: by a number each clip at its place, or each added by its amount. */
export function BlendDetails(props: {
  machine: Machine;
  lane: Lane;
  play: Blend;
  onChange: (play: Blend) => void;
}) {
  const { machine, play, onChange } = props;
  const s = useSession();
  const clips = useTable('clips').filter((c) => c.root === machine.object);
  const numbers = useTable('signals').filter((x) => x.type === 'number');
  const signals = numbers.map((x): Option => [x.id, x.name]);
  const range = 'range' in play ? play.range : null;
  const rows = range ? range.points : 'stack' in play ? play.stack : [];
  const put = (change: (list: { clip: string }[]) => { clip: string }[]) => {
    const list = change([...rows]);
    if (list.length === 0) return;
    onChange(
      range ? { range: { ...range, points: list as typeof range.points } } : ({ stack: list } as Blend),
    );
  };
  const change = (i: number, part: object) =>
    put((list) => list.map((x, k) => (k === i ? { ...x, ...part } : x)));
  const add = () => {
    const clip = (clips.find((c) => !rows.some((r) => r.clip === c.id)) ?? clips[0])?.id;
    if (clip === undefined) return;
    const [, high] = signalRange(s, range?.signal ?? '');
    put((list) => [...list, range ? { clip, at: high } : { clip, amount: 1 }]);
  };
  return (
    <div className="space-y-1.5">
      {range && (
        <Row title="By">
          <Pick
            label="Number that it blends by"
            value={range.signal}
            options={signals}
            onChange={(signal) => onChange({ range: { ...range, signal } })}
          />
        </Row>
      )}
      {rows.map((r, i) => (
        <Blended
          // biome-ignore lint/suspicious/noArrayIndexKey: one clip may stand there twice
          key={i}
          of={r}
          clips={clips}
          signals={signals}
          onChange={(part) => change(i, part)}
          onDelete={rows.length > 1 ? () => put((list) => list.filter((_, k) => k !== i)) : null}
        />
      ))}
      <button type="button" className="btn" disabled={clips.length === 0} onClick={add}>
        + clip
      </button>
      {range && (
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={range.phase === 'common'}
            onChange={(e) => onChange({ range: { ...range, phase: e.target.checked ? 'common' : 'own' } })}
          />
          all in step with each other
        </label>
      )}
    </div>
  );
}

type Point = Extract<Blend, { range: object }>['range']['points'][number];
type Added = Extract<Blend, { stack: object }>['stack'][number];

/** One of the clips: where it stands on the range, or how much of it is added. */
function Blended(props: {
  of: Point | Added;
  clips: readonly Clip[];
  signals: readonly Option[];
  onChange: (part: object) => void;
  onDelete: (() => void) | null;
}) {
  const { of: r, clips, signals, onChange, onDelete } = props;
  const s = useSession();
  const name = clips.find((c) => c.id === r.clip)?.name ?? 'a clip';
  return (
    <fieldset className="flex items-center gap-1" aria-label={`Blended ${name}`}>
      <Pick
        label="Blended clip"
        value={r.clip}
        options={clips.map((c): Option => [c.id, c.name])}
        onChange={(clip) => onChange({ clip })}
      />
      {'at' in r && (
        <NumberField label="Its place" axis="at" value={r.at} onChange={(at) => onChange({ at })} />
      )}
      {'amount' in r && typeof r.amount === 'number' && (
        <NumberField
          label="Per cent of it"
          unit="%"
          step={10}
          value={Math.round(r.amount * 1000) / 10}
          onChange={(n) => onChange({ amount: Math.max(0, Math.min(1, n / 100)) })}
        />
      )}
      {'amount' in r && signals.length > 0 && (
        <Pick
          label="Where its amount comes from"
          value={typeof r.amount === 'number' ? '' : r.amount.signal}
          options={[['', 'always'], { group: 'Signals', options: signals }]}
          onChange={(v) => onChange({ amount: v === '' ? 1 : { signal: v } })}
        />
      )}
      <button
        type="button"
        className="btn !px-1.5"
        title={`Unfold the timeline of ${name}`}
        onClick={() => {
          const clip = s.store.get('clips', r.clip);
          if (clip) openClip(s, clip);
        }}
      >
        open
      </button>
      {onDelete && (
        <button type="button" aria-label={`Blend ${name} no more`} onClick={onDelete}>
          <X size={13} />
        </button>
      )}
    </fieldset>
  );
}
