import type { Lane, Machine, On, Transition } from '@apple-tick/core/model';
import { Plus, X } from 'lucide-react';
import { runCommand } from '../../commands/registry.ts';
import { useSession, useTable } from '../../session/hooks.ts';
import { editLane } from '../../session/machines.ts';
import { nameOf, ticketWords } from '../../session/words.ts';
import { NumberField, Pick } from '../../ui/fields.tsx';
import { Row } from './ObjectDetails.tsx';

export function TransitionDetails({
  machine,
  lane,
  transition: t,
}: {
  machine: Machine;
  lane: Lane;
  transition: Transition;
}) {
  const s = useSession();
  const signals = useTable('signals');
  const objects = useTable('objects');
  const change = (part: Partial<Transition>) =>
    editLane(s, 'Changed a transition', machine.id, lane.id, (l) => ({
      ...l,
      transitions: l.transitions.map((x) => {
        if (x.id !== t.id) return x;
        const next = { ...x, ...part };
        return {
          ...next,
          set: next.on !== null || next.when.length > 0 || next.notBefore !== null || next.odds !== null,
        };
      }),
    }));
  const eventKey = t.on === null ? '' : t.on.object ? `${t.on.event}/${t.on.object}` : t.on.event;
  const events: [string, string][] = [
    ['', 'no event'],
    ['state.done', 'done'],
  ];
  for (const o of objects) events.push([`pointer.click/${o.id}`, `${o.name} clicked`]);
  if (!events.some(([k]) => k === eventKey)) events.push([eventKey, eventKey]);
  const pickEvent = (v: string) => {
    const [event, object] = v.split('/');
    change({ on: v === '' ? null : ({ event, ...(object ? { object } : {}) } as On) });
  };
  const switches = signals.filter((x) => x.type === 'switch');
  return (
    <div className="p-3.5 space-y-3">
      <div className="flex items-baseline gap-2">
        <h2 className="text-[16px] flex-1">
          {t.from === '*' ? 'Anywhere' : nameOf(s.store, t.from)} → {nameOf(s.store, t.to)}
        </h2>
        <span className="text-ink-2">transition</span>
      </div>
      <p>{ticketWords(s.store, t, machine.object)}</p>
      <Row title="When">
        <Pick label="Event of the transition" value={eventKey} options={events} onChange={pickEvent} />
      </Row>
      {t.when.map((c, i) =>
        'signal' in c && typeof c.is === 'boolean' ? (
          // biome-ignore lint/suspicious/noArrayIndexKey: conditions have no ids and are few
          <Row key={i} title={i === 0 && t.on === null ? 'While' : 'and'}>
            <Pick
              label="Signal of the condition"
              value={c.signal}
              options={switches.map((x) => [x.id, x.name] as const)}
              onChange={(signal) => change({ when: t.when.map((x, n) => (n === i ? { ...c, signal } : x)) })}
            />
            <Pick
              label="Is"
              value={c.is ? 'on' : 'off'}
              options={[
                ['on', 'on'],
                ['off', 'off'],
              ]}
              onChange={(v) =>
                change({ when: t.when.map((x, n) => (n === i ? { ...c, is: v === 'on' } : x)) })
              }
            />
            <button
              type="button"
              aria-label="Delete the condition"
              onClick={() => change({ when: t.when.filter((_, n) => n !== i) })}
            >
              <X size={13} />
            </button>
          </Row>
        ) : null,
      )}
      {switches[0] ? (
        <button
          type="button"
          className="btn flex items-center gap-1"
          onClick={() =>
            change({ when: [...t.when, { signal: (switches[0] as { id: string }).id, is: true }] })
          }
        >
          <Plus size={12} /> condition
        </button>
      ) : (
        <p className="text-ink-2">Conditions need a signal: give an object a reaction first.</p>
      )}
      <Row title="Not before">
        <NumberField
          label="Not before, seconds"
          axis="s"
          step={0.1}
          value={
            t.notBefore && typeof t.notBefore === 'object' && 'seconds' in t.notBefore
              ? t.notBefore.seconds
              : 0
          }
          onChange={(n) => change({ notBefore: n > 0 ? { seconds: n } : null })}
        />
      </Row>
      <Row title="Crossfade">
        <NumberField
          label="Crossfade, seconds"
          axis="s"
          step={0.1}
          value={'seconds' in t.crossfade ? t.crossfade.seconds : 0}
          onChange={(n) =>
            change({ crossfade: { ...t.crossfade, seconds: Math.max(0, n) } as Transition['crossfade'] })
          }
        />
      </Row>
      <label className="flex items-center gap-2">
        <input type="checkbox" checked={t.enabled} onChange={(e) => change({ enabled: e.target.checked })} />
        switched on
      </label>
      <button type="button" className="btn" onClick={() => runCommand(s, 'delete')}>
        Delete the transition
      </button>
    </div>
  );
}
