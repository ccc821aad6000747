import { type Action, PROPERTIES, propertyInfo, type Signal, type Value } from '@apple-tick/core/model';
import { Plus, X } from 'lucide-react';
import { useSession, useTable } from '../../session/hooks.ts';
import type { Session } from '../../session/session.ts';
import { addMessage, firstSignal, plainValue } from '../../session/signals.ts';
import { actionWords, valueWords } from '../../session/words.ts';
import { ColorField } from '../../ui/ColorField.tsx';
import { NumberField, type Option, Pick, SecondsField } from '../../ui/fields.tsx';
import { OperandField } from './ConditionList.tsx';

type Deed = Action['do'];
const DEEDS: readonly (readonly [Deed, string])[] = [
  ['toggle', 'toggle'],
  ['set', 'set'],
  ['add', 'add'],
  ['pulse', 'pulse'],
  ['send', 'send the message'],
  ['put', 'put a property'],
  ['release', 'release a property'],
  ['show', 'show'],
  ['hide', 'hide'],
  ['look', 'give a look to'],
  ['go', 'go to the state'],
  ['sound', 'play the sound'],
];

/** What is done, in order: each a sentence whose words are picked from lists. `owner` is what new ones are about. */
export function ActionList(props: {
  actions: readonly Action[];
  owner: string;
  /** A last action can be deleted only where nothing being done is sensible (entry, exit, cue). */
  mayBeEmpty: boolean;
  onChange: (actions: Action[]) => void;
}) {
  const { actions, owner, onChange } = props;
  const s = useSession();
  const sounds = useTable('sounds').length > 0;
  const put = (i: number, a: Action) => onChange(actions.map((x, n) => (n === i ? a : x)));
  return (
    <div className="space-y-1.5">
      {actions.map((a, i) => (
        <fieldset
          // biome-ignore lint/suspicious/noArrayIndexKey: actions have no ids and are few
          key={i}
          className="sentence flex flex-wrap gap-x-1 items-center"
          aria-label={actionWords(s.store, a)}
        >
          <Pick
            label="Action"
            value={a.do}
            options={DEEDS.filter(([d]) => d !== 'sound' || d === a.do || sounds)}
            onChange={(d) => s.step('Changed an action', () => put(i, newAction(s, d as Deed, owner)))}
          />
          <Parts a={a} onChange={(to) => put(i, to)} />
          <After a={a} onChange={(to) => put(i, to)} />
          {(actions.length > 1 || props.mayBeEmpty) && (
            <button
              type="button"
              aria-label="Delete the action"
              onClick={() => onChange(actions.filter((_, n) => n !== i))}
            >
              <X size={13} />
            </button>
          )}
        </fieldset>
      ))}
      <button
        type="button"
        className="btn inline-flex items-center gap-1"
        onClick={() => s.step('Added an action', () => onChange([...actions, newAction(s, 'toggle', owner)]))}
      >
        <Plus size={12} aria-hidden="true" /> action
      </button>
    </div>
  );
}

/** An action of this kind about the first thing it can be about; makes a signal or message when there is none. */
export function newAction(s: Session, deed: Deed, owner: string): Action {
  const signal = (type: Signal['type'], wish: string) => firstSignal(s, type, wish);
  switch (deed) {
    case 'set': {
      const id = s.store.all('signals').find((x) => x.type !== 'pulse')?.id ?? signal('switch', 'on');
      const known = s.store.get('signals', id);
      return { do: 'set', signal: id, to: known ? plainValue(known) : true };
    }
    case 'add':
      return { do: 'add', signal: signal('number', 'count'), by: 1 };
    case 'pulse':
      return { do: 'pulse', signal: signal('pulse', 'go') };
    case 'send':
      return { do: 'send', message: s.store.ids('messages')[0] ?? addMessage(s, 'ready') };
    case 'put':
      return { do: 'put', object: owner, property: 'opacity', to: 1 };
    case 'release':
      return { do: 'release', object: owner, property: 'opacity' };
    case 'show':
    case 'hide':
      return { do: deed, object: owner };
    case 'look':
      return { do: 'look', object: owner, to: s.store.get('objects', owner)?.looks?.[0]?.id ?? '' };
    case 'go': {
      const lane = s.store.all('machines').flatMap((m) => m.lanes)[0];
      const state = lane?.states[0];
      if (lane && state) return { do: 'go', lane: lane.id, state: state.id };
      break;
    }
    case 'sound': {
      const [sound] = s.store.ids('sounds');
      if (sound !== undefined) return { do: 'sound', sound };
      break;
    }
  }
  const name = s.store.get('objects', owner)?.name ?? '';
  return { do: 'toggle', signal: signal('switch', `${name} on`.trim()) };
}

