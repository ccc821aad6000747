/** What tweens and motors say besides what they are about. */
import {
  type Action,
  PROPERTIES,
  partOf,
  propertyLabel,
  propertyUnit,
  type Value,
} from '@apple-tick/core/model';
import { X } from 'lucide-react';
import { Fragment } from 'react';
import type { OwnParts } from '../../sentences/own.ts';
import { Timing } from '../../sentences/Timing.tsx';
import { ValueField } from '../../sentences/ValueField.tsx';
import { useSession } from '../../session/hooks.ts';
import { isNumeric, kindOfProperty, writable } from '../../session/things/parts.ts';
import { valueWords } from '../../session/words/words.ts';
import { ColorField } from '../../ui/ColorField.tsx';
import { NumberField, type Option, Pick, TextField } from '../../ui/fields.tsx';

type Tween = Action & { do: 'tween' };
type Goal = NonNullable<Tween['properties']>[number];
type Mode = 'to' | 'by' | 'toBase';

/** Which properties it writes, where each leads, in how long, and how. */
function TweenParts({ a, onChange }: { a: Tween; onChange: (a: Action) => void }) {
  const goals: readonly Goal[] = a.properties ?? [goalOf(a)];
  const put = (next: readonly Goal[]) => {
    const { property: _, to: _t, by: _b, toBase: _o, properties: _p, ...rest } = a;
    const [only] = next;
    onChange((next.length === 1 ? { ...rest, ...only } : { ...rest, properties: next }) as Action);
  };
  // Parts of its own (an instance's signal, a zone's switch) are tweened alone.
  const free = goals.some((g) => partOf(g.property))
    ? undefined
    : PROPERTIES.find((p) => isNumeric(p.kind) && goals.every((g) => g.property !== p.name));
  return (
    <>
      {goals.map((goal, i) => (
        <Fragment key={goal.property}>
          {i > 0 && <span className="comma">,</span>}
          <GoalParts
            object={a.object}
            goal={goal}
            others={goals.flatMap((g) => (g === goal ? [] : g.property))}
            onChange={(to) => put(goals.with(i, to))}
          />
          {goals.length > 1 && (
            <button
              type="button"
              className="text-ink-3 hover:text-ink"
              aria-label={`Leave ${propertyLabel(goal.property)} as it is`}
              onClick={() => put(goals.toSpliced(i, 1))}
            >
              <X size={11} />
            </button>
          )}
        </Fragment>
      ))}
      <span>in</span>
      <Timing
        labels={['Seconds of the tween', 'Easing of the tween']}
        seconds={a.seconds}
        easing={a.easing}
        onChange={(part) => onChange({ ...a, ...part })}
      />
      {free && (
        <button
          type="button"
          className="quiet text-ink-2"
          onClick={() => put([...goals, { property: nextOf(goals, free.name), by: 0 }])}
        >
          + property
        </button>
      )}
    </>
  );
}

/** The goal of a tween of one property. */
function goalOf({ property = '', to, by, toBase }: Tween): Goal {
  const goal = { property, to, by, toBase };
  return Object.fromEntries(Object.entries(goal).filter(([, v]) => v !== undefined)) as unknown as Goal;
}

/** After one axis most likely the next is meant; else the first that is free. */
function nextOf(goals: readonly Goal[], free: string): string {
  const [field, axis] = (goals.at(-1)?.property ?? '').split('.');
  const next = axis === 'x' ? 'y' : axis === 'y' ? 'z' : undefined;
  const wished = `${field}.${next}`;
  return next !== undefined && goals.every((g) => g.property !== wished) ? wished : free;
}

/** One property of a tween, and where it leads. */
function GoalParts(props: {
  object: string;
  goal: Goal;
  others: readonly string[];
  onChange: (goal: Goal) => void;
}) {
  const { object, goal, onChange } = props;
  const s = useSession();
  const kind = kindOfProperty(s.store, object, goal.property);
  const isNumber = isNumeric(kind);
  const mode: Mode = goal.to !== undefined ? 'to' : goal.by !== undefined ? 'by' : 'toBase';
  const value = goal.to ?? goal.by ?? goal.toBase ?? 0;
  const set = (m: Mode, v: Value) =>
    onChange({ property: goal.property, [m]: m === 'toBase' ? Number(v) : v } as Goal);
  return (
    <>
      <Pick
        label="Property"
        value={goal.property}
        options={writable(s.store, object).filter(
          ([p]) => !props.others.includes(p) && (props.others.length === 0 || !partOf(p)),
        )}
        onChange={(property) => {
          const next = kindOfProperty(s.store, object, property);
          onChange(
            isNumber && isNumeric(next) ? { ...goal, property } : ({ property, to: startOf(next) } as Goal),
          );
        }}
      />
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
          unit={propertyUnit(goal.property)}
          value={value}
          onChange={(v) => set(mode, v)}
        />
      ) : typeof value === 'object' ? (
        <span className="text-ink-2">{valueWords(s.store, value)}</span>
      ) : isNumber ? (
        <NumberField
          label="How much"
          unit={propertyUnit(goal.property)}
          value={Number(value)}
          onChange={(n) => set(mode, n)}
        />
      ) : mode === 'toBase' ? null : kind === 'color' ? (
        <ColorField
          label="Colour"
          step="Changed an action"
          value={String(value)}
          onChange={(c) => set('to', c)}
        />
      ) : kind === 'switch' ? (
        <Pick
          label="Value"
          value={value === true ? 'on' : 'off'}
          options={[
            ['on', 'on'],
            ['off', 'off'],
          ]}
          onChange={(v) => set('to', v === 'on')}
        />
      ) : (
        <TextField label="Words" value={String(value)} onChange={(t) => set('to', t)} />
      )}
    </>
  );
}

/** About which axis it turns, in how long, and how. */
function FaceParts({ a, onChange }: { a: Action & { do: 'face' }; onChange: (a: Action) => void }) {
  const { axis = 'y' } = a;
  return (
    <>
      <Pick
        label="About"
        value={axis}
        options={(['x', 'y', 'z'] as const).map((x): Option => [x, `about ${x}`])}
        onChange={(x) => onChange({ ...a, axis: x as typeof axis })}
      />
      <span>in</span>
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

/** The actions whose fields are edited here. */
export const own = {
  tween: { fields: ['property', 'to', 'by', 'toBase', 'properties', 'seconds', 'easing'], Parts: TweenParts },
  face: { fields: ['seconds', 'easing'], Parts: FaceParts },
} satisfies OwnParts;
