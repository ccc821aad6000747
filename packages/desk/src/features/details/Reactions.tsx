import type { Reaction, SceneObject } from '@apple-tick/core/model';
import { Plus, X } from 'lucide-react';
import { useSession, useTable } from '../../session/hooks.ts';
import { Pick, SecondsField } from '../../ui/fields.tsx';
import { ActionList, newAction } from './ActionList.tsx';
import { ConditionList } from './ConditionList.tsx';
import { EventPick } from './EventPick.tsx';

/** What the object does: sentences whose words are changed in place. */
export function Reactions({ object }: { object: SceneObject }) {
  const s = useSession();
  const reactions = useTable('reactions').filter((r) => r.object === object.id);
  const add = () =>
    s.step(`Added a reaction to ${object.name}`, () => {
      const action = newAction(s, 'toggle', object.id);
      s.edit('Added a reaction', (e) =>
        e.add('reactions', {
          id: s.newId('reactions'),
          object: object.id,
          on: { event: 'pointer.click' },
          when: [],
          after: 0,
          cooldown: 0,
          limit: 'always',
          actions: [action],
        }),
      );
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
      {reactions.map((r) => (
        <ReactionCard key={r.id} object={object} reaction={r} />
      ))}
    </section>
  );
}

function ReactionCard({ object, reaction: r }: { object: SceneObject; reaction: Reaction }) {
  const s = useSession();
  const change = (part: Partial<Reaction>) =>
    s.edit(`Changed a reaction of ${object.name}`, (e) =>
      e.update('reactions', r.id, (x) => ({ ...x, ...part })),
    );
  const limit = typeof r.limit === 'object' ? 'until' : r.limit;
  return (
    <div className="border-l-2 border-line pl-2.5 mb-2.5 space-y-1.5">
      <div className="sentence flex flex-wrap gap-x-1 items-center">
        <span>when</span>
        <EventPick
          label="Event"
          on={r.on}
          owner={object.id}
          transition={false}
          onChange={(on) => on && change({ on })}
        />
        <span className="flex-1" />
        <button
          type="button"
          aria-label="Delete the reaction"
          onClick={() => s.edit(`Deleted a reaction of ${object.name}`, (e) => e.remove('reactions', r.id))}
        >
          <X size={13} />
        </button>
      </div>
      <ActionList
        actions={r.actions}
        owner={object.id}
        mayBeEmpty={false}
        onChange={(actions) => change({ actions })}
      />
      <details open={r.when.length > 0 || r.after > 0 || r.cooldown > 0 || limit !== 'always'}>
        <summary className="text-ink-2 cursor-pointer">only if, how often</summary>
        <div className="space-y-1.5 pt-1.5">
          <ConditionList when={r.when} first="if" onChange={(when) => change({ when })} />
          <div className="flex gap-1.5">
            <SecondsField
              label="Delay of all, seconds"
              axis="after"
              value={r.after}
              onChange={(n) => change({ after: n })}
            />
            <SecondsField
              label="Cooldown, seconds"
              axis="cooldown"
              value={r.cooldown}
              onChange={(n) => change({ cooldown: n })}
            />
          </div>
          <div className="sentence flex flex-wrap gap-x-1 items-center">
            <Pick
              label="How often"
              value={limit}
              options={[
                ['always', 'every time'],
                ['once', 'once'],
                ['until', 'once, until'],
              ]}
              onChange={(v) =>
                change({
                  limit:
                    v === 'until'
                      ? { onceUntil: { event: 'pointer.leave', object: object.id } }
                      : v === 'once'
                        ? 'once'
                        : 'always',
                })
              }
            />
            {typeof r.limit === 'object' && (
              <EventPick
                label="Event that arms it again"
                on={r.limit.onceUntil}
                owner={object.id}
                transition={false}
                onChange={(on) => on && change({ limit: { onceUntil: on } })}
              />
            )}
          </div>
        </div>
      </details>
    </div>
  );
}
