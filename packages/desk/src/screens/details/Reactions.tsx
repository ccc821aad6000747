import type { Reaction, SceneObject } from '@apple-tick/core/model';
import { Plus, X } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { hasThing } from '../../features/zones/edit.ts';
import { ActionList } from '../../sentences/ActionList.tsx';
import { ConditionList } from '../../sentences/ConditionList.tsx';
import { EventPick } from '../../sentences/EventPick.tsx';
import { addReactions, backNextTime, mayComeBack } from '../../session/doings/new-action.ts';
import { type Alike, changeAlike, sharedReactions } from '../../session/doings/shared-reactions.ts';
import { useSession, useTable, useUi } from '../../session/hooks.ts';
import { chosenWords } from '../../session/things/arrange.ts';
import { reactionWords } from '../../session/words/words.ts';
import { Pick, SecondsField } from '../../ui/fields.tsx';
import { Recipes } from './Recipes.tsx';

/** What the objects do, each for itself: sentences whose words are changed in place. Of several, what all of them do. */
export function Reactions({ objects }: { objects: readonly SceneObject[] }) {
  const s = useSession();
  const ids = objects.map((o) => o.id);
  const { shared, others } = sharedReactions(useTable('reactions'), ids);
  const words = chosenWords(s, ids);
  const add = () => addReactions(s, ids);
  return (
    <section aria-label="Reactions">
      <div className="flex items-center mb-1">
        <h3 className="text-[13px] flex-1">Reactions</h3>
        {objects.length === 1 && <Recipes object={objects[0] as SceneObject} />}
        <button type="button" aria-label="Add a reaction" className="ml-2" onClick={add}>
          <Plus size={14} />
        </button>
      </div>
      {shared.length === 0 && others === 0 && <p className="text-ink-2">Does nothing by itself yet.</p>}
      {shared.map((alike) => (
        <ReactionCard key={alike[0]?.id} words={words} alike={alike} />
      ))}
      {others > 0 && (
        <p className="text-ink-2">
          {others === 1 ? 'One more reaction is' : `${others} more reactions are`} not the same on all.
        </p>
      )}
    </section>
  );
}

function ReactionCard({ words, alike }: { words: string; alike: Alike }) {
  const s = useSession();
  const r = alike[0] as Reaction;
  const change = (part: Partial<Reaction>) => changeAlike(s, `Changed a reaction of ${words}`, alike, part);
  // What narrows it down is always told; else it is asked for.
  const isNarrowed = r.when.length > 0 || r.after > 0 || r.cooldown > 0 || r.limit !== 'always';
  const [asksMore, setAsksMore] = useState(false);
  const changed = useUi((u) => u.reaction);
  const self = useRef<HTMLDivElement>(null);
  /** It was read, and is now to be changed: its first word has the focus. */
  const asked = useRef(false);
  useEffect(() => {
    if (!asked.current) return;
    asked.current = false;
    self.current?.querySelector('select')?.focus();
  });
  const label = reactionWords(s.store, r);
  const remove = () =>
    s.edit(`Deleted a reaction of ${words}`, (e) => {
      for (const x of alike) e.remove('reactions', x.id);
    });
  if (!alike.some((x) => x.id === changed))
    return (
      <ReadReaction
        id={r.id}
        label={label}
        onChange={() => {
          asked.current = true;
          s.set({ reaction: r.id });
        }}
        onDelete={remove}
      />
    );
  return (
    // With the focus it is copied, duplicated and deleted like anything else.
    <div
      ref={self}
      role="group"
      aria-label={label}
      tabIndex={0}
      data-reaction={r.id}
      className="border-l-2 border-line focus-within:border-brass pl-2.5 mb-2.5 space-y-1.5"
    >
      <div className="sentence flex flex-wrap gap-x-1 items-center">
        <span>when</span>
        <EventPick
          label="Event"
          on={r.on}
          owner={r.object}
          transition={false}
          onChange={(on) => on && change({ on })}
        />
        <span className="flex-1" />
        <DeleteReaction onDelete={remove} />
      </div>
      <ActionList
        actions={r.actions}
        owner={r.object}
        mayBeEmpty={false}
        thing={hasThing(r.on)}
        more={
          !isNarrowed && (
            <>
              {alike.length === 1 && mayComeBack(r) && (
                <button type="button" className="hover:text-ink" onClick={() => backNextTime(s, r)}>
                  and back next time
                </button>
              )}
              <button
                type="button"
                className="hover:text-ink"
                aria-expanded={asksMore}
                onClick={() => setAsksMore(!asksMore)}
              >
                only if, how often
              </button>
            </>
          )
        }
        onChange={(actions) => change({ actions })}
      />
      {(isNarrowed || asksMore) && <Narrowed reaction={r} onChange={change} />}
    </div>
  );
}

/** A reaction as it is read: a press begins to change it. */
function ReadReaction(props: { id: string; label: string; onChange: () => void; onDelete: () => void }) {
  const { label } = props;
  return (
    <div
      role="group"
      aria-label={label}
      data-reaction={props.id}
      className="sentence relative pr-[18px] border-l-2 border-line focus-within:border-brass pl-2.5 mb-2.5"
    >
      <button
        type="button"
        className="w-full text-left line-clamp-3 hover:bg-chosen"
        title={label}
        aria-label={`Change: ${label}`}
        onClick={props.onChange}
      >
        {label}
      </button>
      <DeleteReaction onDelete={props.onDelete} />
    </div>
  );
}

/** What narrows a reaction down: conditions, how often, after how long, and how soon again. */
function Narrowed(props: { reaction: Reaction; onChange: (part: Partial<Reaction>) => void }) {
  const { reaction: r, onChange: change } = props;
  const limit = typeof r.limit === 'object' ? 'until' : r.limit;
  return (
    <div className="space-y-1.5">
      <ConditionList when={r.when} first="if" onChange={(when) => change({ when })} />
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
                  ? { onceUntil: { event: 'pointer.leave', object: r.object } }
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
            owner={r.object}
            transition={false}
            onChange={(on) => on && change({ limit: { onceUntil: on } })}
          />
        )}
        <span className="comma">,</span>
        <SecondsField
          label="Delay of all, seconds"
          axis="after"
          unit="s"
          value={r.after}
          onChange={(n) => change({ after: n })}
        />
        <span className="comma">,</span>
        <SecondsField
          label="Cooldown, seconds"
          axis="not again within"
          unit="s"
          value={r.cooldown}
          onChange={(n) => change({ cooldown: n })}
        />
      </div>
    </div>
  );
}

function DeleteReaction({ onDelete }: { onDelete: () => void }) {
  return (
    <button type="button" aria-label="Delete the reaction" onClick={onDelete}>
      <X size={13} />
    </button>
  );
}
