import {
  COMPARISONS,
  type Comparison,
  type Condition,
  type Signal,
  type SignalCondition,
} from '@apple-tick/core/model';
import { Plus, X } from 'lucide-react';
import { useRef } from 'react';
import { useHead, useSession, useTable } from '../../session/hooks.ts';
import { offered, picked } from '../../session/made-on-the-way.ts';
import { comparisonOf, conditionOn, firstSignal, likeSignals } from '../../session/signals.ts';
import { nameOf } from '../../session/words.ts';
import { NumberField, type Option, Pick, SecondsField, TextField } from '../fields.tsx';
import { ThingPick } from './ThingPick.tsx';

const HOW: readonly [Comparison, string][] = [
  ['is', 'is'],
  ['not', 'is not'],
  ['atLeast', 'at least'],
  ['atMost', 'at most'],
  ['above', 'above'],
  ['below', 'below'],
];

/** What must hold, all of it: each a sentence whose words are picked from lists. */
export function ConditionList(props: {
  when: readonly Condition[];
  /** The word before the first one. */
  first: string;
  onChange: (when: Condition[]) => void;
}) {
  const { when, onChange } = props;
  const s = useSession();
  const put = (i: number, c: Condition) => onChange(when.map((x, n) => (n === i ? c : x)));
  const latest = useRef(props);
  latest.current = props;
  return (
    <div
      className="space-y-1.5"
      onFocus={(e) => {
        const at = Number(e.target.closest('[data-condition]')?.getAttribute('data-condition') ?? Number.NaN);
        s.worked = {
          condition: latest.current.when[at],
          take: () => latest.current.onChange(latest.current.when.filter((_, n) => n !== at)),
          putConditions: (more) => latest.current.onChange([...latest.current.when, ...more]),
        };
      }}
      onBlur={() => {
        s.worked = null;
      }}
    >
      {when.map((c, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: conditions have no ids and are few
        <div key={i} data-condition={i} className="sentence flex flex-wrap gap-x-1 items-center">
          {(i > 0 || props.first !== '') && <span>{i === 0 ? props.first : 'and'}</span>}
          <Subject c={c} onChange={(to) => put(i, to)} />
          {'signal' in c ? (
            <SignalPart c={c} onChange={(to) => put(i, to)} />
          ) : (
            <FactPart c={c} onChange={(to) => put(i, to)} />
          )}
          <button
            type="button"
            aria-label="Delete the condition"
            onClick={() => onChange(when.filter((_, n) => n !== i))}
          >
            <X size={13} />
          </button>
        </div>
      ))}
      <button
        type="button"
        className="inline-flex items-center gap-0.5 text-[11.5px] text-ink-2 hover:text-ink"
        onClick={() =>
          s.step('Added a condition', () => {
            const signal = s.store.get('signals', firstSignal(s, 'switch', 'on'));
            if (signal) onChange([...when, conditionOn(signal)]);
          })
        }
      >
        <Plus size={12} aria-hidden="true" /> condition
      </button>
    </div>
  );
}

/** What the condition is about: a signal, a state being active, how far a clip is, or what the pointer does. */
function Subject({ c, onChange }: { c: Condition; onChange: (c: Condition) => void }) {
  const s = useSession();
  const signals = useTable('signals');
  const machines = useTable('machines');
  const clips = useTable('clips');
  const lanes = machines.flatMap((m) => m.lanes);
  const objects = useTable('objects');
  const zones = useTable('colliders');
  const { visitor } = useHead();
  const value =
    'signal' in c
      ? c.signal
      : c.fact === 'state'
        ? c.state
        : c.fact === 'clip'
          ? c.clip
          : 'collider' in c
            ? `${c.fact}/${c.collider}`
            : c.fact === 'speed'
              ? 'speed/'
              : `${c.fact}/${c.object ?? ''}`;
  return (
    <Pick
      label="Condition"
      value={value}
      options={[
        { group: 'Signals', options: signals.map((x): Option => [x.id, x.name]) },
        offered('switch', 'number', 'pulse'),
        ...lanes.map((l) => ({
          group: `State of ${l.name}`,
          options: l.states.map((x): Option => [x.id, x.name]),
        })),
        { group: 'How far a clip is', options: clips.map((x): Option => [x.id, x.name]) },
        ...ZONE_FACTS.map(([fact, role, group]) => ({
          group,
          options: zones.filter((z) => z.role === role).map((z): Option => [`${fact}/${z.id}`, z.name]),
        })),
        ...(visitor || value === 'speed/'
          ? [{ group: 'How fast', options: [['speed/', 'the visitor walks'] as Option] }]
          : []),
        { group: 'Pointed at', options: objects.map((x): Option => [`over/${x.id}`, x.name]) },
        {
          group: 'Held down',
          options: [['pressed/', 'anything'], ...objects.map((x): Option => [`pressed/${x.id}`, x.name])],
        },
      ]}
      onChange={(value) => s.step('Changed a condition', () => take(picked(s, value)))}
    />
  );
  function take(id: string) {
    const signal = s.store.get('signals', id);
    const lane = lanes.find((l) => l.states.some((x) => x.id === id));
    if (signal) onChange(conditionOn(signal));
    else if (lane) onChange({ fact: 'state', lane: lane.id, state: id });
    else if (s.store.has('clips', id)) onChange({ fact: 'clip', clip: id, past: 0.5 });
    else onChange(factPicked(id));
  }
}

