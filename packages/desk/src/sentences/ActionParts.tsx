/** The words of an action, each as what it can be. */
import type { AnySchema, Fields } from '@apple-tick/core/grammar';
import {
  ACTIONS,
  type Action,
  type PropertyValue,
  propertyInfo,
  propertyUnit,
  type RefKind,
  type Signal,
  type SignalType,
  type Value,
} from '@apple-tick/core/model';
import { SYNTHS } from '@apple-tick/player';
import { Fragment } from 'react';
import type { EffectKind } from '../features/effects/edit.ts';
import { makingFor, offered, offeredSounds, picked } from '../session/doings/made-on-the-way.ts';
import { plainValue } from '../session/doings/signals.ts';
import { useSession, useTable } from '../session/hooks.ts';
import type { PieceStore } from '../session/model-help.ts';
import { isNumeric, kindOfProperty, partsOf, writable } from '../session/things/parts.ts';
import { fieldWords, isPlain } from '../session/words/plain-forms.ts';
import { nameOf, namesLook, namesThing, valueWords } from '../session/words/words.ts';
import { ColorField } from '../ui/ColorField.tsx';
import { type Option, type OptionGroup, Pick, TextField } from '../ui/fields.tsx';
import { OperandField } from './ConditionList.tsx';
import { FormField } from './FormField.tsx';
import { ValueField } from './ValueField.tsx';

/** The fields of an action, in the order of its sentence. */
export function Parts({ a, thing, onChange }: { a: Action; thing: boolean; onChange: (a: Action) => void }) {
  const { says, fields } = ACTIONS[a.do];
  const order = [...says.matchAll(/( to )?\{(\w+)\}/g)];
  return order.map(([, to, field], n) => (
    <Fragment key={field}>
      {to && n > 0 && ' to '}
      <Part
        a={a}
        field={field as string}
        form={(fields as Fields)[field as string] as AnySchema}
        thing={thing}
        onChange={onChange}
      />
    </Fragment>
  ));
}

const named = (x: { id: string; name: string }): Option => [x.id, x.name];
/** What a list of such things is called. */
const LABELS: Partial<Record<RefKind, string>> = {
  objects: 'Object',
  signals: 'Signal',
  messages: 'Message',
  sounds: 'Sound',
  clips: 'Clip',
  states: 'State',
  effects: 'Effect',
  cueSheets: 'Cue sheet',
  templates: 'Template',
};

/** One field of an action, picked or typed as its form asks. */
function Part(props: {
  a: Action;
  field: string;
  form: AnySchema;
  thing: boolean;
  onChange: (a: Action) => void;
}) {
  const { a, field, form, onChange } = props;
  const s = useSession();
  const of = a as unknown as Readonly<Record<string, unknown>>;
  // Only what is a number can be driven.
  const runsOn = a.do === 'motor' || a.do === 'stopMotor';
  const put = (part: object) =>
    onChange(
      Object.fromEntries(
        Object.entries({ ...a, ...part }).filter(([, v]) => v !== undefined),
      ) as unknown as Action,
    );
  if (namesLook(form))
    return (
      <Pick
        label="Look"
        value={String(of[field])}
        options={[['', 'its own'], ...(s.store.get('objects', String(of['object']))?.looks ?? []).map(named)]}
        onChange={(to) => put({ [field]: to })}
      />
    );
  // A tween names its properties with where they lead.
  if (form.is === 'property' && a.do === 'tween') return null;
  if (form.is === 'property')
    return (
      <Pick
        label="Property"
        value={String(of[field])}
        options={writable(s.store, aboutWhat(a), runsOn)}
        onChange={(p) => put(ofProperty(s.store, a, field, p))}
      />
    );
  if (form.is === 'ref') return <RefPart {...props} to={form.to} only={form.only} />;
  if (namesThing(form)) return <RefPart {...props} to="objects" only={undefined} />;
  if (a.do === 'put') return <PutField a={a} onChange={onChange} />;
  if (isPlain(form))
    return (
      <FormField
        label={fieldWords(field)}
        form={form}
        value={of[field]}
        onChange={(v) => put({ [field]: v })}
      />
    );
  // It stands with the others of its motor, or caption.
  if (a.do === 'motor' || a.do === 'caption') return null;
  const signal = s.store.get('signals', String(of['signal']));
  if (!signal) return null;
  const value = of[field] as Value;
  if (signal.type === 'number')
    return <ValueField label="Value" value={value} onChange={(v) => put({ [field]: v })} />;
  return (
    <Plain value={value}>
      <OperandField signal={signal} value={value} onChange={(v) => put({ [field]: v })} />
    </Plain>
  );
}

