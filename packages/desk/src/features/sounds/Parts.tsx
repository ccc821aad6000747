import type { Action } from '@apple-tick/core/model';
import type { OwnParts } from '../../sentences/own.ts';
import { NumberField } from '../../ui/fields.tsx';

/** How loud it is. */
function SoundParts({ a, onChange }: { a: Action & { do: 'sound' }; onChange: (a: Action) => void }) {
  const { volume, ...rest } = a;
  if (volume === undefined)
    return (
      <button type="button" className="quiet text-ink-2" onClick={() => onChange({ ...rest, volume: 0.5 })}>
        + volume
      </button>
    );
  return (
    <span className="flex w-24">
      <NumberField
        label="Volume, per cent"
        axis="at"
        unit="%"
        value={Math.round(volume * 100)}
        least={0}
        most={100}
        onChange={(n) => onChange(n >= 100 ? rest : { ...rest, volume: n / 100 })}
      />
    </span>
  );
}

/** The actions whose fields are edited here. */
export const own = {
  sound: { fields: ['volume'], Parts: SoundParts },
} satisfies OwnParts;
