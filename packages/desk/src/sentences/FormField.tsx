import type { AnySchema } from '@apple-tick/core/grammar';
import { NumberField, type Option, Pick, TextField } from '../ui/fields.tsx';

/** The editor that a plain form has by itself. */
export function FormField(props: {
  label: string;
  form: AnySchema;
  value: unknown;
  onChange: (value: unknown) => void;
}) {
  const { label, form, value, onChange } = props;
  switch (form.is) {
    case 'number':
      return (
        <NumberField
          label={label}
          value={Number(value)}
          least={form.min ?? form.above ?? -1e6}
          most={form.max ?? 1e6}
          onChange={(n) => onChange(form.whole ? Math.round(n) : n)}
        />
      );
    case 'switch':
      return (
        <Pick
          label={label}
          value={value === true ? 'yes' : 'no'}
          options={[
            ['yes', 'yes'],
            ['no', 'no'],
          ]}
          onChange={(v) => onChange(v === 'yes')}
        />
      );
    case 'one of':
      return (
        <Pick
          label={label}
          value={String(value)}
          options={form.values.map((v): Option => [String(v), String(v)])}
          onChange={(v) => onChange(form.values.find((x) => String(x) === v))}
        />
      );
    case 'text':
      return (
        <TextField label={label} value={String(value ?? '')} most={form.max ?? 500} onChange={onChange} />
      );
    default:
      return null;
  }
}
