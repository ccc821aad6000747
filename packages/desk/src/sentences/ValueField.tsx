import type { Signal, Value } from '@apple-tick/core/model';
import { X } from 'lucide-react';
import type { ReactNode } from 'react';
import { useSession, useTable } from '../session/hooks.ts';
import { valueWords } from '../session/words/words.ts';
import { NumberField, type Option, Pick } from '../ui/fields.tsx';

/** The ways in which a number comes about, as they are picked. */
const WAYS = {
  plain: 'a value',
  signal: 'a signal',
  mapped: 'a signal, mapped',
  sum: 'a sum',
  difference: 'a difference',
  product: 'a product',
  pick: 'one of',
} as const;
type Way = keyof typeof WAYS;

function wayOf(v: Value): Way {
  if (typeof v !== 'object') return 'plain';
  if ('signal' in v) return v.from ? 'mapped' : 'signal';
  return (['sum', 'difference', 'product', 'pick'] as const).find((k) => k in v) ?? 'plain';
}

/** The parts of a value that is worked out from several. */
function partsOf(v: Value): Value[] {
  if (typeof v !== 'object' || 'signal' in v) return [v];
  return Object.values(v)[0] as Value[];
}

/**
 * A number that is typed, a signal's, or worked out: from a signal by ranges, from several numbers, or drawn by chance.
 * `children`: the field for a plain one, where that is not a number or a number signal.
 */
export function ValueField(props: {
  label: string;
  /** After the number, where it is a plain one. */
  unit?: string;
  value: Value;
  onChange: (v: Value) => void;
  /** Nested deeper than this, parts are only read. */
  depth?: number;
  children?: ReactNode;
}) {
  const { label, value, onChange, depth = 0 } = props;
  const numbers = useTable('signals').filter((x) => x.type === 'number');
  const own = wayOf(value);
  // The field that is given knows signals by itself.
  const way = own === 'signal' && props.children ? 'plain' : own;
  const parts = partsOf(value);
  const to = (w: Way): Value => {
    const first = parts[0] ?? 0;
    const ranged = typeof first === 'object' && 'signal' in first ? first.signal : numbers[0]?.id;
    if (w === 'plain') return plain(first);
    if (w === 'signal') return ranged === undefined ? plain(first) : { signal: ranged };
    if (w === 'mapped')
      return ranged === undefined ? plain(first) : { signal: ranged, ...rangesOf(numbers, ranged) };
    const list = parts.length > 1 ? parts : [plain(first), w === 'product' ? 2 : w === 'pick' ? 0 : 1];
    return { [w]: list } as Value;
  };
  const ways = (Object.keys(WAYS) as Way[]).filter(
    (w) =>
      way === w || (w === 'mapped' || w === 'signal' ? numbers.length > 0 : depth === 0 || w === 'plain'),
  );
  return (
    <>
      {way === 'plain' &&
        (props.children ?? (
          <span className="flex w-12">
            <NumberField
              label={label}
              {...(props.unit ? { unit: props.unit } : {})}
              value={Number(value)}
              onChange={onChange}
            />
          </span>
        ))}
      {way === 'signal' && (
        <Pick
          label="Signal that gives it"
          value={(value as Ranged).signal}
          options={numbers.map((x): Option => [x.id, x.name])}
          onChange={(signal) => onChange({ signal })}
        />
      )}
      {depth < 2 && (
        <Pick
          label="Way of working it out"
          value={way}
          options={ways.map((w): Option => [w, w === 'plain' && way === 'plain' ? '…' : WAYS[w]])}
          onChange={(w) => w !== way && onChange(to(w as Way))}
        />
      )}
      {way === 'mapped' && <Mapped value={value as Ranged} numbers={numbers} onChange={onChange} />}
      {way in SIGNS && <Parts way={way} parts={parts} depth={depth} onChange={onChange} />}
    </>
  );
}

const SIGNS: Readonly<Record<string, string>> = { sum: '+', difference: '−', product: '×', pick: 'or' };

function plain(v: Value): Value {
  if (typeof v !== 'object') return v;
  return 'signal' in v ? 0 : plain(partsOf(v)[0] ?? 0);
}

type Ranged = Extract<Value, { signal: string }>;
type NumberSignal = Extract<Signal, { type: 'number' }>;

/** From the whole range of a signal to as many per cent. */
function rangesOf(numbers: readonly Signal[], id: string): { from: [number, number]; to: [number, number] } {
  const s = numbers.find((x) => x.id === id) as NumberSignal | undefined;
  return { from: [s?.min ?? 0, s?.max ?? 100], to: [0, 100] };
}

function Mapped(props: { value: Ranged; numbers: readonly Signal[]; onChange: (v: Value) => void }) {
  const { value, numbers, onChange } = props;
  const range = (words: string, key: 'from' | 'to') =>
    ([0, 1] as const).map((k) => (
      <span key={k} className="flex w-14">
        <NumberField
          label={`Mapped ${words} ${k === 0 ? 'first' : 'last'}`}
          value={value[key]?.[k] ?? 0}
          onChange={(n) => onChange({ ...value, [key]: (value[key] ?? [0, 1]).with(k, n) } as Value)}
        />
      </span>
    ));
  return (
    <span className="inline-flex flex-wrap gap-x-1 items-center">
      <Pick
        label="Signal that is mapped"
        value={value.signal}
        options={numbers.map((x): Option => [x.id, x.name])}
        onChange={(signal) =>
          onChange({ signal, ...rangesOf(numbers, signal), ...(value.to ? { to: value.to } : {}) })
        }
      />
      from {range('from', 'from')} to {range('to', 'to')}
    </span>
  );
}

/** The parts of a sum, a product, the least or the greatest of them. */
function Parts({
  way,
  parts,
  depth,
  onChange,
}: {
  way: Way;
  parts: readonly Value[];
  depth: number;
  onChange: (v: Value) => void;
}) {
  const s = useSession();
  return (
    <span className="inline-flex flex-wrap gap-x-1 gap-y-1 items-center">
      {parts.map((part, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: parts have no ids and are few
        <span key={i} className="inline-flex gap-x-1 items-center">
          {i > 0 && SIGNS[way]}
          {depth < 2 ? (
            <ValueField
              label={`Part ${i + 1}`}
              value={part}
              depth={depth + 1}
              onChange={(p) => onChange({ [way]: parts.with(i, p) } as Value)}
            />
          ) : (
            valueWords(s.store, part)
          )}
          {parts.length > 1 && (
            <button
              type="button"
              aria-label={`Take out part ${i + 1}`}
              onClick={() => onChange({ [way]: parts.filter((_, n) => n !== i) } as Value)}
            >
              <X size={11} />
            </button>
          )}
        </span>
      ))}
      <button
        type="button"
        className="text-ink-2 underline decoration-dotted"
        aria-label="Add a part"
        onClick={() => onChange({ [way]: [...parts, way === 'product' ? 1 : 0] } as Value)}
      >
        and…
      </button>
    </span>
  );
}
