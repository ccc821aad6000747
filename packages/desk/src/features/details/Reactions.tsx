import { EVENT_NAMES, type EventName, type SceneObject, uniqueName } from '@apple-tick/core/model';
import { Plus, X } from 'lucide-react';
import { useSession, useTable } from '../../session/hooks.ts';
import { Pick } from '../../ui/fields.tsx';

const EVENTS: readonly (readonly [EventName, string])[] = [
  ['pointer.click', 'clicked'],
  ['pointer.press', 'pressed'],
  ['pointer.release', 'released'],
  ['pointer.enter', 'pointed at'],
  ['pointer.leave', 'no longer pointed at'],
];

/** What the object does: sentences whose words are changed in place. */
export function Reactions({ object }: { object: SceneObject }) {
  const s = useSession();
  const reactions = useTable('reactions').filter((r) => r.object === object.id);
  const signals = useTable('signals');
  const add = () =>
    s.edit(`Added a reaction to ${object.name}`, (e) => {
      let signal = s.store.all('signals').find((x) => x.type === 'switch')?.id;
      if (!signal) {
        signal = s.newId('signals');
        const name = uniqueName(`${object.name} on`, new Set(s.store.all('signals').map((x) => x.name)));
        e.add('signals', { id: signal, name, type: 'switch', initial: false, shared: false, note: '' });
      }
      e.add('reactions', {
        id: s.newId('reactions'),
        object: object.id,
        on: { event: 'pointer.click' },
        when: [],
        after: 0,
        cooldown: 0,
        limit: 'always',
        actions: [{ do: 'toggle', signal }],
      });
    });
  return (
    <section aria-label="Reactions">
      <div className="flex items-center mb-1">
        <h3 className="text-[13px] flex-1">Reactions</h3>
        <button type="button" aria-label="Add a reaction" onClick={add}>
          <Plus size={14} />
        </button>
      </div>
      {reactions.length === 0 && <p className="text-ink-2">Does nothing by itself yet.</p>}
      {reactions.map((r) => {
        const a = r.actions[0];
        const signal = a && 'signal' in a ? a.signal : '';
        return (
          <div key={r.id} className="border-l-2 border-line pl-2.5 mb-2 flex flex-wrap gap-1 items-center">
            when{' '}
            {r.on.object === undefined || r.on.object === object.id
              ? object.name
              : s.store.get('objects', r.on.object)?.name}{' '}
            is
            <Pick
              label="Event"
              value={r.on.event}
              options={
                EVENTS.some(([x]) => x === r.on.event) ? EVENTS : [...EVENTS, [r.on.event, r.on.event]]
              }
              onChange={(event) =>
                EVENT_NAMES.includes(event as EventName) &&
                s.edit('Changed a reaction', (e) =>
                  e.update('reactions', r.id, (x) => ({ ...x, on: { ...x.on, event: event as EventName } })),
                )
              }
            />
            {a && (
              <>
                {a.do}
                {signal !== '' && (
                  <Pick
                    label="Signal"
                    value={signal}
                    options={signals.map((x) => [x.id, x.name] as const)}
                    onChange={(to) =>
                      s.edit('Changed a reaction', (e) =>
                        e.update('reactions', r.id, (x) => ({
                          ...x,
                          actions: x.actions.map((y, i) =>
                            i === 0 && 'signal' in y ? { ...y, signal: to } : y,
                          ),
                        })),
                      )
                    }
                  />
                )}
              </>
            )}
            <button
              type="button"
              aria-label="Delete the reaction"
              onClick={() => s.edit('Deleted a reaction', (e) => e.remove('reactions', r.id))}
            >
              <X size={13} />
            </button>
          </div>
        );
      })}
    </section>
  );
}
