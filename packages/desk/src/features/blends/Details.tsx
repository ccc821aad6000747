import type { Lane, Machine } from '@apple-tick/core/model';
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
      {rows.map((r, i) => {
        const name = clips.find((c) => c.id === r.clip)?.name ?? 'a clip';
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: one clip may stand there twice
          <fieldset key={i} className="flex items-center gap-1" aria-label={`Blended ${name}`}>
            <Pick
              label="Blended clip"
              value={r.clip}
              options={clips.map((c): Option => [c.id, c.name])}
              onChange={(clip) => change(i, { clip })}
            />
            {'at' in r && (
              <NumberField label="Its place" axis="at" value={r.at} onChange={(at) => change(i, { at })} />
            )}
            {'amount' in r && typeof r.amount === 'number' && (
              <NumberField
                label="Per cent of it"
                unit="%"
                step={10}
                value={Math.round(r.amount * 1000) / 10}
                onChange={(n) => change(i, { amount: Math.max(0, Math.min(1, n / 100)) })}
              />
            )}
            {'amount' in r && signals.length > 0 && (
              <Pick
                label="Where its amount comes from"
                value={typeof r.amount === 'number' ? '' : r.amount.signal}
                options={[['', 'always'], { group: 'Signals', options: signals }]}
                onChange={(v) => change(i, { amount: v === '' ? 1 : { signal: v } })}
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
            {rows.length > 1 && (
              <button
                type="button"
                aria-label={`Blend ${name} no more`}
                onClick={() => put((list) => list.filter((_, k) => k !== i))}
              >
                <X size={13} />
              </button>
            )}
          </fieldset>
        );
      })}
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
