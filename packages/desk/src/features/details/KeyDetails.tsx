import { easeAt } from '@apple-tick/core/anim';
import {
  type Clip,
  EASING_PRESETS,
  type Easing,
  type EasingPreset,
  type Key,
  presetOf,
  propertyInfo,
} from '@apple-tick/core/model';
import { useSession } from '../../session/hooks.ts';
import { nameOf } from '../../session/words.ts';
import { ColorField } from '../../ui/ColorField.tsx';
import { Heading, NumberField, Pick, Row, SecondsField } from '../../ui/fields.tsx';

export function KeyDetails(props: { clip: Clip; track: number; index: number }) {
  const { clip, index } = props;
  const s = useSession();
  const track = clip.tracks[props.track];
  const key = track?.keys[index];
  if (!track || !key) return null;
  const info = propertyInfo(track.property);
  const change = (name: string, part: Partial<Key>) =>
    s.edit(name, (e) =>
      e.update('clips', clip.id, (c) => ({
        ...c,
        tracks: c.tracks.map((t, i) =>
          i === props.track ? { ...t, keys: t.keys.map((k, n) => (n === index ? { ...k, ...part } : k)) } : t,
        ),
      })),
    );
  const before = track.keys[index - 1]?.t ?? -0.001;
  const after = track.keys[index + 1]?.t ?? 1e9;
  const choices: [string, Easing][] = [
    ['hold', 'hold'],
    ['linear', 'linear'],
    ...(Object.keys(EASING_PRESETS) as EasingPreset[]).map((n): [string, Easing] => [
      n,
      { bezier: [...EASING_PRESETS[n]] },
    ]),
  ];
  const now = typeof key.easing === 'string' ? key.easing : presetOf(key.easing);
  return (
    <div className="p-3.5 space-y-3">
      <Heading label="" name={`${nameOf(s.store, track.object)} · ${info?.label}`} kind="key" />
      <Row title="Time s">
        <SecondsField
          label="Time of the key"
          step={1 / 60}
          value={key.t}
          onChange={(t) => {
            if (!(t > before && t < after && t >= 0)) return;
            change('Moved a key', { t });
            s.select({ kind: 'key', clip: clip.id, object: track.object, property: track.property, t });
          }}
        />
      </Row>
      {typeof key.value === 'number' && (
        <Row title="Value">
          <NumberField
            label="Value of the key"
            value={key.value}
            onChange={(value) => change('Changed a key', { value })}
          />
        </Row>
      )}
      {typeof key.value === 'boolean' && (
        <Row title="Value">
          <Pick
            label="Value of the key"
            value={key.value ? 'on' : 'off'}
            options={[
              ['on', 'on'],
              ['off', 'off'],
            ]}
            onChange={(v) => change('Changed a key', { value: v === 'on' })}
          />
        </Row>
      )}
      {info?.kind === 'color' && (
        <Row title="Value">
          <ColorField
            label="Value of the key"
            step="Changed a key"
            value={String(key.value)}
            onChange={(value) => change('Changed a key', { value })}
          />
        </Row>
      )}
      <h3 className="text-[13px]">Easing to the next key</h3>
      <div className="grid grid-cols-2 gap-1.5">
        {choices.map(([name, easing]) => (
          <button
            key={name}
            type="button"
            aria-pressed={name === now}
            className={`border rounded-md p-1 flex items-center gap-1.5 text-left ${name === now ? 'border-brass bg-chosen' : 'border-line bg-card'}`}
            onClick={() => change(`Eased: ${name}`, { easing })}
          >
            <svg width="34" height="26" viewBox="-2 -8 44 40" aria-hidden="true" className="flex-none">
              <path d={curve(easing)} fill="none" stroke="var(--ink)" strokeWidth="2" />
            </svg>
            <span className="text-[11.5px] leading-tight">{name.replaceAll('-', ' ')}</span>
          </button>
        ))}
      </div>
    </div>
  );
}

function curve(e: Easing): string {
  if (e === 'hold') return 'M0 24H40V0';
  return Array.from(
    { length: 21 },
    (_, i) => `${i === 0 ? 'M' : 'L'}${i * 2} ${24 - 24 * easeAt(e, i / 20)}`,
  ).join('');
}
