import {
  type Clip,
  type Easing,
  type Key,
  type KeyId,
  keyFinder,
  keysTrack,
  type Track,
} from '@apple-tick/core/model';
import { useSession } from '../../session/hooks.ts';
import { changeChosen, easeChosen, kindOf, reverseChosen } from '../../session/motion/keys.ts';
import { setOffset } from '../../session/things/properties.ts';
import { labelOf, nameOf } from '../../session/words/words.ts';
import { ColorField } from '../../ui/ColorField.tsx';
import { EasingPicker } from '../../ui/EasingPicker.tsx';
import { arithmetic, Heading, NumberField, Pick, Row, SecondsField, TextField } from '../../ui/fields.tsx';

/** One key or many: what is set here is set for all of them, as one step. */
export function KeyDetails({ clip, keys }: { clip: Clip; keys: readonly KeyId[] }) {
  const s = useSession();
  const isChosen = keyFinder(keys);
  const chosen = clip.tracks.flatMap((track) => {
    const has = isChosen(track);
    if (!has) return [];
    return track.keys.flatMap((key, n) =>
      has(key.t) ? [{ track, key, hasSegment: n + 1 < track.keys.length }] : [],
    );
  });
  const [one] = chosen;
  if (!one) return null;
  const rows = new Set(chosen.map((c) => keysTrack(c.track)));
  const kind = kindOf(one.track);
  const sameKind = chosen.every((c) => kindOf(c.track) === kind);
  const eased = chosen.filter((c) => c.hasSegment && isMixed(c.track));
  const easing = eased[0]?.key.easing;
  const isSame = (f: (k: Key) => unknown) =>
    chosen.every((c) => JSON.stringify(f(c.key)) === JSON.stringify(f(one.key)));
  const set = (value: Key['value']) => changeChosen(s, 'Changed', (k) => ({ ...k, value }));
  const last = Math.max(...keys.map((k) => k.t));
  return (
    <div className="p-3.5 space-y-2">
      <Heading
        label=""
        name={
          rows.size === 1
            ? `${nameOf(s.store, one.track.object)} · ${labelOf(s.store, one.track.property)}`
            : `${chosen.length} keys of ${rows.size} rows`
        }
        kind={chosen.length === 1 ? 'key' : `${chosen.length} keys`}
      />
      {chosen.length === 1 ? (
        <Row title="Time s">
          <SecondsField
            label="Time of the key"
            step={1 / s.store.head.fps}
            value={one.key.t}
            onChange={(t) => changeChosen(s, 'Moved', (k) => ({ ...k, t }))}
          />
        </Row>
      ) : (
        <p className="num text-ink-2 text-[11.5px]">
          {Math.min(...keys.map((k) => k.t)).toFixed(2)} s to {last.toFixed(2)} s
        </p>
      )}
      {sameKind && (
        <Row title="Value">
          <ValueField chosen={chosen} mixed={!isSame((k) => k.value)} onChange={set} />
        </Row>
      )}
      {rows.size === 1 && <OfTrack clip={clip.id} track={one.track} kind={kind} />}
      {eased.length > 0 && (
        <>
          <h3 className="text-[13px]">
            {chosen.length === 1 ? 'Easing to the next key' : `Easing of ${eased.length} segments`}
          </h3>
          <EasingPicker
            value={easing !== undefined && sameEasing(eased.map((c) => c.key.easing)) ? easing : null}
            onChange={(e, words) => easeChosen(s, words, e)}
          />
        </>
      )}
      <div className="flex gap-1.5 flex-wrap">
        {chosen.length > 1 && (
          <button type="button" className="btn" onClick={() => reverseChosen(s)}>
            Reverse
          </button>
        )}
        <button type="button" className="btn" onClick={() => s.set({ playhead: one.key.t })}>
          Playhead here
        </button>
      </div>
    </div>
  );
}

/** Whether the values between two keys are mixed: switches and looks change at their keys. */
const isMixed = (t: Track) => {
  const kind = kindOf(t);
  return kind !== 'switch' && kind !== 'look' && kind !== 'text';
};

function sameEasing(list: readonly Easing[]): boolean {
  const first = JSON.stringify(list[0]);
  return list.every((e) => e === list[0] || JSON.stringify(e) === first);
}

function ValueField(props: {
  chosen: readonly { track: Track; key: Key }[];
  mixed: boolean;
  onChange: (value: Key['value']) => void;
}) {
  const { chosen, mixed, onChange } = props;
  const s = useSession();
  const [{ track, key }] = chosen as [{ track: Track; key: Key }];
  const kind = kindOf(track);
  const label = 'Value of the key';
  switch (kind) {
    case 'switch':
      return (
        <Pick
          label={label}
          value={mixed ? '' : key.value ? 'on' : 'off'}
          options={[...(mixed ? [['', '–'] as const] : []), ['on', 'on'], ['off', 'off']]}
          onChange={(v) => v !== '' && onChange(v === 'on')}
        />
      );
    case 'color':
      return (
        <ColorField
          label={label}
          step={chosen.length === 1 ? 'Changed a key' : `Changed ${chosen.length} keys`}
          value={String(key.value)}
          onChange={onChange}
        />
      );
    case 'text':
      return (
        <TextField label={label} most={5000} value={mixed ? '' : String(key.value)} onChange={onChange} />
      );
    case 'look': {
      const looks = s.store.get('objects', track.object)?.looks ?? [];
      return (
        <Pick
          label={label}
          value={mixed ? '-' : String(key.value)}
          options={[
            ...(mixed ? [['-', '–'] as const] : []),
            ['', 'own'],
            ...looks.map((l) => [l.id, l.name] as const),
          ]}
          onChange={(v) => v !== '-' && onChange(v)}
        />
      );
    }
    default: {
      const isAmount = kind === 'amount' && track.mode === 'absolute';
      const bounded = (n: number) => (isAmount ? Math.max(0, Math.min(1, n)) : n);
      const value = Number(key.value);
      const step = kind === 'amount' ? 0.05 : 1;
      if (!mixed)
        return <NumberField label={label} value={value} step={step} onChange={(n) => onChange(bounded(n))} />;
      // "+15" adds to each; a plain number is all of them.
      return (
        <NumberField
          label={label}
          value={value}
          mixed
          onText={(text) =>
            changeChosen(s, 'Changed', (k) => {
              const n = typeof k.value === 'number' ? arithmetic(text, k.value) : null;
              return n === null ? k : { ...k, value: bounded(n) };
            })
          }
        />
      );
    }
  }
}

/** How the whole row takes its numbers. */
function OfTrack({ clip, track, kind }: { clip: string; track: Track; kind: ReturnType<typeof kindOf> }) {
  const s = useSession();
  const setShortest = (shortest: boolean) =>
    s.edit(shortest ? 'Turns the shorter way' : 'Turns as its numbers say', (e) =>
      e.update('clips', clip, (c) => ({
        ...c,
        tracks: c.tracks.map((t) => {
          if (keysTrack(t) !== keysTrack(track)) return t;
          const { shortest: _, ...rest } = t;
          return shortest ? { ...rest, shortest } : rest;
        }),
      })),
    );
  return (
    <>
      {kind === 'angle' && (
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={track.shortest ?? false}
            onChange={(e) => setShortest(e.target.checked)}
          />
          turns the shorter way
        </label>
      )}
      {(kind === 'number' || kind === 'angle' || kind === 'amount') && (
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={track.mode === 'offset'}
            onChange={(e) => setOffset(s, clip, track, e.target.checked)}
          />
          counts from wherever it is, and what it gains stays
        </label>
      )}
    </>
  );
}
