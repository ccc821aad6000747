import { type Action, propertyUnit, type Value } from '@apple-tick/core/model';
import { X } from 'lucide-react';
import type { OwnParts } from '../../sentences/own.ts';
import { ValueField } from '../../sentences/ValueField.tsx';
import { NumberField } from '../../ui/fields.tsx';

/** How fast, how it gains speed, and its limit. */
function MotorParts({ a, onChange }: { a: Action & { do: 'motor' }; onChange: (a: Action) => void }) {
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

/** The actions whose fields are edited here. */
export const own = {
  motor: { fields: ['rate', 'acceleration', 'limit'], Parts: MotorParts },
} satisfies OwnParts;
