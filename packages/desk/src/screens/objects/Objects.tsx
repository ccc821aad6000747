import { Plus } from 'lucide-react';
import { memo, useMemo, useState } from 'react';
import { runCommand } from '../../commands/registry.ts';
import { addInstance } from '../../features/templates/edit.ts';
import { useHead, useIdleTable, useSession } from '../../session/hooks.ts';
import { KIND_MENU } from '../../session/model-help.ts';
import { AddMenu } from '../../ui/AddMenu.tsx';
import { AnimateButton } from '../../ui/AnimateButton.tsx';
import { useFolding } from './folding.ts';
import { SignalList } from './SignalList.tsx';
import { rowsOf, Tree } from './Tree.tsx';

/** From this many objects on there is a field for searching them. */
const MANY = 20;

export const Objects = memo(function Objects() {
  const s = useSession();
  const objects = useIdleTable('objects');
  const { visitor } = useHead();
  const templates = useIdleTable('templates');
  const all = useMemo(() => rowsOf(objects), [objects]);
  // A search gives way when something is made or goes: what is new must be seen.
  const [search, setSearch] = useState({ text: '', count: 0 });
  const text = search.count === objects.length ? search.text : '';
  const folding = useFolding(all);
  const found = text === '' ? null : all.filter((r) => r.o.name.toLowerCase().includes(text.toLowerCase()));
  return (
    <aside
      className="bg-card border-r border-line flex flex-col min-h-0 min-w-0 overflow-hidden"
      aria-label="Objects"
    >
      <div className="flex-none">
        <div className="flex items-center px-3 pt-2.5 pb-1">
          <h2 className="text-[14px] flex-1">Objects</h2>
          <AnimateButton />
          <AddMenu
            label="Add an object"
            className="p-0.5"
            kinds={[
              ...(visitor || s.store.scope !== null
                ? KIND_MENU
                : [...KIND_MENU, ['visitor', 'Visitor'] as const]),
              ...templates.map((t) => [t.id, `One of ${t.name}`] as const),
            ]}
            onPick={(k) => {
              if (s.store.has('templates', k)) addInstance(s, k);
              else runCommand(s, k === 'visitor' ? 'visitor.add' : `add.${k}`);
            }}
          >
            <Plus size={14} />
          </AddMenu>
        </div>
        {all.length > MANY && (
          <div className="px-2 pb-1">
            <input
              type="search"
              aria-label="Search the objects"
              placeholder="Search"
              className="field w-full"
              value={text}
              onChange={(e) => setSearch({ text: e.target.value, count: objects.length })}
            />
            {found && (
              <p className="text-ink-2 px-1 pt-1">
                {found?.length} of {all.length} objects are listed.
              </p>
            )}
          </div>
        )}
      </div>
      {all.length === 0 ? (
        <div className="px-3 flex-1">
          <p className="mb-2 text-ink-2">Nothing here yet. Begin with a shape.</p>
          <button type="button" className="btn" onClick={() => runCommand(s, 'add.box')}>
            Add a box
          </button>
        </div>
      ) : (
        <div className="flex-1 min-h-0 overflow-auto" data-scrolls>
          <Tree {...folding} rows={found ?? folding.rows} filtered={found !== null} />
        </div>
      )}
      <SignalList />
    </aside>
  );
});
