import type { CueSheet, On, PlannedCue, SheetCue } from '@apple-tick/core/model';
import { runCommand } from '../../commands/registry.ts';
import { ActionList } from '../../sentences/ActionList.tsx';
import { EventPick } from '../../sentences/EventPick.tsx';
import { useSession, useTable, useUi } from '../../session/hooks.ts';
import { Heading, type Option, Pick, SecondsField } from '../../ui/fields.tsx';
import { hasThing } from '../zones/edit.ts';
import { changeCue, hangCue, planFor } from './edit.ts';

/** A cue of a sheet: when it comes, what it waits for, what it does, and what follows it. */
export function SheetCueDetails({ sheet, cue }: { sheet: CueSheet; cue: SheetCue }) {
  const s = useSession();
  useTable('clips');
  const object = useUi((u) => u.object);
  const plan = planFor(s.store, sheet);
  const planned = plan.find((p) => p.cue.id === cue.id);
  if (!planned) return null;
  const owner = s.store.has('objects', object ?? '') ? (object ?? '') : (s.store.ids('objects')[0] ?? '');
  const change = (name: string, part: Partial<SheetCue>) =>
    changeCue(s, sheet.id, cue.id, name, (c) => {
      const next = { ...c, ...part };
      if (next.wait === undefined) delete next.wait;
      return next;
    });
  const hook = planned.parent ? `${planned.after ? 'end' : 'start'} ${planned.parent.cue.id}` : '';
  const under = (id: string) => {
    for (let p = plan.find((x) => x.cue.id === id) ?? null; p; p = p.parent)
      if (p.cue.id === cue.id) return true;
    return false;
  };
  const others = plan.filter((p) => !under(p.cue.id));
  const follows = plan.filter((p) => p.parent === planned);
  const at = Number.isFinite(planned.start) ? planned.start : 0;
  return (
    <div className="p-3.5 space-y-2">
      <Heading
        label="Name of the cue"
        name={cue.name}
        kind={`cue of ${sheet.name}`}
        onRename={(name) => change(`Renamed ${cue.name}`, { name })}
      />
      <div className="sentence border-l-2 border-brass pl-2.5 flex flex-wrap gap-1 items-center">
        <span className="flex w-16">
          <SecondsField
            label="Seconds of the cue"
            unit="s"
            value={cue.t}
            onChange={(t) => change(`Moved ${cue.name}`, { t: Math.max(0, t) })}
          />
        </span>
        after
        <Pick
          label="What it is timed from"
          value={hook}
          options={[
            ['', 'the sheet starts'],
            {
              group: 'When it begins',
              options: others.map((p): Option => [`start ${p.cue.id}`, `${p.cue.name} begins`]),
            },
            {
              group: 'When it ends',
              options: others.map((p): Option => [`end ${p.cue.id}`, `${p.cue.name} ends`]),
            },
          ]}
          onChange={(v) => {
            const [how, id] = v.split(' ');
            hangCue(s, sheet.id, cue.id, { cue: id ?? null, after: how === 'end' }, cue.t);
          }}
        />
      </div>
      {planned.parent && (
        <p className="text-ink-2">
          {planned.waits ? 'at least ' : ''}
          {at.toFixed(2)} s from the start of the sheet
        </p>
      )}
      <Waits cue={cue} owner={owner} change={change} />
      <h3 className="text-[13px]">Does</h3>
      <ActionList
        actions={cue.actions}
        owner={owner}
        mayBeEmpty
        thing={cue.wait !== undefined && hasThing(cue.wait)}
        onChange={(actions) => change(`Changed ${cue.name}`, { actions })}
      />
      {follows.length > 0 && <Followers sheet={sheet.id} follows={follows} />}
      <button type="button" className="btn" onClick={() => runCommand(s, 'delete')}>
        Delete the cue{follows.length > 0 ? ' and what follows it' : ''}
      </button>
    </div>
  );
}

/** What a cue waits for before it is over. */
function Waits({
  cue,
  owner,
  change,
}: {
  cue: SheetCue;
  owner: string;
  change: (name: string, part: Partial<SheetCue>) => void;
}) {
  return (
    <div className="sentence flex flex-wrap gap-1 items-center">
      {cue.wait ? (
        <>
          then waits until
          <EventPick
            label="What it waits for"
            on={cue.wait}
            owner={owner}
            transition={false}
            wait
            onChange={(wait) => change(`Changed what ${cue.name} waits for`, { wait: wait ?? undefined })}
          />
          <button
            type="button"
            className="text-ink-2 underline"
            onClick={() => change(`${cue.name} waits no more`, { wait: undefined })}
          >
            wait no more
          </button>
        </>
      ) : (
        <button
          type="button"
          className="text-ink-2 underline"
          onClick={() => {
            const wait: On = { event: 'pointer.click', object: owner };
            change(`${cue.name} waits`, { wait });
          }}
        >
          + wait for something
        </button>
      )}
    </div>
  );
}

/** What hangs on a cue, each a way there. */
function Followers({ sheet, follows }: { sheet: string; follows: readonly PlannedCue[] }) {
  const s = useSession();
  return (
    <section aria-label="Follows it">
      <h3 className="text-[13px] pb-0.5">Follows it</h3>
      {follows.map((p) => (
        <button
          key={p.cue.id}
          type="button"
          className="block w-full text-left hover:bg-chosen rounded-[5px] px-1 -mx-1"
          onClick={() => s.select({ kind: 'sheetCue', sheet, id: p.cue.id })}
        >
          {p.cue.name}{' '}
          <span className="num text-ink-2">
            +{p.cue.t.toFixed(1)} s{p.after ? ' after it ends' : ''}
          </span>
        </button>
      ))}
    </section>
  );
}