/** What is asked of zones, of which role, and how the list calls it. */
const ZONE_FACTS = [
  ['inside', 'zone', 'In the zone'],
  ['count', 'zone', 'How many are in the zone'],
  ['near', 'near', 'Near'],
] as const;

/** `over/ID`, `pressed/ID` or `pressed/`, or the fact of a zone and its id, as they stand in the list. */
function factPicked(picked: string): Condition {
  const [fact, object = ''] = picked.split('/');
  if (fact === 'speed') return { fact, above: 0 };
  if (fact === 'over') return { fact: 'over', object };
  if (fact === 'inside' || fact === 'near') return { fact, collider: object };
  if (fact === 'count') return { fact, collider: object, atLeast: 1 };
  return { fact: 'pressed', ...(object === '' ? {} : { object }) };
}

function SignalPart({ c, onChange }: { c: SignalCondition; onChange: (c: Condition) => void }) {
  const s = useSession();
  const signal = s.store.get('signals', c.signal);
  if (!signal) return null;
  const [how, value] = comparisonOf(c);
  const make = (h: Comparison, v: typeof value) => onChange({ signal: c.signal, [h]: v });
  if (signal.type === 'pulse') return <span>pulses</span>;
  if (signal.type === 'switch' && typeof value === 'boolean')
    return (
      <Pick
        label="Is"
        value={(how === 'not' ? !value : value) ? 'on' : 'off'}
        options={[
          ['on', 'is on'],
          ['off', 'is off'],
        ]}
        onChange={(v) => make('is', v === 'on')}
      />
    );
  const ways = signal.type === 'number' ? HOW : HOW.slice(0, 2);
  return (
    <>
      <Pick label="Compared" value={how} options={ways} onChange={(v) => make(v as Comparison, value)} />
      <OperandField signal={signal} value={value} onChange={(v) => make(how, v)} />
    </>
  );
}

/** A plain value that suits the signal, or another signal of its type. */
export function OperandField(props: {
  signal: Signal;
  value: unknown;
  onChange: (v: number | boolean | string | { signal: string }) => void;
}) {
  const { signal, value, onChange } = props;
  const s = useSession();
  const others = likeSignals(s.store, signal).map((x): Option => [x.id, x.name]);
  const ref = typeof value === 'object' && value !== null && 'signal' in value ? String(value.signal) : '';
  const plain = signal.type === 'pulse' ? true : signal.initial;
  const source =
    others.length > 0 || ref !== '' ? (
      <Pick
        label="Compared with"
        value={ref}
        options={[['', 'a value'], { group: 'Signals', options: others }]}
        onChange={(v) => onChange(v === '' ? plain : { signal: v })}
      />
    ) : null;
  if (ref !== '') return source;
  return (
    <>
      {signal.type === 'number' && (
        <span className="flex">
          <NumberField label="Value" value={Number(value)} step={signal.step ?? 1} onChange={onChange} />
        </span>
      )}
      {signal.type === 'switch' && (
        <Pick
          label="Value"
          value={value === true ? 'on' : 'off'}
          options={[
            ['on', 'on'],
            ['off', 'off'],
          ]}
          onChange={(v) => onChange(v === 'on')}
        />
      )}
      {signal.type === 'choice' && (
        <Pick
          label="Value"
          value={String(value)}
          options={signal.options.map((o): Option => [o, o])}
          onChange={onChange}
        />
      )}
      {signal.type === 'text' && (
        <TextField label="Value" className="field w-28" value={String(value)} onChange={onChange} />
      )}
      {source}
    </>
  );
}

