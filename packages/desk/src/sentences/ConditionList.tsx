import type { AnySchema } from '@apple-tick/core/grammar';
import {
  COMPARISONS,
  type Comparison,
  type Condition,
  FACTS,
  type Fact,
  type FactKind,
  type Signal,
  type SignalCondition,
} from '@apple-tick/core/model';
import { Plus, X } from 'lucide-react';
import { type ReactNode, useRef } from 'react';
import { offered, picked } from '../session/doings/made-on-the-way.ts';
import { comparisonOf, conditionOn, firstSignal, likeSignals } from '../session/doings/signals.ts';
import { useHead, useSession, useTable } from '../session/hooks.ts';
import { type FactCondition, factOf, subjectIn, subjectOf } from '../session/words/fact-picks.ts';
import { fieldWords, isPlain } from '../session/words/plain-forms.ts';
import { nameOf } from '../session/words/words.ts';
import { NumberField, type Option, Pick, SecondsField, TextField } from '../ui/fields.tsx';
import { FormField } from './FormField.tsx';
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
  const lanes = useTable('machines').flatMap((m) => m.lanes);
  const tables = { clips: useTable('clips'), objects: useTable('objects'), colliders: useTable('colliders') };
  const head = useHead();
  const value = 'signal' in c ? c.signal : `${c.fact}/${subjectIn(c)}`;
  return (
    <Pick
      label="Condition"
      value={value}
      options={[
        { group: 'Signals', options: signals.map((x): Option => [x.id, x.name]) },
        offered('switch', 'number', 'pulse'),
        ...(Object.entries(FACTS) as [Fact, FactKind][]).flatMap(([fact, kind]) => {
          const { pick, any, role, offeredWith } = kind;
          const to = subjectOf(kind)?.to;
          if (to === 'states')
            return lanes.map((l) => ({
              group: `${pick} of ${l.name}`,
              options: l.states.map((x): Option => [`${fact}/${x.id}`, x.name]),
            }));
          if (offeredWith && !head[offeredWith] && value !== `${fact}/`) return [];
          const things: readonly { id: string; name: string; role?: string }[] =
            to === undefined ? [] : (tables[to as keyof typeof tables] ?? []);
          const of = things.filter((x) => role === undefined || x.role === role);
          const options = of.map((x): Option => [`${fact}/${x.id}`, x.name]);
          const whatever: readonly Option[] = any === undefined ? [] : [[`${fact}/`, any]];
          return [{ group: pick, options: [...whatever, ...options] }];
        }),
      ]}
      onChange={(value) => s.step('Changed a condition', () => take(picked(s, value)))}
    />
  );
  function take(id: string) {
    const signal = s.store.get('signals', id);
    if (signal) return onChange(conditionOn(signal));
    const [fact, subject = ''] = id.split(/\/(.*)/s) as [Fact, string?];
    const lane = lanes.find((l) => l.states.some((x) => x.id === subject));
    onChange(factOf(fact, subject, lane ? { lane: lane.id } : {}));
  }
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

type PartProps<F extends Fact> = {
  c: Extract<FactCondition, { fact: F }>;
  onChange: (c: Condition) => void;
};

/** The word after "is" or "is not". */
function wordOf(fact: Fact): string {
  const { is, pick }: FactKind = FACTS[fact];
  return is ?? pick.toLowerCase();
}

/** Whether it is so, or is not. */
function IsPart({ c, word, onChange }: PartProps<Fact> & { word: string }) {
  return (
    <Pick
      label="Is"
      value={c.is === false ? 'not' : 'is'}
      options={[
        ['is', `is ${word}`],
        ['not', `is not ${word}`],
      ]}
      onChange={(v) => {
        const { is: _, ...same } = c;
        onChange({ ...same, ...(v === 'not' ? { is: false } : {}) } as Condition);
      }}
    />
  );
}

/** What is noticed in a zone, or near. */
function NoticedPart({ c, onChange }: PartProps<'inside' | 'near'>) {
  const { is: _, other: _o, tags: _t, ...rest } = c;
  const isNot = c.is === false ? { is: false } : {};
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
      <IsPart c={c} word={wordOf(c.fact)} onChange={onChange} />
    </>
  );
}

function ClipPart({ c, onChange }: PartProps<'clip'>) {
  const s = useSession();
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

/** Facts that have more to say than whether they are so. */
const OWN: {
  readonly [F in Fact]?: (props: { c: never; onChange: (c: Condition) => void }) => ReactNode;
} = {
  inside: NoticedPart,
  near: NoticedPart,
  clip: ClipPart,
  count: CountPart,
  speed: SpeedPart,
};

/** What is asked of it: by an editor of its own, else whether it is so, and its plain fields by their schemas. */
function FactPart({ c, onChange }: PartProps<Fact>) {
  const Own = OWN[c.fact];
  if (Own) return <Own c={c as never} onChange={onChange} />;
  const kind: FactKind = FACTS[c.fact];
  const plain = Object.entries(kind.fields).filter(([, schema]) => isPlain(schema as AnySchema));
  return (
    <>
      <IsPart c={c} word={wordOf(c.fact)} onChange={onChange} />
      {plain.map(([field, schema]) => (
        <FormField
          key={field}
          label={fieldWords(field)}
          form={schema as AnySchema}
          value={(c as Record<string, unknown>)[field]}
          onChange={(to) => onChange({ ...c, [field]: to } as Condition)}
        />
      ))}
    </>
  );
}

/** How fast the visitor walks. */
function SpeedPart({ c, onChange }: PartProps<'speed'>) {
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
function CountPart({ c, onChange }: PartProps<'count'>) {
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
