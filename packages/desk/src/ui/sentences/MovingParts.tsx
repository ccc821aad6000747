/** What tweens and motors say besides what they are about. */
import { type Action, propertyUnit, type Value } from '@apple-tick/core/model';
import { X } from 'lucide-react';
import { useSession } from '../../session/hooks.ts';
import { isNumeric, kindOfProperty } from '../../session/parts.ts';
import { valueWords } from '../../session/words.ts';
import { ColorField } from '../ColorField.tsx';
import { NumberField, type Option, Pick, TextField } from '../fields.tsx';
import { Timing } from './Timing.tsx';
import { ValueField } from './ValueField.tsx';

type Tween = Action & { do: 'tween' };
type Mode = 'to' | 'by' | 'toBase';

/** Where it leads, in how long, and how. */
export function TweenParts({ a, onChange }: { a: Tween; onChange: (a: Action) => void }) {
  const s = useSession();
  const kind = kindOfProperty(s.store, a.object, a.property ?? '');
  const isNumber = isNumeric(kind);
  const mode: Mode = a.to !== undefined ? 'to' : a.by !== undefined ? 'by' : 'toBase';
  const goal = a.to ?? a.by ?? a.toBase ?? 0;
  const set = (m: Mode, value: Value) => {
    const { to: _, by: _b, toBase: _c, ...rest } = a;
    onChange({ ...rest, [m]: m === 'toBase' ? Number(value) : value } as Action);
  };
  return (
    <>
      {a.properties ? (
        <span className="text-ink-2">{a.properties.length} properties</span>
      ) : (
        <>
          <Pick
            label="How far"
            value={mode}
            options={[
              ['to', 'to'],
              ...(isNumber ? [['by', 'by'] as const] : []),
              ['toBase', isNumber ? 'to its base and' : 'to its base'],
            ]}
            onChange={(m) => set(m as Mode, m === 'to' ? startOf(kind) : 0)}
          />
          {isNumber && mode !== 'toBase' ? (
            <ValueField
              label="How much"
              unit={propertyUnit(a.property ?? '')}
              value={goal}
              onChange={(v) => set(mode, v)}
            />
          ) : typeof goal === 'object' ? (
            <span className="text-ink-2">{valueWords(s.store, goal)}</span>
          ) : isNumber ? (
            <span className="flex w-14">
              <NumberField label="How much" value={Number(goal)} onChange={(n) => set(mode, n)} />
            </span>
          ) : mode === 'toBase' ? null : kind === 'color' ? (
            <ColorField
              label="Colour"
              step="Changed an action"
              value={String(goal)}
              onChange={(c) => set('to', c)}
            />
          ) : kind === 'switch' ? (
            <Pick
              label="Value"
              value={goal === true ? 'on' : 'off'}
              options={[
                ['on', 'on'],
                ['off', 'off'],
              ]}
              onChange={(v) => set('to', v === 'on')}
            />
          ) : (
            <TextField label="Words" value={String(goal)} onChange={(t) => set('to', t)} />
          )}
        </>
      )}
      <span className="comma">, in</span>
      <Timing
        labels={['Seconds of the tween', 'Easing of the tween']}
        seconds={a.seconds}
        easing={a.easing}
        onChange={(part) => onChange({ ...a, ...part })}
      />
    </>
  );
}

/** About which axis it turns, in how long, and how. */
export function FaceParts({ a, onChange }: { a: Action & { do: 'face' }; onChange: (a: Action) => void }) {
  const { axis = 'y' } = a;
  return (
    <>
      <Pick
        label="About"
        value={axis}
        options={(['x', 'y', 'z'] as const).map((x): Option => [x, `about ${x}`])}
        onChange={(x) => onChange({ ...a, axis: x as typeof axis })}
      />
      <span className="comma">, in</span>
      <Timing
        labels={['Seconds of the turn', 'Easing of the turn']}
        seconds={a.seconds}
        easing={a.easing}
        onChange={(part) => onChange({ ...a, ...part })}
      />
    </>
  );
}

/** What a goal of this kind is at first. */
function startOf(kind: string | undefined): Value {
  return kind === 'color' ? '#7fa982' : kind === 'switch' ? true : kind === 'text' ? '' : 0;
}

/** How fast, how it gains speed, and its limit. */
export function MotorParts({ a, onChange }: { a: Action & { do: 'motor' }; onChange: (a: Action) => void }) {
  const number = (label: string, axis: string, value: Value | undefined, put: (v: Value) => void) => (
    <ValueField label={label} value={value ?? 0} onChange={put}>
      {typeof value === 'object' ? undefined : (
        <span className="flex w-24">
          <NumberField
            label={label}
            axis={axis}
            unit={propertyUnit(a.property)}
            value={Number(value ?? 0)}
            onChange={put}
          />
        </span>
      )}
    </ValueField>
  );
  const part = (name: 'acceleration' | 'limit', v: Value) => {
    const { [name]: _, ...rest } = a;
    onChange((v === 0 ? rest : { ...rest, [name]: v }) as Action);
  };
  return (
    <>
      {number('Rate, a second', 'at', a.rate, (rate) => onChange({ ...a, rate }))}
      <span>a second</span>
      {number('Gain of the rate, a second', 'gains', a.acceleration, (v) => part('acceleration', v))}
      {a.limit === undefined ? (
        <button
          type="button"
          className="text-ink-2"
          title="As fast as it gets"
          onClick={() => onChange({ ...a, limit: Math.max(1, Math.abs(Number(a.rate)) || 100) })}
        >
          + limit
        </button>
      ) : (
        <>
          {number('Limit of the rate', 'limit', a.limit, (v) =>
            onChange({ ...a, limit: typeof v === 'number' ? Math.abs(v) : v }),
          )}
          <button type="button" aria-label="Without a limit" onClick={() => part('limit', 0)}>
            <X size={13} />
          </button>
        </>
      )}
    </>
  );
}