function FactPart({
  c,
  onChange,
}: {
  c: Exclude<Condition, SignalCondition>;
  onChange: (c: Condition) => void;
}) {
  const s = useSession();
  if (c.fact === 'inside' || c.fact === 'near') {
    const { is: _, other: _o, tags: _t, ...rest } = c;
    const isNot = c.is === false ? { is: false } : {};
    const what = c.fact === 'near' ? 'near' : 'in it';
    return (
      <>
        <ThingPick
          label="What is noticed"
          zone={c.collider}
          things={c}
          any="something"
          single
          onChange={(things) => onChange({ ...rest, ...isNot, ...things } as Condition)}
        />
        <Pick
          label="Is"
          value={c.is === false ? 'not' : 'is'}
          options={[
            ['is', `is ${what}`],
            ['not', `is not ${what}`],
          ]}
          onChange={(v) => {
            const { is: _was, ...same } = c;
            onChange({ ...same, ...(v === 'not' ? { is: false } : {}) });
          }}
        />
      </>
    );
  }
  if (c.fact === 'count') return <CountPart c={c} onChange={onChange} />;
  if (c.fact === 'speed') return <SpeedPart c={c} onChange={onChange} />;
  if (c.fact !== 'clip') {
    const { is: _, ...rest } = c;
    const words = { state: 'active', over: 'pointed at', pressed: 'held down' }[c.fact];
    return (
      <Pick
        label="Is"
        value={c.is === false ? 'not' : 'is'}
        options={[
          ['is', `is ${words}`],
          ['not', `is not ${words}`],
        ]}
        onChange={(v) => onChange({ ...rest, ...(v === 'not' ? { is: false } : {}) })}
      />
    );
  }
  return (
    <>
      <span>is past</span>
      <span className="flex">
        <SecondsField
          label={`Seconds of ${nameOf(s.store, c.clip)}`}
          unit="s"
          value={c.past}
          onChange={(n) => onChange({ ...c, past: n })}
        />
      </span>
    </>
  );
}

/** How fast the visitor walks. */
function SpeedPart({
  c,
  onChange,
}: {
  c: Extract<Condition, { fact: 'speed' }>;
  onChange: (c: Condition) => void;
}) {
  const how = COMPARISONS.find((k) => c[k] !== undefined) ?? 'is';
  return (
    <>
      <Pick
        label="Compared"
        value={how}
        options={HOW.map(([k, word]): Option => [k, word])}
        onChange={(k) => onChange({ fact: 'speed', [k]: c[how] ?? 0 })}
      />
      <span className="flex w-16">
        <NumberField
          label="Px a second"
          least={0}
          value={c[how] ?? 0}
          onChange={(n) => onChange({ fact: 'speed', [how]: n })}
        />
      </span>
    </>
  );
}

/** How many things are in a zone. */
function CountPart({
  c,
  onChange,
}: {
  c: Extract<Condition, { fact: 'count' }>;
  onChange: (c: Condition) => void;
}) {
  const how = COMPARISONS.find((k) => c[k] !== undefined) ?? 'is';
  const rest = { fact: c.fact, collider: c.collider, ...(c.tags ? { tags: c.tags } : {}) } as const;
  return (
    <>
      <span>holds</span>
      <Pick
        label="Compared"
        value={how}
        options={HOW.map(([k, word]): Option => [k, k === 'is' ? 'exactly' : k === 'not' ? 'not' : word])}
        onChange={(k) => onChange({ ...rest, [k]: c[how] ?? 0 })}
      />
      <span className="flex w-14">
        <NumberField
          label="How many"
          least={0}
          value={c[how] ?? 0}
          onChange={(n) => onChange({ ...rest, [how]: Math.round(n) })}
        />
      </span>
      <ThingPick
        label="What is counted"
        zone={c.collider}
        things={c}
        any="things"
        single={false}
        onChange={({ tags }) => {
          const { tags: _, ...bare } = rest;
          onChange({ ...bare, ...(tags ? { tags } : {}), [how]: c[how] ?? 0 });
        }}
      />
    </>
  );
}