function RefPart(props: {
  a: Action;
  field: string;
  to: RefKind;
  only: string | undefined;
  thing: boolean;
  onChange: (a: Action) => void;
}) {
  const { a, field, to, only, onChange } = props;
  const s = useSession();
  const machines = useTable('machines');
  const records = useTable(
    to === 'states'
      ? 'machines'
      : (to as
          | 'objects'
          | 'signals'
          | 'messages'
          | 'sounds'
          | 'clips'
          | 'effects'
          | 'cueSheets'
          | 'templates'),
  );
  const now = String((a as unknown as Record<string, unknown>)[field]);
  const put = (part: object) => onChange({ ...a, ...part } as Action);
  const options = (): (Option | OptionGroup)[] => {
    if (to === 'states')
      return machines.flatMap((m) => m.lanes).map((l) => ({ group: l.name, options: l.states.map(named) }));
    if (to === 'clips') {
      const roots = [...new Set(s.store.all('clips').map((c) => c.root))];
      const of = (root: string) => s.store.all('clips').filter((c) => c.root === root);
      return roots.map((r) => ({ group: nameOf(s.store, r), options: of(r).map(named) }));
    }
    if (to === 'sounds') return [...records.map(named), offeredSounds(SYNTHS)];
    if (to === 'effects')
      return [
        ...s.store
          .all('effects')
          .filter((x) => x.kind === only)
          .map(named),
        offered(only as EffectKind),
      ];
    if (to === 'cueSheets') return [...records.map(named), offered('scene')];
    if (to === 'messages') return [...records.map(named), offered('message')];
    if (to === 'objects' && (props.thing || now === 'other'))
      return [['other', nameOf(s.store, 'other')], ...records.map(named)];
    if (to !== 'signals') return records.map(named);
    const fits = (x: Signal) => (only === undefined ? x.type !== 'pulse' : x.type === only);
    const kinds =
      only === undefined ? (['switch', 'number', 'choice', 'text'] as const) : [only as SignalType];
    return [...s.store.all('signals').filter(fits).map(named), offered(...kinds)];
  };
  const pick = (value: string) =>
    s.step('Changed an action', () => take(makingFor(s, () => picked(s, value))));
  const take = (id: string) => {
    if (to === 'states') {
      const lane = machines.flatMap((m) => m.lanes).find((l) => l.states.some((x) => x.id === id));
      if (lane) put({ lane: lane.id, [field]: id });
      return;
    }
    const clip = to === 'clips' ? s.store.get('clips', id) : undefined;
    if (clip) {
      put({ [field]: id, object: clip.root });
      return;
    }
    if (to === 'templates') {
      // Values were for the signals of the other one.
      const { signals: _, ...rest } = a as Action & { do: 'spawn' };
      return onChange({ ...rest, template: id });
    }
    const signal = to === 'signals' && a.do === 'set' ? s.store.get('signals', id) : undefined;
    if (signal) put({ [field]: id, to: plainValue(signal) });
    else if (field === 'object' && a.do === 'tween') onChange(ofObject(s.store, a, id) as Action);
    else if (field === 'object' && 'property' in a) onChange({ ...a, ...ofObject(s.store, a, id) } as Action);
    else put(a.do === 'look' ? { [field]: id, to: '' } : { [field]: id });
  };
  return <Pick label={LABELS[to] ?? field} value={now} options={options()} onChange={pick} />;
}

/** The object that an action writes. */
const aboutWhat = (a: Action) => ('object' in a ? a.object : undefined);

/** An action that writes another property leads somewhere that suits it. */
function ofProperty(store: PieceStore, a: Action, field: string, property: string): object {
  if (a.do === 'put') return { [field]: property, to: valueFor(store, aboutWhat(a), property) };
  return { [field]: property };
}

function valueFor(store: PieceStore, object: string | undefined, property: string): PropertyValue {
  const part = partsOf(store, object).find((p) => p.name === property);
  if (part) return part.kind === 'switch' ? !part.initial : part.initial;
  const kind = propertyInfo(property)?.kind;
  if (kind === 'text') return '';
  return kind === 'switch' ? true : kind === 'color' ? '#7fa982' : property.startsWith('scale') ? 1 : 0;
}

/** An action on another object: what it wrote may have been a part of the first. */
function ofObject(store: PieceStore, a: Action, object: string): object {
  const has = (property: string) => kindOfProperty(store, object, property) !== undefined;
  if (a.do === 'tween') {
    const goals = a.properties ?? [{ property: a.property ?? '' }];
    if (goals.every((g) => has(g.property))) return { ...a, object };
    const { property: _, to: _t, by: _b, toBase: _o, properties: _p, ...rest } = a;
    return { ...rest, object, property: 'position.x', by: 0 };
  }
  const property = 'property' in a ? a.property : undefined;
  if (property === undefined || has(property)) return { object };
  return { ...ofProperty(store, { ...a, object } as Action, 'property', 'position.x'), object };
}

/** What is no number may be worked out in a file; here that is only read. */
function Plain({ value, children }: { value: Value; children: React.ReactNode }) {
  const s = useSession();
  const plain = typeof value !== 'object' || ('signal' in value && !value.from);
  return plain ? children : <span className="text-ink-2">{valueWords(s.store, value)}</span>;
}

function PutField({ a, onChange }: { a: Action & { do: 'put' }; onChange: (a: Action) => void }) {
  const s = useSession();
  const kind = kindOfProperty(s.store, a.object, a.property);
  const signal = partsOf(s.store, a.object).find((p) => p.name === a.property)?.signal;
  if (typeof a.to === 'object' && !isNumeric(kind))
    return <span className="text-ink-2">{valueWords(s.store, a.to)}</span>;
  if (signal && !isNumeric(kind))
    return <OperandField signal={signal} value={a.to} onChange={(to) => onChange({ ...a, to })} />;
  if (kind === 'switch')
    return (
      <Pick
        label="Value"
        value={a.to === true ? 'on' : 'off'}
        options={[
          ['on', 'on'],
          ['off', 'off'],
        ]}
        onChange={(v) => onChange({ ...a, to: v === 'on' })}
      />
    );
  if (kind === 'color')
    return (
      <ColorField
        label="Value"
        step="Changed an action"
        value={String(a.to)}
        onChange={(to) => onChange({ ...a, to })}
      />
    );
  if (kind === 'text')
    return <TextField label="Value" value={String(a.to)} onChange={(to) => onChange({ ...a, to })} />;
  return (
    <ValueField
      label="Value"
      unit={propertyUnit(a.property)}
      value={a.to}
      onChange={(to) => onChange({ ...a, to })}
    />
  );
}