function Parts({ a, onChange }: { a: Action; onChange: (a: Action) => void }) {
  const s = useSession();
  const signals = useTable('signals');
  const messages = useTable('messages');
  const objects = useTable('objects');
  const machines = useTable('machines');
  const named = (x: { id: string; name: string }): Option => [x.id, x.name];
  const object =
    'object' in a ? (
      <Pick
        label="Object"
        value={a.object}
        options={objects.map(named)}
        onChange={(v) => onChange({ ...a, object: v })}
      />
    ) : null;
  if ('signal' in a) {
    const fits = (x: Signal) =>
      a.do === 'toggle'
        ? x.type === 'switch'
        : a.do === 'add'
          ? x.type === 'number'
          : (x.type === 'pulse') === (a.do === 'pulse');
    const pick = (
      <Pick
        label="Signal"
        value={a.signal}
        options={signals.filter(fits).map(named)}
        onChange={(v) => {
          const to = s.store.get('signals', v);
          onChange(a.do === 'set' && to ? { ...a, signal: v, to: plainValue(to) } : { ...a, signal: v });
        }}
      />
    );
    const known = s.store.get('signals', a.signal);
    if (a.do === 'set' && known)
      return (
        <>
          {pick} to{' '}
          <ValueField value={a.to}>
            <OperandField signal={known} value={a.to} onChange={(to) => onChange({ ...a, to })} />
          </ValueField>
        </>
      );
    if (a.do === 'add' && known)
      return (
        <>
          <ValueField value={a.by}>
            <OperandField
              signal={known}
              value={a.by}
              onChange={(by) => onChange({ ...a, by: by as number })}
            />
          </ValueField>{' '}
          to {pick}
        </>
      );
    return pick;
  }
  switch (a.do) {
    case 'send':
      return (
        <Pick
          label="Message"
          value={a.message}
          options={messages.map(named)}
          onChange={(message) => onChange({ ...a, message })}
        />
      );
    case 'sound':
      return (
        <Pick
          label="Sound"
          value={a.sound}
          options={s.store.all('sounds').map(named)}
          onChange={(sound) => onChange({ ...a, sound })}
        />
      );
    case 'go':
      return (
        <Pick
          label="State"
          value={a.state}
          options={machines
            .flatMap((m) => m.lanes)
            .map((l) => ({ group: l.name, options: l.states.map(named) }))}
          onChange={(state) => {
            const lane = machines.flatMap((m) => m.lanes).find((l) => l.states.some((x) => x.id === state));
            if (lane) onChange({ ...a, lane: lane.id, state });
          }}
        />
      );
    case 'put':
    case 'release':
      return (
        <>
          {object}
          <Pick
            label="Property"
            value={a.property}
            options={PROPERTIES.filter((p) => p.kind !== 'look').map((p): Option => [p.name, p.label])}
            onChange={(property) =>
              onChange(a.do === 'put' ? { ...a, property, to: valueFor(property) } : { ...a, property })
            }
          />
          {a.do === 'put' && (
            <>
              to <PutField a={a} onChange={onChange} />
            </>
          )}
        </>
      );
    case 'look':
      return (
        <>
          <Pick
            label="Object"
            value={a.object}
            options={objects.map(named)}
            onChange={(v) => onChange({ ...a, object: v, to: '' })}
          />
          <Pick
            label="Look"
            value={a.to}
            options={[
              ['', 'its own'],
              ...(s.store.get('objects', a.object)?.looks ?? []).map((l): Option => [l.id, l.name]),
            ]}
            onChange={(to) => onChange({ ...a, to })}
          />
        </>
      );
    default:
      return object;
  }
}

function valueFor(property: string): Value {
  const kind = propertyInfo(property)?.kind;
  return kind === 'switch' ? true : kind === 'color' ? '#7fa982' : property.startsWith('scale') ? 1 : 0;
}

/** Values that are worked out (sums, mapped signals, random picks) are read here, and written in the file. */
function ValueField({ value, children }: { value: Value; children: React.ReactNode }) {
  const s = useSession();
  const plain = typeof value !== 'object' || ('signal' in value && !value.from);
  return plain ? children : <span className="text-ink-2">{valueWords(s.store, value)}</span>;
}

function PutField({ a, onChange }: { a: Action & { do: 'put' }; onChange: (a: Action) => void }) {
  const kind = propertyInfo(a.property)?.kind;
  if (typeof a.to === 'object') return <ValueField value={a.to}>{null}</ValueField>;
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
  return (
    <span className="flex">
      <NumberField label="Value" value={Number(a.to)} onChange={(to) => onChange({ ...a, to })} />
    </span>
  );
}

/** The delay of one action; shown once it has one, or asked for. */
function After({ a, onChange }: { a: Action; onChange: (a: Action) => void }) {
  if (a.after === undefined)
    return (
      <button type="button" className="text-ink-2 underline" onClick={() => onChange({ ...a, after: 0.5 })}>
        later
      </button>
    );
  return (
    <span className="flex items-center gap-1">
      after
      <span className="flex">
        <SecondsField
          label="Delay, seconds"
          axis="s"
          value={a.after}
          onChange={(n) => {
            const { after: _, ...rest } = a;
            onChange((n > 0 ? { ...rest, after: n } : rest) as Action);
          }}
        />
      </span>
    </span>
  );
}
