import { compareSiblings, fillColor, type SceneObject } from '@apple-tick/core/model';
import { Plus } from 'lucide-react';
import { runCommand } from '../../commands/registry.ts';
import { useSession, useTable, useUi } from '../../session/hooks.ts';
import { KIND_MENU } from '../../session/model-help.ts';
import { AddMenu } from '../../ui/AddMenu.tsx';
import { SignalList } from './SignalList.tsx';

export function Objects() {
  const s = useSession();
  const objects = useTable('objects');
  const machines = useTable('machines');
  const reactions = useTable('reactions');
  const chosen = useUi((u) => u.object);
  const rows: { o: SceneObject; depth: number }[] = [];
  const visit = (parent: string | null, depth: number) => {
    for (const o of objects.filter((x) => x.parent === parent).sort(compareSiblings)) {
      rows.push({ o, depth });
      visit(o.id, depth + 1);
    }
  };
  visit(null, 1);
  const carries = (id: string) => {
    const lanes = machines.filter((m) => m.object === id).reduce((n, m) => n + m.lanes.length, 0);
    const n = reactions.filter((r) => r.object === id).length;
    if (n > 0) return n === 1 ? '1 reaction' : `${n} reactions`;
    return lanes > 0 ? (lanes === 1 ? '1 lane' : `${lanes} lanes`) : '';
  };
  const move = (by: number) => {
    const at = rows.findIndex((r) => r.o.id === chosen);
    const next = rows[Math.max(0, Math.min(rows.length - 1, at + by))];
    if (next) s.select({ kind: 'object', id: next.o.id });
  };
  return (
    <aside className="bg-card border-r border-line overflow-auto flex flex-col" aria-label="Objects">
      <div className="flex items-center px-3 pt-2.5 pb-1 sticky top-0 bg-card">
        <h2 className="text-[14px] flex-1">Objects</h2>
        <AddMenu
          label="Add an object"
          className="p-0.5"
          kinds={KIND_MENU}
          onPick={(k) => runCommand(s, `add.${k}`)}
        >
          <Plus size={14} />
        </AddMenu>
      </div>
      {rows.length === 0 ? (
        <div className="px-3">
          <p className="mb-2 text-ink-2">Nothing here yet. Begin with a shape.</p>
          <button type="button" className="btn" onClick={() => runCommand(s, 'add.box')}>
            Add a box
          </button>
        </div>
      ) : (
        <div
          role="tree"
          tabIndex={0}
          aria-label="Objects"
          aria-activedescendant={chosen ? `tree-${chosen}` : undefined}
          onKeyDown={(e) => {
            if (e.key !== 'ArrowDown' && e.key !== 'ArrowUp') return;
            e.preventDefault();
            move(e.key === 'ArrowDown' ? 1 : -1);
          }}
        >
          {rows.map(({ o, depth }) => (
            // biome-ignore lint/a11y/useKeyWithClickEvents: the tree itself hears the keyboard
            // biome-ignore lint/a11y/useFocusableInteractive: the tree has the focus, as in the ARIA tree pattern
            <div
              key={o.id}
              id={`tree-${o.id}`}
              role="treeitem"
              aria-level={depth}
              aria-selected={o.id === chosen}
              className={`flex items-center gap-2 h-[25px] pr-3 border-l-[3px] cursor-default ${o.id === chosen ? 'bg-chosen border-brass' : 'border-transparent'}`}
              style={{ paddingLeft: 9 + (depth - 1) * 16 }}
              onClick={() => s.select({ kind: 'object', id: o.id })}
            >
              <span
                className="w-3.5 h-3.5 rounded-[4px] border border-black/15 flex-none"
                style={{ background: o.kind === 'group' ? undefined : (fillColor(o.base.fill) ?? undefined) }}
              />
              <span className="truncate flex-1">{o.name}</span>
              <span className="text-ink-2 text-[11px] whitespace-nowrap">{carries(o.id)}</span>
            </div>
          ))}
        </div>
      )}
      <SignalList />
    </aside>
  );
}
