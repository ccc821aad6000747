/** Where one is spawned, for how long, and with which values. */
import type { Action, Value } from '@apple-tick/core/model';
import { Plus, X } from 'lucide-react';
import { OperandField } from '../../sentences/ConditionList.tsx';
import type { OwnParts } from '../../sentences/own.ts';
import { ValueField } from '../../sentences/ValueField.tsx';
import { plainValue } from '../../session/doings/signals.ts';
import { useSession, useTable } from '../../session/hooks.ts';
import { nameOf } from '../../session/words/words.ts';
import { NumberField, type Option, Pick, SecondsField } from '../../ui/fields.tsx';

type Spawn = Action & { do: 'spawn' };

function SpawnParts({ a, thing, onChange }: { a: Spawn; thing: boolean; onChange: (a: Action) => void }) {
  const s = useSession();
  const objects = useTable('objects');
  const put = (part: Partial<Spawn>) =>
    onChange(
      Object.fromEntries(Object.entries({ ...a, ...part }).filter(([, v]) => v !== undefined)) as Action,
    );
  const stays = (a.seconds ?? null) === null;
  const [x, y] = a.offset ?? [0, 0, 0];
  return (
    <>
      <Pick
        label="Where it is spawned"
        value={a.object ?? ''}
        options={[
          ['', 'in the middle'],
          ...(thing || a.object === 'other' ? [['other', `at ${nameOf(s.store, 'other')}`] as Option] : []),
          { group: 'Where this is', options: objects.map((o): Option => [o.id, `at ${o.name}`]) },
        ]}
        onChange={(id) => put({ object: id === '' ? undefined : id })}
      />
      {(['x', 'y'] as const).map((axis, k) => (
        <span key={axis} className="flex w-16">
          <NumberField
            short
            axis={axis}
            label={`Beside it, ${axis}`}
            value={k === 0 ? x : y}
            onChange={(n) => {
              const to = [...(a.offset ?? [0, 0, 0])] as [number, number, number];
              to[k] = n;
              put({ offset: to.every((v) => v === 0) ? undefined : to });
            }}
          />
        </span>
      ))}
      <Pick
        label="How long it is there"
        value={stays ? 'stays' : 'for'}
        options={[
          ['for', 'for'],
          ['stays', 'until something removes it'],
        ]}
        onChange={(how) => put({ seconds: how === 'for' ? 3 : undefined })}
      />
      {!stays && (
        <span className="flex w-14">
          <SecondsField
            label="Seconds that it is there"
            unit="s"
            least={0.01}
            value={a.seconds as number}
            onChange={(n) => put({ seconds: n })}
          />
        </span>
      )}
      <Given a={a} put={put} />
    </>
  );
}

/** Values that the spawned one begins with. */
function Given({ a, put }: { a: Spawn; put: (part: Partial<Spawn>) => void }) {
  const s = useSession();
  useTable('signals');
  const own = s.store.within('signals', a.template).filter((x) => x.type !== 'pulse');
  const given = a.signals ?? {};
  const set = (id: string, value: Value | undefined) => {
    const { [id]: _, ...rest } = given;
    const to = value === undefined ? rest : { ...rest, [id]: value };
    put({ signals: Object.keys(to).length > 0 ? to : undefined });
  };
  const free = own.find((x) => given[x.id] === undefined);
  return (
    <>
      {own.map((x) => {
        const value = given[x.id];
        if (value === undefined) return null;
        return (
          <span key={x.id} className="flex items-center gap-1">
            with
            <Pick
              label="Value given to"
              value={x.id}
              options={own.map((o): Option => [o.id, o.name])}
              onChange={(id) => {
                const to = own.find((o) => o.id === id);
                const { [x.id]: __, ...rest } = given;
                if (to) put({ signals: { ...rest, [id]: plainValue(to) } });
              }}
            />
            {x.type === 'number' ? (
              <ValueField label={`Value of ${x.name}`} value={value} onChange={(v) => set(x.id, v)} />
            ) : (
              <OperandField signal={x} value={value} onChange={(v) => set(x.id, v)} />
            )}
            <button type="button" aria-label={`Take ${x.name} away`} onClick={() => set(x.id, undefined)}>
              <X size={12} />
            </button>
          </span>
        );
      })}
      {free && (
        <button
          type="button"
          className="quiet text-ink-2 flex items-center"
          onClick={() => set(free.id, plainValue(free))}
        >
          <Plus size={11} aria-hidden="true" /> value
        </button>
      )}
    </>
  );
}

/** The actions whose fields are edited here. */
export const own = {
  spawn: { fields: ['object', 'offset', 'parent', 'signals', 'seconds'], Parts: SpawnParts },
} satisfies OwnParts;
